import { ChangeDetectionStrategy, Component, computed, effect, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Problem } from '../kit/problem';
import { MoneyPipe } from '../kit/words';
import { selectEmployer } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { runJournalStore } from './payments.store';

/** What a run posts to the journal, before it does. */
@Component({
  selector: 'wr-run-journal-page',
  imports: [MoneyPipe, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="What the run posts">
        <a class="quiet right" [routerLink]="['/pay-runs', id()]">The run</a>
        <a class="quiet" routerLink="/payments/accounts">Where it is posted</a>
      </wr-payments-head>
      <wr-problem [problem]="problem()" />
      @if (data(); as lines) {
        <p class="muted">
          As the run stands now, with the accounts as they are set now.
          @if (missing()) {
            <span class="attention">◇ {{ missing() }} of these lines have no account: they are posted under their names.</span>
          }
        </p>
        <table class="lines">
          <tr>
            <th>Account</th>
            <th></th>
            <th>Department</th>
            <th class="num">Debit</th>
            <th class="num">Credit</th>
          </tr>
          @for (line of lines; track $index) {
            <tr>
              <td [class.attention]="line.account.endsWith('(no account)')">{{ line.account }}</td>
              <td class="muted">{{ line.words }}</td>
              <td class="muted">{{ line.department }}</td>
              <td class="num">{{ line.amount > 0 ? (line.amount | money) : '' }}</td>
              <td class="num">{{ line.amount < 0 ? (-line.amount | money) : '' }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing is calculated yet.</td>
            </tr>
          }
          <tr class="sum">
            <td>Together</td>
            <td></td>
            <td></td>
            <td class="num">{{ debit() | money }}</td>
            <td class="num">{{ credit() | money }}</td>
          </tr>
        </table>
      } @else if (!problem()) {
        <p class="muted">Adding up what the run posts …</p>
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
  `,
})
export class RunJournalPage {
  private readonly store = inject(Store);
  readonly id = input.required<string>();
  protected readonly data = this.store.selectSignal(runJournalStore.selectData);
  protected readonly problem = this.store.selectSignal(runJournalStore.selectProblem);
  protected readonly missing = computed(() => this.data()?.filter(({ account }) => account.endsWith('(no account)')).length ?? 0);
  protected readonly debit = computed(() => this.data()?.reduce((sum, { amount }) => (amount > 0 ? sum + amount : sum), 0) ?? 0);
  protected readonly credit = computed(() => this.data()?.reduce((sum, { amount }) => (amount < 0 ? sum - amount : sum), 0) ?? 0);

  constructor() {
    const employer = this.store.selectSignal(selectEmployer);
    effect(() => {
      if (employer()?.today) this.store.dispatch(runJournalStore.load({ input: { path: { id: this.id() } } }));
    });
  }
}
