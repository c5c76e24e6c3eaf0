import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { LeavePlanView, ProblemDetail } from '@woodruff/contract';
import { map } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { MovingPeople, type Move, type Mover } from '../people/moving-people';
import { peopleStore } from '../people/people.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { LeaveBalancesFile } from './leave-balances-file';
import { LeavePlanForm } from './leave-plan-form';
import { termsNow, termsWords } from './leave-words';
import { leaveStore } from './leave.store';

/** Leave plans: what each says, from when, and who is in it. */
@Component({
  selector: 'wr-leave-plans',
  imports: [CountedPipe, DayPipe, LeaveBalancesFile, LeavePlanForm, MovingPeople, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Leave plans</h1>
        <a class="quiet" routerLink="/time/leave">Leave</a>
        <span class="muted">How leave is earned, kept, paid and lost. A change holds from a day on; what was earned stays.</span>
        @if (mayPrepare() && open() !== 'balances') {
          <button class="quiet right" type="button" (click)="begin('balances')">Import balances</button>
        }
        @if (mayPrepare() && open() !== 'new') {
          <button class="main-action" type="button" (click)="begin('new')">Add a plan</button>
        }
      </div>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (open() === 'balances') {
        <wr-leave-balances-file [day]="today()" (posted)="done()" (left)="open.set(null)" />
      }
      @if (open() === 'new') {
        <wr-leave-plan-form [day]="firstDay()" (saved)="done()" (left)="open.set(null)" />
      }
      @for (plan of plans(); track plan.id) {
        <section class="section">
          <h2>
            {{ name(plan) }}
            <span class="muted small">{{ plan.people ? (plan.people | counted: 'person' : 'people') : 'nobody in it' }}</span>
            @if (mayPrepare()) {
              <span class="acts small">
                <button class="quiet" type="button" (click)="people(plan, false)" [attr.aria-label]="'Add people to ' + name(plan)">
                  Add people
                </button>
                @if (plan.people) {
                  <button class="quiet" type="button" (click)="people(plan, true)" [attr.aria-label]="'Remove people of ' + name(plan)">
                    Remove people
                  </button>
                }
                <button class="quiet" type="button" (click)="begin(plan.id)" [attr.aria-label]="'Change ' + name(plan)">Change plan</button>
                @if (!plan.people) {
                  <button class="quiet" type="button" (click)="remove(plan)" [attr.aria-label]="'Remove ' + name(plan)">Remove</button>
                }
              </span>
            }
          </h2>
          @for (version of plan.terms; track version.from) {
            <p class="terms" [class.muted]="version.terms !== now(plan)">
              <span class="when">From {{ version.from | day }}{{ version.from > today() ? ', coming' : '' }}</span>
              <span>{{ sentence(version.terms) }}</span>
            </p>
          }
          @if (open() === plan.id) {
            <wr-leave-plan-form [plan]="plan" [day]="today()" (saved)="done()" (left)="open.set(null)" />
          }
          @if (moving()?.id === plan.id) {
            <wr-moving-people
              [verb]="ending() ? 'Take out' : 'Put in'"
              [label]="ending() ? 'People to take out' : 'People to put in'"
              [except]="except(plan)"
              [mover]="mover()"
              (moved)="done()"
              (left)="moving.set(null)"
            >
              <strong>{{ ending() ? 'Out of ' + name(plan) : 'Into ' + name(plan) }}</strong>
            </wr-moving-people>
          }
        </section>
      } @empty {
        @if (page() && open() !== 'new') {
          <p class="notice">
            No leave plan yet. Add one for each kind of leave: vacation, sick leave, unpaid leave. Balances that people bring along are
            entered as adjustments on their pages.
          </p>
        }
      }
    </main>
  `,
  styles: `
    h2 {
      display: flex;
      align-items: baseline;
      gap: 16px;
    }
    .small {
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .acts {
      margin-left: auto;
      display: flex;
      gap: 16px;
    }
    .terms {
      display: grid;
      grid-template-columns: 190px minmax(0, 1fr);
      margin: 6px 0;
      font-size: 14px;
    }
    .when {
      color: var(--ink2);
    }
  `,
})
export class LeavePlans {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.session()?.today ?? '');
  /** A plan usually holds from the beginning of a year. */
  protected readonly firstDay = computed(() => `${this.today().slice(0, 4)}-01-01`);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly page = this.store.selectSignal(leaveStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(leaveStore.selectProblem);
  protected readonly everybody = this.store.selectSignal(peopleStore.selectData);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly plans = computed(() => this.page()?.plans ?? []);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly open = signal<string | null>(null);
  protected readonly moving = signal<LeavePlanView | null>(null);
  protected readonly ending = signal(false);
  protected readonly mover = computed((): Mover => {
    const id = this.moving()?.id ?? '';
    const end = this.ending();
    const call = (move: Move) => ({ path: { id }, body: { ...move, end } });
    return {
      look: (move) => this.api.rehearse('setLeaveMembers', call(move)).pipe(map((runs) => ({ runs }))),
      save: (move) => this.api.call('setLeaveMembers', call(move)),
    };
  });

  constructor() {
    effect(() => {
      if (!this.session()) return;
      this.reload();
      this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    });
    inject(DestroyRef).onDestroy(inject(Keys).add({ keys: 'n', label: 'Add a plan', run: () => this.mayPrepare() && this.begin('new') }));
  }

  protected name = (plan: LeavePlanView): string => this.now(plan)?.name ?? '';
  protected now = (plan: LeavePlanView) => termsNow(plan, this.today());

  protected sentence(terms: LeavePlanView['terms'][number]['terms']): string {
    const words = termsWords(terms, (code) => this.items()?.find((item) => item.code === code)?.name ?? code);
    const sentence = words.join('; ');
    return `${sentence.slice(0, 1).toUpperCase()}${sentence.slice(1)}.`;
  }

  protected begin(what: string): void {
    this.moving.set(null);
    this.problem.set(null);
    this.open.set(what);
  }

  protected people(plan: LeavePlanView, ending: boolean): void {
    this.open.set(null);
    this.problem.set(null);
    this.ending.set(ending);
    this.moving.set(plan);
  }

  /** Who is in it is not put in again; only who is in it is taken out. */
  protected except(plan: LeavePlanView): ReadonlySet<string> {
    const inIt = new Set(
      this.page()
        ?.people.filter((person) => person.plans.some((one) => one.planId === plan.id))
        .map((person) => person.personId),
    );
    return this.ending()
      ? new Set(
          this.everybody()
            ?.map((person) => person.id)
            .filter((id) => !inIt.has(id)),
        )
      : inIt;
  }

  protected remove(plan: LeavePlanView): void {
    this.api.call('removeLeavePlan', { path: { id: plan.id } }).subscribe({
      next: () => this.done(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected done(): void {
    this.open.set(null);
    this.moving.set(null);
    this.problem.set(null);
    this.reload();
  }

  private reload(): void {
    this.store.dispatch(leaveStore.load({ input: {}, keep: true }));
  }
}
