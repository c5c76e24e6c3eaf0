import { ChangeDetectionStrategy, Component, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, ProblemDetail } from '@woodruff/contract';
import { decimalOf, minorOf } from '@woodruff/core';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMay, selectMayPrepare } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { bankStore } from './payments.store';

const STATES = {
  open: 'open',
  closed: 'closed',
  unknown: 'not known there',
  'other-name': 'of another name',
  moved: 'moved to another number',
} as const;

/** The stand-in for a bank: files it was handed, and how accounts are there. */
@Component({
  selector: 'wr-bank-page',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Bank" />
      <p class="muted">
        A stand-in for a bank, which ships with the product. It knows only the files that it is handed; it books, sends back and gives
        statements as a bank does. A real connection takes its place.
      </p>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (said()) {
        <p role="status">{{ said() }}</p>
      }
      @if (data(); as bank) {
        <section class="section">
          <h2>Files handed in</h2>
          <table class="lines">
            @for (file of all() ? bank.files : bank.files.slice(0, 12); track $index) {
              <tr>
                <td>{{ file.on | day }}</td>
                <td>{{ file.name }}</td>
                <td>{{ file.payments | counted: 'payment' : 'payments' }}</td>
                <td class="num">{{ file.amount | money }}</td>
                <td [class.error]="file.faults">
                  {{ file.faults ? 'refused: line ' + file.faults[0]?.line + ', ' + file.faults[0]?.what : 'taken' }}
                </td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">None yet. A released batch hands its file in.</td>
              </tr>
            }
          </table>
          @if (bank.files.length > 12 && !all()) {
            <button class="quiet" type="button" (click)="all.set(true)">Show {{ bank.files.length - 12 | counted }} more</button>
          }
        </section>
        @if (mayPrepare()) {
          <section class="section">
            <h2>A statement from elsewhere</h2>
            <label class="file">
              <input
                type="file"
                accept=".xml"
                class="visually-hidden"
                aria-label="Statement of the bank"
                (change)="take($any($event.target))"
              />
              <span class="quiet">Choose a statement (camt.053) …</span>
            </label>
          </section>
        }
        @if (mayChange()) {
          <section class="section">
            <h2>How accounts are there</h2>
            <form class="row-of" (ngSubmit)="save()">
              <label>{{ pack()?.bank?.code?.label }} <input class="entry" name="bank" [(ngModel)]="draft.bank" /></label>
              <label>{{ pack()?.bank?.account?.label }} <input class="entry" name="account" [(ngModel)]="draft.account" /></label>
              <label
                >is
                <select class="entry" name="state" [(ngModel)]="draft.state">
                  @for (state of states; track state.code) {
                    <option [value]="state.code">{{ state.label }}</option>
                  }
                </select></label
              >
              @if (draft.state === 'moved') {
                <label>New number <input class="entry" name="newAccount" [(ngModel)]="draft.newAccount" /></label>
              }
              <button class="quiet" type="submit">Set it</button>
            </form>
            <table class="lines">
              @for (account of bank.accounts; track account.bank + account.account) {
                <tr>
                  <td>{{ account.bank }} {{ account.account }}</td>
                  <td>{{ labelOf(account.state) }}{{ account.newAccount ? ': ' + account.newAccount : '' }}</td>
                </tr>
              }
            </table>
            @for (account of bank.own; track account.id) {
              <form class="row-of" (ngSubmit)="open(account.id)">
                <label
                  >Our account ending {{ account.last4 }} began with
                  <input class="entry" [name]="'opening' + account.last4" inputmode="decimal" [(ngModel)]="openings[account.id ?? '']"
                /></label>
                <button class="quiet" type="submit">Set it</button>
              </form>
            }
            <form class="row-of" (ngSubmit)="cut()">
              <label>Files count for their day until <input class="entry" type="time" name="cutOff" [(ngModel)]="cutOff" /></label>
              <button class="quiet" type="submit">Set it</button>
            </form>
          </section>
        }
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    form {
      margin: 8px 0;
    }
  `,
})
export class BankPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly pack = injectPack();
  protected readonly data = this.store.selectSignal(bankStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(bankStore.selectProblem);
  protected readonly mayChange = this.store.selectSignal(selectMay('administer'));
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly said = signal('');
  protected readonly all = signal(false);
  protected readonly states = Object.entries(STATES).map(([code, label]) => ({ code, label }));
  protected draft: BodyOf<'bankAccount'> = { bank: '', account: '', state: 'closed', newAccount: '' };
  protected openings: Record<string, string> = {};
  protected cutOff = '';

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.load();
    });
    effect(() => {
      const bank = this.data();
      if (!bank) return;
      this.openings = Object.fromEntries(bank.own.map(({ id, opening }) => [id ?? '', decimalOf(opening)]));
      this.cutOff = bank.cutOff;
    });
  }

  protected labelOf(state: string): string {
    return STATES[state as keyof typeof STATES];
  }

  protected save(): void {
    this.ask(this.api.call('bankAccount', { body: this.draft }));
  }

  protected cut(): void {
    this.ask(this.api.call('bankCutOff', { body: { at: this.cutOff } }));
  }

  protected open(payingAccountId: string | null): void {
    const opening = this.openings[payingAccountId ?? ''] ?? '';
    let amount: number;
    try {
      amount = minorOf(opening.replaceAll(',', ''));
    } catch {
      const detail = `“${opening}” is no amount. Write it as 25000.00.`;
      return this.problem.set({ type: '/problems/entry', title: detail, detail, status: 0, code: 'entry' });
    }
    this.ask(this.api.call('bankOpening', { body: { amount, payingAccountId } }));
  }

  protected async take(chooser: HTMLInputElement): Promise<void> {
    const file = chooser.files?.[0];
    chooser.value = '';
    if (!file) return;
    const content = await file.text();
    this.ask(this.api.call('takeStatement', { body: { content } }), ({ lines, unknown }) =>
      this.said.set(`${lines} new ${lines === 1 ? 'line' : 'lines'}${unknown ? `, ${unknown} of no payment of ours` : ''}.`),
    );
  }

  private load(): void {
    this.store.dispatch(bankStore.load({ input: {}, keep: true }));
  }

  private ask<T>(request: Observable<T>, then: (answer: T) => void = () => this.said.set('Set.')): void {
    this.problem.set(null);
    this.said.set('');
    request.subscribe({
      next: (answer) => {
        then(answer);
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
