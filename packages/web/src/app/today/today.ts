import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Proposal } from '@woodruff/contract';
import { counted, writtenPeriod } from '@woodruff/core';
import { CostChart } from './cost-chart';
import { HeldChangesPart } from './held-changes';
import { Problem } from '../kit/problem';
import { partsOf } from '../kit/address';
import { CountedPipe, DayPipe, listed, MoneyPipe, PeriodPipe, RunKindPipe } from '../kit/words';
import { runActions, runFeature } from '../pay-runs/pay-runs.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { todayStore } from './today.store';

/** What is due and what is waiting, from facts. */
@Component({
  selector: 'wr-today',
  imports: [CountedPipe, HeldChangesPart, CostChart, DayPipe, MoneyPipe, PeriodPipe, RunKindPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>{{ today() | day }}</h1>
        <span class="muted">{{ sentence() }}</span>
      </div>
      <wr-problem [problem]="problem() ?? startProblem()" />
      @if (data(); as data) {
        <div class="columns">
          <div>
            <section class="section first">
              <h2>Pay runs</h2>
              <table class="lines">
                @for (run of data.open; track run.id) {
                  <tr>
                    <td class="when">paid {{ run.payDate | day }}</td>
                    <td>
                      <a [routerLink]="['/pay-runs', run.id]">{{ run | period }}, {{ run | runKind }}</a>
                      <div class="muted">
                        {{ run.people | counted: 'person' : 'people' }}, net {{ run.totals.net | money }},
                        {{ run.points ? (run.points | counted: 'open point' : 'open points') : 'no open points' }}
                      </div>
                    </td>
                    <td class="num"><a class="quiet" [routerLink]="['/pay-runs', run.id]">Go on with it</a></td>
                  </tr>
                }
                @for (proposal of data.proposals; track proposal.scheduleId) {
                  <tr>
                    <td class="when">paid {{ proposal.payDate | day }}</td>
                    <td>
                      {{ proposal | period }}, {{ proposal.schedule.toLowerCase() }}
                      <div class="muted">
                        {{ proposal.people | counted: 'person' : 'people' }}, approve by {{ proposal.approveBy | day }}
                      </div>
                    </td>
                    <td class="num">
                      @if (mayPrepare()) {
                        <button
                          type="button"
                          [class]="$first && !data.open.length ? 'main-action' : 'quiet'"
                          (click)="start(proposal)"
                          [disabled]="starting()"
                        >
                          Start this run
                        </button>
                      }
                    </td>
                  </tr>
                } @empty {
                  @if (!data.open.length) {
                    <tr>
                      <td class="muted">
                        No run is waiting. <a routerLink="/employer">What is missing before the first run</a> stands on the employer's page.
                      </td>
                    </tr>
                  }
                }
              </table>
            </section>
            <wr-held-changes />
            @if (waiting().length) {
              <section class="section">
                <h2>Waiting for an answer</h2>
                <table class="lines">
                  @for (one of waiting(); track one.words) {
                    <tr>
                      <td class="when">{{ one.where }}</td>
                      <td>
                        <a [routerLink]="one.link" [queryParams]="one.query">{{ one.words }}</a>
                      </td>
                    </tr>
                  }
                </table>
              </section>
            }
            <section class="section">
              <h2>Due</h2>
              <table class="lines">
                @for (due of data.due; track due.link + due.date + due.what) {
                  <tr [class.error]="due.overdue">
                    <td class="when">{{ due.overdue ? '▲ ' : '' }}{{ due.date | day }}</td>
                    <td>
                      <a [routerLink]="path(due.link)">{{ due.what }}</a>
                    </td>
                    <td class="num">{{ due.amount | money }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Nothing is due in the next ten weeks.</td>
                  </tr>
                }
              </table>
            </section>
            <section class="section">
              <h2>Coming</h2>
              <table class="lines">
                @for (coming of data.coming; track coming.what) {
                  <tr>
                    <td class="when">{{ coming.date | day }}</td>
                    <td>
                      @if (coming.personId) {
                        <a [routerLink]="['/people', coming.personId]">{{ coming.what }}</a>
                      } @else {
                        {{ coming.what }}
                      }
                    </td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">No raise or leaving is on file for the next weeks.</td>
                  </tr>
                }
              </table>
            </section>
          </div>
          <div>
            <section class="section first">
              <h2>Records to finish</h2>
              <table class="lines">
                @for (person of data.unfinished.first; track person.personId) {
                  <tr>
                    <td>
                      <a [routerLink]="['/people', person.personId]">{{ person.name }}</a>
                    </td>
                    <td class="attention">{{ listed(person.missing) }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Every record is complete.</td>
                  </tr>
                }
                @if (data.unfinished.count > data.unfinished.first.length) {
                  <tr>
                    <td>
                      <a routerLink="/people" [queryParams]="{ show: 'unfinished' }"
                        >All {{ data.unfinished.count | counted: 'record' : 'records' }}</a
                      >
                    </td>
                    <td></td>
                  </tr>
                }
              </table>
            </section>
            <section class="section">
              <h2>
                {{ data.costs.length ? 'Cost of the last ' + counted(data.costs.length, 'pay date', 'pay dates') : 'Cost by pay date' }}
              </h2>
              <wr-cost-chart [costs]="data.costs" />
            </section>
          </div>
        </div>
      } @else if (!problem()) {
        <p class="muted">Looking at what is due …</p>
      }
    </main>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
      gap: 40px;
    }
    .first {
      margin-top: 6px;
    }
    .when {
      width: 150px;
      white-space: nowrap;
      color: var(--ink2);
    }
  `,
})
export class Today {
  protected readonly path = partsOf;
  private readonly store = inject(Store);
  private readonly router = inject(Router);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(todayStore.selectData);
  protected readonly problem = this.store.selectSignal(todayStore.selectProblem);
  protected readonly startProblem = this.store.selectSignal(runFeature.selectProblem);
  protected readonly starting = this.store.selectSignal(runFeature.selectStarting);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  /** What people asked for, and one-offs without a run. */
  protected readonly waiting = computed((): { where: string; words: string; link: string; query: Record<string, string> }[] => {
    const data = this.data();
    if (!data) return [];
    const { leave, time } = data.asked;
    return [
      ...(data.oneOffs
        ? [
            {
              where: 'for a run',
              words: data.oneOffs === 1 ? 'One one-off' : `${data.oneOffs} one-offs`,
              link: '/pay-runs/one-offs',
              query: {},
            },
          ]
        : []),
      ...(leave
        ? [{ where: 'leave', words: leave === 1 ? 'One request for leave' : `${leave} requests for leave`, link: '/time/leave', query: {} }]
        : []),
      ...time.map(({ scheduleId, from, to, changes }) => ({
        where: 'time',
        words: `${changes === 1 ? 'A change' : `${changes} changes`} of time asked for, ${writtenPeriod(from, to)}`,
        link: '/time',
        query: { schedule: scheduleId, from },
      })),
    ];
  });
  protected readonly sentence = computed(() => {
    const data = this.data();
    if (!data) return '';
    const waiting = data.open.length + data.proposals.length;
    return `${waiting === 1 ? 'One pay run is' : `${waiting} pay runs are`} waiting${data.unfinished.count ? `, ${counted(data.unfinished.count, 'record is', 'records are')} unfinished` : ''}`;
  });

  protected readonly listed = listed;
  protected readonly counted = counted;

  constructor() {
    effect(() => {
      if (this.employer()) this.store.dispatch(todayStore.load({ input: {} }));
    });
  }

  protected start({ scheduleId, from, to, payDate }: Proposal): void {
    this.store.dispatch(runActions.start({ body: { scheduleId, from, to, payDate } }));
  }
}
