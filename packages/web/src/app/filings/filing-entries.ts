import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { FilingView, ProblemDetail } from '@woodruff/contract';
import { decimalOf } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { MoneyPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';

type Line = FilingView['enters'][number];

/** Lines that the ledger does not hold: entered with where they are from. */
@Component({
  selector: 'wr-filing-entries',
  imports: [FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>From elsewhere</h2>
    <table class="lines">
      @for (line of filing().enters; track line.line) {
        <tr>
          <td class="at">{{ line.line }}</td>
          <td>
            {{ line.label }}
            @if (line.reason) {
              <div class="muted">{{ line.reason }}</div>
            }
          </td>
          <td class="num">{{ line.amount | money: 'dash' }}</td>
          <td>
            @if (mayPrepare() && open() !== line.line) {
              <button class="quiet" type="button" (click)="begin(line)" [attr.aria-label]="'Enter line ' + line.line">Enter</button>
            }
          </td>
        </tr>
        @if (open() === line.line) {
          <tr>
            <td></td>
            <td colspan="3">
              <form (ngSubmit)="save(line)">
                <label class="field"
                  >Amount <input name="amount" inputmode="decimal" [(ngModel)]="amount" /><small>{{ line.help }}</small></label
                >
                <label class="field">Where it is from <input name="reason" [(ngModel)]="reason" maxlength="300" /></label>
                <wr-problem [problem]="problem()" />
                <div class="form-actions">
                  <button class="main-action" type="submit">Save line {{ line.line }}</button>
                  <button class="quiet" type="button" (click)="open.set('')">Cancel</button>
                </div>
              </form>
            </td>
          </tr>
        }
      }
    </table>
  `,
  styles: `
    .at {
      width: 40px;
    }
    form {
      display: grid;
      gap: 12px;
      padding: 8px 0 12px;
    }
  `,
})
export class FilingEntries {
  private readonly api = inject(Api);
  readonly filing = input.required<FilingView>();
  readonly saved = output();
  protected readonly mayPrepare = inject(Store).selectSignal(selectMayPrepare);
  protected readonly open = signal('');
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected amount = '';
  protected reason = '';

  protected begin(line: Line): void {
    this.problem.set(null);
    this.amount = line.amount ? decimalOf(line.amount) : '';
    this.reason = line.reason;
    this.open.set(line.line);
  }

  protected save({ line }: Line): void {
    const { filing, period } = this.filing();
    this.problem.set(null);
    const body = { line, amount: this.amount.trim().replace('\u2212', '-'), reason: this.reason };
    this.api.call('enterFilingLine', { path: { filing, period: period.key }, body }).subscribe({
      next: () => {
        this.open.set('');
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
