import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, Person, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { capitalized } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DecimalPipe, MoneyPipe } from '../kit/words';
import { injectPack } from '../kit/pack';
import { selectMayPrepare } from '../session/session.store';

type Account = NonNullable<Person['payment']>['accounts'][number];

/** An account in the form; the number of one on file stays when it is left empty. */
interface Entry {
  /** Of the form alone: an entry keeps its fields when another one is added before it. */
  key: number;
  id?: string;
  bank: string;
  account: string;
  shown: string;
  kind: 'checking' | 'savings';
  by: 'amount' | 'percent' | 'remainder';
  value: string;
}

/** How a person is paid: by cheque, or over accounts of which one takes the remainder. */
@Component({
  selector: 'wr-person-payment',
  imports: [DecimalPipe, FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Payment
      @if (mayPrepare() && !open()) {
        <button class="quiet" type="button" (click)="begin()">Change</button>
      }
    </h2>
    @if (open()) {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form narrow">
          <label class="field"
            >Method
            <select name="method" [(ngModel)]="method">
              <option value="deposit">Deposit to accounts</option>
              <option value="cheque">{{ cheque() }}</option>
            </select></label
          >
        </div>
        @if (method === 'deposit') {
          @for (entry of entries; track entry.key; let index = $index) {
            <fieldset class="row">
              <legend class="visually-hidden">Account {{ index + 1 }}</legend>
              <label class="field"
                >{{ pack()?.bank?.code?.label }} <input [name]="'bank' + entry.key" inputmode="numeric" [(ngModel)]="entry.bank"
              /></label>
              <label class="field"
                >{{ pack()?.bank?.account?.label }}
                <input
                  [name]="'account' + entry.key"
                  inputmode="numeric"
                  autocomplete="off"
                  [placeholder]="entry.shown"
                  [(ngModel)]="entry.account"
              /></label>
              @if (pack()?.bank?.kinds; as kinds) {
                <label class="field"
                  >Kind
                  <select [name]="'kind' + entry.key" [(ngModel)]="entry.kind">
                    <option value="checking">{{ kinds.checking }}</option>
                    <option value="savings">{{ kinds.savings }}</option>
                  </select></label
                >
              }
              <label class="field"
                >Gets
                <select [name]="'by' + entry.key" [(ngModel)]="entry.by">
                  <option value="remainder">the remainder</option>
                  <option value="amount">an amount</option>
                  <option value="percent">a per cent of net</option>
                </select></label
              >
              @if (entry.by !== 'remainder') {
                <label class="field short"
                  >{{ entry.by === 'percent' ? 'Per cent' : 'Amount' }}
                  <input [name]="'value' + entry.key" inputmode="decimal" [(ngModel)]="entry.value"
                /></label>
              }
              @if (entries.length > 1) {
                <button type="button" class="quiet" (click)="drop(index)" [attr.aria-label]="'Remove account ' + (index + 1)">
                  Remove
                </button>
              }
            </fieldset>
          }
          @if (entries.length < 6) {
            <button type="button" class="quiet" (click)="add()">Another account</button>
          }
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Pay this way from now on</button>
          <button class="quiet" type="button" (click)="open.set(false)">Cancel</button>
        </div>
      </form>
    } @else {
      <wr-problem [problem]="problem()" />
    }
    @if (person().payment; as payment) {
      @if (payment.method === 'deposit') {
        <table class="lines">
          <tr>
            <th>Account</th>
            <th>Gets</th>
            <th class="num">Of the latest net</th>
            <th class="num">Trial deposit</th>
          </tr>
          @for (account of payment.accounts; track account.id) {
            <tr>
              <td>Bank {{ account.bank }}, {{ pack()?.bank?.kinds?.[account.kind] }} account {{ account.shown }}</td>
              <td>
                @if (account.by === 'remainder') {
                  the remainder
                } @else {
                  {{ account.value! | decimal: (account.by === 'percent' ? 0 : 2)
                  }}{{ account.by === 'percent' ? '% of net' : ' each pay' }}
                }
              </td>
              <td class="num">{{ account.ofLastNet | money: 'dash' }}</td>
              <td class="num">
                {{
                  account.trial === 'asked'
                    ? 'goes with the next payment'
                    : account.trial === 'arrived'
                      ? 'arrived'
                      : account.trial === 'returned'
                        ? 'came back: the account is not right'
                        : ''
                }}
                @if (mayPrepare() && !open() && account.trial !== 'arrived') {
                  <button class="quiet" type="button" (click)="trial(account)">
                    {{ account.trial === 'asked' ? 'It arrived' : 'Ask for one' }}
                  </button>
                }
              </td>
            </tr>
          }
        </table>
      } @else {
        <p>{{ cheque() }}</p>
      }
    } @else {
      <p class="muted">No method of payment is on file.</p>
    }
    @if (person().payment?.method === 'deposit' && mayPrepare()) {
      <p>
        <button class="quiet" type="button" (click)="reveal()">
          Show the account {{ person().payment!.accounts.length > 1 ? 'numbers' : 'number' }}; recorded
        </button>
        <strong> {{ revealed() }}</strong>
      </p>
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    .row {
      position: relative;
      display: flex;
      flex-wrap: wrap;
      gap: 8px 14px;
      align-items: end;
      border: 0;
      padding: 0;
      margin: 12px 0 0;
    }
    .row .field {
      width: 180px;
    }
    .row .short {
      width: 100px;
    }
    .row + .quiet {
      margin-top: 10px;
    }
    p {
      margin: 8px 0 0;
    }
    p > button {
      margin-left: 0;
    }
  `,
})
export class PersonPayment {
  protected readonly pack = injectPack();
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  protected readonly mayPrepare = inject(Store).selectSignal(selectMayPrepare);
  protected readonly open = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly revealed = signal('');
  protected readonly cheque = computed(() => capitalized(this.pack()?.words.cheque ?? ''));
  protected method: 'deposit' | 'cheque' = 'deposit';
  protected entries: Entry[] = [];
  private next = 0;

  /** Also called from the list of missing facts. */
  begin(): void {
    const payment = this.person().payment;
    this.problem.set(null);
    this.method = payment?.method === 'cheque' ? 'cheque' : 'deposit';
    this.entries = (payment?.accounts ?? []).map(({ id, bank, shown, kind, by, value }) => ({
      key: this.next++,
      id,
      bank,
      account: '',
      shown,
      kind,
      by,
      value: value ?? '',
    }));
    if (!this.entries.length) this.entries = [this.empty('remainder')];
    this.open.set(true);
  }

  protected add(): void {
    this.entries = [this.empty('amount'), ...this.entries];
  }

  protected drop(index: number): void {
    this.entries = this.entries.filter((_entry, other) => other !== index);
  }

  protected save(): void {
    this.done(this.api.call('setPayment', { path: { id: this.person().id }, body: this.body() }));
  }

  protected trial(account: Account): void {
    const state = account.trial === 'asked' ? ('arrived' as const) : ('asked' as const);
    this.done(this.api.call('trialDeposit', { path: { id: this.person().id }, body: { account: account.id, state } }));
  }

  protected reveal(): void {
    this.api.call('reveal', { path: { id: this.person().id }, body: { what: 'account' } }).subscribe({
      next: ({ value }) => this.revealed.set(value),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private body(): BodyOf<'setPayment'> {
    if (this.method === 'cheque') return { method: 'cheque' };
    return {
      method: 'deposit',
      accounts: this.entries.map(({ id, bank, account, kind, by, value }) => ({
        ...(id ? { id } : {}),
        bank: bank.trim(),
        ...(account.trim() ? { account: account.trim() } : {}),
        kind,
        by,
        ...(by === 'remainder' ? {} : { value: value.trim().replace(',', '') }),
      })),
    };
  }

  private done(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.open.set(false);
        this.revealed.set('');
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private empty(by: Entry['by']): Entry {
    return { key: this.next++, bank: '', account: '', shown: '', kind: 'checking', by, value: '' };
  }
}
