import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { GroupEffect } from '@woodruff/contract';
import { CountedPipe } from '../kit/words';

const SHOWN = 10;

/** Who follows a change of a group, and who keeps a value of their own. */
@Component({
  selector: 'wr-group-effect',
  imports: [CountedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="notice" role="status">
      @if (effect().follow.length) {
        <p>
          {{
            effect().follow.length === 1 ? 'One person takes this over:' : (effect().follow.length | counted) + ' people take this over:'
          }}
        </p>
        <table class="lines">
          @for (person of follow(); track person.personId) {
            <tr>
              <td>{{ person.name }}</td>
              <td>{{ person.what.join('; ') }}</td>
            </tr>
          }
        </table>
      } @else {
        <p>Nobody takes anything over.</p>
      }
      @if (effect().keep.length) {
        <p>
          {{
            effect().keep.length === 1
              ? 'One keeps a value of their own:'
              : (effect().keep.length | counted) + ' keep a value of their own:'
          }}
        </p>
        <table class="lines">
          @for (person of keep(); track person.personId) {
            <tr>
              <td>{{ person.name }}</td>
              <td>{{ person.what.join('; ') }}</td>
            </tr>
          }
        </table>
      }
      @if (effect().follow.length > follow().length || effect().keep.length > keep().length) {
        <button type="button" class="quiet" (click)="all.set(true)">Show everybody</button>
      }
    </div>
  `,
  styles: 'p { margin: 4px 0; } table { background: transparent; } td:first-child { width: 220px; } .notice { max-width: 760px; }',
})
export class GroupEffectTable {
  readonly effect = input.required<GroupEffect>();
  protected readonly all = signal(false);
  protected readonly follow = computed(() => (this.all() ? this.effect().follow : this.effect().follow.slice(0, SHOWN)));
  protected readonly keep = computed(() => (this.all() ? this.effect().keep : this.effect().keep.slice(0, SHOWN)));
}
