import { ChangeDetectionStrategy, Component, computed, effect, inject } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { partsOf } from '../kit/address';
import { Problem } from '../kit/problem';
import { CountedPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { tieOutsStore } from './payments.store';

/** Pairs that must agree, always on; where two do not, what of them differs. */
@Component({
  selector: 'wr-tie-outs-page',
  imports: [CountedPipe, MoneyPipe, PaymentsHead, Problem, RouterLink, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Tie-outs">
        @if (data()) {
          <span [class.attention]="off()" [class.muted]="!off()">{{
            off() ? (off() | counted: 'pair does' : 'pairs do') + ' not agree' : 'every pair agrees, to the cent'
          }}</span>
        }
      </wr-payments-head>
      <wr-problem [problem]="problem()" />
      @if (data(); as pairs) {
        <table class="lines">
          @for (pair of pairs; track pair.code) {
            <tr>
              <td>{{ pair.one.what }}</td>
              <td class="num">{{ pair.one.amount | money }}</td>
              <td>{{ pair.other.what }}</td>
              <td class="num">{{ pair.other.amount | money }}</td>
              <td [class.attention]="!pair.agrees">
                {{
                  pair.agrees
                    ? 'agree'
                    : pair.one.amount === pair.other.amount
                      ? '◇ differ within'
                      : '◇ differ by ' + (pair.one.amount - pair.other.amount | signed)
                }}
              </td>
            </tr>
            @for (difference of pair.differences; track $index) {
              <tr>
                <td class="inner">
                  <a [routerLink]="path(difference.link)">{{ difference.what }}</a>
                </td>
                <td class="num">{{ difference.amount | signed }}</td>
                <td colspan="3"></td>
              </tr>
            }
          }
        </table>
        <p class="muted">Compared each time this page is opened, and once a day; a pair that does not agree stands on Today.</p>
      } @else if (!problem()) {
        <p class="muted">Comparing the books …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
    .inner {
      padding-left: 24px;
    }
  `,
})
export class TieOutsPage {
  private readonly store = inject(Store);
  protected readonly data = this.store.selectSignal(tieOutsStore.selectData);
  protected readonly problem = this.store.selectSignal(tieOutsStore.selectProblem);
  protected readonly off = computed(() => this.data()?.filter(({ agrees }) => !agrees).length ?? 0);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today) this.store.dispatch(tieOutsStore.load({ input: {} }));
    });
  }

  protected readonly path = partsOf;
}
