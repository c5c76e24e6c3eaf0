import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { addMonths, MONTHS } from '@woodruff/core';
import { Api } from '../api/api';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { LeaveAsk } from './leave-ask';
import { LeaveCalendar } from './leave-calendar';
import { LeaveRequests } from './leave-requests';
import { hoursWords } from './leave-words';
import { leaveStore } from './leave.store';

/** Leave of everybody: what is to be decided, who is away in a month, and what is left. */
@Component({
  selector: 'wr-leave-page',
  imports: [FormsModule, LeaveAsk, LeaveCalendar, LeaveRequests, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Leave</h1>
        <a class="quiet" routerLink="/time">Time</a>
        <a class="quiet" routerLink="/time/leave/plans">Leave plans</a>
        @if (mayPrepare() && page()?.people?.length && !asking()) {
          <button class="main-action" type="button" (click)="asking.set(true)">Ask for leave</button>
        }
      </div>
      @if (page(); as page) {
        @if (!page.plans.length) {
          <p class="notice">
            No leave plan yet. A plan says how leave is earned, how much is kept, and what pays it.
            <a routerLink="/time/leave/plans">Add the first plan</a>
          </p>
        } @else if (!page.people.length) {
          <p class="notice">Nobody is in a leave plan yet. <a routerLink="/time/leave/plans">Add people to one</a></p>
        }
        @if (asking()) {
          <wr-leave-ask [people]="page.people" [day]="today()" (saved)="done()" (left)="asking.set(false)" />
        }
        <section class="section first">
          <h2>To decide</h2>
          <wr-leave-requests [requests]="waiting()" (decided)="reload()" none="Nothing waits for a decision." />
        </section>
        <section class="section">
          <h2 class="row-of">
            {{ monthWords() }}
            <span class="moves">
              <button class="quiet" type="button" (click)="go(-1)">Month before</button>
              <button class="quiet" type="button" (click)="go(1)">Month after</button>
            </span>
          </h2>
          <wr-leave-calendar [page]="page" />
          @if (decided().length) {
            <details>
              <summary>{{ decided().length === 1 ? 'The approved leave' : decided().length + ' approved' }} of this month</summary>
              <wr-leave-requests [requests]="decided()" (decided)="reload()" />
            </details>
          }
        </section>
        @if (page.people.length) {
          <section class="section">
            <h2 class="row-of">
              Balances
              <span class="moves">
                <input
                  class="entry"
                  type="search"
                  placeholder="Find somebody"
                  aria-label="Find somebody among the balances"
                  [ngModel]="text()"
                  (ngModelChange)="text.set($event)"
                />
                <a class="quiet" [href]="csv()">Export balances</a>
              </span>
            </h2>
            <table class="lines">
              <tr>
                <th>Person</th>
                <th>Department</th>
                @for (plan of columns(); track plan.id) {
                  <th class="num">{{ plan.name }}</th>
                }
              </tr>
              @for (person of shown(); track person.personId) {
                <tr>
                  <td>
                    <a [routerLink]="['/people', person.personId]" fragment="leave">{{ person.name }}</a>
                  </td>
                  <td class="muted">{{ person.department }}</td>
                  @for (plan of columns(); track plan.id) {
                    <td class="num">
                      @if (of(person, plan.id); as one) {
                        @if (one.ahead) {
                          <span class="muted">{{ hours(one.ahead) }} approved ahead of</span>&ngsp;
                        }
                        <span [class.attention]="one.balance < 0">{{ hours(one.balance) }}</span>
                      } @else {
                        –
                      }
                    </td>
                  }
                </tr>
              }
            </table>
            @if (found().length > shown().length) {
              <button class="quiet" type="button" (click)="all.set(true)">Show all {{ found().length }}</button>
            }
          </section>
        }
      } @else if (!problem()) {
        <p class="muted">Fetching the leave …</p>
      }
      <wr-problem [problem]="problem()" />
    </main>
  `,
  styles: `
    .first {
      margin-top: 8px;
    }
    .moves {
      margin-left: auto;
      display: flex;
      gap: 18px;
      align-items: baseline;
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .entry {
      display: inline-block;
      width: 170px;
      margin: 0;
      font-size: 14px;
      padding: 1px 7px;
    }
    details summary {
      color: var(--ink2);
      font-size: 14px;
      padding: 8px 0 4px;
    }
  `,
})
export class LeavePageView {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  /** From the address. */
  readonly month = input('', { transform: (value: string | undefined) => value ?? '' });
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.session()?.today ?? '');
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(leaveStore.selectData);
  protected readonly problem = this.store.selectSignal(leaveStore.selectProblem);
  protected readonly asking = signal(false);
  protected readonly text = signal('');
  protected readonly all = signal(false);
  protected readonly waiting = computed(() => this.page()?.requests.filter((request) => request.state === 'asked') ?? []);
  protected readonly decided = computed(() => this.page()?.requests.filter((request) => request.state === 'approved') ?? []);
  protected readonly monthWords = computed(() => {
    const from = this.page()?.from ?? '';
    return `${MONTHS[Number(from.slice(5, 7)) - 1] ?? ''} ${from.slice(0, 4)}`;
  });
  /** Plans that anybody is in. */
  protected readonly columns = computed(() => {
    const plans = new Map<string, string>();
    for (const person of this.page()?.people ?? []) for (const plan of person.plans) plans.set(plan.planId, plan.plan);
    return [...plans].map(([id, name]) => ({ id, name }));
  });
  protected readonly found = computed(() => {
    const wanted = this.text().toLowerCase();
    return (this.page()?.people ?? []).filter((person) => `${person.name} ${person.department}`.toLowerCase().includes(wanted));
  });
  protected readonly shown = computed(() => (this.all() ? this.found() : this.found().slice(0, 50)));

  constructor() {
    effect(() => {
      if (this.session()) this.load(this.month());
    });
    inject(DestroyRef).onDestroy(
      inject(Keys).add({ keys: 'n', label: 'Ask for leave', run: () => this.mayPrepare() && this.asking.set(true) }),
    );
  }

  protected go(months: number): void {
    const from = this.page()?.from;
    if (from) void this.router.navigate([], { queryParams: { month: addMonths(from, months).slice(0, 7) } });
  }

  protected of = (person: { plans: { planId: string; balance: number; ahead: number }[] }, planId: string) =>
    person.plans.find((plan) => plan.planId === planId);

  protected readonly hours = hoursWords;

  protected csv(): string {
    return this.api.url('leaveCsv');
  }

  protected done(): void {
    this.asking.set(false);
    this.reload();
  }

  protected reload(): void {
    this.load(this.month());
  }

  private load(month: string): void {
    this.store.dispatch(leaveStore.load({ input: { query: month ? { month } : {} }, keep: true }));
  }
}
