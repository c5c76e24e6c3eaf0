import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { AnswerOf } from '@woodruff/contract';
import { catchError, of, switchMap } from 'rxjs';
import { Api } from '../api/api';
import { injectPack } from '../kit/pack';
import { DecimalPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';

export type OwedByLaw = AnswerOf<'owedOnLeaving'>['payments'][number];

/** What the law wants paid to who leaves in a way on a day, with its working, and the least notice. */
@Component({
  selector: 'wr-leaving-by-law',
  imports: [DecimalPipe, FigureWorking],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (law(); as law) {
      @if (law.notice; as sentence) {
        <p class="muted">{{ sentence }}</p>
      }
      @for (payment of law.payments; track payment.label) {
        <p class="row-of">
          <strong>{{ payment.label }}</strong>
          @if (payment.amount; as amount) {
            <button
              class="opens"
              type="button"
              [attr.aria-label]="payment.label + ', how it came about'"
              (click)="figure.set(payment.key ?? '')"
            >
              {{ amount | decimal: 2 }}
            </button>
            <button class="quiet" type="button" (click)="owed.emit(payment)">Put it in</button>
          }
          <span class="muted">{{ payment.sentence }}</span>
        </p>
      }
      @if (law.workings[figure()]; as working) {
        <wr-figure-working
          [working]="working"
          [workings]="law.workings"
          [difference]="null"
          [personId]="personId()"
          (opened)="figure.set($event)"
        />
      }
    }
  `,
})
export class LeavingByLaw {
  private readonly api = inject(Api);
  private readonly pack = injectPack();
  readonly personId = input.required<string>();
  readonly lastDay = input('');
  readonly kind = input('');
  /** Is to be paid with the leaving. */
  readonly owed = output<OwedByLaw>();
  protected readonly figure = signal('');
  private readonly asked = computed(() => {
    const leaving = this.pack()?.leaving;
    const says = leaving !== undefined && ('owed' in leaving || 'leastNotice' in leaving);
    return says && this.lastDay() ? { id: this.personId(), query: { lastDay: this.lastDay(), kind: this.kind() } } : null;
  });
  protected readonly law = toSignal(
    toObservable(this.asked).pipe(
      switchMap((asked) =>
        asked ? this.api.call('owedOnLeaving', { path: { id: asked.id }, query: asked.query }).pipe(catchError(() => of(null))) : of(null),
      ),
    ),
    { initialValue: null },
  );
}
