import { ChangeDetectionStrategy, Component, effect, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe, PeriodPipe, RunKindPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { runsStore } from './pay-runs.store';

/** All runs, latest pay date first. */
@Component({
  selector: 'wr-pay-runs-list',
  imports: [CountedPipe, DayPipe, MoneyPipe, PeriodPipe, RunKindPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Pay runs</h1>
        <span class="muted"
          >{{ runs()?.length ?? 0 | counted: 'run' : 'runs' }}, latest first. Regular ones are started from
          <a routerLink="/today">Today</a>.</span
        >
        <a class="quiet right" routerLink="/pay-runs/one-offs">One-offs</a>
        @if (mayPrepare()) {
          <a class="quiet" routerLink="/pay-runs/special">Special run</a>
        }
      </div>
      <wr-problem [problem]="problem()" />
      @if (runs(); as runs) {
        <table class="lines">
          <thead>
            <tr>
              <th>Paid</th>
              <th>Period</th>
              <th>State</th>
              <th class="num">People</th>
              <th class="num">Gross</th>
              <th class="num">Taxes</th>
              <th class="num">Deductions</th>
              <th class="num">Net</th>
              <th class="num">Employer pays</th>
            </tr>
          </thead>
          @for (run of runs; track run.id) {
            <tr>
              <td>{{ run.payDate | day }}</td>
              <td>
                <a [routerLink]="['/pay-runs', run.id]">{{ run | period }}</a>
                <span class="muted">{{ run | runKind }}</span>
              </td>
              <td>
                @if (run.state === 'approved') {
                  <span class="muted">approved{{ run.approvedBy ? ' by ' + run.approvedBy : '' }}</span>
                } @else if (run.state === 'withdrawn') {
                  <span class="muted">withdrawn</span>
                } @else {
                  <span class="attention">{{ words[run.state] }}</span>
                }
              </td>
              <td class="num">{{ run.people ? (run.people | counted) : 'reversal' }}</td>
              <td class="num">{{ run.totals.gross | money: 'dash' }}</td>
              <td class="num">{{ run.totals.taxes | money: 'dash' }}</td>
              <td class="num">{{ run.totals.deductions | money: 'dash' }}</td>
              <td class="num">{{ run.totals.net | money: 'dash' }}</td>
              <td class="num">{{ run.totals.employerCost | money: 'dash' }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted" colspan="9">No run yet. The first one is proposed on Today as soon as somebody can be paid.</td>
            </tr>
          }
        </table>
      } @else if (!problem()) {
        <p class="muted">Fetching the runs …</p>
      }
    </main>
  `,
})
export class PayRunsList {
  private readonly store = inject(Store);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly words: Record<string, string> = { open: 'open', calculating: 'being calculated', submitted: 'submitted' };
  protected readonly runs = this.store.selectSignal(runsStore.selectData);
  protected readonly problem = this.store.selectSignal(runsStore.selectProblem);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(runsStore.load({ input: {}, keep: true }));
    });
  }
}
