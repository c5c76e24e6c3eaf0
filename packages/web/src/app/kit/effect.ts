import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import { counted } from '@woodruff/core';
import type { Effect } from '@woodruff/contract';
import { CountedPipe, DayPipe, MoneyPipe, SignedPipe } from './words';

const SHOWN = 12;

/** Net before and after, person by person, with what has to be fixed or looked at. */
@Component({
  selector: 'wr-effect-people',
  imports: [CountedPipe, MoneyPipe, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="lines">
      <tr>
        <th>Person</th>
        <th class="num">Net before</th>
        <th class="num">Net after</th>
        <th class="num">Change</th>
        <th class="num">Employer pays</th>
      </tr>
      @for (person of shown(); track $index) {
        <tr>
          <td>
            {{ person.name }}
            @if (person.stop) {
              <div class="error">{{ person.stop }}</div>
            }
            @for (sentence of person.look; track $index) {
              <div class="look">◇ {{ sentence }}</div>
            }
          </td>
          <td class="num">{{ person.before | money }}</td>
          <td class="num">{{ person.after | money }}</td>
          <td class="num">{{ person.after - person.before | signed }}</td>
          <td class="num">{{ person.cost | signed }}</td>
        </tr>
      }
    </table>
    @if (people().length > shown().length) {
      <button type="button" class="quiet" (click)="all.set(true)">Show all {{ people().length | counted }}</button>
    }
  `,
  styles: 'table { background: transparent; } .look { color: var(--ochre); max-width: 46ch; }',
})
export class EffectOnPeople {
  readonly people = input.required<Effect['people']>();
  protected readonly all = signal(false);
  protected readonly shown = computed(() => (this.all() ? this.people() : this.people().slice(0, SHOWN)));
}

/** What a change of set-up would do to the open runs, person by person, before it is saved. */
@Component({
  selector: 'wr-effect',
  imports: [CountedPipe, DayPipe, EffectOnPeople],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="notice" role="status">
      @if (effect().people.length) {
        <p>{{ sentence() }}</p>
        <wr-effect-people [people]="effect().people" />
      } @else if (effect().unchanged) {
        No payslip in the open runs changes.
      } @else {
        No run is open: it counts from the next run on.
      }
      @for (run of effect().runs; track run.runId) {
        <div class="muted">Run paid {{ run.label | day }}: {{ run.people | counted: 'payslip' : 'payslips' }}, to be recalculated</div>
      }
    </div>
  `,
  styles: 'p { margin: 0 0 6px; } .notice { max-width: 760px; }',
})
export class EffectOnRuns {
  readonly effect = input.required<Effect>();
  protected readonly sentence = computed(() => {
    const { people, unchanged } = this.effect();
    const stopped = people.filter((person) => person.stop).length;
    const looks = people.filter((person) => person.look.length && !person.stop).length;
    return [
      `In the open runs this changes ${counted(people.length, 'payslip', 'payslips')}`,
      unchanged ? `; ${unchanged} stay as they are` : '',
      stopped ? `. ${stopped} could not be paid any more` : '',
      looks ? `. ${looks} would have to be looked at` : '',
      '.',
    ].join('');
  });
}
