import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { payeesStore } from './payments.store';

/** Everybody who is owed something: by law, by an item, by an order. */
@Component({
  selector: 'wr-payees-page',
  imports: [DayPipe, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Payees" />
      <wr-problem [problem]="problem()" />
      @if (data()) {
        <table class="lines">
          <tr>
            <th>Payee</th>
            <th>By when</th>
            <th class="num">Open</th>
            <th>Next</th>
          </tr>
          @for (payee of open(); track payee.owed) {
            <tr>
              <td>
                <a [routerLink]="['/payments/payees', payee.owed]">{{ payee.payee }}</a>
                <div class="muted">{{ payee.what }}</div>
              </td>
              <td class="muted">{{ payee.rule }}</td>
              <td class="num">{{ payee.left | money: 'dash' }}</td>
              <td [class.error]="payee.late" class="when">{{ payee.late ? '▲ late, ' : '' }}{{ payee.next | day }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted" colspan="4">Nothing is owed to anybody now.</td>
            </tr>
          }
        </table>
        @if (settled().length) {
          <p>
            <button class="quiet" type="button" (click)="all.set(!all())">
              {{ all() ? 'Only those with something open' : 'Also the ' + settled().length + ' who are owed nothing now' }}
            </button>
          </p>
        }
      } @else if (!problem()) {
        <p class="muted">Adding up what is owed …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .when {
      width: 200px;
    }
  `,
})
export class PayeesPage {
  private readonly store = inject(Store);
  protected readonly data = this.store.selectSignal(payeesStore.selectData);
  protected readonly problem = this.store.selectSignal(payeesStore.selectProblem);
  protected readonly all = signal(false);
  protected readonly settled = computed(() => this.data()?.filter(({ left }) => left === 0) ?? []);
  protected readonly open = computed(() =>
    [...(this.data() ?? [])]
      .filter(({ left }) => this.all() || left !== 0)
      .sort((a, b) => ((a.next ?? '9') < (b.next ?? '9') ? -1 : (a.next ?? '9') > (b.next ?? '9') ? 1 : a.payee.localeCompare(b.payee))),
  );

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today) this.store.dispatch(payeesStore.load({ input: {} }));
    });
  }
}
