import { ChangeDetectionStrategy, Component, effect, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Sheet } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { workingActions } from '../working/working.store';
import { comparisonStore } from './pay-runs.store';

const GROUPS: Record<string, string> = {
  unexplained: 'Not explained',
  rates: 'Rates of pay',
  hours: 'Hours',
  'one-offs': 'One-offs',
  items: 'Recurring items',
  'tax-details': "Tax details and the employer's facts",
  tables: 'Pay date and tables',
  balances: 'Sums of the year: limits and ceilings',
  'by-hand': 'Taxes overridden',
  new: 'People not in the last run',
  gone: 'People no longer in the run',
};

/** Why the run's net differs from the last one: causes that add up to the cent, and the people behind them. */
@Component({
  selector: 'wr-run-differences',
  imports: [CountedPipe, DayPipe, MoneyPipe, Problem, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <wr-problem [problem]="problem()" />
    @if (data(); as data) {
      @if (data.earlierPayDate) {
        <h3>Net pay against {{ data.earlierPayDate | day }}</h3>
        <table class="lines causes">
          @for (group of data.groups; track group.group) {
            <tr>
              <td [class.attention]="group.group === 'unexplained'">{{ name(group.group) }}</td>
              <td class="num muted">{{ group.people | counted: 'person' : 'people' }}</td>
              <td class="num">{{ group.share | signed }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing differs.</td>
            </tr>
          }
          <tr class="sum">
            <td>Difference</td>
            <td></td>
            <td class="num">{{ data.difference | signed }}</td>
          </tr>
        </table>
        <h3>Person by person, largest first</h3>
        <table class="lines">
          <thead>
            <tr>
              <th>Person</th>
              <th>Causes</th>
              <th class="num">Last</th>
              <th class="num">Now</th>
              <th class="num">Difference</th>
            </tr>
          </thead>
          @for (person of data.people; track person.payslipId) {
            <tr>
              <td>
                <button class="opens" type="button" (click)="open(person.payslipId)">{{ person.name }}</button>
              </td>
              <td>
                @for (cause of person.causes; track $index) {
                  <div>
                    {{ cause.sentences.join('; ') }} <span class="muted">{{ cause.share | signed }}</span>
                  </div>
                }
              </td>
              <td class="num">{{ person.earlier | money: 'dash' }}</td>
              <td class="num">{{ person.later | money: 'dash' }}</td>
              <td class="num">{{ person.difference | signed }}</td>
            </tr>
          }
        </table>
      } @else {
        <p class="notice">This is the first run of the schedule: there is nothing to compare it with.</p>
      }
    } @else if (!problem()) {
      <p class="muted">Finding the causes of {{ sheet().rows.length | counted: 'difference' : 'differences' }} …</p>
    }
  `,
  styles: `
    h3 {
      margin: 14px 0 4px;
    }
    .causes {
      max-width: 560px;
    }
  `,
})
export class RunDifferences {
  private readonly store = inject(Store);
  readonly sheet = input.required<Sheet>();
  protected readonly data = this.store.selectSignal(comparisonStore.selectData);
  protected readonly problem = this.store.selectSignal(comparisonStore.selectProblem);

  constructor() {
    effect(() => {
      const { id, version } = this.sheet().run;
      if (version) this.store.dispatch(comparisonStore.load({ input: { path: { id } } }));
    });
  }

  protected name(group: string): string {
    return GROUPS[group] ?? group;
  }

  protected open(payslipId: string): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'figure', payslipId, key: 'net' }, anew: true }));
  }
}
