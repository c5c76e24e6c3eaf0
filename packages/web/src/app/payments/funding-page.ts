import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { partsOf } from '../kit/address';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { fundingStore } from './payments.store';

/** What must be in the account when, thirty days ahead. */
@Component({
  selector: 'wr-funding-page',
  imports: [DayPipe, MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Funding">
        @if (data(); as funding) {
          <span class="muted">{{
            funding.on
              ? (funding.balance | money) + ' in the account on ' + (funding.on | day: 'short')
              : 'what the account holds is not known: no statement yet'
          }}</span>
        }
      </wr-payments-head>
      <wr-problem [problem]="problem()" />
      @if (short(); as day) {
        <p class="notice bad" role="alert">
          The account runs short on {{ day.date | day }}: it lacks {{ -(day.left ?? 0) | money }} then. Move money there before.
        </p>
      }
      @if (data(); as funding) {
        <table class="lines">
          <tr>
            <th>Day</th>
            <th></th>
            <th class="num">Leaves</th>
            <th class="num">Then left</th>
          </tr>
          @for (day of funding.days; track $index) {
            <tr>
              <td class="when">{{ day.date | day }}</td>
              <td>
                <a [routerLink]="path(day.link)">{{ day.what }}</a>
                @if (day.expected) {
                  <span class="muted">expected</span>
                }
              </td>
              <td class="num">{{ day.amount | money }}</td>
              <td class="num" [class.error]="(day.left ?? 0) < 0">{{ day.left | money }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing leaves in the next thirty days.</td>
            </tr>
          }
        </table>
      } @else if (!problem()) {
        <p class="muted">Adding up what leaves …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1000px;
    }
    .when {
      width: 160px;
    }
  `,
})
export class FundingPage {
  private readonly store = inject(Store);
  protected readonly data = this.store.selectSignal(fundingStore.selectData);
  protected readonly problem = this.store.selectSignal(fundingStore.selectProblem);
  protected readonly short = computed(() => this.data()?.days.find(({ left }) => left !== null && left < 0));

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today) this.store.dispatch(fundingStore.load({ input: {} }));
    });
  }

  protected readonly path = partsOf;
}
