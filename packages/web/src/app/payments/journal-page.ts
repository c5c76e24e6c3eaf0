import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Journal } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { journalStore } from './payments.store';

const FORMATS = [
  { code: 'csv', label: 'CSV' },
  { code: 'xlsx', label: 'XLSX' },
  { code: 'json', label: 'JSON' },
  { code: 'ledger', label: 'Plain text' },
] as const;

/** The journal: entries that balance, each open to its lines, and the sums of each account. */
@Component({
  selector: 'wr-journal-page',
  imports: [CountedPipe, DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Journal"
        ><a class="quiet right" routerLink="/payments/accounts">Where it is posted</a
        ><a class="quiet" routerLink="/payments/accruals">Month’s end</a
        ><a class="quiet" routerLink="/payments/costs">Cost by day</a></wr-payments-head
      >
      <wr-problem [problem]="problem()" />
      <p class="row-of">
        <label
          >From <input class="entry" type="date" name="from" [ngModel]="from() || data()?.from" (ngModelChange)="from.set($event)"
        /></label>
        <label>until <input class="entry" type="date" name="to" [ngModel]="to() || data()?.to" (ngModelChange)="to.set($event)" /></label>
        <span class="muted">{{ data()?.entries?.length ?? 0 | counted: 'entry' : 'entries' }}</span>
        <span class="right">
          @for (format of formats; track format.code) {
            <a class="quiet" [href]="file(format.code)">{{ format.label }}</a>
          }
        </span>
      </p>
      @if (data(); as journal) {
        <div class="columns">
          <section class="section">
            <h2>Entries</h2>
            <table class="lines">
              @for (entry of shown(); track entry.id) {
                <tr>
                  <td class="when">{{ entry.on | day: 'short' }}</td>
                  <td>
                    <button class="opens" type="button" [attr.aria-expanded]="opened() === entry.id" (click)="toggle(entry.id)">
                      {{ entry.words }}
                    </button>
                  </td>
                  <td class="num">{{ entry.debit | money }}</td>
                </tr>
                @if (opened() === entry.id) {
                  <tr>
                    <td></td>
                    <td colspan="2">
                      <table class="lines">
                        <tr>
                          <th>Account</th>
                          <th></th>
                          <th class="num">Debit</th>
                          <th class="num">Credit</th>
                        </tr>
                        @for (line of entry.lines; track $index) {
                          <tr>
                            <td [class.attention]="line.account.endsWith('(no account)')">{{ line.account }}</td>
                            <td class="muted">{{ line.words }}{{ line.department ? ', ' + line.department : '' }}</td>
                            <td class="num">{{ line.amount > 0 ? (line.amount | money) : '' }}</td>
                            <td class="num">{{ line.amount < 0 ? (-line.amount | money) : '' }}</td>
                          </tr>
                        }
                      </table>
                      @if (link(entry); as to) {
                        <a class="quiet" [routerLink]="to">{{ entry.kind === 'pay' ? 'The run behind it' : 'The batch behind it' }}</a>
                      }
                    </td>
                  </tr>
                }
              } @empty {
                <tr>
                  <td class="muted">Nothing was posted in these days.</td>
                </tr>
              }
            </table>
            @if (hidden() > 0) {
              <button class="quiet" type="button" (click)="all.set(true)">Show {{ hidden() | counted }} more</button>
            }
          </section>
          <section class="section">
            <h2>By account</h2>
            <table class="lines">
              <tr>
                <th>Account</th>
                <th class="num">Debit</th>
                <th class="num">Credit</th>
              </tr>
              @for (sum of journal.accounts; track sum.account) {
                <tr>
                  <td [class.attention]="sum.account.endsWith('(no account)')">{{ sum.account }}</td>
                  <td class="num">{{ sum.debit | money: 'dash' }}</td>
                  <td class="num">{{ sum.credit | money: 'dash' }}</td>
                </tr>
              }
              <tr class="sum">
                <td>Together</td>
                <td class="num">{{ debit() | money }}</td>
                <td class="num">{{ credit() | money }}</td>
              </tr>
            </table>
          </section>
        </div>
      } @else if (!problem()) {
        <p class="muted">Opening the journal …</p>
      }
    </main>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: minmax(0, 3fr) minmax(320px, 2fr);
      gap: 36px;
    }
    .columns > .section {
      margin-top: 8px;
    }
    .when {
      width: 110px;
      white-space: nowrap;
    }
    .right a {
      margin-left: 14px;
    }
  `,
})
export class JournalPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(journalStore.selectData);
  protected readonly problem = this.store.selectSignal(journalStore.selectProblem);
  protected readonly from = signal('');
  protected readonly to = signal('');
  protected readonly opened = signal(0);
  protected readonly all = signal(false);
  protected readonly formats = FORMATS;
  protected readonly shown = computed(() => (this.all() ? this.data()?.entries : this.data()?.entries.slice(0, 60)) ?? []);
  protected readonly hidden = computed(() => (this.data()?.entries.length ?? 0) - this.shown().length);
  protected readonly debit = computed(() => this.data()?.accounts.reduce((sum, { debit }) => sum + debit, 0) ?? 0);
  protected readonly credit = computed(() => this.data()?.accounts.reduce((sum, { credit }) => sum + credit, 0) ?? 0);
  private readonly query = computed(() => ({ ...(this.from() ? { from: this.from() } : {}), ...(this.to() ? { to: this.to() } : {}) }));

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.store.dispatch(journalStore.load({ input: { query: this.query() }, keep: true }));
    });
  }

  protected toggle(id: number): void {
    this.opened.update((opened) => (opened === id ? 0 : id));
  }

  protected file(format: (typeof FORMATS)[number]['code']): string {
    return this.api.url('journalFile', { query: { format, ...this.query() } });
  }

  protected link({ kind, sourceId }: Journal['entries'][number]): string[] | null {
    if (!sourceId) return null;
    return kind === 'pay' ? ['/pay-runs', sourceId] : kind === 'payment' || kind === 'return' ? ['/payments/batches', sourceId] : null;
  }
}
