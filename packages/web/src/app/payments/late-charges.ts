import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import type { LateCharges as Charges, PayeeView } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { DayPipe, MoneyPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';

type Line = Charges[number]['lines'][number];

/** What being late with a payee costs beside what is owed: a charge of the law, with its working and what to do about it. */
@Component({
  selector: 'wr-late-charges',
  imports: [DayPipe, FigureWorking, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <wr-problem [problem]="problem()" />
    @if (charges().length) {
      <h3>What being late costs</h3>
      <table class="lines">
        @for (charge of charges(); track charge.due) {
          <tr>
            <td>
              Due {{ charge.due | day }}
              <div class="muted">{{ charge.open ? (charge.open | money) + ' is still to be paid' : 'paid late' }}</div>
            </td>
            <td>
              @for (line of charge.lines; track line.key) {
                <div>{{ line.label }}</div>
              }
            </td>
            <td class="num">
              @for (line of charge.lines; track line.key) {
                <div>
                  <button
                    class="opens"
                    type="button"
                    (click)="open(charge.due, line)"
                    [attr.aria-label]="line.label + ', how it is calculated: ' + (line.amount | money)"
                    [attr.aria-expanded]="isShown(charge.due, line)"
                  >
                    {{ line.amount | money }}
                  </button>
                </div>
              }
            </td>
          </tr>
          @if (shown()?.due === charge.due && charge.workings[shown()!.key]; as working) {
            <tr>
              <td colspan="3">
                <strong>{{ working.label }}</strong>
                <wr-figure-working
                  [working]="working"
                  [workings]="charge.workings"
                  [difference]="null"
                  personId=""
                  (opened)="shown.set({ due: charge.due, key: $event })"
                />
              </td>
            </tr>
          }
        }
      </table>
      @for (note of notes(); track note) {
        <p class="muted">{{ note }}</p>
      }
    }
  `,
  styles: `
    h3 {
      margin: 22px 0 4px;
    }
    td {
      vertical-align: top;
    }
  `,
})
export class LateCharges {
  private readonly api = inject(Api);
  readonly payee = input.required<PayeeView>();
  protected readonly charges = signal<Charges>([]);
  /** The working that is open, of a charge: of one of its lines, or of a figure within. */
  protected readonly shown = signal<{ due: string; key: string } | null>(null);
  private readonly saving = saving(() => undefined);
  protected readonly problem = this.saving.problem;

  constructor() {
    effect(() => {
      this.api.call('lateCharges', { query: { owed: this.payee().owed } }).subscribe({
        next: (charges) => this.charges.set(charges),
        error: (error: unknown) => this.saving.say(problemOf(error)),
      });
    });
  }

  protected isShown(due: string, { key }: Line): boolean {
    return this.shown()?.due === due && this.shown()?.key === key;
  }

  protected open(due: string, line: Line): void {
    this.shown.set(this.isShown(due, line) ? null : { due, key: line.key });
  }

  protected notes(): string[] {
    return [...new Set(this.charges().map(({ note }) => note))];
  }
}
