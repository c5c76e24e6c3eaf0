import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { PayslipView, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe, PeriodPipe } from '../kit/words';
import { LeaveAsk } from '../leave/leave-ask';
import { hoursWords } from '../leave/leave-words';
import { selectEmployer, sessionActions } from '../session/session.store';
import { FigureWorking } from '../working/figure-working';
import { OwnTime } from './own-time';
import { ownStore } from './own.store';

const SHOWN = ['earning', 'reimbursement', 'benefit-in-kind', 'deduction-before-tax', 'tax', 'deduction-after-tax'];

/** What an employee sees: payslips whose figures explain themselves, leave, and their choice of forms. */
@Component({
  selector: 'wr-own-page',
  imports: [DayPipe, FigureWorking, LeaveAsk, MoneyPipe, OwnTime, PeriodPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <span class="serif name">Woodruff</span>
      <span class="muted">{{ own()?.employer }}</span>
      <button class="quiet right" type="button" (click)="signOut()">Sign out</button>
    </header>
    <main>
      @if (own(); as own) {
        <h1>{{ own.name }}</h1>
        <div class="summary">
          <div>
            Gross in {{ own.year }} <strong>{{ own.yearToDate.gross | money }}</strong>
          </div>
          <div>
            Taxes <strong>{{ own.yearToDate.taxes | money }}</strong>
          </div>
          <div>
            Deductions <strong>{{ own.yearToDate.deductions | money }}</strong>
          </div>
          <div>
            Net <strong>{{ own.yearToDate.net | money }}</strong>
          </div>
          @for (plan of own.leave.plans; track plan.memberId) {
            <div>
              {{ plan.plan }} <strong>{{ hours(plan.balance) }}</strong> hours
            </div>
          }
        </div>
        <div class="two">
          <section>
            <h2>Payslips</h2>
            <table class="lines">
              <tr>
                <th>Paid</th>
                <th>For</th>
                <th class="num">Gross</th>
                <th class="num">Net</th>
                <th></th>
              </tr>
              @for (one of all() ? own.payslips : own.payslips.slice(0, 8); track one.id) {
                <tr [class.on]="one.id === payslip()?.id">
                  <td>
                    <button class="opens" type="button" (click)="open(one.id)">{{ one.payDate | day: 'short' }}</button>
                    @if (one.state !== 'posted') {
                      <span class="muted">{{ one.state }}</span>
                    }
                  </td>
                  <td>{{ one | period }}</td>
                  <td class="num">{{ one.gross | money }}</td>
                  <td class="num">{{ one.net | money }}</td>
                  <td class="num"><a class="quiet" [href]="pdf(one.id)" target="_blank">PDF</a></td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">Nothing has been paid yet.</td>
                </tr>
              }
            </table>
            @if (own.payslips.length > 8 && !all()) {
              <button class="quiet" type="button" (click)="all.set(true)">All {{ own.payslips.length }}</button>
            }
            <h2>
              Leave
              @if (own.leave.plans.length && !asking()) {
                <button class="quiet" type="button" (click)="asking.set(true)">Ask for leave</button>
              }
            </h2>
            @if (asking()) {
              <wr-leave-ask
                [own]="true"
                [of]="{ personId: 'own', plans: own.leave.plans }"
                [day]="own.today"
                (saved)="asked()"
                (left)="asking.set(false)"
              />
            }
            <table class="lines">
              @for (request of own.leave.requests; track request.id) {
                <tr>
                  <td>{{ request | period }}</td>
                  <td>{{ request.plan }}</td>
                  <td class="num">{{ request.hours }} hours</td>
                  <td [class.attention]="request.state === 'asked'">
                    {{ request.state === 'asked' ? 'asked, to be decided' : request.state }}
                  </td>
                  <td class="muted">{{ request.comment }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">No leave is asked for.</td>
                </tr>
              }
            </table>
            @if (own.time; as time) {
              <wr-own-time [time]="time" [today]="own.today" (changed)="asked()" />
            }
            @if (own.letters.length) {
              <h2>Letters</h2>
              <table class="lines">
                @for (letter of own.letters; track letter.id) {
                  <tr>
                    <td>
                      <a [href]="letterOf(letter.id)">{{ letter.title }}</a>
                    </td>
                    <td class="muted">given {{ letter.on | day }}</td>
                  </tr>
                }
              </table>
            }
            <h2>Year-end statements</h2>
            <table class="lines">
              @for (statement of own.statements; track statement.id) {
                <tr>
                  <td>
                    <a [href]="statementOf(statement.id)">{{ statement.name }} for {{ statement.period }}</a>
                  </td>
                  <td class="muted">given {{ statement.on | day }}{{ statement.corrected ? ', corrects the one before' : '' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">None was given to you electronically.</td>
                </tr>
              }
            </table>
            @if (own.formsAsked; as asked) {
              <p class="notice">
                On {{ asked | day }} {{ own.employer }} asked whether you want your statements electronically and no longer on paper. You
                can go back to paper at any time; until you agree they come on paper.
              </p>
            }
            <p>
              {{ own.electronicForms ? 'Electronically only, since ' : 'On paper.' }}{{ own.electronicForms | day }}
              <button class="quiet" type="button" (click)="choose(!own.electronicForms)">
                {{ own.electronicForms ? 'On paper again' : 'Electronically only, from now on' }}
              </button>
            </p>
            <wr-problem [problem]="problem()" />
          </section>
          @if (payslip(); as payslip) {
            <section class="beside" aria-label="Payslip">
              @if (figure() && payslip.workings[figure()]; as working) {
                <button class="quiet" type="button" (click)="figure.set('')">‹ The payslip</button>
                <h2>{{ working.label }}</h2>
                <wr-figure-working
                  [working]="working"
                  [workings]="payslip.workings"
                  [difference]="null"
                  personId=""
                  (opened)="figure.set($event)"
                />
              } @else {
                <h2>{{ payslip.payDate | day }}</h2>
                <p class="muted">For {{ payslip | period }}. Every figure opens to how it came about.</p>
                <table class="lines">
                  @for (line of lines(); track line.id) {
                    <tr>
                      <td>
                        <button class="opens" type="button" (click)="figure.set(line.id)">{{ line.label }}</button>
                        @if (line.quantity) {
                          <span class="muted"> {{ line.quantity }}{{ line.rate ? ' × ' + line.rate : '' }}</span>
                        }
                      </td>
                      <td class="num">{{ (takesOff(line.kind) ? -line.amount : line.amount) | money }}</td>
                    </tr>
                  }
                  <tr class="sum">
                    <td><button class="opens" type="button" (click)="figure.set('net')">Net pay</button></td>
                    <td class="num">{{ payslip.totals.net | money }}</td>
                  </tr>
                </table>
                @for (plan of payslip.leave; track plan.figure) {
                  <p class="muted">{{ plan.plan }}: {{ hours(plan.balance) }} hours left after it.</p>
                }
              }
            </section>
          }
        </div>
      } @else if (!loadProblem()) {
        <p class="muted">Fetching your payslips …</p>
      }
      <wr-problem [problem]="loadProblem()" />
    </main>
  `,
  styles: `
    header {
      display: flex;
      align-items: baseline;
      gap: 18px;
      padding: 10px 24px;
      border-top: 4px solid var(--ink);
      border-bottom: 1px solid var(--rule);
    }
    .name {
      font-size: 20px;
    }
    main {
      max-width: 1180px;
      margin: 0 auto;
      padding: 20px 24px 40px;
    }
    .summary {
      display: flex;
      flex-wrap: wrap;
      gap: 10px 44px;
      border-top: 1px solid var(--ink);
      border-bottom: 1px solid var(--rule);
      padding: 10px 0;
      margin: 10px 0 4px;
      font-size: 13px;
      color: var(--ink2);
    }
    .summary strong {
      display: block;
      font:
        600 18px 'Source Serif 4 Variable',
        serif;
      color: var(--ink);
    }
    .two {
      display: grid;
      grid-template-columns: minmax(0, 1fr) minmax(0, 380px);
      gap: 0 40px;
    }
    h2 {
      display: flex;
      align-items: baseline;
      gap: 16px;
      font-size: 18px;
      border-bottom: 1px solid var(--ink);
      padding-bottom: 4px;
      margin: 22px 0 6px;
    }
    h2 .quiet {
      margin-left: auto;
      font:
        400 14px 'Source Sans 3 Variable',
        sans-serif;
    }
    .beside {
      background: var(--sheet);
      border: 1px solid var(--rule);
      border-radius: 3px;
      padding: 4px 18px 18px;
      margin-top: 22px;
      align-self: start;
    }
    td.num + td {
      padding-left: 20px;
    }
    .beside > .quiet {
      margin-top: 12px;
    }
    @media (max-width: 800px) {
      .two {
        grid-template-columns: 1fr;
      }
    }
  `,
})
export class OwnPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly own = this.store.selectSignal(ownStore.selectData);
  protected readonly loadProblem = this.store.selectSignal(ownStore.selectProblem);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly payslip = signal<PayslipView | null>(null);
  protected readonly figure = signal('');
  protected readonly asking = signal(false);
  protected readonly all = signal(false);
  protected readonly hours = hoursWords;
  protected readonly lines = computed(() => this.payslip()?.lines.filter((line) => SHOWN.includes(line.kind)) ?? []);

  constructor() {
    effect(() => {
      if (this.session()) this.load();
    });
    // The latest payslip is what most come for.
    effect(() => {
      const [latest] = this.own()?.payslips ?? [];
      if (latest && !untracked(this.payslip)) this.open(latest.id);
    });
  }

  protected open(id: string): void {
    this.figure.set('');
    this.api.call('ownPayslip', { path: { id } }).subscribe({
      next: (payslip) => this.payslip.set(payslip),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected takesOff = (kind: string): boolean => kind === 'tax' || kind.startsWith('deduction');

  protected pdf(id: string): string {
    return this.api.url('ownPayslipPdf', { path: { id } });
  }

  protected asked(): void {
    this.asking.set(false);
    this.load();
  }

  protected statementOf(id: string): string {
    return this.api.url('ownStatementPdf', { path: { id } });
  }

  protected letterOf(id: string): string {
    return this.api.url('ownLetterPdf', { path: { id } });
  }

  protected choose(electronic: boolean): void {
    this.api.call('setElectronicForms', { body: { electronic } }).subscribe({
      next: () => this.load(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected signOut(): void {
    this.store.dispatch(sessionActions.signOut());
  }

  private load(): void {
    this.store.dispatch(ownStore.load({ input: {}, keep: true }));
  }
}
