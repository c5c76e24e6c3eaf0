import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { Recalculation } from '@woodruff/contract';
import { counted } from '@woodruff/core';
import { EffectOnPeople } from '../kit/effect';
import { CountedPipe } from '../kit/words';

/** What working the run out again has changed: told until it is closed. */
@Component({
  selector: 'wr-run-again',
  imports: [CountedPipe, EffectOnPeople],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="notice" role="status">
      <p>
        {{ sentence() }}
        <button class="quiet" type="button" (click)="closed.emit()">Close</button>
      </p>
      @if (told().people.length) {
        <wr-effect-people [people]="told().people" />
      }
      @if (told().changed > told().people.length) {
        <p class="muted">The {{ told().people.length }} largest differences are listed, of {{ told().changed | counted }}.</p>
      }
    </div>
  `,
  styles: '.notice { max-width: 760px; margin: 0 20px 10px 0; max-height: 45vh; overflow: auto; } p { margin: 0 0 4px; }',
})
export class RunAgain {
  readonly told = input.required<NonNullable<Recalculation>>();
  readonly closed = output();
  protected readonly sentence = computed(() => {
    const { changed, unchanged } = this.told();
    if (!changed) return 'Worked out again: no payslip is other than before.';
    return `Worked out again: ${changed === 1 ? 'one payslip is' : `${counted(changed)} payslips are`} other than before${unchanged ? `, ${counted(unchanged)} as ${unchanged === 1 ? 'it was' : 'they were'}` : ''}.`;
  });
}
