import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Cheques, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { chequesTitle, TRANSFER_STATES } from './payment-words';
import { PaymentsHead } from './payments-head';
import { chequesStore } from './payments.store';

/** The register of cheques: every number, to whom, and what became of it. */
@Component({
  selector: 'wr-cheques-page',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head [title]="title()"><a class="quiet right" [href]="csv">For the bank to compare (CSV)</a></wr-payments-head>
      <p class="row-of">
        <label
          >Show
          <select class="entry" name="state" [ngModel]="state()" (ngModelChange)="state.set($event)">
            <option value="all">all</option>
            <option value="out">those that are out</option>
            <option value="stale">those out for more than {{ data()?.staleAfter ?? 180 }} days</option>
            <option value="unclaimed">pay that counts as unclaimed</option>
          </select></label
        >
        <span class="muted">{{ data()?.cheques?.length ?? 0 | counted }} of them</span>
        @if (state() === 'unclaimed') {
          <a class="quiet right" [href]="unclaimed">To be handed over (CSV)</a>
        }
      </p>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (data(); as register) {
        <table class="lines">
          <tr>
            <th class="num">Number</th>
            <th>Date</th>
            <th>To</th>
            <th class="num">Amount</th>
            <th>State</th>
            <th></th>
          </tr>
          @for (one of register.cheques; track one.id) {
            <tr>
              <td class="num">{{ one.number }}</td>
              <td>{{ one.date | day: 'short' }}</td>
              <td>
                @if (one.batchId) {
                  <a [routerLink]="['/payments/batches', one.batchId]">{{ one.payee }}</a>
                } @else {
                  {{ one.payee }}
                }
                @if (one.reason) {
                  <div class="muted">{{ one.reason }}</div>
                }
              </td>
              <td class="num">{{ one.amount | money }}</td>
              <td [class.attention]="one.stale">
                {{ one.stale ? '◇ stale, ' : '' }}{{ printed(one) ? 'printed, ' : '' }}{{ states[one.state] }}
                @if (one.unclaimed && (one.stale || state() === 'unclaimed')) {
                  <div class="muted" [title]="one.unclaimed.source">
                    unclaimed from {{ one.unclaimed.from | day: 'short' }} by the law of {{ one.unclaimed.place }}, reported by
                    {{ one.unclaimed.report | day: 'short' }}
                  </div>
                }
              </td>
              <td class="num">
                @if (mayPay() && one.state === 'sent') {
                  <button class="quiet" type="button" (click)="settle(one.id, 'cleared', '')">Cleared</button>
                  <button class="quiet" type="button" (click)="begin(one.id)">Stop …</button>
                }
                @if (mayPay() && one.state === 'stopped' && !one.remittanceId) {
                  <button class="quiet" type="button" (click)="again(one)">Make out another</button>
                }
              </td>
            </tr>
            @if (stopping() === one.id) {
              <tr>
                <td colspan="6">
                  <form class="row-of" (ngSubmit)="settle(one.id, 'stopped', why)">
                    <label>Lost, spoilt or void: why <input class="entry" name="why" [(ngModel)]="why" /></label>
                    <button class="quiet" type="submit">Stop number {{ one.number }}</button>
                  </form>
                </td>
              </tr>
            }
          } @empty {
            <tr>
              <td class="muted" colspan="6">{{ state() === 'all' ? 'None was made out yet.' : 'None of these.' }}</td>
            </tr>
          }
        </table>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    td.num button {
      margin-left: 12px;
    }
  `,
})
export class ChequesPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly pack = injectPack();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(chequesStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(chequesStore.selectProblem);
  protected readonly mayPay = this.store.selectSignal(selectMay('pay-out'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly state = signal<'all' | 'out' | 'stale' | 'unclaimed'>('all');
  protected readonly stopping = signal('');
  protected readonly states = TRANSFER_STATES;
  protected readonly title = computed(() => chequesTitle(this.pack()?.words));
  protected readonly csv = this.api.url('positivePay', {});
  protected readonly unclaimed = this.api.url('unclaimed', {});
  protected why = '';

  constructor() {
    effect(() => {
      this.state();
      if (this.employer()?.today) this.load(true);
    });
  }

  protected printed({ events }: Cheques['cheques'][number]): boolean {
    return events.some(({ step }) => step === 'printed');
  }

  protected begin(id: string): void {
    this.why = '';
    this.stopping.set(id);
  }

  protected settle(id: string, step: 'cleared' | 'stopped', reason: string): void {
    this.ask(this.api.call('settleByHand', { path: { id }, body: { step, reason } }));
  }

  protected again({ id, events }: Cheques['cheques'][number]): void {
    const reason = events.find(({ step }) => step === 'stopped')?.words || 'Made out again';
    this.ask(this.api.call('payReturned', { path: { id }, body: { way: 'cheque', reason } }));
  }

  private load(keep: boolean): void {
    this.store.dispatch(chequesStore.load({ input: { query: { state: this.state() } }, keep }));
  }

  private ask(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.stopping.set('');
        this.load(true);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
