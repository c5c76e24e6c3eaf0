import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { LeavePlanView, LeaveTerms, ProblemDetail } from '@woodruff/contract';
import { Subject, type Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { effectWhileTyping } from '../kit/while-typing';
import { payItemsStore } from '../pay-items/pay-items.store';

/** Numbers of the form, by the terms that they stand for; empty where the plan has no such rule. */
const NUMBERS = [
  { key: 'atMostInYear', label: 'Earned in a plan year at most', unit: 'hours' },
  { key: 'atMostBalance', label: 'Until the balance is', unit: 'hours' },
  { key: 'carryOver', label: 'Carried over at most', unit: 'hours' },
  { key: 'mayOwe', label: 'May go below zero by', unit: 'hours' },
  { key: 'cashOutKeeps', label: 'After cashing out, left at least', unit: 'hours' },
  { key: 'cashOutAtMost', label: 'Cashed out in twelve months, at most', unit: 'hours' },
  { key: 'earnsAfterDays', label: 'Earned from so many days after hire', unit: 'days' },
  { key: 'usableAfterDays', label: 'Taken from so many days after hire', unit: 'days' },
] as const;

/** A plan's terms, from a day on; what they change in the open run is shown while they are entered. */
@Component({
  selector: 'wr-leave-plan-form',
  imports: [EffectOnRuns, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel-form" (ngSubmit)="save()" (input)="entered.next()" (change)="entered.next()">
      <div class="form">
        @if (!plan() && granted().length) {
          <label class="field"
            >Begin with
            <select name="granted" [ngModel]="''" (ngModelChange)="begin($event)">
              <option value="">terms of your own</option>
              @for (one of granted(); track one.label) {
                <option [value]="one.label">{{ one.label }}</option>
              }
            </select>
          </label>
        }
        <label class="field">Name <input name="name" [(ngModel)]="name" /></label>
        @if (!plan()) {
          <label class="field">Code <input name="code" [(ngModel)]="code" placeholder="vacation" /></label>
        }
        <label class="field">In force from <input type="date" name="from" [(ngModel)]="from" /></label>
        <label class="field"
          >Paid through
          <select name="item" [(ngModel)]="item">
            <option value="">not paid</option>
            @for (one of hourItems(); track one.code) {
              <option [value]="one.code">{{ one.name }}</option>
            }
          </select>
        </label>
        @if (pack()?.averageLeavePay) {
          <label class="check"
            ><input type="checkbox" name="average" [(ngModel)]="average" /> At the average of what was earned before, as the law makes it;
            for pay by the hour</label
          >
        }
        <label class="field"
          >On leaving, what is left
          <select name="payOut" [(ngModel)]="payOutItem">
            <option value="">is not paid</option>
            @for (one of earnings(); track one.code) {
              <option [value]="one.code">is paid out through {{ one.name }}</option>
            }
          </select>
        </label>
        <label class="field">
          Cashing out in service
          <select name="cashOut" [(ngModel)]="cashOutItem">
            <option value="">is not allowed</option>
            @for (one of hourItems(); track one.code) {
              <option [value]="one.code">by agreement, through {{ one.name }}</option>
            }
          </select>
        </label>
        <label class="field"
          >Plan year
          <select name="year" [(ngModel)]="year">
            <option value="01-01">the calendar year</option>
            <option value="hire">from each person's day of hire</option>
            <option value="day">from another day</option>
          </select>
        </label>
        @if (year === 'day') {
          <label class="field">Month and day, such as 07-01 <input name="yearDay" [(ngModel)]="yearDay" /></label>
        }
        <label class="field"
          >Earned
          <select name="by" [(ngModel)]="by">
            <option value="period">with every pay period</option>
            <option value="hours-worked">by hours worked</option>
            <option value="year">all at the beginning of the plan year</option>
          </select>
        </label>
        @if (by === 'hours-worked') {
          <label class="field">Hours of leave <input name="hours" inputmode="decimal" [(ngModel)]="hours" /></label>
          <label class="field">for every so many worked <input name="forEvery" inputmode="decimal" [(ngModel)]="forEvery" /></label>
        }
        @if (by === 'year') {
          <label class="check"
            ><input type="checkbox" name="byDays" [(ngModel)]="firstYearByDays" /> In the year of hire by the days left</label
          >
        }
      </div>
      @if (by !== 'hours-worked') {
        <table class="lines steps">
          <tr>
            <th>From so many months of service</th>
            <th>{{ by === 'year' ? 'Hours a plan year' : 'Hours a pay period' }}</th>
            <th></th>
          </tr>
          @for (step of steps(); track $index; let at = $index) {
            <tr>
              <td>
                <input
                  class="entry"
                  inputmode="numeric"
                  [name]="'months' + at"
                  [attr.aria-label]="'Months, row ' + (at + 1)"
                  [(ngModel)]="step.months"
                />
              </td>
              <td>
                <input
                  class="entry"
                  inputmode="decimal"
                  [name]="'stepHours' + at"
                  [attr.aria-label]="'Hours, row ' + (at + 1)"
                  [(ngModel)]="step.hours"
                />
              </td>
              <td class="num">
                @if (steps().length > 1) {
                  <button class="quiet" type="button" (click)="drop(at)">Remove</button>
                }
              </td>
            </tr>
          }
        </table>
        <button class="quiet" type="button" (click)="add()">More after longer service</button>
      }
      <div class="form numbers">
        @for (number of numbers; track number.key) {
          <label class="field"
            >{{ number.label }}
            <input [name]="number.key" inputmode="decimal" [(ngModel)]="values[number.key]" [placeholder]="'no rule; ' + number.unit" />
          </label>
        }
      </div>
      @if (effect(); as effect) {
        <wr-effect [effect]="effect" />
      }
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit">{{ words() }}</button>
        <button class="quiet" type="button" (click)="left.emit()">{{ plan() ? 'Cancel' : 'Cancel' }}</button>
      </div>
    </form>
  `,
  styles: `
    .steps {
      max-width: 560px;
      margin: 14px 0 4px;
    }
    .steps .entry {
      width: 120px;
      margin: 0;
      font-size: 14px;
    }
    .numbers {
      border-top: 1px solid var(--rule);
      margin-top: 14px;
      padding-top: 12px;
    }
  `,
})
export class LeavePlanForm {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  /** The plan whose terms change; null for a new one. */
  readonly plan = input<LeavePlanView | null>(null);
  readonly day = input('');
  readonly saved = output();
  readonly left = output();
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly hourItems = computed(() => this.items()?.filter((item) => !item.retired && item.method.by === 'hours') ?? []);
  protected readonly earnings = computed(
    () => this.items()?.filter((item) => !item.retired && item.kind === 'earning' && item.method.by !== 'salary') ?? [],
  );
  protected readonly numbers = NUMBERS;
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly steps = signal<{ months: string; hours: string }[]>([{ months: '0', hours: '' }]);
  protected readonly entered = new Subject<void>();
  protected readonly effect = effectWhileTyping(this.entered, () => {
    const plan = this.plan();
    return plan && this.from
      ? this.api.rehearse('changeLeavePlan', { path: { id: plan.id }, body: { from: this.from, terms: this.terms() } })
      : null;
  });
  protected readonly pack = injectPack();
  protected average = false;
  protected name = '';
  protected code = '';
  protected from = '';
  protected item = '';
  protected payOutItem = '';
  protected cashOutItem = '';
  protected year: '01-01' | 'hire' | 'day' = '01-01';
  protected yearDay = '07-01';
  protected by: LeaveTerms['earns']['by'] = 'period';
  protected hours = '1';
  protected forEvery = '30';
  protected firstYearByDays = true;
  protected values: Record<(typeof NUMBERS)[number]['key'], string> = {
    atMostInYear: '',
    atMostBalance: '',
    carryOver: '',
    mayOwe: '',
    cashOutKeeps: '',
    cashOutAtMost: '',
    earnsAfterDays: '',
    usableAfterDays: '',
  };

  /** Of a full week of 37.5 hours; the hours can be changed. */
  protected readonly granted = computed(() => this.pack()?.leaveGranted?.(37.5) ?? []);

  constructor() {
    this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    // Once for each plan: when the list is read again, what was typed since stays.
    const planId = computed(() => this.plan()?.id);
    effect(() => {
      planId();
      const terms = untracked(this.plan)?.terms[0]?.terms;
      if (terms) this.show(terms);
    });
    effect(() => {
      this.from ||= this.day();
    });
  }

  /** A day that has terms corrects them; any other day begins new ones. */
  protected words(): string {
    const plan = this.plan();
    if (!plan) return 'Save the plan';
    return plan.terms.some((one) => one.from === this.from) ? 'Correct the terms of that day' : 'Save from this day on';
  }

  protected add(): void {
    this.steps.update((steps) => [...steps, { months: '', hours: '' }]);
  }

  protected drop(at: number): void {
    this.steps.update((steps) => steps.filter((_step, index) => index !== at));
    this.entered.next();
  }

  protected save(): void {
    this.problem.set(null);
    const plan = this.plan();
    const terms = this.terms();
    const request: Observable<unknown> = plan
      ? this.api.call('changeLeavePlan', { path: { id: plan.id }, body: { from: this.from, terms } })
      : this.api.call('addLeavePlan', { body: { code: this.code, from: this.from, terms } });
    request.subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  /** Terms that the law grants, with what was chosen to pay them. */
  protected begin(label: string): void {
    const terms = this.granted().find((one) => one.label === label)?.terms;
    if (!terms) return;
    this.show({
      ...terms,
      ...(this.item ? { item: this.item } : {}),
      ...(this.payOutItem ? { payOutItem: this.payOutItem } : {}),
      ...(this.cashOutItem ? { cashOutItem: this.cashOutItem } : {}),
    });
    this.entered.next();
  }

  private show(terms: LeaveTerms): void {
    const { earns } = terms;
    this.name = terms.name;
    this.item = terms.item ?? '';
    this.payOutItem = terms.payOutItem ?? '';
    this.cashOutItem = terms.cashOutItem ?? '';
    this.average = terms.paidAt === 'average';
    this.year = terms.yearBegins === '01-01' || terms.yearBegins === 'hire' ? terms.yearBegins : 'day';
    if (this.year === 'day') this.yearDay = terms.yearBegins;
    this.by = earns.by;
    if (earns.by === 'hours-worked') [this.hours, this.forEvery] = [earns.hours, earns.forEvery];
    else this.steps.set(earns.steps.map(({ fromMonths, hours }) => ({ months: String(fromMonths), hours })));
    if (earns.by === 'year') this.firstYearByDays = earns.firstYearByDays;
    for (const { key } of NUMBERS) this.values[key] = terms[key] === undefined ? '' : String(terms[key]);
  }

  private terms(): LeaveTerms {
    const steps = this.steps()
      .filter((step) => step.hours)
      .map((step) => ({ fromMonths: Number(step.months || 0), hours: step.hours }));
    const { earnsAfterDays, usableAfterDays, ...inHours } = this.values;
    const hours = Object.entries(inHours).filter(([, value]) => value);
    const days = Object.entries({ earnsAfterDays, usableAfterDays }).filter(([, value]) => value);
    return {
      name: this.name,
      ...(this.item ? { item: this.item } : {}),
      ...(this.payOutItem ? { payOutItem: this.payOutItem } : {}),
      ...(this.cashOutItem ? { cashOutItem: this.cashOutItem } : {}),
      ...(this.average ? { paidAt: 'average' as const } : {}),
      earns:
        this.by === 'hours-worked'
          ? { by: 'hours-worked', hours: this.hours, forEvery: this.forEvery }
          : this.by === 'period'
            ? { by: 'period', steps }
            : { by: 'year', steps, firstYearByDays: this.firstYearByDays },
      yearBegins: this.year === 'day' ? this.yearDay : this.year,
      ...Object.fromEntries(hours),
      ...Object.fromEntries(days.map(([key, value]) => [key, Number(value)])),
    };
  }
}
