import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { addDays } from '@woodruff/core';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { costsStore } from './payments.store';

/** What work cost, by department and by the day on which it was done. */
@Component({
  selector: 'wr-costs-page',
  imports: [DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Cost by day worked"><a class="quiet right" routerLink="/payments/journal">Journal</a></wr-payments-head>
      <wr-problem [problem]="problem()" />
      <p class="row-of">
        <label
          >From <input class="entry" type="date" name="from" [ngModel]="from() || data()?.from" (ngModelChange)="from.set($event)"
        /></label>
        <label>until <input class="entry" type="date" name="to" [ngModel]="to() || data()?.to" (ngModelChange)="to.set($event)" /></label>
        <a class="quiet right" [href]="file()">CSV</a>
      </p>
      <p class="muted">
        Of posted payslips: pay and the employer’s part of it, on the days of their time by its hours; without time, on the weekdays of the
        period.
      </p>
      @if (data(); as costs) {
        <div class="scroll" tabindex="0" role="region" aria-label="Cost by department and day">
          <table class="lines">
            <tr>
              <th>Department</th>
              <th class="num">Together</th>
              @for (day of shown(); track day.date) {
                <th class="num">{{ (day.date | day).slice(0, 3) }}<br />{{ (day.date | day: 'short').slice(0, -5) }}</th>
              }
            </tr>
            @for (row of costs.departments; track row.department) {
              <tr>
                <td>{{ row.department || 'no department' }}</td>
                <td class="num">
                  <strong>{{ row.total | money }}</strong>
                </td>
                @for (day of shown(); track day.date) {
                  <td class="num">{{ row.amounts[day.at] ?? 0 | money: 'dash' }}</td>
                }
              </tr>
            } @empty {
              <tr>
                <td class="muted">No posted pay of these days.</td>
              </tr>
            }
            @if (costs.departments.length > 1) {
              <tr class="sum">
                <td>Together</td>
                <td class="num">{{ total() | money }}</td>
                @for (day of shown(); track day.date) {
                  <td class="num">{{ day.total | money: 'dash' }}</td>
                }
              </tr>
            }
          </table>
        </div>
      } @else if (!problem()) {
        <p class="muted">Spreading the cost over the days …</p>
      }
    </main>
  `,
  styles: `
    .scroll {
      overflow-x: auto;
    }
    th,
    td {
      white-space: nowrap;
    }
  `,
})
export class CostsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(costsStore.selectData);
  protected readonly problem = this.store.selectSignal(costsStore.selectProblem);
  protected readonly from = signal('');
  protected readonly to = signal('');
  /** Days on which anything was worked, with the sum of all departments. */
  protected readonly shown = computed(() => {
    const costs = this.data();
    return (costs?.days ?? [])
      .map((date, at) => ({ date, at, total: costs?.departments.reduce((sum, { amounts }) => sum + (amounts[at] ?? 0), 0) ?? 0 }))
      .filter(({ at }) => costs?.departments.some(({ amounts }) => amounts[at]));
  });
  protected readonly total = computed(() => this.data()?.departments.reduce((sum, { total }) => sum + total, 0) ?? 0);
  private readonly query = computed(() => {
    const today = this.employer()?.today;
    return today ? { from: this.from() || addDays(today, -27), to: this.to() || today } : null;
  });

  constructor() {
    effect(() => {
      const query = this.query();
      if (query) this.store.dispatch(costsStore.load({ input: { query }, keep: true }));
    });
  }

  protected file(): string {
    return this.api.url('costFile', { query: this.query() ?? { from: '', to: '' } });
  }
}
