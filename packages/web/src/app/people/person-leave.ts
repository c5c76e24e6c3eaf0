import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Adjusted, AnswerOf, Person, PersonLeave, ProblemDetail } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { LeaveAsk } from '../leave/leave-ask';
import { LeaveRequests } from '../leave/leave-requests';
import { hoursWords } from '../leave/leave-words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { workingActions } from '../working/working.store';

type Plan = PersonLeave['plans'][number];

/** A person's leave: what is left and how it came about, what is asked for, and balances set right without payment. */
@Component({
  selector: 'wr-person-leave',
  imports: [DayPipe, FormsModule, LeaveAsk, LeaveRequests, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Leave and balances
      @if (mayPrepare() && !open()) {
        @if (asked()) {
          <button class="quiet" type="button" (click)="open.set('ask')">Ask for leave</button>
        }
        <button class="quiet" type="button" (click)="beginAdjusting()">Adjust a balance</button>
      }
    </h2>
    @if (open() === 'ask' && asked(); as of) {
      <wr-leave-ask [of]="of" [day]="today()" (saved)="done()" (left)="open.set(null)" />
    }
    @if (open() === 'adjust') {
      <form class="panel-form" (ngSubmit)="adjust()">
        <p class="muted">
          A balance adjusted without paying anything: leave that somebody brings along, a sum of the year that another system paid. It is
          posted at once, as a line of its own that can be reversed.
        </p>
        <div class="form">
          <label class="field"
            >Balance
            <select name="balance" [(ngModel)]="balance" (ngModelChange)="look()">
              <option value=""></option>
              @for (one of adjustable(); track one.code) {
                <option [value]="one.code">
                  {{ one.label }}: {{ one.unit === 'hours' ? hours(one.inAll) + ' hours' : (one.year | money) + ' this year' }}
                </option>
              }
            </select>
          </label>
          <label class="field"
            >Add, or take off with a minus <input name="amount" inputmode="decimal" [(ngModel)]="amount" (ngModelChange)="look()"
          /></label>
          <label class="field">As of <input type="date" name="date" [(ngModel)]="date" (ngModelChange)="look()" /></label>
          <label class="field">Reason <input name="reason" [(ngModel)]="reason" (ngModelChange)="look()" /></label>
        </div>
        @for (change of checked()?.changes; track $index) {
          <p class="notice" role="status">
            {{ change.label }}: {{ change.unit === 'hours' ? hours(change.before) : (change.before | money) }} becomes
            <strong>{{ change.unit === 'hours' ? hours(change.after) + ' hours' : (change.after | money) }}</strong>. Nothing is paid.
          </p>
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          @if (checked()) {
            <button class="main-action" type="submit">Post the adjustment</button>
          } @else {
            <button class="main-action" type="button" [disabled]="!balance || !amount" (click)="check()">Show what it changes</button>
          }
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    @if (leave(); as leave) {
      @for (plan of leave.plans; track plan.memberId) {
        <div class="plan">
          <div class="row-of">
            <strong class="serif">{{ plan.plan }}</strong>
            <span
              ><strong [class.attention]="plan.balance < 0">{{ hours(plan.balance) }}</strong> hours{{
                plan.ahead ? ', ' + hours(plan.ahead) + ' of them approved ahead' : ''
              }}</span
            >
            <span class="muted">{{ terms(plan) }}</span>
          </div>
          @if (plan.movements.length) {
            <table class="lines">
              @for (moved of all().has(plan.memberId) ? plan.movements : plan.movements.slice(0, 4); track $index) {
                <tr>
                  <td class="when">{{ moved.on | day: 'short' }}</td>
                  <td>
                    {{ word(moved.label) }}
                    @if (moved.what) {
                      <span class="muted">{{ moved.what }}</span>
                    }
                  </td>
                  <td class="num">
                    <button class="opens" type="button" (click)="how(moved)">
                      {{ moved.amount > 0 ? '+' : '' }}{{ hours(moved.amount) }}
                    </button>
                  </td>
                  <td class="num balance">{{ hours(moved.balance) }}</td>
                </tr>
              }
            </table>
            @if (plan.movements.length > 4 && !all().has(plan.memberId)) {
              <button class="quiet" type="button" (click)="showAll(plan)">All {{ plan.movements.length }} movements</button>
            }
          } @else {
            <p class="muted">Nothing earned or taken yet.</p>
          }
        </div>
      } @empty {
        <p class="muted">In no leave plan. <a routerLink="/time/leave/plans">Add people to one</a></p>
      }
      @if (leave.requests.length) {
        <h3>Asked for</h3>
        <wr-leave-requests [requests]="leave.requests" [named]="false" (decided)="done()" />
      }
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    .plan {
      margin: 10px 0 14px;
    }
    .when {
      width: 130px;
    }
    .balance {
      width: 120px;
    }
    .plan .row-of {
      font-size: 14px;
    }
    .serif {
      font-size: 16px;
    }
    h3 {
      margin: 14px 0 2px;
    }
  `,
})
export class PersonLeavePart {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  /** Also for the summary at the top of the page. */
  readonly leave = signal<PersonLeave | null>(null);
  protected readonly open = signal<'ask' | 'adjust' | null>(null);
  protected readonly all = signal<ReadonlySet<string>>(new Set());
  protected readonly adjustable = signal<AnswerOf<'adjustable'>>([]);
  protected readonly checked = signal<Adjusted | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly hours = hoursWords;
  /** The plans that leave can be asked from. */
  protected readonly asked = computed(() => {
    const plans = this.leave()?.plans.filter((plan) => !plan.to || plan.to >= this.today()) ?? [];
    return plans.length ? { personId: this.person().id, plans } : null;
  });
  protected balance = '';
  protected amount = '';
  protected date = '';
  protected reason = '';

  constructor() {
    effect(() => this.fetch(this.person().id));
  }

  protected terms(plan: Plan): string {
    const to = plan.to ? ` until ${writtenDate(plan.to)}` : '';
    return [
      plan.unpaid ? 'not paid' : '',
      `in the plan since ${writtenDate(plan.from)}${to}`,
      plan.usableFrom && plan.usableFrom > this.today() ? `may be taken from ${writtenDate(plan.usableFrom)}` : '',
    ]
      .filter(Boolean)
      .join(', ');
  }

  /** Without the plan's name, which stands above. */
  protected word(label: string): string {
    const word = label.slice(label.lastIndexOf(', ') + 2);
    return `${word.slice(0, 1).toUpperCase()}${word.slice(1)}`;
  }

  protected showAll(plan: Plan): void {
    this.all.update((all) => new Set([...all, plan.memberId]));
  }

  protected how({ payslipId, figure }: Plan['movements'][number]): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'figure', payslipId, key: figure }, anew: true }));
  }

  protected beginAdjusting(): void {
    Object.assign(this, { balance: '', amount: '', reason: '', date: this.today() });
    this.look();
    this.api.call('adjustable', { path: { id: this.person().id } }).subscribe((adjustable) => this.adjustable.set(adjustable));
    this.open.set('adjust');
  }

  /** What was shown no longer holds once something else is entered. */
  protected look(): void {
    this.checked.set(null);
    this.problem.set(null);
  }

  protected check(): void {
    this.api.call('checkAdjustment', { body: this.body() }).subscribe({
      next: (checked) => this.checked.set(checked),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected adjust(): void {
    if (!this.checked()) return this.check();
    this.api.call('adjustBalances', { body: this.body() }).subscribe({
      next: () => this.done(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected done(): void {
    this.open.set(null);
    this.fetch(this.person().id);
    this.saved.emit();
  }

  private body() {
    return { date: this.date, reason: this.reason, entries: [{ person: this.person().id, balance: this.balance, amount: this.amount }] };
  }

  private fetch(id: string): void {
    this.api.call('personLeave', { path: { id } }).subscribe((leave) => this.leave.set(leave));
  }
}
