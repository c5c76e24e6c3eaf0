import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail } from '@woodruff/contract';
import { addDays, addMonths } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe, PeriodPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { accrualStore } from './payments.store';

const STATES = { approved: 'as posted', open: 'as calculated now', expected: 'no run yet: as the last one' } as const;

/** What is accrued at a month's end: work that is paid later, and leave that would be paid out. */
@Component({
  selector: 'wr-accruals-page',
  imports: [DayPipe, FormsModule, MoneyPipe, PaymentsHead, PeriodPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Month’s end"><a class="quiet right" routerLink="/payments/journal">Journal</a></wr-payments-head>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (said()) {
        <p role="status">{{ said() }}</p>
      }
      <p class="row-of">
        <label
          >Accrued on
          <select class="entry" name="end" [ngModel]="end()" (ngModelChange)="chosen.set($event)">
            @for (one of ends(); track one) {
              <option [value]="one">{{ one | day }}</option>
            }
          </select></label
        >
        @if (data(); as view) {
          <strong>{{ view.total | money }}</strong>
          <span class="muted">{{
            view.posted ? (view.posted | money) + ' is posted' : view.over ? 'nothing is posted' : 'the month is not over'
          }}</span>
          @if (view.over && view.toPost && may()) {
            <button class="main-action right" type="button" (click)="post()">
              {{ view.posted ? 'Post the difference' : 'Post it, and its reversal on the next day' }}
            </button>
          }
        }
      </p>
      @if (data(); as view) {
        <table class="lines">
          <tr>
            <th>Worked</th>
            <th>Paid</th>
            <th></th>
            <th class="num">Cost of the period</th>
            <th class="num">Weekdays until then</th>
            <th class="num">Accrued</th>
          </tr>
          @for (part of view.parts; track $index) {
            <tr>
              <td>{{ part | period }}</td>
              <td>{{ part.payDate | day: 'short' }}</td>
              <td>
                <a [routerLink]="['/pay-runs', part.runId]">{{ states[part.state] }}</a>
              </td>
              <td class="num">{{ part.cost | money }}</td>
              <td class="num">{{ part.days }} of {{ part.ofDays }}</td>
              <td class="num">{{ part.accrued | money }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted" colspan="6">Everything worked until then was paid by then.</td>
            </tr>
          }
        </table>
        @if (view.leave; as leave) {
          <section class="section">
            <h2>Leave that would be paid out</h2>
            <table class="lines">
              @for (one of leave; track one.personId + one.plan) {
                <tr>
                  <td>
                    <a [routerLink]="['/people', one.personId]">{{ one.name }}</a>
                  </td>
                  <td>{{ one.plan }}</td>
                  <td class="num">{{ one.hours | money }} hours</td>
                  <td class="num" [class.attention]="one.hourly === null">
                    {{ one.hourly === null ? '◇ no hours of a period on file' : 'at ' + (one.hourly | money) }}
                  </td>
                  <td class="num">{{ one.amount | money }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">Nobody has hours that would be paid out.</td>
                </tr>
              }
            </table>
          </section>
        }
        <section class="section">
          <h2>What is posted for it</h2>
          <table class="lines">
            @for (line of view.lines; track $index) {
              <tr>
                <td [class.attention]="line.account.endsWith('(no account)')">{{ line.account }}</td>
                <td class="muted">{{ line.words }}{{ line.department ? ', ' + line.department : '' }}</td>
                <td class="num">{{ line.amount > 0 ? (line.amount | money) : '' }}</td>
                <td class="num">{{ line.amount < 0 ? (-line.amount | money) : '' }}</td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">Nothing.</td>
              </tr>
            }
          </table>
        </section>
      } @else if (!loadProblem()) {
        <p class="muted">Working out what is accrued …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .row-of {
      align-items: end;
    }
    .row-of strong,
    .row-of span {
      padding-bottom: 7px;
    }
  `,
})
export class AccrualsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(accrualStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(accrualStore.selectProblem);
  protected readonly may = this.store.selectSignal(selectMay('administer'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly said = signal('');
  protected readonly chosen = signal('');
  protected readonly states = STATES;
  /** Ends of this month and of those before it. */
  protected readonly ends = computed(() => {
    const today = this.employer()?.today;
    return today ? Array.from({ length: 12 }, (_, back) => addDays(addMonths(`${today.slice(0, 7)}-01`, 1 - back), -1)) : [];
  });
  /** The latest month that is over, unless another is chosen. */
  protected readonly end = computed(() => this.chosen() || (this.ends()[1] ?? ''));

  constructor() {
    effect(() => {
      if (this.end()) this.load();
    });
  }

  protected post(): void {
    this.problem.set(null);
    this.api.call('accrue', { body: { end: this.end() } }).subscribe({
      next: ({ entries }) => {
        this.said.set(
          entries ? 'Posted. It is in the journal, with its reversal on the next day.' : 'Nothing differed: nothing was posted.',
        );
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private load(): void {
    this.store.dispatch(accrualStore.load({ input: { query: { end: this.end() } }, keep: true }));
  }
}
