import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { ProblemDetail, Transfer } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectMay } from '../session/session.store';

type Way = 'account' | 'cheque' | 'cash' | 'estate' | 'hold';

/** A payment that came back, with its reason and the ways on; or what the bank tells of its account. */
@Component({
  selector: 'wr-returned-payment',
  imports: [DayPipe, FormsModule, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      @if (payment().personId) {
        <a [routerLink]="['/people', payment().personId]">{{ payment().payee }}</a>
      } @else {
        {{ payment().payee }}
      }
      <strong class="amount">{{ payment().amount | money }}</strong>
      @if (notice(); as notice) {
        is there; the bank of the account says since {{ notice.on | day: 'short' }}: {{ notice.words || notice.code
        }}{{ notice.told ? ', account ending ' + notice.told.account.slice(-4) : '' }}.
      } @else {
        came back {{ back()?.on | day: 'short' }} from the {{ payment().label || 'account' }}: {{ back()?.words || back()?.code }}.
      }
    </p>
    @if (may('pay-out')) {
      @if (notice()) {
        <div class="row-of">
          <button class="quiet" type="button" (click)="answer(true)">Take it over into the account</button>
          <button class="quiet" type="button" (click)="answer(false)">Put it aside</button>
        </div>
      } @else if (payment().remittanceId) {
        <p class="muted">It is owed again: pay it from the payee's page, after its account is corrected.</p>
      } @else {
        <form class="row-of" (ngSubmit)="go()">
          <label
            >Way on
            <select class="entry" name="way" [(ngModel)]="way">
              <option value="account">pay again to the account on file now</option>
              <option value="cheque">pay by {{ pack()?.words?.cheque }}</option>
              <option value="cash">pay in cash</option>
              <option value="estate">pay to the estate</option>
              <option value="hold">hold it</option>
            </select></label
          >
          <label>Why <input class="entry" name="reason" [(ngModel)]="reason" /></label>
          <button class="quiet" type="submit">{{ way === 'hold' ? 'Hold it' : 'Pay it again' }}</button>
        </form>
      }
    }
    <wr-problem [problem]="problem()" />
  `,
  styles: `
    p {
      margin: 4px 0;
    }
    form {
      align-items: end;
    }
    .amount {
      margin: 0 4px;
    }
  `,
})
export class ReturnedPayment {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly payment = input.required<Transfer>();
  readonly done = output();
  protected readonly pack = injectPack();
  private readonly rights = { 'pay-out': this.store.selectSignal(selectMay('pay-out')) };
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly back = computed(() => this.payment().events.find(({ step }) => step === 'returned' || step === 'refused'));
  protected readonly notice = computed(() =>
    this.payment().state === 'returned' ? undefined : this.payment().events.find(({ step }) => step === 'notice'),
  );
  protected way: Way = 'account';
  protected reason = '';

  protected may(right: 'pay-out'): boolean {
    return this.rights[right]();
  }

  protected go(): void {
    const path = { id: this.payment().id };
    const { way, reason } = this;
    this.ask(
      way === 'hold'
        ? this.api.call('holdReturned', { path, body: { reason } })
        : this.api.call('payReturned', { path, body: { way, reason } }),
    );
  }

  protected answer(take: boolean): void {
    this.ask(this.api.call('answerNotice', { path: { id: this.payment().id }, body: { take } }));
  }

  private ask(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({ next: () => this.done.emit(), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }
}
