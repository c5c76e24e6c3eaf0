import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Copy, FilingView } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { panelOfPage } from '../working/page-with-panel';
import { workingActions } from '../working/working.store';
import { WorkingPanel } from '../working/working-panel';
import { CopiesGivenPart } from './copies-given';
import { EarlierPayPart } from './earlier-pay';
import { FilingCopies } from './filing-copies';
import { FilingEntries } from './filing-entries';
import { FilingLife } from './filing-life';
import { FilingOverride } from './filing-override';
import { filingStore } from './filings.store';

/** A filing of a period: its lines, each open to the payslips behind it, people's copies, what must agree, and where it stands. */
@Component({
  selector: 'wr-filing-page',
  imports: [
    CopiesGivenPart,
    CountedPipe,
    DayPipe,
    EarlierPayPart,
    FilingCopies,
    FilingEntries,
    FilingLife,
    FilingOverride,
    MoneyPipe,
    Problem,
    RouterLink,
    WorkingPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-problem [problem]="problem()" />
      @if (data(); as data) {
        <div class="title-line">
          <h1>{{ data.form }}, {{ data.period.label }}</h1>
          <span class="muted"
            >{{ data.name }}, due {{ data.period.due | day
            }}{{ data.copyOf ? ', ' + (data.copies.length | counted: 'person' : 'people') : '' }}</span
          >
          <a class="main-action" [href]="pdf()">{{
            data.copyOf?.totals ? 'Print ' + data.copyOf?.totals + ' (PDF)' : 'Print a working copy (PDF)'
          }}</a>
        </div>
        <p class="row-of">
          <span class="muted"
            >{{ data.employer.name }}, employer number {{ data.employer.number || 'missing' }}. To: {{ data.agency }}.</span
          ><a class="quiet right" [href]="csv()">Export</a>
        </p>
        @if (data.copyOf) {
          <wr-filing-copies [filing]="data" (opened)="openBox($event)" (changed)="load(true)" />
        }
        <div class="columns">
          <section class="section">
            <h2>{{ data.copyOf ? 'Totals' : 'Lines' }}</h2>
            <table class="lines">
              @for (line of data.lines; track line.line) {
                <tr [class.sum]="line.sum">
                  <td class="at">{{ line.line }}</td>
                  <td>
                    {{ line.label }}
                    <div class="muted how">{{ line.working }}</div>
                    @if (line.replaced; as replaced) {
                      <div class="attention how">
                        ◇ In place of {{ line.unit === 'money' ? (replaced.amount | money) : replaced.amount }}: {{ replaced.reason }}
                      </div>
                    }
                    @for (fault of faultsOf(line.line); track $index) {
                      <div class="error how">{{ fault.code }}: {{ fault.text }}</div>
                    }
                  </td>
                  <td class="num">
                    @if (line.codes.length) {
                      <button class="opens" type="button" (click)="open(line)">{{ line.amount | money: 'dash' }}</button>
                    } @else {
                      {{ line.unit === 'money' ? (line.amount | money: 'dash') : line.amount }}
                    }
                  </td>
                  <td class="num">
                    @if (data.overrides.includes(line.line) && mayPrepare() && overriding() !== line.line) {
                      <button class="quiet" type="button" (click)="override(line)" [attr.aria-label]="'Override line ' + line.line">
                        {{ line.replaced ? 'Change' : 'Override' }}
                      </button>
                    }
                  </td>
                </tr>
                @if (overriding() === line.line) {
                  <tr>
                    <td></td>
                    <td colspan="3">
                      <wr-filing-override [filing]="data" [line]="line" (saved)="overridden()" (left)="overriding.set('')" />
                    </td>
                  </tr>
                }
              }
            </table>
            <p class="muted">{{ data.source }}</p>
            @if (data.detail; as detail) {
              <h2 class="detail">{{ detail.title }}</h2>
              <table class="lines">
                <tr>
                  <th>Person</th>
                  @for (column of detail.columns; track column.key) {
                    @if (!column.fileOnly) {
                      <th class="num">{{ column.label }}</th>
                    }
                  }
                </tr>
                @for (row of detail.rows; track row.personId) {
                  <tr>
                    <td>
                      <a [routerLink]="['/people', row.personId]">{{ row.name }}</a>
                    </td>
                    @for (value of row.values; track $index) {
                      @if (!detail.columns[$index]?.fileOnly) {
                        <td class="num">{{ detail.columns[$index]?.unit === 'money' ? (value | money: 'dash') : value }}</td>
                      }
                    }
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Nobody in this period.</td>
                  </tr>
                }
              </table>
            }
          </section>
          <div>
            <section class="section">
              <wr-filing-life [filing]="data" (taken)="load(true)" />
            </section>
            @if (data.copyOf) {
              <section class="section">
                <wr-copies-given [filing]="data" />
              </section>
            }
            @if (data.earlier; as earlier) {
              <section class="section">
                <wr-earlier-pay [filing]="data" [earlier]="earlier" (saved)="load(true)" />
              </section>
            }
            @if (data.enters.length) {
              <section class="section">
                <wr-filing-entries [filing]="data" (saved)="load(true)" />
              </section>
            }
            @if (data.byDay; as byDay) {
              <section class="section">
                <h2>{{ byDay.title }}</h2>
                <table class="lines">
                  @for (day of byDay.days; track day.date) {
                    <tr>
                      <td>{{ day.date | day }}</td>
                      <td class="num">
                        <button class="opens" type="button" (click)="openDay(day.date)">{{ day.amount | money }}</button>
                      </td>
                    </tr>
                  } @empty {
                    <tr>
                      <td class="muted">Nothing was paid in this period.</td>
                    </tr>
                  }
                  <tr class="sum">
                    <td>Sum</td>
                    <td class="num">{{ sum() | money }}</td>
                  </tr>
                </table>
              </section>
            }
            <section class="section">
              <h2>Checks</h2>
              @for (check of broken(); track check.sentence) {
                <p [class.error]="!check.weight" [class.attention]="check.weight">Does not hold: {{ check.sentence }}.</p>
              }
              @for (check of holding(); track check.sentence) {
                <p>Holds: {{ check.sentence }}.</p>
              }
            </section>
          </div>
        </div>
      } @else if (!problem()) {
        <p class="muted">Adding up the period …</p>
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
      grid-template-columns: minmax(0, 3fr) minmax(300px, 2fr);
      gap: 36px;
    }
    .columns > .section,
    .columns > div > .section:first-child {
      margin-top: 14px;
    }
    .at {
      width: 76px;
      white-space: nowrap;
    }
    .detail {
      margin-top: 26px;
    }
    .how {
      font-size: 13px;
      font-weight: 400;
    }
    section p {
      margin: 4px 0;
    }
  `,
})
export class FilingPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly filing = input.required<string>();
  readonly period = input.required<string>();
  protected readonly data = this.store.selectSignal(filingStore.selectData);
  protected readonly problem = this.store.selectSignal(filingStore.selectProblem);
  protected readonly frame = panelOfPage();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  /** The line that is being overridden. */
  protected readonly overriding = signal('');
  protected readonly sum = computed(() => this.data()?.byDay?.days.reduce((sum, day) => sum + day.amount, 0) ?? 0);
  protected readonly broken = computed(() => this.data()?.checks.filter((check) => !check.holds) ?? []);
  protected readonly holding = computed(() => this.data()?.checks.filter((check) => check.holds) ?? []);
  private readonly at = computed(() => ({ path: { filing: this.filing(), period: this.period() } }));
  protected readonly pdf = computed(() => this.api.url('filingPdf', this.at()));
  protected readonly csv = computed(() => this.api.url('filingCsv', this.at()));

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()) this.load(false);
    });
  }

  protected faultsOf(line: string): FilingView['faults'] {
    return this.data()?.faults.filter((fault) => fault.line === line) ?? [];
  }

  protected override({ line }: FilingView['lines'][number]): void {
    this.overriding.set(line);
  }

  protected overridden(): void {
    this.overriding.set('');
    this.load(true);
  }

  protected load(keep: boolean): void {
    this.store.dispatch(filingStore.load({ input: this.at(), keep }));
  }

  protected open({ line, label, working, codes }: FilingView['lines'][number]): void {
    const { from, to } = this.data()?.period ?? { from: '', to: '' };
    this.behind(`Line ${line}`, `${label}. ${working}`, { codes, from, to });
  }

  protected openDay(date: string): void {
    const { title, codes } = this.data()?.byDay ?? { title: '', codes: [] };
    this.behind('Liability of the day', title, { codes, from: date, to: date });
  }

  protected openBox({ copy, box }: { copy: Copy; box: Copy['boxes'][number] }): void {
    const { from, to } = this.data()?.period ?? { from: '', to: '' };
    this.behind(`Box ${box.box}, ${copy.name}`, box.label, { codes: box.codes, from, to, person: copy.personId });
  }

  private behind(title: string, note: string, of: { codes: string[]; from: string; to: string; person?: string }): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'behind', title, note, ...of }, anew: true }));
  }
}
