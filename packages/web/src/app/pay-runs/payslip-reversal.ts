import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { ProblemDetail, ReversalPreview } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { notTaken } from './entries';
import { runActions } from './pay-runs.store';
import { ReversalTouches } from './reversal-touches';

/** Reverses a paid payslip, with or without a replacement, after what that touches was shown. */
@Component({
  selector: 'wr-payslip-reversal',
  imports: [DayPipe, FormsModule, MoneyPipe, Problem, ReversalTouches],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (preview(); as preview) {
      <form (ngSubmit)="reverse()">
        <p>Reverses the payslip of {{ preview.name }} paid {{ preview.payDate | day }}, net {{ preview.net | money }}. What it touches:</p>
        <wr-reversal-touches [preview]="preview" />
        <label class="field">Reason <input name="reason" [ngModel]="reason()" (ngModelChange)="reason.set($event)" /></label>
        <label class="check"
          ><input type="checkbox" name="replace" [ngModel]="replace()" (ngModelChange)="replace.set($event)" /> Open a replacement to fix
          and approve</label
        >
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="danger" type="submit">Reverse payslip</button
          ><button class="quiet" type="button" (click)="left.emit()">Cancel</button>
        </div>
      </form>
    } @else {
      <wr-problem [problem]="problem()" />
    }
  `,
  styles: `
    form {
      background: var(--entry);
      border: 1px solid var(--rule);
      padding: 10px 12px;
      display: grid;
      gap: 8px;
      border-radius: 3px;
    }
  `,
})
export class PayslipReversal {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly payslipId = input.required<string>();
  readonly left = output();
  protected readonly preview = signal<ReversalPreview | null>(null);
  protected readonly reason = signal('');
  protected readonly replace = signal(true);
  protected readonly problem = signal<ProblemDetail | null>(null);

  constructor() {
    effect((onCleanup) => {
      const answer = this.api
        .call('reversalPreview', { path: { id: this.payslipId() } })
        .subscribe({ next: (preview) => this.preview.set(preview), error: (error: unknown) => this.problem.set(problemOf(error)) });
      onCleanup(() => answer.unsubscribe());
    });
  }

  protected reverse(): void {
    const reason = this.reason().trim();
    if (reason.length < 3) return this.problem.set(notTaken('Give a reason of at least three letters: it is kept with the reversal.'));
    this.store.dispatch(runActions.reverse({ payslipId: this.payslipId(), reason, replace: this.replace() }));
    this.left.emit();
  }
}
