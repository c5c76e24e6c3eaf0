import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, TablesView } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { CountedPipe, DayPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { tableComparisonStore, tablesStore } from './tables.store';

/** Tables of the law: what is in force, what was loaded, and what a coming one changes for whom before it counts. */
@Component({
  selector: 'wr-tables-page',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, Problem, RouterLink, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Tables</h1>
        @if (data(); as tables) {
          <span class="muted">{{ tables.country }}, as in force on {{ tables.today | day }}</span>
          <a class="quiet right" routerLink="/filings/tables/scales">Withholding look-up</a>
          <a class="quiet" [href]="exported()">Export as a file</a>
        }
        <a class="quiet" [class.right]="!data()" routerLink="/filings">Returns</a>
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (data(); as tables) {
        <p [class.attention]="tables.next.missing" [class.muted]="!tables.next.missing">
          {{
            tables.next.missing
              ? (tables.next.missing | counted: 'table has' : 'tables have') +
                ' no figures of ' +
                tables.next.label +
                ' yet. Export those of today, change what the publications change, and load the file here.'
              : 'All tables of ' + tables.next.label + ' are in.'
          }}
          @if (tables.next.from > tables.today) {
            <button class="quiet" type="button" (click)="compare(tables.next.from, '')">
              What {{ tables.next.label }} changes, and for whom
            </button>
          }
        </p>
        <section class="section">
          <h2>Loaded here</h2>
          <table class="lines">
            @for (file of tables.files; track file.id) {
              <tr>
                <td>{{ file.title }}</td>
                <td class="num">{{ file.entries | counted: 'table' : 'tables' }}</td>
                <td>from {{ file.countsFrom | day: 'short' }}</td>
                <td [class.attention]="file.state === 'proposed'">
                  {{
                    file.state === 'proposed'
                      ? 'loaded by ' + file.proposedBy + ', to be approved'
                      : file.state + ' by ' + file.decidedBy + ', loaded by ' + file.proposedBy
                  }}
                  @if (file.reason) {
                    <div class="muted">{{ file.reason }}</div>
                  }
                </td>
                <td class="acts">
                  @if (file.state !== 'dropped') {
                    <button class="quiet" type="button" (click)="compare(file.countsFrom, file.id)">What it changes</button>
                  }
                  @if (file.state === 'proposed' && may()) {
                    @if (!file.own) {
                      <button class="quiet" type="button" (click)="decide(file.id, true)">Approve</button>
                    }
                    <button class="quiet" type="button" (click)="decide(file.id, false)">Drop</button>
                  }
                </td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">Nothing. The tables that come with the product count.</td>
              </tr>
            }
          </table>
          @if (may()) {
            <p class="row-of">
              <label class="quiet"
                >Load a file …
                <input class="hidden-file" type="file" accept=".json,application/json" #chooser (change)="load(chooser)" />
              </label>
              <span class="muted">It counts from its day once somebody else has approved it. What was posted stays as it was.</span>
            </p>
          }
        </section>
        @if (comparison(); as compared) {
          <section class="section" aria-live="polite">
            <h2>{{ compared.before | day }} beside {{ compared.after | day }}</h2>
            <table class="lines">
              @for (one of compared.changed; track one.code) {
                <tr>
                  <td>{{ one.code }}</td>
                  <td>
                    <span class="muted">{{ one.before || 'new' }}</span> → {{ one.after }}
                    <div class="muted how">{{ one.source }}{{ one.confirmed ? '' : ' (unconfirmed)' }}</div>
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">No figure changes.</td>
                </tr>
              }
            </table>
            @if (compared.ending.length) {
              <p class="attention">
                {{ compared.ending.length | counted: 'table has' : 'tables have' }} no figures on that day, among them {{ firstEnding() }}.
                Pay dates that need them are refused.
              </p>
            }
            <h2 class="below">
              On the latest regular payslip of each <span class="muted">reckoned as the first of its tax year, on both days</span>
            </h2>
            @if (refusedAll(); as why) {
              <p class="attention">Nobody’s payslip can be reckoned on that day: {{ why }}</p>
            } @else {
              <table class="lines">
                <tr>
                  <th>Person</th>
                  <th class="num">Net now</th>
                  <th class="num">Net then</th>
                  <th class="num">More or less</th>
                  <th class="num">Employer cost</th>
                  <th>Because of</th>
                </tr>
                @for (one of shown(); track one.personId) {
                  <tr>
                    <td>
                      <a [routerLink]="['/people', one.personId]">{{ one.name }}</a>
                    </td>
                    @if (one.refused) {
                      <td colspan="5" class="attention">{{ one.refused }}</td>
                    } @else {
                      <td class="num">{{ one.netBefore | money }}</td>
                      <td class="num">{{ one.netAfter | money }}</td>
                      <td class="num">{{ one.netAfter - one.netBefore | signed }}</td>
                      <td class="num">{{ one.costAfter - one.costBefore | signed }}</td>
                      <td class="muted">
                        @for (line of one.lines; track line.label) {
                          {{ line.label }} {{ line.after - line.before | signed }}{{ $last ? '' : ', ' }}
                        } @empty {
                          nothing
                        }
                      </td>
                    }
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">Nobody has been paid yet.</td>
                  </tr>
                }
              </table>
              @if (compared.people.length > shown().length) {
                <button class="quiet" type="button" (click)="everybody.set(true)">All {{ compared.people.length }}</button>
              }
            }
          </section>
        } @else if (comparing()) {
          <p class="muted">Reckoning everybody’s payslip with both …</p>
        }
        <section class="section">
          <h2 class="with-find">
            In force <input class="entry find" name="find" [(ngModel)]="find" placeholder="find a table" aria-label="Find a table" />
          </h2>
          <table class="lines">
            @for (one of found(); track one.code) {
              <tr>
                <td class="code">{{ one.code }}</td>
                <td class="value">{{ one.value }}</td>
                <td class="since">since {{ one.from | day: 'short' }}{{ one.loaded ? ', loaded here' : '' }}</td>
                <td class="muted">{{ one.source }}{{ one.confirmed ? '' : ' (unconfirmed)' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">No table is called so.</td>
              </tr>
            }
          </table>
        </section>
      } @else if (!loadProblem()) {
        <p class="muted">Looking up the tables …</p>
      }
    </main>
  `,
  styles: `
    .acts {
      text-align: right;
      white-space: nowrap;
    }
    .how {
      font-size: 13px;
    }
    .below {
      margin-top: 20px;
    }
    h2 .muted,
    .find {
      font:
        14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .code {
      width: 300px;
      overflow-wrap: anywhere;
    }
    .since {
      white-space: nowrap;
    }
    .with-find {
      display: flex;
      gap: 14px;
      align-items: center;
    }
    .find {
      width: 220px;
    }
    .value {
      max-width: 340px;
    }
    .hidden-file {
      position: absolute;
      opacity: 0;
      width: 1px;
      height: 1px;
    }
    td {
      vertical-align: top;
    }
  `,
})
export class TablesPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  protected readonly data = this.store.selectSignal(tablesStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(tablesStore.selectProblem);
  protected readonly comparison = this.store.selectSignal(tableComparisonStore.selectData);
  private readonly comparisonProblem = this.store.selectSignal(tableComparisonStore.selectProblem);
  protected readonly comparing = signal(false);
  protected readonly everybody = signal(false);
  private readonly saving = saving(() => this.reload(true));
  protected readonly problem = computed(() => this.saving.problem() ?? this.comparisonProblem());
  protected readonly may = this.store.selectSignal(selectMay('administer'));
  protected readonly shown = computed(() => (this.everybody() ? this.comparison()?.people : this.comparison()?.people.slice(0, 15)) ?? []);
  protected readonly firstEnding = computed(
    () =>
      this.comparison()
        ?.ending.slice(0, 3)
        .map(({ code }) => code)
        .join(', ') ?? '',
  );
  /** Why nobody's can be reckoned, where it is the same for all. */
  protected readonly refusedAll = computed(() => {
    const people = this.comparison()?.people ?? [];
    const [first] = people;
    return first?.refused && people.every(({ refused }) => refused === first.refused) ? first.refused : '';
  });
  protected readonly exported = computed(() => this.api.url('tablesFile', { query: { date: this.data()?.today ?? '' } }));
  protected find = '';

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today) this.reload(false);
    });
  }

  protected found(): TablesView['inForce'] {
    const words = this.find.toLowerCase().split(' ').filter(Boolean);
    const all = this.data()?.inForce ?? [];
    return (
      words.length ? all.filter(({ code, source }) => words.every((word) => `${code} ${source}`.toLowerCase().includes(word))) : all
    ).slice(0, 60);
  }

  protected compare(date: string, file: string): void {
    this.comparing.set(true);
    this.everybody.set(false);
    this.store.dispatch(tableComparisonStore.load({ input: { query: { date, ...(file ? { file } : {}) } } }));
  }

  protected async load(chooser: HTMLInputElement): Promise<void> {
    const text = await chooser.files?.[0]?.text();
    chooser.value = '';
    if (text === undefined) return;
    let body: BodyOf<'proposeTables'>;
    try {
      body = JSON.parse(text) as BodyOf<'proposeTables'>;
    } catch {
      const detail = 'The file is not JSON as it is exported here. Export the tables, change what is to change, and load that file.';
      this.saving.say({ type: 'about:blank', status: 422, code: 'invalid', title: 'Not readable', detail });
      return;
    }
    this.saving.save(this.api.call('proposeTables', { body }));
  }

  protected decide(id: string, approve: boolean): void {
    this.saving.save(this.api.call('decideTables', { path: { id }, body: { approve } }));
  }

  private reload(keep: boolean): void {
    this.store.dispatch(tablesStore.load({ input: {}, keep }));
  }
}
