import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { ProblemDetail, TaxPreview } from '@woodruff/contract';
import { catchError, debounceTime, map, of, switchMap } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { MoneyPipe, SignedPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';

/** What tax details take from a typical payslip while they are entered, each tax open to its working. */
@Component({
  selector: 'wr-tax-preview',
  imports: [FigureWorking, MoneyPipe, Problem, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (answer()?.preview; as preview) {
      <h3>On a typical payslip</h3>
      <p class="muted">{{ preview.based }}{{ preview.stop ? '' : ', gross ' + (preview.gross | money) }}</p>
      @if (preview.stop) {
        <p class="notice">{{ preview.stop }}</p>
      } @else {
        <table class="lines">
          <tr>
            <th>Tax</th>
            <th class="num">Now</th>
            <th class="num">With these</th>
            <th class="num">Change</th>
          </tr>
          @for (tax of preview.taxes; track tax.code) {
            <tr [class.on]="opened() === tax.code">
              <td>
                <button type="button" class="opens" [attr.aria-expanded]="opened() === tax.code" (click)="toggle(tax.code)">
                  {{ tax.label }}
                </button>
              </td>
              <td class="num">{{ tax.before | money }}</td>
              <td class="num">{{ tax.after | money }}</td>
              <td class="num">{{ tax.after - tax.before | signed }}</td>
            </tr>
          }
          <tr class="sum">
            <td>Net pay</td>
            <td class="num">{{ preview.net.before | money }}</td>
            <td class="num">{{ preview.net.after | money }}</td>
            <td class="num">{{ preview.net.after - preview.net.before | signed }}</td>
          </tr>
        </table>
        @if (workingOf(preview); as working) {
          <h3>{{ working.label }}</h3>
          <wr-figure-working
            [working]="working"
            [workings]="preview.workings"
            [difference]="null"
            [personId]="personId()"
            (opened)="opened.set($event)"
          />
        }
      }
    } @else if (answer()?.problem) {
      <wr-problem [problem]="answer()!.problem" />
    } @else {
      <p class="muted">Working it out …</p>
    }
  `,
  styles: `
    h3 {
      margin: 12px 0 4px;
    }
    h3:first-child {
      margin-top: 0;
    }
  `,
})
export class TaxPreviewPanel {
  private readonly api = inject(Api);
  readonly personId = input.required<string>();
  readonly facts = input.required<Record<string, unknown>>();
  protected readonly opened = signal('');
  protected readonly answer = toSignal(
    toObservable(this.facts).pipe(
      debounceTime(250),
      switchMap((facts) =>
        this.api.call('taxPreview', { path: { id: this.personId() }, body: { facts } }).pipe(
          map((preview) => ({ preview: preview, problem: null as ProblemDetail | null })),
          catchError((error: unknown) => of({ preview: null, problem: problemOf(error) })),
        ),
      ),
    ),
  );

  constructor() {
    effect(() => {
      const preview = this.answer()?.preview;
      if (preview && this.opened() && !preview.workings[this.opened()]) this.opened.set('');
    });
  }

  protected toggle(code: string): void {
    this.opened.update((open) => (open === code ? '' : code));
  }

  protected workingOf(preview: TaxPreview) {
    return preview.workings[this.opened()] ?? null;
  }
}
