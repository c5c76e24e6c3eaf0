import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { EnrolmentPage, EnrolmentPerson, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { ACTS, EnrolmentAct, type Act } from './enrolment-act';

const OF_STATE: Readonly<Record<EnrolmentPerson['state'], readonly Act[]>> = {
  in: ['letter', 'opted-out', 'ceased'],
  out: ['enrolled', 'postponed', 'exempt', 'letter'],
  postponed: ['enrolled', 'exempt', 'letter'],
  exempt: ['exempt-no-more'],
  'opted-out': ['enrolled', 'exempt'],
  ceased: ['enrolled', 'exempt'],
};

/** One person: how the law assesses them, what happened, and what can be recorded. */
@Component({
  selector: 'wr-enrolment-person',
  imports: [DayPipe, EnrolmentAct, FormsModule, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let one = person();
    <div class="panel-form">
      <p class="row-of">
        <strong>{{ one.name }}</strong> <span>{{ one.standing }}</span>
        @if (one.optOutUntil; as day) {
          <span class="muted">may opt out until {{ day | day }}</span>
        }
        <a class="quiet" [routerLink]="['/people', one.personId]">The person’s page</a>
      </p>
      @if (one.assessed; as assessed) {
        <p>
          {{ assessed.label }} by {{ assessed.draft ? 'the open run' : 'the pay' }} of {{ assessed.payDate | day }}, with earnings of
          {{ assessed.earnings | money }} in its pay reference period:
        </p>
        <ul class="tests">
          @for (test of assessed.tests; track test.sentence) {
            <li [class.muted]="!test.holds">{{ test.holds ? '●' : '○' }} {{ test.sentence }}{{ test.holds ? '' : ': not so' }}</li>
          }
        </ul>
      } @else {
        <p class="muted">Assessed with the first regular run.</p>
      }
      @if (one.duty; as duty) {
        <p class="attention">{{ duty.sentence }}</p>
      }
      @if (one.steps.length) {
        <table class="lines">
          @for (step of one.steps; track step.id) {
            <tr [class.muted]="step.undone !== null">
              <td class="when">{{ step.on | day }}</td>
              <td>
                {{ step.sentence }}
                @if (step.undone !== null) {
                  <span>taken back: {{ step.undone }}</span>
                }
              </td>
              <td class="muted">{{ step.by }}</td>
              <td class="num">
                @if (mayPrepare() && step.id === last() && undoing() !== step.id) {
                  <button class="quiet" type="button" (click)="undoing.set(step.id)">Take back …</button>
                }
              </td>
            </tr>
          }
        </table>
      }
      @if (undoing()) {
        <div class="form">
          <label class="field">Why it is taken back <input name="why" [(ngModel)]="why" /></label>
        </div>
        <div class="form-actions">
          <button class="main-action" type="button" (click)="undo()">Take the last step back</button>
          <button class="quiet" type="button" (click)="undoing.set('')">Cancel</button>
        </div>
      }
      <wr-problem [problem]="problem()" />
      @if (mayPrepare() && !act()) {
        <p class="row-of">
          @for (can of possible(); track can) {
            <button class="quiet" type="button" (click)="act.set(can)">{{ acts[can] }} …</button>
          }
          @if (one.duty?.letter; as letter) {
            <a class="quiet" [href]="api.url('enrolmentLetters', { query: { letter, person: one.personId } })" target="_blank"
              >Letter, PDF</a
            >
          }
        </p>
      }
    </div>
    @if (act(); as chosen) {
      <wr-enrolment-act
        [page]="page()"
        [people]="[one]"
        [act]="chosen"
        [today]="today()"
        (saved)="act.set(null); saved.emit()"
        (left)="act.set(null)"
      />
    }
  `,
  styles: `
    .tests {
      list-style: none;
      padding: 0;
      margin: 8px 0;
    }
  `,
})
export class EnrolmentPersonView {
  protected readonly api = inject(Api);
  readonly page = input.required<EnrolmentPage>();
  readonly person = input.required<EnrolmentPerson>();
  readonly mayPrepare = input(false);
  readonly today = input('');
  readonly saved = output();
  protected readonly acts = ACTS;
  protected readonly act = signal<Act | null>(null);
  protected readonly undoing = signal('');
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected why = '';
  protected readonly possible = computed(() => OF_STATE[this.person().state]);
  protected readonly last = computed(
    () =>
      this.person()
        .steps.filter(({ undone }) => undone === null)
        .at(-1)?.id,
  );

  protected undo(): void {
    this.problem.set(null);
    this.api.call('undoEnrolment', { path: { id: this.undoing() }, body: { reason: this.why } }).subscribe({
      next: () => {
        this.undoing.set('');
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
