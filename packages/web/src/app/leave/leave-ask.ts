import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { LeaveCheck, ProblemDetail } from '@woodruff/contract';
import { writtenDay } from '@woodruff/core';
import { catchError, debounceTime, of, Subject, switchMap, tap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DecimalPipe, PeriodPipe } from '../kit/words';

/** Leave asked for: what it comes to and what is against it stand beside the form while it is filled in. */
@Component({
  selector: 'wr-leave-ask',
  imports: [CountedPipe, DecimalPipe, FormsModule, PeriodPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel-form" (ngSubmit)="save()">
      <div class="form">
        @if (people().length) {
          <label class="field"
            >Who
            <select name="person" [(ngModel)]="personId" (ngModelChange)="entered.next()">
              <option value=""></option>
              @for (person of people(); track person.personId) {
                <option [value]="person.personId">{{ person.name }}</option>
              }
            </select>
          </label>
        }
        <label class="field"
          >Plan
          <select name="plan" [(ngModel)]="planId" (ngModelChange)="entered.next()">
            @for (plan of plansOfPerson(); track plan.planId) {
              <option [value]="plan.planId">{{ plan.plan }}</option>
            }
          </select>
        </label>
        <label class="field">First day <input type="date" name="from" [(ngModel)]="from" (ngModelChange)="begun()" /></label>
        <label class="field">Last day <input type="date" name="to" [(ngModel)]="to" (ngModelChange)="entered.next()" /></label>
        <label class="field"
          >Hours a day
          <input name="hours" inputmode="decimal" [(ngModel)]="hoursPerDay" placeholder="as usual" (ngModelChange)="entered.next()" />
        </label>
        <label class="field">Note <input name="note" [(ngModel)]="note" /></label>
      </div>
      @if (check(); as check) {
        <div class="comes-to" role="status">
          <div>
            <span class="muted">Asked</span> <strong>{{ check.hours | decimal }} hours</strong>
            <span class="muted">{{ check.days.length | counted: 'workday' : 'workdays' }}</span>
          </div>
          <div>
            <span class="muted">On file now</span> <strong>{{ check.balance | decimal }}</strong>
          </div>
          <div>
            <span class="muted">Expected by then</span> <strong>{{ check.before | decimal }}</strong>
          </div>
          <div>
            <span class="muted">Left after it</span>
            <strong [class.attention]="check.after.startsWith('-')">{{ check.after | decimal }}</strong>
          </div>
        </div>
        @for (sentence of check.against; track sentence) {
          <p class="notice">{{ sentence }}</p>
        }
        @if (check.away.length) {
          <p class="muted">
            Away from the same department:
            @for (other of check.away; track $index) {
              {{ other.name }}, {{ other | period }}{{ other.state === 'asked' ? ' (asked)' : '' }}{{ $last ? '.' : '; ' }}
            }
          </p>
        }
      }
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit" [disabled]="!check()">{{ words() }}</button>
        <button class="quiet" type="button" (click)="left.emit()">Ask for nothing</button>
      </div>
    </form>
  `,
  styles: `
    .comes-to {
      display: flex;
      gap: 34px;
      flex-wrap: wrap;
      margin: 14px 0 4px;
      font-size: 14px;
    }
    .comes-to strong {
      display: block;
      font:
        600 18px 'Source Serif 4 Variable',
        serif;
    }
  `,
})
export class LeaveAsk {
  private readonly api = inject(Api);
  /** Whom to choose from; empty on a person's own page. */
  readonly people = input<readonly { personId: string; name: string; plans: readonly { planId: string; plan: string }[] }[]>([]);
  /** The person of the page, with their plans. */
  readonly of = input<{ personId: string; plans: readonly { planId: string; plan: string }[] } | null>(null);
  readonly day = input('');
  /** Asked by the employee, from their own view. */
  readonly own = input(false);
  readonly saved = output();
  readonly left = output();
  protected readonly entered = new Subject<void>();
  protected readonly check = signal<LeaveCheck | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected personId = '';
  protected planId = '';
  protected from = '';
  protected to = '';
  protected hoursPerDay = '';
  protected note = '';
  protected readonly plansOfPerson = signal<readonly { planId: string; plan: string }[]>([]);
  protected readonly words = computed(() => {
    const days = this.check()?.days;
    return days?.length ? `Ask for ${days.length === 1 ? writtenDay(days[0]!.date) : `${days.length} days`}` : 'Ask for leave';
  });

  constructor() {
    effect(() => {
      const of = this.of();
      if (of) this.personId = of.personId;
      if (!this.from) this.from = this.to = this.day();
      this.follow();
    });
    this.entered
      .pipe(
        tap(() => {
          this.follow();
          this.check.set(null);
          this.problem.set(null);
        }),
        debounceTime(250),
        switchMap(() => {
          if (!this.personId || !this.planId || !this.from || !this.to) return of(null);
          const { personId: _own, ...body } = this.body();
          return (this.own() ? this.api.call('checkOwnLeave', { body }) : this.api.call('checkLeave', { body: this.body() })).pipe(
            catchError((error: unknown) => {
              this.problem.set(problemOf(error));
              return of(null);
            }),
          );
        }),
        takeUntilDestroyed(),
      )
      .subscribe((check) => this.check.set(check));
  }

  /** The last day is not before the first. */
  protected begun(): void {
    if (this.to < this.from) this.to = this.from;
    this.entered.next();
  }

  protected save(): void {
    if (!this.check()) return;
    const { personId: _own, ...body } = this.body();
    (this.own() ? this.api.call('askOwnLeave', { body }) : this.api.call('askLeave', { body: this.body() })).subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private follow(): void {
    const plans = this.of()?.plans ?? this.people().find((person) => person.personId === this.personId)?.plans ?? [];
    this.plansOfPerson.set(plans);
    if (!plans.some((plan) => plan.planId === this.planId)) this.planId = plans[0]?.planId ?? '';
  }

  private body() {
    const { personId, planId, from, to, note } = this;
    return { personId, planId, from, to, note, hoursPerDay: this.hoursPerDay || null };
  }
}
