import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import type { ReversalPreview } from '@woodruff/contract';
import { MoneyPipe } from '../kit/words';

/** What a reversal touches, before it is made: sums of the year before and after, payments, returns, statements. */
@Component({
  selector: 'wr-reversal-touches',
  imports: [MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table class="lines">
      <tr>
        <th></th>
        <th class="num">Before</th>
        <th class="num">After</th>
      </tr>
      @for (touch of preview().touches; track touch.what) {
        <tr>
          <td>{{ touch.what }}</td>
          <td class="num">{{ touch.before | money }}</td>
          <td class="num">{{ touch.after | money }}</td>
        </tr>
      }
    </table>
    @for (word of preview().notes; track word) {
      <p class="muted">{{ word }}</p>
    }
  `,
  styles: `
    table {
      max-width: 520px;
      margin-bottom: 8px;
    }
    p {
      margin: 0 0 6px;
    }
  `,
})
export class ReversalTouches {
  readonly preview = input.required<ReversalPreview>();
}
