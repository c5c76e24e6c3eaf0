import { ChangeDetectionStrategy, computed, Component, inject, input, output, signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import type { AnswerOf, BodyOf, ProblemDetail, SetUp } from '@woodruff/contract';
import { catchError, debounceTime, of, startWith, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, PeriodPipe } from '../kit/words';
import { injectPack } from '../kit/pack';

type Schedule = SetUp['schedules'][number];
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** Pay schedules; while one is entered, the year's periods and pay dates stand beside the form. */
@Component({
  selector: 'wr-pay-schedules',
  imports: [CountedPipe, DayPipe, PeriodPipe, Problem, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Pay schedules
      @if (mayChange() && !open()) {
        <button class="quiet" type="button" (click)="begin()">Add a schedule</button>
      }
    </h2>
    @if (open()) {
      <form class="panel-form" [formGroup]="form" (ngSubmit)="save()">
        <div class="beside">
          <div>
            <div class="form narrow">
              <label class="field">Name <input formControlName="name" /></label>
              <label class="field"
                >Paid
                <select formControlName="frequency">
                  @for (frequency of frequencies(); track frequency[0]) {
                    <option [value]="frequency[0]">{{ frequency[1] }}</option>
                  }
                </select>
              </label>
              <label class="field">A period begins on <input type="date" formControlName="anchor" /></label>
              <label class="field"
                >Paid so many days after the period ends <input formControlName="payDateOffset" inputmode="numeric"
              /></label>
              <label class="field"
                >Time handed in until so many days after it ends
                <input formControlName="timeCutOff" inputmode="numeric" placeholder="no cut-off"
              /></label>
              <label class="field"
                >On a weekend or holiday
                <select formControlName="move">
                  <option value="previous">the business day before</option>
                  <option value="next">the business day after</option>
                </select>
              </label>
              @if (accounts().length > 1) {
                <label class="field"
                  >Paid from
                  <select formControlName="payingAccountId">
                    @for (account of accounts(); track account.id) {
                      <option [value]="account.id ?? ''">{{ account.name }} {{ account.shown }}</option>
                    }
                  </select>
                </label>
              }
            </div>
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit">Save the schedule</button>
              <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
            </div>
          </div>
          <div class="dates">
            <div class="row-of">
              <strong>Pay dates in</strong>
              <input class="entry year" type="number" formControlName="year" aria-label="Year of the pay dates" />
              <span class="muted">{{ dates().length }} of them</span>
            </div>
            <div class="scroll" tabindex="0" role="region" aria-label="Pay dates of the year">
              <table class="lines">
                @for (date of dates(); track date.from) {
                  <tr>
                    <td>{{ date | period }}</td>
                    <td>{{ date.payDate | day }}</td>
                    <td class="attention">{{ date.note }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td class="muted">They appear when the first day of a period is entered.</td>
                  </tr>
                }
              </table>
            </div>
          </div>
        </div>
      </form>
    }
    <table class="lines">
      <tr>
        <th>Schedule</th>
        <th>Paid</th>
        <th class="num">People</th>
        <th class="num">Runs so far</th>
        <th></th>
      </tr>
      @for (schedule of schedules(); track schedule.id) {
        <tr>
          <td>{{ schedule.name }}</td>
          <td>{{ words(schedule) }}</td>
          <td class="num">{{ schedule.people | counted }}</td>
          <td class="num">{{ schedule.runs }}</td>
          <td class="num">
            @if (mayChange()) {
              <button class="quiet" type="button" (click)="change(schedule)" [attr.aria-label]="'Change ' + schedule.name">Change</button>
            }
          </td>
        </tr>
      } @empty {
        <tr>
          <td class="muted">None yet. People are paid by a schedule.</td>
        </tr>
      }
    </table>
  `,
  styleUrl: '../people/person-part.scss',
  styles: `
    .beside {
      display: grid;
      grid-template-columns: 300px minmax(0, 1fr);
      gap: 30px;
    }
    .scroll {
      max-height: 330px;
      overflow: auto;
      border-top: 1px solid var(--ink);
    }
    .year {
      display: inline-block;
      width: 90px;
      margin: 0;
    }
    .dates .row-of {
      margin-bottom: 6px;
    }
  `,
})
export class PaySchedules {
  private readonly api = inject(Api);
  readonly schedules = input.required<Schedule[]>();
  readonly accounts = input<SetUp['banks']>([]);
  readonly today = input.required<string>();
  readonly mayChange = input(false);
  readonly saved = output();
  protected readonly open = signal<'new' | Schedule | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  private readonly pack = injectPack();
  protected readonly frequencies = computed(() => Object.entries(this.pack()?.words.frequencies ?? {}));
  protected readonly form = new FormGroup({
    name: text(),
    frequency: text('fortnightly'),
    anchor: text(),
    payDateOffset: text('5'),
    timeCutOff: text(),
    move: text('previous'),
    payingAccountId: text(),
    year: new FormControl(2026, { nonNullable: true }),
  });
  protected readonly dates = toSignal(
    this.form.valueChanges.pipe(
      startWith(null),
      debounceTime(200),
      switchMap(() => {
        const { name: _name, payingAccountId: _paying, ...dates } = this.body();
        if (!dates.anchor || !this.open()) return of([] as AnswerOf<'payDates'>);
        return this.api.call('payDates', { body: { ...dates, year: this.form.value.year ?? 0 } }).pipe(catchError(() => of([])));
      }),
    ),
    { initialValue: [] as AnswerOf<'payDates'> },
  );

  /** Also called from the list of what is missing. */
  begin(): void {
    this.problem.set(null);
    this.open.set('new');
    this.form.reset({
      name: '',
      frequency: 'fortnightly',
      anchor: '',
      payDateOffset: '5',
      move: 'previous',
      payingAccountId: '',
      year: Number(this.today().slice(0, 4)),
    });
  }

  protected change(schedule: Schedule): void {
    this.problem.set(null);
    this.open.set(schedule);
    this.form.reset({
      ...schedule,
      payDateOffset: String(schedule.payDateOffset),
      payingAccountId: schedule.payingAccountId ?? '',
      timeCutOff: schedule.timeCutOff === null || schedule.timeCutOff === undefined ? '' : String(schedule.timeCutOff),
      year: Number(this.today().slice(0, 4)),
    });
  }

  protected words(schedule: Schedule): string {
    const days = schedule.payDateOffset;
    const after =
      days === 0
        ? 'on the last day of the period'
        : days > 0
          ? `${days} days after the period ends`
          : `${-days} days before the period ends`;
    return `${this.pack()?.words.frequencies[schedule.frequency] ?? ''}, ${after}, ${schedule.move === 'previous' ? 'or the business day before' : 'or the business day after'}`;
  }

  protected save(): void {
    const open = this.open();
    this.problem.set(null);
    const request =
      open === 'new' || open === null
        ? this.api.call('addSchedule', { body: this.body() })
        : this.api.call('changeSchedule', { path: { id: open.id }, body: this.body() });
    (request as ReturnType<typeof this.api.call<'changeSchedule'>>).subscribe({
      next: () => {
        this.open.set(null);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private body(): BodyOf<'addSchedule'> {
    const { name, frequency, anchor, payDateOffset, timeCutOff, move, payingAccountId } = this.form.getRawValue();
    return {
      name,
      frequency: frequency as 'weekly',
      anchor,
      payDateOffset: Number(payDateOffset || Number.NaN),
      timeCutOff: timeCutOff === '' ? null : Number(timeCutOff),
      move: move as 'previous',
      payingAccountId: payingAccountId || null,
    };
  }
}
