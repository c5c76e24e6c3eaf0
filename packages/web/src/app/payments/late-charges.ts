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
              <div class="muted">{{ charge.open ? (charge.open | money) + ' is still to be paid' : 'paid after its day' }}</div>
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
                    [attr.aria-label]="line.label + ', how it is worked out: ' + (line.amount | money)"
                    [attr.aria-expanded]="shown() === charge.due + line.key"
                  >
                    {{ line.amount | money }}
                  </button>
                </div>
              }
            </td>
          </tr>
          @for (line of charge.lines; track line.key) {
            @if (shown() === charge.due + line.key && charge.workings[line.key]; as working) {
              <tr>
                <td colspan="3"><wr-figure-working [working]="working" [workings]="charge.workings" [difference]="null" personId="" /></td>
              </tr>
            }
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
  protected readonly shown = signal('');
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

  protected open(due: string, { key }: Line): void {
    this.shown.update((shown) => (shown === due + key ? '' : due + key));
  }

  protected notes(): string[] {
    return [...new Set(this.charges().map(({ note }) => note))];
  }
}
