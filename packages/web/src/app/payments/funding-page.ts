import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { addDays, weekday } from '@woodruff/core';
import { partsOf } from '../kit/address';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { fundingStore } from './payments.store';

/** What must be in which account when, thirty days ahead: as a list, and as a calendar of cash. */
@Component({
  selector: 'wr-funding-page',
  imports: [DayPipe, FormsModule, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Funding">
        @if (account(); as account) {
          <span class="muted">{{
            account.on
              ? (account.balance | money) + ' in the account on ' + (account.on | day: 'short')
              : 'what the account holds is not known: no statement yet'
          }}</span>
        }
      </wr-payments-head>
      <wr-problem [problem]="problem()" />
      @if (short(); as day) {
        <p class="notice bad" role="alert">
          The account runs short on {{ day.date | day }}: it lacks {{ -(day.left ?? 0) | money }} then. Move money there before.
        </p>
      }
      @if (data(); as funding) {
        @if (funding.accounts.length > 1) {
          <p class="row-of">
            <label
              >Account
              <select class="entry" name="account" [ngModel]="chosen()" (ngModelChange)="chosen.set($event)">
                @for (one of funding.accounts; track one.id) {
                  <option [ngValue]="one.id">{{ one.name }}, ending {{ one.last4 }}</option>
                }
              </select></label
            >
          </p>
        }
        <table class="calendar" aria-label="Calendar of cash">
          <tr>
            @for (name of ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun']; track name) {
              <th>{{ name }}</th>
            }
          </tr>
          @for (week of weeks(); track week[0]?.date) {
            <tr>
              @for (day of week; track day.date) {
                <td [class.outside]="day.outside" [class.today]="day.date === today()">
                  <span class="muted">{{ day.date | day: 'short' }}</span>
                  @if (day.leaves) {
                    <div class="leaves">−{{ day.leaves | money }}</div>
                    @if (day.left !== null) {
                      <div [class.error]="day.left < 0" [class.muted]="day.left >= 0">{{ day.left | money }} left</div>
                    }
                  }
                </td>
              }
            </tr>
          }
        </table>
        <table class="lines">
          <tr>
            <th>Day</th>
            <th></th>
            <th class="num">Leaves</th>
            <th class="num">Then left</th>
          </tr>
          @for (day of days(); track $index) {
            <tr>
              <td class="when">{{ day.date | day }}</td>
              <td>
                <a [routerLink]="path(day.link)">{{ day.what }}</a>
                @if (day.expected) {
                  <span class="muted">expected</span>
                }
              </td>
              <td class="num">{{ day.amount | money }}</td>
              <td class="num" [class.error]="(day.left ?? 0) < 0">{{ day.left | money }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing leaves in the next thirty days.</td>
            </tr>
          }
        </table>
      } @else if (!problem()) {
        <p class="muted">Adding up what leaves …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .when {
      width: 160px;
    }
    .calendar {
      width: 100%;
      table-layout: fixed;
      border-collapse: collapse;
      margin: 8px 0 26px;
    }
    .calendar th {
      text-align: left;
      font-weight: 400;
      color: var(--pencil);
      padding: 4px 8px;
    }
    .calendar td {
      border: 1px solid var(--rule);
      background: var(--sheet);
      height: 66px;
      vertical-align: top;
      padding: 4px 8px;
      font-variant-numeric: tabular-nums;
    }
    .calendar .outside {
      background: none;
      border-style: dotted;
    }
    .calendar .today {
      box-shadow: inset 0 2px 0 var(--ink);
    }
    .leaves {
      font-weight: 600;
    }
  `,
})
export class FundingPage {
  private readonly store = inject(Store);
  protected readonly data = this.store.selectSignal(fundingStore.selectData);
  protected readonly problem = this.store.selectSignal(fundingStore.selectProblem);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  /** The account that is looked at; null is the employer's first one. */
  protected readonly chosen = signal<string | null>(null);
  protected readonly account = computed(() => this.data()?.accounts.find(({ id }) => id === this.chosen()));
  protected readonly days = computed(() => this.data()?.days.filter(({ payingAccountId }) => payingAccountId === this.chosen()) ?? []);
  protected readonly short = computed(() => this.days().find(({ left }) => left !== null && left < 0));
  /** Whole weeks from Monday, from this one to that of the last day. */
  protected readonly weeks = computed(() => {
    const { until } = this.data() ?? { until: this.today() };
    const first = addDays(this.today(), -((weekday(this.today()) + 6) % 7));
    const weeks = [];
    for (let monday = first; monday <= until; monday = addDays(monday, 7))
      weeks.push(
        Array.from({ length: 7 }, (_, index) => {
          const date = addDays(monday, index);
          const some = this.days().filter((day) => day.date === date);
          return {
            date,
            outside: date < this.today() || date > until,
            leaves: some.reduce((sum, { amount }) => sum + amount, 0),
            left: some.at(-1)?.left ?? null,
          };
        }),
      );
    return weeks;
  });

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.store.dispatch(fundingStore.load({ input: {} }));
    });
  }

  protected readonly path = partsOf;
}
