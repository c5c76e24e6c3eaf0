import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Copy, FilingView, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';

/** Boxes of somebody's statement that are marked or written by hand, with why. */
@Component({
  selector: 'wr-copy-marks',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (!open()) {
      <button class="quiet" type="button" (click)="open.set(true)">Mark by hand …</button>
    } @else {
      <form (ngSubmit)="save()">
        <label class="field"
          >Box
          <select name="box" [(ngModel)]="box" required>
            @for (rule of rules(); track rule.box) {
              <option [value]="rule.box">{{ rule.label }}</option>
            }
          </select>
        </label>
        <p class="muted">{{ rule()?.help }}</p>
        <label class="field"
          >It is
          <select name="how" [(ngModel)]="how">
            <option value="X">marked</option>
            <option value="">not marked</option>
            <option value="derived">as derived from pay</option>
          </select>
        </label>
        <label class="field">Why <input name="reason" [(ngModel)]="reason" required minlength="3" /></label>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save</button>
          <button class="quiet" type="button" (click)="open.set(false)">Cancel</button>
        </div>
      </form>
    }
  `,
  styles: `
    form {
      display: grid;
      gap: 8px;
      max-width: 420px;
      margin: 8px 0;
    }
    p {
      margin: 0;
    }
  `,
})
export class CopyMarks {
  private readonly api = inject(Api);
  readonly filing = input.required<FilingView>();
  readonly copy = input.required<Copy>();
  readonly saved = output();
  protected readonly open = signal(false);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly rules = computed(() => this.filing().copyOf?.marks ?? []);
  protected box = '';
  protected how = 'X';
  protected reason = '';

  protected rule(): { help: string } | undefined {
    return this.rules().find(({ box }) => box === this.box);
  }

  protected save(): void {
    const { filing, period } = this.filing();
    const body = { personId: this.copy().personId, box: this.box, text: this.how === 'derived' ? null : this.how, reason: this.reason };
    this.api.call('markCopy', { path: { filing, period: period.key }, body }).subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
