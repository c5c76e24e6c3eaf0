import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ObligationView, PayeeView, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { chosenFile } from '../kit/chosen-file';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { LateCharges } from './late-charges';
import { PayeeAccount } from './payee-account';
import { PaymentsHead } from './payments-head';
import { payeeWays } from './payment-words';
import { payeeStore } from './payments.store';

type Method = PayeeView['method'];

/** A payee: what is owed and by which rule, what was paid, and where it is paid. */
@Component({
  selector: 'wr-payee-page',
  imports: [DayPipe, FormsModule, LateCharges, MoneyPipe, PayeeAccount, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      @if (data(); as payee) {
        <wr-payments-head [title]="payee.payee" />
        <p class="muted">
          {{ payee.what }}{{ payee.reference ? ', known there by ' + payee.reference : '' }}. Due {{ payee.rule
          }}{{ payee.source ? ' (' + payee.source + ')' : '' }}.
        </p>
        <wr-problem [problem]="problem() ?? loadProblem()" />
        @if (said()) {
          <p role="status" class="notice">{{ said() }}</p>
        }
        <div class="columns">
          <section class="section">
            <h2>Owed</h2>
            <table class="lines">
              <tr>
                @if (mayPay()) {
                  <th></th>
                }
                <th>Due</th>
                <th class="num">Owed</th>
                <th class="num">Paid</th>
                <th class="num">Credit</th>
                <th class="num">Left</th>
              </tr>
              @for (one of rows(); track one.due) {
                <tr>
                  @if (mayPay()) {
                    <td>
                      @if (one.left > 0) {
                        <input
                          type="checkbox"
                          [checked]="chosen().has(one.due)"
                          (change)="toggle(one.due)"
                          [attr.aria-label]="'Pay what is due ' + one.due"
                        />
                      }
                    </td>
                  }
                  <td [class.error]="late(one)">{{ late(one) ? '▲ ' : '' }}{{ one.due | day }}</td>
                  <td class="num">
                    {{ one.amount | money: 'dash' }}
                  </td>
                  <td class="num">{{ one.paid | money: 'dash' }}</td>
                  <td class="num">{{ one.credit | money: 'dash' }}</td>
                  <td class="num">{{ one.left | money: 'dash' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted" colspan="6">Nothing was withheld or owed yet.</td>
                </tr>
              }
            </table>
            @if (rows().length < payee.obligations.length) {
              <button class="quiet" type="button" (click)="all.set(true)">Also what was settled before</button>
            }
            @if (mayPay() && chosen().size) {
              <form class="panel-form" (ngSubmit)="pay()">
                <div class="form">
                  <label class="field"
                    >Pay
                    <select name="method" [(ngModel)]="method">
                      <option value="agency">through the payee's own service</option>
                      <option value="file">by the next batch to the bank</option>
                      <option value="cheque">by {{ pack()?.words?.cheque }}, with the next batch</option>
                      <option value="elsewhere">it was paid elsewhere</option>
                    </select></label
                  >
                  @if (chosen().size === 1) {
                    <label class="field"
                      >Amount <input name="amount" inputmode="decimal" [(ngModel)]="amount" /><small
                        >A part can be paid; empty is all of it</small
                      ></label
                    >
                  }
                  @if (method === 'elsewhere') {
                    <label class="field">Reference there <input name="reference" [(ngModel)]="reference" /></label>
                    <label class="field">Paid on <input type="date" name="on" [(ngModel)]="on" /></label>
                  }
                </div>
                <div class="form-actions">
                  <button class="main-action" type="submit">{{ method === 'elsewhere' ? 'Record' : 'Pay' }} {{ sum() | money }}</button>
                </div>
              </form>
            }
            @if (payee.chargesLate) {
              <wr-late-charges [payee]="payee" />
            }
            @if (payee.cases.length) {
              <h3>By case, since the last payment</h3>
              <table class="lines">
                @for (one of payee.cases; track one.personId) {
                  <tr>
                    <td>
                      <a [routerLink]="['/people', one.personId]">{{ one.name }}</a>
                    </td>
                    <td class="muted">{{ one.caseNumber || 'no case number' }}</td>
                    <td class="num">{{ one.amount | money }}</td>
                  </tr>
                }
              </table>
            }
          </section>
          <div>
            <section class="section">
              <h2>Paid</h2>
              <table class="lines">
                @for (one of payee.paid; track one.id) {
                  <tr>
                    <td>
                      {{ one.on | day: 'short' }}
                      <div class="muted">for {{ one.due | day: 'short' }}</div>
                    </td>
                    <td>
                      {{ ways()[one.method] }}
                      <div class="muted">
                        @if (one.method === 'agency' && one.receipts[0]; as confirmation) {
                          <a [href]="receiptOf(confirmation.id)" aria-label="Confirmation">{{ one.reference }}</a>
                        } @else {
                          {{ one.reference }}
                        }
                        {{ one.undone ? 'taken back: ' + one.undone : 'by ' + one.who }}
                      </div>
                      @for (receipt of one.method === 'agency' ? one.receipts.slice(1) : one.receipts; track receipt.id) {
                        <div>
                          <a [href]="receiptOf(receipt.id)">{{ receipt.name }}</a>
                        </div>
                      }
                    </td>
                    <td class="num">{{ one.undone ? '' : (one.amount | money) }}</td>
                    <td class="num">
                      @if (one.undoable && mayPay()) {
                        <button class="quiet" type="button" (click)="undo(one.id)">Take back …</button>
                      }
                      @if (!one.undone && one.method !== 'agency' && mayPay()) {
                        <label class="file">
                          <input
                            type="file"
                            accept=".pdf,.png,.jpg,.jpeg"
                            class="visually-hidden"
                            [attr.aria-label]="'Receipt of the payment of ' + one.on"
                            (change)="keep(one.id, $any($event.target))"
                          />
                          <span class="quiet">Receipt …</span>
                        </label>
                      }
                    </td>
                  </tr>
                  @if (undoing() === one.id) {
                    <tr>
                      <td colspan="4">
                        <form class="row-of" (ngSubmit)="takeBack(one.id)">
                          <label>Why <input class="entry" name="why" [(ngModel)]="why" /></label>
                          <button class="quiet" type="submit">Take it back</button>
                        </form>
                      </td>
                    </tr>
                  }
                } @empty {
                  <tr>
                    <td class="muted">Nothing was paid yet.</td>
                  </tr>
                }
              </table>
            </section>
            <wr-payee-account [payee]="payee" (saved)="load(true)" />
          </div>
        </div>
      } @else {
        <wr-problem [problem]="loadProblem()" />
        @if (!loadProblem()) {
          <p class="muted">Adding up what is owed …</p>
        }
      }
    </main>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(340px, 2fr);
      gap: 36px;
    }
    .columns > .section,
    .columns > div > .section:first-child {
      margin-top: 8px;
    }
    h2 {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
    h3 {
      margin: 22px 0 4px;
    }
  `,
})
export class PayeePage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  readonly owed = input.required<string>();
  protected readonly pack = injectPack();
  protected readonly data = this.store.selectSignal(payeeStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(payeeStore.selectProblem);
  protected readonly mayPay = this.store.selectSignal(selectMay('pay-out'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly said = signal('');
  protected readonly chosen = signal<ReadonlySet<string>>(new Set());
  protected readonly all = signal(false);
  protected readonly undoing = signal('');
  protected readonly ways = computed(() => payeeWays(this.pack()?.words));
  protected readonly rows = computed(() => {
    const obligations = [...(this.data()?.obligations ?? [])].reverse();
    return this.all() ? obligations : obligations.filter(({ left }, index) => left > 0 || index < 8);
  });
  protected readonly sum = computed(
    () => this.data()?.obligations.reduce((sum, { due, left }) => (this.chosen().has(due) ? sum + left : sum), 0) ?? 0,
  );
  protected method: Method = 'agency';
  protected amount = '';
  protected reference = '';
  protected on = '';
  protected why = '';
  constructor() {
    effect(() => {
      if (this.employer()?.today && this.owed()) this.load(false);
    });
    effect(() => {
      const payee = this.data();
      if (payee) this.method = payee.method;
    });
  }

  protected late({ due, left }: ObligationView): boolean {
    return left > 0 && due < (this.employer()?.today ?? '');
  }

  protected toggle(due: string): void {
    this.chosen.update((chosen) => {
      const next = new Set(chosen);
      if (!next.delete(due)) next.add(due);
      return next;
    });
  }

  protected pay(): void {
    const { method, reference, on } = this;
    const one = this.chosen().size === 1;
    const payments = [...this.chosen()].map((due) => ({
      owed: this.owed(),
      due,
      method,
      reference: method === 'elsewhere' ? reference : '',
      ...(one && this.amount.trim() ? { amount: this.amount.trim() } : {}),
      ...(method === 'elsewhere' && on ? { on } : {}),
    }));
    this.ask(this.api.call('remit', { body: { payments } }), ({ payments: made }) => {
      this.chosen.set(new Set());
      this.amount = '';
      this.said.set(
        method === 'agency'
          ? made.map(({ confirmation, refused }) => (refused ? `Not taken: ${refused}.` : `Paid. Confirmation ${confirmation}.`)).join(' ')
          : method === 'elsewhere'
            ? 'Recorded.'
            : 'It waits on the ladder for the next batch.',
      );
    });
  }

  protected receiptOf(id: string): string {
    return this.api.url('receipt', { path: { id } });
  }

  protected async keep(id: string, chooser: HTMLInputElement): Promise<void> {
    const file = await chosenFile(chooser);
    if (!file) return;
    this.ask(this.api.call('addReceipt', { path: { id }, body: { name: file.name, content: file.content } }), () =>
      this.said.set(`${file.name} is kept with the payment.`),
    );
  }

  protected undo(id: string): void {
    this.why = '';
    this.undoing.set(id);
  }

  protected takeBack(id: string): void {
    this.ask(this.api.call('undoRemittance', { path: { id }, body: { reason: this.why } }), () => this.undoing.set(''));
  }

  protected load(keep: boolean): void {
    this.store.dispatch(payeeStore.load({ input: { query: { owed: this.owed() } }, keep }));
  }

  private ask<T>(request: Observable<T>, then: (answer: T) => void): void {
    this.problem.set(null);
    this.said.set('');
    request.subscribe({
      next: (answer) => {
        then(answer);
        this.load(true);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
