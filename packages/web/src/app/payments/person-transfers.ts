import { ChangeDetectionStrategy, Component, effect, inject, input, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Transfer } from '@woodruff/contract';
import { Api } from '../api/api';
import { injectPack } from '../kit/pack';
import { DayPipe, MoneyPipe } from '../kit/words';
import { methodWords, TRANSFER_STATES } from './payment-words';
import { ReturnedPayment } from './returned-payment';

/** The latest payments to a person: where each stands, and what is to be done with one that came back. */
@Component({
  selector: 'wr-person-transfers',
  imports: [DayPipe, MoneyPipe, ReturnedPayment, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (payment of payments(); track payment.id) {
      @if (payment.state === 'returned') {
        <div class="notice"><wr-returned-payment [payment]="payment" (done)="load()" /></div>
      }
    }
    @if (payments().length) {
      <table class="lines">
        @for (payment of payments(); track payment.id) {
          <tr>
            <td>
              @if (payment.batchId) {
                <a [routerLink]="['/payments/batches', payment.batchId]">{{ payment.payDate | day }}</a>
              } @else {
                waits for a batch
              }
            </td>
            <td>
              {{ method(payment) }} <span class="muted">{{ payment.label }}</span>
            </td>
            <td class="num">{{ payment.amount | money }}</td>
            <td [class.attention]="payment.state === 'returned'">{{ states[payment.state] }}</td>
          </tr>
        }
      </table>
    }
  `,
})
export class PersonTransfers {
  private readonly api = inject(Api);
  private readonly pack = injectPack();
  readonly personId = input.required<string>();
  protected readonly states = TRANSFER_STATES;
  protected readonly payments = signal<Transfer[]>([]);

  constructor() {
    effect(() => {
      if (this.personId()) this.load();
    });
  }

  protected load(): void {
    this.api.call('personPayments', { path: { id: this.personId() } }).subscribe({
      next: (payments) => this.payments.set(payments),
      // The page says what is wrong with it; this part stays away then.
      error: () => this.payments.set([]),
    });
  }

  protected method({ method, number }: Transfer): string {
    return methodWords(method, this.pack()?.words, number);
  }
}
