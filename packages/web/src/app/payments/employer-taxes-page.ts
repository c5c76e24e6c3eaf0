import { ChangeDetectionStrategy, Component, computed, effect, inject, linkedSignal, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { ProblemDetail, TaxGrid } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { FigureWorking } from '../working/figure-working';
import { PaymentsHead } from './payments-head';
import { taxGridStore } from './payments.store';

const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** Taxes of the employer by month and place; what a notice says instead stands beside the computed as a difference. */
@Component({
  selector: 'wr-employer-taxes-page',
  imports: [DayPipe, FigureWorking, FormsModule, MoneyPipe, PaymentsHead, Problem, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Employer taxes">
        <input
          class="entry year right"
          type="number"
          name="year"
          aria-label="Year"
          [ngModel]="year()"
          (ngModelChange)="chosen.set(+$event)"
        />
      </wr-payments-head>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (data(); as grid) {
        <div class="scroll" tabindex="0" role="region" aria-label="Taxes of the employer by month">
          <table class="lines">
            <tr>
              <th>Tax</th>
              <th>Place</th>
              @for (month of months; track month) {
                <th class="num">{{ month }}</th>
              }
              <th class="num">Year</th>
            </tr>
            @for (row of grid.rows; track row.code) {
              <tr>
                <td>{{ row.label }}</td>
                <td>{{ row.place }}</td>
                @for (cell of row.months; track $index) {
                  <td class="num">
                    @if (may() && (cell.total || cell.difference)) {
                      <button
                        class="opens"
                        type="button"
                        [class.attention]="cell.difference !== 0"
                        [attr.aria-label]="row.label + ', ' + months[$index]"
                        (click)="begin(row, $index)"
                      >
                        {{ cell.difference ? '◇ ' : '' }}{{ cell.total | money }}
                      </button>
                    } @else {
                      <span [class.attention]="cell.difference !== 0">{{ cell.total | money: 'dash' }}</span>
                    }
                  </td>
                }
                <td class="num">
                  <strong>{{ row.total | money }}</strong>
                </td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">No tax of the employer was posted in this year.</td>
              </tr>
            }
            @if (grid.rows.length > 1) {
              <tr class="sum">
                <td>Together</td>
                <td></td>
                @for (sum of sums(); track $index) {
                  <td class="num">{{ sum | money: 'dash' }}</td>
                }
                <td class="num">{{ total() | money }}</td>
              </tr>
            }
          </table>
        </div>
        @if (open(); as cell) {
          <form class="panel-form" (ngSubmit)="save()">
            <h2>{{ cell.row.label }}, {{ months[cell.month] }} {{ grid.year }}</h2>
            <p class="muted">
              Computed {{ cell.row.months[cell.month]?.computed ?? 0 | money }}. What is entered here stands beside it as a difference: it
              is owed to the payee and posted to the journal. The computed stays as it is.
            </p>
            <div class="form">
              <label class="field">It comes to <input name="total" inputmode="decimal" [(ngModel)]="draft.total" /></label>
              <label class="field wide"
                >Why <input name="reason" [(ngModel)]="draft.reason" placeholder="such as the rate by a notice"
              /></label>
            </div>
            <div class="form-actions">
              <button class="main-action" type="submit">Enter the difference</button>
              <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
            </div>
          </form>
        }
        @if (grid.reckoned.length) {
          <section class="section">
            <h2>Reckoned out of everybody's pay</h2>
            <table class="lines">
              <tr>
                <th>What</th>
                <th>For</th>
                <th>With the pay of</th>
                <th class="num">Owed, or taken off</th>
              </tr>
              @for (one of grid.reckoned; track $index) {
                <tr>
                  <td>{{ one.label }}</td>
                  <td>{{ one.period }}</td>
                  <td>{{ one.on | day: 'short' }}</td>
                  <td class="num">
                    @if (one.workings[one.code]) {
                      <button
                        class="opens"
                        type="button"
                        [attr.aria-expanded]="asked() === one"
                        [attr.aria-label]="one.label + ', ' + one.period"
                        (click)="ask(one)"
                      >
                        {{ one.amount | signed }}
                      </button>
                    } @else {
                      {{ one.amount | signed }}
                    }
                  </td>
                </tr>
              }
            </table>
            @if (working(); as working) {
              <wr-figure-working [working]="working" [workings]="asked()?.workings ?? {}" personId="" (opened)="key.set($event)" />
            }
          </section>
        }
        @if (grid.entered.length) {
          <section class="section">
            <h2>Entered beside the computed</h2>
            <table class="lines">
              @for (one of grid.entered; track $index) {
                <tr>
                  <td>{{ labelOf(one.code) }}, {{ months[one.month - 1] }}</td>
                  <td class="num">{{ one.amount | signed }}</td>
                  <td>{{ one.reason }}</td>
                  <td class="muted">{{ one.who }}, {{ one.on | day: 'short' }}</td>
                </tr>
              }
            </table>
          </section>
        }
      } @else if (!loadProblem()) {
        <p class="muted">Adding up the year …</p>
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
    .year {
      width: 90px;
    }
  `,
})
export class EmployerTaxesPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(taxGridStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(taxGridStore.selectProblem);
  protected readonly may = this.store.selectSignal(selectMay('administer'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly months = MONTHS;
  protected readonly chosen = signal(0);
  protected readonly year = computed(() => this.chosen() || Number(this.employer()?.today.slice(0, 4) ?? 0));
  protected readonly open = signal<{ row: TaxGrid['rows'][number]; month: number } | null>(null);
  protected readonly asked = signal<TaxGrid['reckoned'][number] | null>(null);
  protected readonly key = linkedSignal(() => this.asked()?.code ?? '');
  protected readonly working = computed(() => this.asked()?.workings[this.key()]);
  protected draft = { total: '', reason: '' };
  protected readonly sums = computed(() =>
    MONTHS.map((_, index) => this.data()?.rows.reduce((sum, { months }) => sum + (months[index]?.total ?? 0), 0) ?? 0),
  );
  protected readonly total = computed(() => this.data()?.rows.reduce((sum, { total }) => sum + total, 0) ?? 0);

  constructor() {
    effect(() => {
      if (this.year()) this.load(true);
    });
  }

  protected labelOf(code: string): string {
    return this.data()?.rows.find((row) => row.code === code)?.label ?? code;
  }

  /** Opens how a figure came about; once more, and it is closed. */
  protected ask(one: TaxGrid['reckoned'][number]): void {
    this.asked.set(this.asked() === one ? null : one);
  }

  protected begin(row: TaxGrid['rows'][number], month: number): void {
    this.draft = { total: '', reason: '' };
    this.open.set({ row, month });
  }

  protected save(): void {
    const cell = this.open();
    if (!cell) return;
    this.problem.set(null);
    const month = `${this.year()}-${String(cell.month + 1).padStart(2, '0')}`;
    this.api
      .call('enterTaxTotal', {
        body: { code: cell.row.code, month, total: this.draft.total.replaceAll(',', ''), reason: this.draft.reason },
      })
      .subscribe({
        next: () => {
          this.open.set(null);
          this.load(true);
        },
        error: (error: unknown) => this.problem.set(problemOf(error)),
      });
  }

  private load(keep: boolean): void {
    this.store.dispatch(taxGridStore.load({ input: { query: { year: this.year() } }, keep }));
  }
}
