import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { NetPayment, PayslipView, ProblemDetail } from '@woodruff/contract';
import { capitalized } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { MoneyPipe } from '../kit/words';

type Method = NetPayment['method'];
type Once = PayslipView['edits']['payment'];

/** How the net of one payslip is paid: otherwise this once before approval, paid again afterwards. */
@Component({
  selector: 'wr-payslip-payment',
  imports: [FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (payment(); as payment) {
      <h3>Paid by</h3>
      @if (payslip().state === 'draft') {
        <p class="line">
          {{ words()[payment.method] }}{{ once()?.method || once()?.without?.length ? ', this once' : '' }}
          @if (editable()) {
            <button class="quiet" type="button" (click)="open.set(!open())">Otherwise this once …</button>
          }
        </p>
        @for (part of payment.parts; track part.label) {
          <p class="line muted">
            {{ part.label }} <span class="num">{{ part.amount | money }}</span>
          </p>
        }
        @if (open()) {
          <div class="small">
            <div class="row-of">
              @if (payment.accounts.length) {
                <button class="quiet" [class.on]="!once()?.method" type="button" (click)="choose({ without: once()?.without })">
                  Deposit
                </button>
              }
              <button class="quiet" [class.on]="payment.method === 'cheque'" type="button" (click)="choose({ method: 'cheque' })">
                {{ chequeLabel() }}
              </button>
              <button class="quiet" [class.on]="payment.method === 'cash'" type="button" (click)="choose({ method: 'cash' })">Cash</button>
            </div>
            @if (!once()?.method) {
              @for (account of payment.accounts; track account.id) {
                <label
                  ><input type="checkbox" [checked]="!once()?.without?.includes(account.id)" (change)="toggle(account.id)" /> to the
                  {{ account.label }}</label
                >
              }
            }
          </div>
        }
      }
      @for (made of payment.made; track made.id) {
        <p class="line" [class.muted]="made.stopped">
          {{ made.method === 'cheque' ? chequeLabel() + ' ' + made.number : made.method === 'cash' ? 'Cash' : 'Deposit' }}
          <span class="num">{{ made.amount | money }}</span>
          @if (made.stopped) {
            <span> stopped: {{ made.stopped }}</span>
          } @else if (mayPay() && payslip().state === 'posted') {
            <button class="quiet" type="button" (click)="open.set(!open())">Lost or returned: pay again …</button>
          }
        </p>
      }
      @if (open() && payslip().state === 'posted') {
        <form class="small" (ngSubmit)="again()">
          <label class="field"
            >Paid again
            <select name="method" [(ngModel)]="method">
              <option value="cheque">by {{ cheque() }}</option>
              <option value="cash">in cash</option>
              @if (payment.accounts.length) {
                <option value="deposit">to the accounts on file</option>
              }
            </select></label
          >
          <label class="field"
            >Reason <input name="reason" [(ngModel)]="reason" placeholder="lost in the post, returned by the bank …"
          /></label>
          <p class="muted">The same {{ payslip().totals.net | money }}, without a new calculation. The payment above is stopped.</p>
          <wr-problem [problem]="problem()" />
          <div class="form-actions">
            <button class="danger" type="submit">Stop it and pay {{ payslip().totals.net | money }} again</button>
            <button class="quiet" type="button" (click)="open.set(false)">Cancel</button>
          </div>
        </form>
      }
      @if (payslip().state === 'posted' && !payment.made.length) {
        <p class="line muted">No payment is on record.</p>
      }
    }
  `,
  styles: `
    h3 {
      margin: 14px 0 4px;
      font-size: 15px;
    }
    .line {
      margin: 2px 0;
      font-size: 14px;
    }
    .line .num {
      margin-left: 8px;
    }
    .small {
      background: var(--entry);
      border: 1px solid var(--rule);
      padding: 10px 12px;
      display: grid;
      gap: 8px;
      border-radius: 3px;
      font-size: 14px;
    }
  `,
})
export class PayslipPayment {
  private readonly api = inject(Api);
  readonly payslip = input.required<PayslipView>();
  readonly once = input<Once>(undefined);
  readonly editable = input(false);
  readonly mayPay = input(false);
  readonly chosen = output<Once>();
  private readonly pack = injectPack();
  protected readonly cheque = computed(() => this.pack()?.words.cheque ?? '');
  protected readonly chequeLabel = computed(() => capitalized(this.cheque()));
  protected readonly words = computed<Record<Method, string>>(() => ({
    cheque: `by ${this.cheque()}`,
    cash: 'in cash',
    deposit: 'to the accounts on file',
  }));
  protected readonly payment = signal<NetPayment | null>(null);
  protected readonly open = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected method: Method = 'cheque';
  protected reason = '';

  constructor() {
    // Each payslip, and each change of it, is looked at anew.
    effect(() => this.fetch(this.payslip().id));
  }

  protected choose(once: NonNullable<Once>): void {
    const without = once.without?.length ? { without: once.without } : {};
    this.chosen.emit({ ...(once.method ? { method: once.method } : {}), ...without });
  }

  protected toggle(account: string): void {
    const without = new Set(this.once()?.without ?? []);
    if (!without.delete(account)) without.add(account);
    this.choose({ without: [...without] });
  }

  protected again(): void {
    this.problem.set(null);
    const stops = this.payment()?.made.find((made) => made.stopped === null)?.id;
    this.api
      .call('payAgain', {
        path: { id: this.payslip().id },
        body: { method: this.method, reason: this.reason, ...(stops ? { stops } : {}) },
      })
      .subscribe({
        next: (payment) => {
          this.payment.set(payment);
          this.open.set(false);
        },
        error: (error: unknown) => this.problem.set(problemOf(error)),
      });
  }

  private fetch(id: string): void {
    this.api.call('netPayment', { path: { id } }).subscribe((payment) => this.payment.set(payment));
  }
}
