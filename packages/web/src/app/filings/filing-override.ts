import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { FilingView, ProblemDetail } from '@woodruff/contract';
import { decimalOf } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { MoneyPipe } from '../kit/words';

type Line = FilingView['lines'][number];

/** Another amount for a computed line, with its reason; or the computed one again. */
@Component({
  selector: 'wr-filing-override',
  imports: [FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form (ngSubmit)="save(amount)">
      <label class="field">Line {{ line().line }} is <input name="amount" inputmode="decimal" [(ngModel)]="amount" /></label>
      <label class="field"
        >Why <input name="reason" [(ngModel)]="reason" maxlength="300" /><small
          >It stands on the return beside what was computed, and goes into the file</small
        ></label
      >
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit">Override line {{ line().line }}</button>
        @if (line().replaced; as replaced) {
          <button class="quiet" type="button" (click)="save(null)">
            As computed again: {{ line().unit === 'money' ? (replaced.amount | money) : replaced.amount }}
          </button>
        }
        <button class="quiet" type="button" (click)="left.emit()">Cancel</button>
      </div>
    </form>
  `,
  styles: `
    form {
      display: grid;
      gap: 12px;
      max-width: 460px;
      padding: 8px 0 12px;
    }
  `,
})
export class FilingOverride {
  private readonly api = inject(Api);
  readonly filing = input.required<FilingView>();
  readonly line = input.required<Line>();
  readonly saved = output();
  readonly left = output();
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected amount = '';
  protected reason = '';

  constructor() {
    effect(() => {
      const { amount, unit, replaced } = this.line();
      this.amount = unit === 'money' ? decimalOf(amount) : String(amount);
      this.reason = replaced?.reason ?? '';
    });
  }

  protected save(amount: string | null): void {
    const { filing, period } = this.filing();
    this.problem.set(null);
    const body = {
      line: this.line().line,
      amount: amount === null ? null : amount.trim().replaceAll(',', '').replace('\u2212', '-'),
      reason: amount === null ? this.reason || 'As computed again' : this.reason,
    };
    this.api.call('enterFilingLine', { path: { filing, period: period.key }, body }).subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
