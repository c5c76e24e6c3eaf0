import { ChangeDetectionStrategy, Component, computed, effect, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { AccountMap, BodyOf, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';
import { selectEmployer, selectMay } from '../session/session.store';
import { PaymentsHead } from './payments-head';
import { accountMapStore } from './payments.store';

const NOTHING = { account: '', department: '', worksite: '', job: '', group: '' };

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
          What is set here for something counts before the item's own account, and that before the employer's for all. The more is said, the
          closer it is: a position, a department, a group, a worksite. It counts for what is posted from now on.
          @if (map.missing) {
            <span class="attention">◇ {{ map.missing | counted: 'has no account' : 'have no account' }}: it is posted under its name.</span>
          }
        </p>
        @if (may()) {
          <form class="row-of settings" (ngSubmit)="keep()">
            <label
              >An entry for
              <select class="entry" name="by" [(ngModel)]="settings.by">
                <option value="run">each run in total</option>
                <option value="pay-date">each pay date</option>
                <option value="payslip">each payslip</option>
              </select></label
            >
            <label class="check"
              ><input type="checkbox" name="accruals" [(ngModel)]="settings.accrues" /> At each month’s end, accrue what is worked and not
              paid</label
            >
            <label class="check"><input type="checkbox" name="leaveOwed" [(ngModel)]="settings.leaveOwed" /> and leave owed</label>
            @if (changed()) {
              <button class="quiet" type="submit">Post so from now on</button>
            }
          </form>
        }
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
                      @if (map.jobs.length) {
                        <label
                          >of position
                          <select class="entry" name="job" [(ngModel)]="draft.job">
                            <option value="">all</option>
                            @for (one of map.jobs; track one) {
                              <option [value]="one">{{ one }}</option>
                            }
                          </select></label
                        >
                      }
                      @if (map.groups.length) {
                        <label
                          >of group
                          <select class="entry" name="group" [(ngModel)]="draft.group">
                            <option value="">all</option>
                            @for (one of map.groups; track one) {
                              <option [value]="one">{{ one }}</option>
                            }
                          </select></label
                        >
                      }
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
                    {{ labelOf(rule) }} <span class="muted">{{ placeOf(rule) }}</span>
                  </td>
                  <td>{{ rule.account }}</td>
                  <td class="num">
                    @if (may()) {
                      <button class="quiet" type="button" (click)="send({ ...rule, account: '' })">Take away</button>
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
    .settings {
      align-items: end;
      margin: 10px 0 16px;
    }
    .settings .check {
      padding-bottom: 8px;
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
  protected draft = { ...NOTHING };
  protected settings = { by: 'run' as AccountMap['by'], accrues: false, leaveOwed: false };
  /** What has no account first. */
  protected readonly sorted = computed(() =>
    [...(this.data()?.targets ?? [])].sort((a, b) => Number(b.from === 'none') - Number(a.from === 'none') || a.side.localeCompare(b.side)),
  );

  constructor() {
    effect(() => {
      if (this.employer()?.today) this.load();
    });
    effect(() => {
      const map = this.data();
      if (map) this.settings = { by: map.by, accrues: map.accruals === 'month', leaveOwed: map.leaveOwed };
    });
  }

  protected changed(): boolean {
    const map = this.data();
    const { by, accrues, leaveOwed } = this.settings;
    return !!map && (map.by !== by || (map.accruals === 'month') !== accrues || map.leaveOwed !== leaveOwed);
  }

  protected keep(): void {
    const { by, accrues, leaveOwed } = this.settings;
    this.ask(this.api.call('setJournal', { body: { by, accruals: accrues ? 'month' : 'none', leaveOwed } }));
  }

  protected placeOf({ job, department, group, worksite }: Rule): string {
    return [job, department, group, worksite].filter(Boolean).join(', ');
  }

  protected labelOf({ side, code }: Rule): string {
    return (
      this.data()?.targets.find((target) => target.side === side && target.code === code)?.label ?? (code || `every ${this.sides[side]}`)
    );
  }

  protected begin(target: Target): void {
    this.draft = { ...NOTHING, account: target.from === 'none' ? '' : target.account };
    this.open.set(target.side + target.code);
  }

  protected save({ side, code }: Target): void {
    this.send({ side, code, ...this.draft });
  }

  protected send(body: BodyOf<'setAccountRule'>): void {
    this.ask(this.api.call('setAccountRule', { body }));
  }

  private ask(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
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
