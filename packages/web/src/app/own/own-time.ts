import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { OwnView, ProblemDetail, TimeChange } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, PeriodPipe } from '../kit/words';
import { changeInWords } from '../time/change-in-words';

const SHEETS: Record<NonNullable<OwnView['time']>['periods'][number]['state'], string> = {
  none: 'no sheet yet',
  open: 'not handed in yet',
  submitted: 'handed in',
  approved: 'approved',
  returned: 'returned, to be fixed',
};
const STATES: Record<TimeChange['state'], string> = {
  asked: 'asked, to be decided',
  accepted: 'accepted',
  declined: 'declined',
  withdrawn: 'taken back',
};

/** The employee's time of the latest periods, and what they ask to be otherwise. */
@Component({
  selector: 'wr-own-time',
  imports: [DayPipe, FormsModule, PeriodPipe, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Time
      @if (!asking()) {
        <button class="quiet" type="button" (click)="ask(today())">Ask for a change</button>
      }
    </h2>
    @if (asking()) {
      <form class="panel-form" (ngSubmit)="send()">
        <div class="form">
          <label class="field">Day <input type="date" name="date" [max]="today()" [(ngModel)]="draft.date" /></label>
          <label class="field"
            >Hours that it should be <input name="hours" inputmode="decimal" [(ngModel)]="draft.hours" /><small
              >0 if you did not work; or begin and end below</small
            ></label
          >
          <label class="field">Begin <input type="time" name="begins" [(ngModel)]="draft.begins" /></label>
          <label class="field">End <input type="time" name="ends" [(ngModel)]="draft.ends" /></label>
          <label class="field">Break in minutes <input name="break" inputmode="numeric" [(ngModel)]="draft.breakMinutes" /></label>
          <label class="field">Why <input name="reason" [(ngModel)]="draft.reason" /></label>
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Ask for this change</button>
          <button class="quiet" type="button" (click)="asking.set(false)">Cancel</button>
        </div>
      </form>
    }
    @for (period of time().periods; track period.from) {
      <h3>
        {{ period | period }} <span class="muted">{{ sheets[period.state] }}</span>
      </h3>
      <div class="days">
        @for (day of period.days; track day.date) {
          <button type="button" (click)="ask(day.date, day.hours)" [attr.aria-label]="'Ask for a change of ' + (day.date | day)">
            <span class="muted">{{ day.date | day: 'short' }}</span> {{ day.hours }}
          </button>
        } @empty {
          <span class="muted">No time is entered.</span>
        }
      </div>
    }
    @if (time().changes.length) {
      <h3>Changes asked for</h3>
      <table class="lines">
        @for (change of time().changes; track change.id) {
          <tr>
            <td>{{ change.date | day }}</td>
            <td>{{ words(change) }}</td>
            <td [class.attention]="change.state === 'asked'">{{ states[change.state] }}</td>
            <td class="muted">{{ change.answer }}</td>
            <td class="num">
              @if (change.state === 'asked') {
                <button class="quiet" type="button" (click)="takeBack(change.id)" [attr.aria-label]="'Take back ' + (change.date | day)">
                  Take back
                </button>
              }
            </td>
          </tr>
        }
      </table>
    }
  `,
  styles: `
    h2 {
      display: flex;
      align-items: baseline;
      font-size: 18px;
      border-bottom: 1px solid var(--ink);
      padding-bottom: 4px;
      margin: 22px 0 6px;
    }
    h2 .quiet {
      margin-left: auto;
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    h3 {
      font:
        600 14px 'Source Sans 3 Variable',
        sans-serif;
      margin: 12px 0 6px;
    }
    h3 .muted {
      font-weight: 400;
      margin-left: 8px;
    }
    .days {
      display: flex;
      flex-wrap: wrap;
      gap: 6px;
      font-size: 14px;
    }
    .days button {
      border: 1px solid var(--rule);
      border-radius: 3px;
      background: var(--sheet);
      color: var(--ink);
      padding: 2px 8px;
    }
    .days button:hover {
      border-color: var(--ochre);
    }
    .days .muted {
      margin-right: 6px;
    }
  `,
})
export class OwnTime {
  private readonly api = inject(Api);
  readonly time = input.required<NonNullable<OwnView['time']>>();
  readonly today = input.required<string>();
  readonly changed = output();
  protected readonly asking = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly sheets = SHEETS;
  protected readonly states = STATES;
  protected readonly words = changeInWords;
  protected draft = emptyOf('');

  protected ask(date: string, hours = ''): void {
    this.draft = { ...emptyOf(date), hours };
    this.problem.set(null);
    this.asking.set(true);
  }

  protected send(): void {
    const { date, hours, begins, ends, breakMinutes, reason } = this.draft;
    const clock = begins && ends ? { begins, ends, breakMinutes: Number(breakMinutes) || 0 } : { hours };
    this.api.call('askTimeChange', { body: { date, reason, ...clock } }).subscribe({
      next: () => {
        this.asking.set(false);
        this.changed.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected takeBack(id: string): void {
    this.api.call('withdrawTimeChange', { path: { id } }).subscribe({
      next: () => this.changed.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}

const emptyOf = (date: string) => ({ date, hours: '', begins: '', ends: '', breakMinutes: '0', reason: '' });
