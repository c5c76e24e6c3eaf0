import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { AccountMap, BodyOf, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { accountMapStore } from './payments.store';

type Target = AccountMap['targets'][number];
type Rule = AccountMap['rules'][number];

const FROM: Record<Target['from'], string> = { rule: 'set here', item: "the item's own", employer: 'the employer’s for all', none: 'none' };

/** Where everything that is posted goes; what is said closest counts. */
@Component({
  selector: 'wr-accounts-page',
  imports: [CountedPipe, FormsModule, PaymentsHead, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <main class="page">
      <wr-payments-head title="Where it is posted"><a class="quiet right" routerLink="/payments/journal">Journal</a></wr-payments-head>
      <wr-problem [problem]="problem() ?? loadProblem()" />
      @if (data(); as map) {
        <p class="muted">
          What is set here for something counts before the item's own account, and that before the employer's for all. A department or
          worksite makes it closer still. It counts for what is posted from now on.
          @if (map.missing) {
            <span class="attention">◇ {{ map.missing | counted: 'has no account' : 'have no account' }}: it is posted under its name.</span>
          }
        </p>
        <table class="lines">
          <tr>
            <th>Posted</th>
            <th>Account</th>
            <th>From</th>
            <th></th>
          </tr>
          @for (target of sorted(); track target.side + target.code) {
            <tr>
              <td>
                {{ target.label }} <span class="muted">{{ sides[target.side] }}</span>
              </td>
              <td [class.attention]="target.from === 'none'">{{ target.account }}</td>
              <td class="muted">{{ from[target.from] }}</td>
              <td class="num">
                @if (may()) {
                  <button class="quiet" type="button" (click)="begin(target)" [attr.aria-label]="'Set the account of ' + target.label">
                    Set
                  </button>
                }
              </td>
            </tr>
            @if (open() === target.side + target.code) {
              <tr>
                <td colspan="4">
                  <form class="row-of" (ngSubmit)="save(target)">
                    <label>Account <input class="entry" name="account" [(ngModel)]="draft.account" /></label>
                    @if (target.side === 'expense') {
                      <label
                        >of department
                        <select class="entry" name="department" [(ngModel)]="draft.department">
                          <option value="">all</option>
                          @for (one of map.departments; track one) {
                            <option [value]="one">{{ one }}</option>
                          }
                        </select></label
                      >
                      <label
                        >at worksite
                        <select class="entry" name="worksite" [(ngModel)]="draft.worksite">
                          <option value="">all</option>
                          @for (one of map.worksites; track one) {
                            <option [value]="one">{{ one }}</option>
                          }
                        </select></label
                      >
                    }
                    <button class="quiet" type="submit">Set the account</button>
                    <button class="quiet" type="button" (click)="open.set('')">Cancel</button>
                  </form>
                </td>
              </tr>
            }
          }
        </table>
        @if (map.rules.length) {
          <section class="section">
            <h2>Set here</h2>
            <table class="lines">
              @for (rule of map.rules; track $index) {
                <tr>
                  <td>
                    {{ labelOf(rule) }} <span class="muted">{{ rule.department }} {{ rule.worksite }}</span>
                  </td>
                  <td>{{ rule.account }}</td>
                  <td class="num">
                    @if (may()) {
                      <button
                        class="quiet"
                        type="button"
                        (click)="
                          send({ side: rule.side, code: rule.code, department: rule.department, worksite: rule.worksite, account: '' })
                        "
                      >
                        Take away
                      </button>
                    }
                  </td>
                </tr>
              }
            </table>
          </section>
        }
      }
    </main>
  `,
  styles: `
    main {
      max-width: 1120px;
    }
  `,
})
export class AccountsPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly data = this.store.selectSignal(accountMapStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(accountMapStore.selectProblem);
  protected readonly may = this.store.selectSignal(selectMay('administer'));
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly open = signal('');
  protected readonly from = FROM;
  protected readonly sides = { expense: 'cost', liability: 'owed', bank: '' };
  protected draft = { account: '', department: '', worksite: '' };
  /** What has no account first. */
  protected readonly sorted = computed(() =>
    [...(this.data()?.targets ?? [])].sort((a, b) => Number(b.from === 'none') - Number(a.from === 'none') || a.side.localeCompare(b.side)),
  );

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.load();
    });
  }

  protected labelOf({ side, code }: Rule): string {
    return (
      this.data()?.targets.find((target) => target.side === side && target.code === code)?.label ?? (code || `every ${this.sides[side]}`)
    );
  }

  protected begin(target: Target): void {
    this.draft = { account: target.from === 'none' ? '' : target.account, department: '', worksite: '' };
    this.open.set(target.side + target.code);
  }

  protected save({ side, code }: Target): void {
    this.send({ side, code, ...this.draft });
  }

  protected send(body: BodyOf<'setAccountRule'>): void {
    this.problem.set(null);
    this.api.call('setAccountRule', { body }).subscribe({
      next: () => {
        this.open.set('');
        this.load();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private load(): void {
    this.store.dispatch(accountMapStore.load({ input: {}, keep: true }));
  }
}
