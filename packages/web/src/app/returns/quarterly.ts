import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { Store } from '@ngrx/store';
import type { Return } from '@woodruff/contract';
import { dateOf, lastOfMonth } from '@woodruff/core';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { panelOfPage } from '../working/page-with-panel';
import { workingActions } from '../working/working.store';
import { WorkingPanel } from '../working/working-panel';
import { quarterlyStore } from './returns.store';

/** The quarter's return: each line opens to the payslips behind it; what must agree is said. */
@Component({
  selector: 'wr-quarterly',
  imports: [DayPipe, MoneyPipe, Problem, WorkingPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-problem [problem]="problem()" />
      @if (data(); as data) {
        <div class="title-line">
          <h1>Form {{ data.form }}, quarter {{ data.quarter }} of {{ data.year }}</h1>
          <span class="muted">due {{ data.due | day }}{{ data.complete ? '' : ', the quarter is running' }}</span>
          <a class="main-action" [href]="pdf()">Print a working copy (PDF)</a>
        </div>
        <p class="row-of">
          <span class="muted">{{ data.employer.name }}, employer number {{ data.employer.number }}</span
          ><a class="quiet right" [href]="json()" target="_blank">As JSON</a>
        </p>
        <div class="columns">
          <section class="section first">
            <h2>Lines</h2>
            <table class="lines">
              @for (line of data.lines; track line.line) {
                <tr [class.sum]="line.line === '12'">
                  <td class="at">{{ line.line }}</td>
                  <td>
                    {{ line.label }}
                    <div class="muted how">{{ line.working }}</div>
                  </td>
                  <td class="num">
                    @if (line.codes.length) {
                      <button class="opens" type="button" (click)="open(line)">{{ line.amount | money: 'dash' }}</button>
                    } @else {
                      {{ line.unit === 'money' ? (line.amount | money: 'dash') : line.amount }}
                    }
                  </td>
                </tr>
              }
            </table>
            <p class="muted">{{ data.source }}</p>
          </section>
          <div>
            <section class="section first">
              <h2>Liability by pay date, Schedule B</h2>
              <table class="lines">
                @for (day of data.liability; track day.payDate) {
                  <tr>
                    <td>{{ day.payDate | day }}</td>
                    <td class="num">
                      <button class="opens" type="button" (click)="openDay(day.payDate)">{{ day.amount | money }}</button>
                    </td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Nothing was paid in this quarter.</td>
                  </tr>
                }
                <tr class="sum">
                  <td>Sum</td>
                  <td class="num">{{ sum() | money }}</td>
                </tr>
              </table>
            </section>
            <section class="section">
              <h2>Checks</h2>
              @for (check of data.checks; track check.sentence) {
                <p [class.error]="!check.holds">{{ check.holds ? 'Holds' : 'Does not hold' }}: {{ check.sentence }}.</p>
              }
            </section>
          </div>
        </div>
      } @else if (!problem()) {
        <p class="muted">Adding up the quarter …</p>
      }
    </main>
    @if (frame()) {
      <aside aria-label="Working"><wr-working-panel /></aside>
    }
  `,
  styleUrl: '../kit/page-with-panel.scss',
  styles: `
    a.main-action {
      text-decoration: none;
    }
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(230px, 2fr);
      gap: 36px;
    }
    .first {
      margin-top: 6px;
    }
    .at {
      width: 60px;
      white-space: nowrap;
    }
    .how {
      font-size: 13px;
    }
  `,
})
export class Quarterly {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly year = input.required<string>();
  readonly quarter = input.required<string>();
  protected readonly data = this.store.selectSignal(quarterlyStore.selectData);
  protected readonly problem = this.store.selectSignal(quarterlyStore.selectProblem);
  protected readonly frame = panelOfPage();
  protected readonly sum = computed(() => this.data()?.liability.reduce((sum, day) => sum + day.amount, 0) ?? 0);
  private readonly query = computed(() => ({ query: { year: this.year(), quarter: this.quarter() } }));
  protected readonly pdf = computed(() => this.api.url('quarterlyPdf', this.query()));
  protected readonly json = computed(() => this.api.url('quarterlyReturn', this.query()));

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.store.dispatch(quarterlyStore.load({ input: this.query() }));
    });
  }

  protected open(line: Return['lines'][number]): void {
    const from = dateOf(Number(this.year()), Number(this.quarter()) * 3 - 2, 1);
    const to = lastOfMonth(Number(this.year()), Number(this.quarter()) * 3);
    this.store.dispatch(
      workingActions.open({
        frame: { kind: 'behind', title: `Line ${line.line}`, note: `${line.label}. ${line.working}`, codes: line.codes, from, to },
        anew: true,
      }),
    );
  }

  protected openDay(payDate: string): void {
    const codes = this.data()?.lines.find((line) => line.line === '12')?.codes ?? [];
    this.store.dispatch(
      workingActions.open({
        frame: {
          kind: 'behind',
          title: 'Liability of the day',
          note: "Taxes withheld and the employer's share, by payslip.",
          codes,
          from: payDate,
          to: payDate,
        },
        anew: true,
      }),
    );
  }
}
