import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { FilingsList } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { ASKS, STATES } from './filing-words';
import { filingsStore } from './filings.store';

/** Returns, reports and statements by period: where each stands, and what differs from what was filed. */
@Component({
  selector: 'wr-filings-list',
  imports: [CountedPipe, DayPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <div class="title-line">
        <h1>Returns</h1>
        <span class="muted">made from the ledger, every line open to the payslips behind it</span>
        <button class="quiet right" type="button" (click)="all.set(!all())">
          {{ all() ? 'Only what is open and the latest' : 'Earlier ones too' }}
        </button>
        @if (employer()?.today; as today) {
          <a class="quiet" routerLink="/filings/year/now">Year end</a>
        }
        <a class="quiet" routerLink="/filings/sending">To send</a>
        <a class="quiet" routerLink="/filings/tables">Tables</a>
        <a class="quiet" routerLink="/agencies">Agencies</a>
      </div>
      <wr-problem [problem]="problem()" />
      @for (filing of data(); track filing.filing) {
        <section class="section">
          <h2>
            {{ filing.form }} <span class="muted">{{ filing.name }}, to: {{ filing.agency }}</span>
          </h2>
          <table class="lines">
            @for (period of shown(filing.periods); track period.key) {
              <tr>
                <td class="which">
                  <a [routerLink]="['/filings', filing.filing, period.key]" [attr.aria-label]="filing.form + ', ' + period.label">{{
                    labelOf(period)
                  }}</a>
                </td>
                <td class="when">due {{ period.due | day }}</td>
                <td [class.attention]="asks.includes(period.state)">{{ states[period.state] }}</td>
                <td class="attention">
                  @if (period.differs) {
                    ◇ {{ period.differs | counted: 'line differs' : 'lines differ' }} from what was filed
                  }
                </td>
              </tr>
            } @empty {
              <tr>
                <td class="muted">Nothing was posted yet.</td>
              </tr>
            }
          </table>
        </section>
      } @empty {
        @if (data()) {
          <p class="muted">The returns of this country are not in the product yet.</p>
        } @else if (!problem()) {
          <p class="muted">Looking through the periods …</p>
        }
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1000px;
    }
    h2 span {
      font:
        14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .which {
      width: 210px;
    }
    .when {
      width: 190px;
    }
  `,
})
export class FilingsListPage {
  private readonly store = inject(Store);
  protected readonly data = this.store.selectSignal(filingsStore.selectData);
  protected readonly problem = this.store.selectSignal(filingsStore.selectProblem);
  protected readonly states = STATES;
  protected readonly asks = ASKS;
  protected readonly employer = this.store.selectSignal(selectEmployer);
  private readonly asked = computed(() => this.employer()?.id);

  constructor() {
    effect(() => {
      if (this.asked()) this.store.dispatch(filingsStore.load({ input: {} }));
    });
  }

  /** Whether periods that are done are shown, too. */
  protected readonly all = signal(false);

  /** What asks for something, the one that runs, and the latest before it. */
  protected shown(periods: FilingsList[number]['periods']): FilingsList[number]['periods'] {
    return this.all() ? periods : periods.filter(({ state, differs }, index) => index < 2 || differs > 0 || ASKS.includes(state));
  }

  protected labelOf({ label }: FilingsList[number]['periods'][number]): string {
    return label.charAt(0).toUpperCase() + label.slice(1);
  }
}
