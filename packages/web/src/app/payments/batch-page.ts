import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Batch, ProblemDetail } from '@woodruff/contract';
import { counted, writtenDay } from '@woodruff/core';
import { of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { chequesTitle, lastWords, methodWords, RUNG_STATES, TRANSFER_STATES } from './payment-words';
import { PaymentsHead } from './payments-head';
import { batchStore } from './payments.store';
import { ReturnedPayment } from './returned-payment';

/** How many payments are listed before one asks for all. */
const SHOWN = 200;

/** A batch: what is in it, where it stands, and its release. */
@Component({
  selector: 'wr-batch-page',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem, ReturnedPayment, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      @if (data(); as batch) {
        <wr-payments-head [title]="'Batch ' + batch.number">
          @if (batch.state === 'to-send' && mayPay()) {
            <button
              class="main-action right"
              type="button"
              (click)="release()"
              [disabled]="working() || (batch.changed.length > 0 && !accounts())"
            >
              {{ working() ? 'Releasing …' : 'Release ' + total() }}
            </button>
          }
        </wr-payments-head>
        <wr-problem [problem]="problem() ?? loadProblem()" />
        <p class="row-of">
          <span>paid {{ batch.payDate | day }}, {{ states[batch.state] }}</span>
          <span
            >{{ sums() }}, <strong>{{ batch.amount | money }}</strong></span
          >
          @if (batch.short) {
            <span class="attention">◇ The account lacks {{ batch.short | money }}, by the latest statement</span>
          }
          @if (batch.from; as from) {
            <span class="muted">from {{ from.name }}, ending {{ from.last4 }}</span>
          }
          @if (batch.handInBy && hasFile()) {
            <span [class.attention]="batch.handInBy < today()" [class.muted]="batch.handInBy >= today()">{{
              batch.handInBy < today()
                ? '◇ The bank books it later than ' +
                  (batch.payDate | day: 'short') +
                  ': it wanted the file on ' +
                  (batch.handInBy | day: 'short')
                : 'with the bank by ' + (batch.handInBy | day: 'short')
            }}</span>
          }
          <span class="muted">prepared by {{ batch.preparedBy }}{{ batch.releasedBy ? ', released by ' + batch.releasedBy : '' }}</span>
          @if (batch.hash && mayPay()) {
            <a class="quiet" [href]="file()">The file</a>
          }
          @if (hasCheques() && batch.releasedAt && mayPay()) {
            <a class="quiet" [href]="cheques()">{{ chequeWord() }} to print (PDF)</a>
          }
        </p>
        @if (batch.releasedAt && batch.hash && !batch.delivered) {
          <p class="notice">
            Released; the bank does not have the file yet. It is handed in by itself.
            <button class="quiet" type="button" (click)="exchange()">Hand it in now</button>
          </p>
        }
        @if (batch.faults; as faults) {
          <div class="notice bad" role="alert">
            The bank refused the file; nothing of it was paid. Pay what came back again: it goes with another file.
            @for (fault of faults; track $index) {
              <div>Line {{ fault.line }}, column {{ fault.column }}: {{ fault.what }}</div>
            }
          </div>
        }
        @if (batch.state === 'to-send' && mayPay()) {
          @if (batch.changed.length) {
            <section class="section">
              <h2>Changed since approval</h2>
              @for (one of batch.changed; track one.netPaymentId) {
                <p>
                  <span class="attention"
                    >◇ <a [routerLink]="['/people', one.personId]">{{ one.name }}</a></span
                  >
                  {{ one.amount | money }}. {{ one.what }}.
                  <span class="muted">{{ one.who }}{{ one.at ? ', ' + one.at.replace('T', ' ').slice(0, 16) : '' }}</span>
                </p>
              }
              <label class="check"
                ><input type="radio" name="accounts" value="approved" [(ngModel)]="accountsModel" /> Pay to the accounts as the run was
                approved</label
              >
              <label class="check"
                ><input type="radio" name="accounts" value="now" [(ngModel)]="accountsModel" /> Pay to the accounts as they are now</label
              >
            </section>
          }
          <p class="row-of">
            @if (hasFile()) {
              <label
                >Format
                <select class="entry" name="format" [(ngModel)]="format">
                  @for (one of batch.formats; track one.code) {
                    <option [value]="one.code">{{ one.name }}</option>
                  }
                </select></label
              >
              <label class="check"
                ><input type="checkbox" name="balanced" [(ngModel)]="balanced" /> The debit of our account stands in the file</label
              >
            }
            <button class="quiet right" type="button" (click)="drop()">Drop the batch</button>
          </p>
        }
        @for (payment of returned(); track payment.id) {
          <div class="notice"><wr-returned-payment [payment]="payment" (done)="load(true)" /></div>
        }
        @if (batch.lines.length) {
          <section class="section">
            <h2>Cash list</h2>
            <p>
              @for (line of batch.lines; track line.denomination) {
                <span class="coin">{{ line.pieces }} × {{ line.denomination | money }}</span>
              }
            </p>
          </section>
        }
        <section class="section">
          <h2>
            Payments
            <label class="right"
              >Show
              <select class="entry" name="filter" [ngModel]="filter()" (ngModelChange)="filter.set($event)">
                <option value="">all</option>
                @for (state of present(); track state) {
                  <option [value]="state">{{ transferStates[state] }}</option>
                }
              </select></label
            >
          </h2>
          <table class="lines">
            <tr>
              <th>To</th>
              <th>How</th>
              <th>Reference</th>
              <th class="num">Amount</th>
              <th>State</th>
            </tr>
            @for (one of shown(); track one.id) {
              <tr>
                <td>
                  @if (one.personId) {
                    <a [routerLink]="['/people', one.personId]">{{ one.payee }}</a>
                  } @else {
                    {{ one.payee }}
                  }
                </td>
                <td>
                  {{ method(one) }}
                  @if (one.label) {
                    <div class="muted">{{ one.label }}</div>
                  }
                </td>
                <td class="muted">{{ one.reference }}</td>
                <td class="num">{{ one.amount | money }}</td>
                <td [class.attention]="one.state === 'returned'">
                  {{ transferStates[one.state] }}
                  @if (last(one); as words) {
                    <div class="muted">{{ words }}</div>
                  }
                </td>
              </tr>
            }
          </table>
          @if (hidden() > 0) {
            <button class="quiet" type="button" (click)="all.set(true)">Show {{ hidden() | counted }} more</button>
          }
        </section>
      } @else {
        <wr-problem [problem]="loadProblem()" />
        @if (!loadProblem()) {
          <p class="muted">Opening the batch …</p>
        }
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    h2 {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
    h2 label {
      font: 400 15px var(--bs-body-font-family);
    }
    .row-of {
      align-items: end;
    }
    .coin {
      display: inline-block;
      min-width: 120px;
    }
  `,
})
export class BatchPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly pack = injectPack();
  private readonly employer = this.store.selectSignal(selectEmployer);
  readonly id = input.required<string>();
  protected readonly data = this.store.selectSignal(batchStore.selectData);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly loadProblem = this.store.selectSignal(batchStore.selectProblem);
  protected readonly mayPay = this.store.selectSignal(selectMay('pay-out'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly working = signal(false);
  protected readonly states = RUNG_STATES;
  protected readonly transferStates = TRANSFER_STATES;
  protected readonly filter = signal('');
  protected readonly all = signal(false);
  protected readonly accounts = signal<'approved' | 'now' | undefined>(undefined);
  protected format = '';
  protected balanced = true;
  protected readonly present = computed(() => [...new Set(this.data()?.transfers.map(({ state }) => state) ?? [])]);
  private readonly filtered = computed(() => this.data()?.transfers.filter(({ state }) => !this.filter() || state === this.filter()) ?? []);
  protected readonly shown = computed(() => (this.all() ? this.filtered() : this.filtered().slice(0, SHOWN)));
  protected readonly hidden = computed(() => this.filtered().length - this.shown().length);
  protected readonly returned = computed(
    () =>
      this.data()
        ?.transfers.filter(({ state }) => state === 'returned')
        .slice(0, 20) ?? [],
  );
  protected readonly hasCheques = computed(() => this.data()?.sums.some(({ method }) => method === 'cheque') ?? false);
  protected readonly hasFile = computed(() => this.data()?.sums.some(({ method }) => method === 'file') ?? false);
  protected readonly chequeWord = computed(() => chequesTitle(this.pack()?.words));
  protected readonly sums = computed(
    () =>
      this.data()
        ?.sums.map(({ method, payments }) => `${counted(payments, 'payment', 'payments')} ${methodWords(method, this.pack()?.words)}`)
        .join(', ') ?? '',
  );
  protected readonly total = computed(() => {
    const batch = this.data();
    const standing = batch?.transfers.filter(({ state }) => state !== 'left-out').length ?? 0;
    return batch ? `${counted(standing, 'payment', 'payments')} for ${writtenDay(batch.payDate)}` : '';
  });
  protected readonly file = computed(() => this.api.url('batchFile', { path: { id: this.id() } }));
  protected readonly cheques = computed(() => this.api.url('chequesPdf', { path: { id: this.id() }, query: { position: 'top' } }));

  constructor() {
    effect(() => {
      if (this.employer()?.today && this.id()) this.load(false);
    });
    effect(() => {
      const [first] = this.data()?.formats ?? [];
      if (first && !this.format) this.format = first.code;
    });
  }

  protected get accountsModel(): 'approved' | 'now' | undefined {
    return this.accounts();
  }
  protected set accountsModel(value: 'approved' | 'now' | undefined) {
    this.accounts.set(value);
  }

  protected method({ method, number }: Batch['transfers'][number]): string {
    return methodWords(method, this.pack()?.words, number);
  }

  protected readonly last = lastWords;

  protected load(keep: boolean): void {
    this.store.dispatch(batchStore.load({ input: { path: { id: this.id() } }, keep }));
  }

  protected release(): void {
    const batch = this.data();
    if (!batch) return;
    this.problem.set(null);
    this.working.set(true);
    const accounts = this.accounts();
    const body = { version: batch.version, format: this.format, balanced: this.balanced, ...(accounts ? { accounts } : {}) };
    this.api
      .call('releaseBatch', { path: { id: batch.id }, body })
      .pipe(switchMap(() => (this.hasFile() ? this.api.call('exchange', { body: {} }) : of(null))))
      .subscribe({ next: () => this.settled(), error: (error: unknown) => this.settled(problemOf(error)) });
  }

  protected exchange(): void {
    this.problem.set(null);
    this.api
      .call('exchange', { body: {} })
      .subscribe({ next: () => this.load(true), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  protected drop(): void {
    this.problem.set(null);
    this.api
      .call('dropBatch', { path: { id: this.id() }, body: {} })
      .subscribe({ next: () => this.load(true), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  private settled(problem: ProblemDetail | null = null): void {
    this.working.set(false);
    this.problem.set(problem);
    this.load(true);
  }
}
