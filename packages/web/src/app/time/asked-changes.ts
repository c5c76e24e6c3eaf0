import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { TimeChange } from '@woodruff/contract';
import { DayPipe } from '../kit/words';
import { changeInWords } from './change-in-words';

/** Changes of days that an employee asks for, with what they should be and why; accepted, or declined with a reason. */
@Component({
  selector: 'wr-asked-changes',
  imports: [DayPipe, FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (change of changes(); track change.id) {
      <div class="notice">
        <p>
          Asked: <strong>{{ change.date | day }}</strong> to be {{ words(change) }}. “{{ change.reason }}”
        </p>
        @if (declining() === change.id) {
          <form (ngSubmit)="answered.emit({ id: change.id, accept: false, answer: why })">
            <label class="field">Why it is declined; the employee reads it <input name="why" [(ngModel)]="why" /></label>
            <div class="form-actions">
              <button class="main-action" type="submit">Decline it</button>
              <button class="quiet" type="button" (click)="declining.set('')">Cancel</button>
            </div>
          </form>
        } @else if (mayAnswer()) {
          <div class="form-actions">
            <button
              class="quiet"
              type="button"
              (click)="answered.emit({ id: change.id, accept: true, answer: '' })"
              [attr.aria-label]="'Accept the change of ' + (change.date | day)"
            >
              Put it into the sheet
            </button>
            <button
              class="quiet"
              type="button"
              (click)="decline(change.id)"
              [attr.aria-label]="'Decline the change of ' + (change.date | day)"
            >
              Decline …
            </button>
          </div>
        }
      </div>
    }
  `,
  styles: `
    p {
      margin: 0;
    }
    .form-actions {
      margin-top: 6px;
    }
  `,
})
export class AskedChanges {
  readonly changes = input.required<readonly TimeChange[]>();
  readonly mayAnswer = input.required<boolean>();
  readonly answered = output<{ id: string; accept: boolean; answer: string }>();
  protected readonly declining = signal('');
  protected readonly words = changeInWords;
  protected why = '';

  protected decline(id: string): void {
    this.why = '';
    this.declining.set(id);
  }
}
