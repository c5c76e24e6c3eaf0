import { ChangeDetectionStrategy, Component, computed, input, signal } from '@angular/core';
import type { Recorded } from '@woodruff/contract';
import { CountedPipe, DayPipe } from './words';

const SHOWN = 6;

/** Who changed what and when, latest first; a long history is folded. */
@Component({
  selector: 'wr-changes',
  imports: [CountedPipe, DayPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="lines">
      @for (change of shown(); track $index) {
        <tr>
          <td class="muted when">
            {{ change.at.slice(0, 10) | day: 'short' }} {{ change.at.slice(11, 16) }}
            @if (change.on && change.on !== change.at.slice(0, 10)) {
              <div>for {{ change.on | day: 'short' }}</div>
            }
          </td>
          <td>{{ change.what }}</td>
          <td class="num muted">{{ change.who }}</td>
        </tr>
      } @empty {
        <tr>
          <td class="muted">Nothing since it was set up.</td>
        </tr>
      }
    </table>
    @if (changes().length > shown().length) {
      <button type="button" class="quiet" (click)="all.set(true)">Show all {{ changes().length | counted }}</button>
    }
  `,
  styles: `
    .when {
      width: 150px;
      white-space: nowrap;
    }
    button {
      margin-top: 6px;
    }
  `,
})
export class Changes {
  readonly changes = input.required<readonly Recorded[]>();
  protected readonly all = signal(false);
  protected readonly shown = computed(() => (this.all() ? this.changes() : this.changes().slice(0, SHOWN)));
}
