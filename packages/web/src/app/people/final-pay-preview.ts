import { ChangeDetectionStrategy, Component, computed, input, linkedSignal } from '@angular/core';
import type { FinalPay } from '@woodruff/contract';
import { DayPipe, MoneyPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';

const PAID: ReadonlySet<string> = new Set(['earning', 'reimbursement']);

/** The payslip that would pay somebody who leaves, each line open to its working. */
@Component({
  selector: 'wr-final-pay-preview',
  imports: [DayPipe, FigureWorking, MoneyPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let shown = pay();
    <h3>The final payslip</h3>
    @if (!shown) {
      <p class="muted">The period of the last day is paid already, and nothing is left to be paid.</p>
    } @else {
      <p class="muted">
        Paid {{ shown.payDate | day }}: {{ shown.with }}. Gross {{ shown.gross | money }}. Worked out from what is posted today.
      </p>
      @for (problem of shown.problems; track problem.sentence) {
        <p class="notice" [class.bad]="problem.weight === 'stop'">{{ problem.sentence }}</p>
      }
      <div class="beside">
        <table class="lines">
          @for (line of lines(); track line.id) {
            <tr [class.on]="opened() === line.id">
              <td>
                <button class="opens" type="button" [attr.aria-expanded]="opened() === line.id" (click)="toggle(line.id)">
                  {{ line.label }}
                </button>
              </td>
              <td class="num">{{ line.amount | money }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing is paid.</td>
              <td></td>
            </tr>
          }
          <tr class="sum">
            <td>
              <button class="opens" type="button" [attr.aria-expanded]="opened() === 'net'" (click)="toggle('net')">Net pay</button>
            </td>
            <td class="num">{{ shown.net | money }}</td>
          </tr>
        </table>
        @if (shown.workings[opened()]; as working) {
          <div class="working">
            <wr-figure-working
              [working]="working"
              [workings]="shown.workings"
              [difference]="null"
              [personId]="personId()"
              (opened)="opened.set($event)"
            />
          </div>
        }
      </div>
    }
  `,
  styles: `
    h3 {
      margin: 12px 0 4px;
    }
    p {
      margin: 0 0 6px;
    }
    .beside {
      display: grid;
      grid-template-columns: minmax(300px, 440px) minmax(300px, 440px);
      gap: 28px;
      align-items: start;
    }
    .working {
      border-left: 1px solid var(--rule);
      padding-left: 20px;
    }
  `,
})
export class FinalPayPreview {
  readonly pay = input.required<FinalPay | null>();
  readonly personId = input.required<string>();
  /** What is taken off stands with its sign; benefits in kind are counted, not paid. */
  protected readonly lines = computed(() =>
    (this.pay()?.lines ?? [])
      .filter((line) => line.kind !== 'benefit-in-kind')
      .map((line) => ({ ...line, amount: PAID.has(line.kind) ? line.amount : -line.amount })),
  );
  protected readonly opened = linkedSignal({ source: () => this.pay(), computation: () => '' });

  protected toggle(id: string): void {
    this.opened.update((open) => (open === id ? '' : id));
  }
}
