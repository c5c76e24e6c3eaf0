import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Review, Sheet } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe, SignedPipe } from '../kit/words';
import { CostChart } from '../today/cost-chart';
import { workingActions } from '../working/working.store';
import { reviewStore } from './pay-runs.store';

const KINDS: [kind: string, heading: string][] = [
  ['earning', 'Earnings'],
  ['reimbursement', 'Reimbursements'],
  ['benefit-in-kind', 'Benefits in kind'],
  ['deduction-before-tax', 'Deductions before tax'],
  ['tax', 'Taxes'],
  ['deduction-after-tax', 'Deductions after tax'],
  ['employer-tax', "Employer's taxes"],
  ['employer-contribution', "Employer's contributions"],
];
const FEW = 8;

/** A run before it is approved: what is unusual, every sum against an earlier run, money needed, what changed in set-up, cost. */
@Component({
  selector: 'wr-run-review',
  imports: [CountedPipe, CostChart, DayPipe, FormsModule, MoneyPipe, Problem, RouterLink, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <wr-problem [problem]="problem()" />
    @if (review(); as review) {
      <div class="row-of top">
        <label
          >Compared with
          <select class="entry" [ngModel]="review.against?.id ?? ''" (ngModelChange)="compare($event)">
            @if (!review.against) {
              <option value="">nothing: no earlier run</option>
            }
            @for (choice of review.choices; track choice.id) {
              <option [value]="choice.id">{{ choice.label }}</option>
            }
          </select></label
        >
      </div>
      <section>
        <h3>Unusual, largest exposure first</h3>
        <table class="lines">
          @for (one of allUnusual() ? review.unusual : review.unusual.slice(0, few); track $index) {
            <tr>
              <td class="who">
                <button class="opens" type="button" (click)="figure(one.payslipId, one.figure)">{{ one.name }}</button>
              </td>
              <td>{{ one.sentence }}</td>
              <td class="num">{{ one.cost | money }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing is unusual.</td>
            </tr>
          }
        </table>
        @if (review.unusual.length > few && !allUnusual()) {
          <button class="quiet" type="button" (click)="allUnusual.set(true)">All {{ review.unusual.length | counted }}</button>
        }
      </section>
      <div class="two">
        <section>
          <h3>{{ review.against ? 'Compared with the run paid ' : 'Every sum' }}{{ review.against?.payDate | day: 'short' }}</h3>
          <table class="lines">
            <tr>
              <th></th>
              <th class="num">People</th>
              <th class="num">Before</th>
              <th class="num">Now</th>
              <th class="num">Change</th>
            </tr>
            @for (group of groups(); track group.heading) {
              <tr class="kind">
                <td colspan="2">{{ group.heading }}</td>
                <td class="num">{{ group.before | money: 'dash' }}</td>
                <td class="num">{{ group.amount | money: 'dash' }}</td>
                <td class="num">{{ group.amount - group.before | signed }}</td>
              </tr>
              @for (line of group.lines; track line.code) {
                <tr>
                  <td class="inner">
                    <button class="opens" type="button" (click)="people(line.label, line.code)">{{ line.label }}</button>
                  </td>
                  <td class="num muted">{{ line.people ? (line.people | counted) : '–' }}</td>
                  <td class="num">{{ line.before | money: 'dash' }}</td>
                  <td class="num">{{ line.amount | money: 'dash' }}</td>
                  <td class="num" [class.attention]="large(line)">{{ line.amount - line.before | signed }}</td>
                </tr>
              }
            }
          </table>
        </section>
        <div>
          <section>
            <h3>Funding needed</h3>
            <table class="lines">
              @for (day of funding(); track day.date) {
                <tr class="kind">
                  <td>{{ day.date | day }}</td>
                  <td class="num">{{ day.amount | money }}</td>
                </tr>
                @for (one of day.lines; track $index) {
                  <tr>
                    <td class="inner">
                      @if (one.code) {
                        <button class="opens" type="button" (click)="people(one.what, one.code)">{{ one.what }}</button>
                      } @else {
                        {{ one.what }}
                      }
                      <span class="muted">{{ one.to }}</span>
                    </td>
                    <td class="num">{{ one.amount | money }}</td>
                  </tr>
                }
              }
            </table>
          </section>
          <section>
            <h3>Cost by department</h3>
            <table class="lines">
              @for (department of review.departments; track department.department) {
                <tr>
                  <td>
                    <button
                      class="opens"
                      type="button"
                      (click)="department && people('Cost, ' + (department.department || 'no department'), '', department.department)"
                    >
                      {{ department.department || 'No department' }}
                    </button>
                    <span class="muted">{{ department.people | counted: 'person' : 'people' }}</span>
                    <div class="share"><div [style.width.%]="widthOf(department.cost)"></div></div>
                  </td>
                  <td class="num">{{ department.cost | money }}</td>
                  <td class="num muted">{{ review.against ? (department.cost - department.before | signed) : '' }}</td>
                </tr>
              }
            </table>
          </section>
          <section>
            <h3>Cost over the last {{ review.history.length }} runs</h3>
            <wr-cost-chart [costs]="review.history" />
          </section>
        </div>
      </div>
      <section>
        <h3>
          What changed in set-up since the {{ review.against ? 'run paid ' : 'last run' }}{{ review.against?.payDate | day: 'short' }}
        </h3>
        <table class="lines">
          @for (change of allChanges() ? review.changes : review.changes.slice(0, few); track $index) {
            <tr>
              <td class="when muted">{{ change.at.slice(0, 10) | day: 'short' }} {{ change.at.slice(11, 16) }}</td>
              <td class="who">
                @if (change.link) {
                  <a [routerLink]="change.link">{{ change.about }}</a>
                } @else {
                  {{ change.about }}
                }
              </td>
              <td>{{ change.what }}</td>
              <td class="num muted">{{ change.who }}</td>
            </tr>
          } @empty {
            <tr>
              <td class="muted">Nothing.</td>
            </tr>
          }
        </table>
        @if (review.changes.length > few && !allChanges()) {
          <button class="quiet" type="button" (click)="allChanges.set(true)">All {{ review.changes.length | counted }}</button>
        }
      </section>
      @if (review.accepted.length) {
        <section>
          <h3>Accepted, with the reason given</h3>
          <table class="lines">
            @for (point of review.accepted; track $index) {
              <tr>
                <td class="who">{{ point.who }}</td>
                <td>{{ point.sentence }}</td>
                <td>{{ point.reason }}</td>
                <td class="num muted">{{ point.by }}</td>
              </tr>
            }
          </table>
        </section>
      }
    } @else if (!problem()) {
      <p class="muted">Adding the run up …</p>
    }
  `,
  styles: `
    .top {
      font-size: 14px;
      margin-top: 8px;
    }
    .entry {
      display: inline-block;
      width: auto;
      margin: 0 0 0 6px;
      font-size: 14px;
    }
    :host {
      display: block;
      position: relative;
    }
    section {
      margin: 16px 0 22px;
    }
    h3 {
      border-bottom: 1px solid var(--ink);
      padding-bottom: 3px;
    }
    .two {
      display: grid;
      grid-template-columns: minmax(0, 1.15fr) minmax(0, 1fr);
      gap: 0 36px;
    }
    .two section {
      margin-top: 0;
    }
    .who {
      width: 190px;
    }
    .when {
      width: 150px;
      white-space: nowrap;
    }
    .kind td {
      font-weight: 600;
      border-bottom-color: var(--rule);
      padding-top: 9px;
    }
    .inner {
      padding-left: 14px !important;
    }
    .share {
      height: 5px;
      margin-top: 3px;
      background: var(--hair);
    }
    .share div {
      height: 100%;
      background: var(--ink);
    }
  `,
})
export class RunReview {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  readonly sheet = input.required<Sheet>();
  /** From the address: the run it is compared with, where it is not the last one. */
  readonly against = input('');
  protected readonly few = FEW;
  protected readonly review = this.store.selectSignal(reviewStore.selectData);
  protected readonly problem = this.store.selectSignal(reviewStore.selectProblem);
  protected readonly allUnusual = signal(false);
  protected readonly allChanges = signal(false);
  protected readonly groups = computed(() =>
    KINDS.map(([kind, heading]) => {
      const lines = this.review()?.lines.filter((line) => line.kind === kind) ?? [];
      return {
        heading,
        lines,
        amount: lines.reduce((sum, line) => sum + line.amount, 0),
        before: lines.reduce((sum, line) => sum + line.before, 0),
      };
    }).filter((group) => group.lines.length),
  );
  protected readonly funding = computed(() => {
    const days = new Map<string, Review['funding']>();
    for (const one of this.review()?.funding ?? []) days.set(one.date, [...(days.get(one.date) ?? []), one]);
    return [...days].map(([date, lines]) => ({ date, lines, amount: lines.reduce((sum, one) => sum + one.amount, 0) }));
  });

  constructor() {
    effect(() => {
      const { id, version } = this.sheet().run;
      const against = this.against();
      // Each change of the run is added up anew.
      if (version >= 0) this.store.dispatch(reviewStore.load({ input: { path: { id }, query: against ? { against } : {} }, keep: true }));
    });
  }

  /** More than a quarter, and more than a hundred. */
  protected large({ amount, before }: Review['lines'][number]): boolean {
    return !!this.review()?.against && Math.abs(amount - before) > 10_000 && Math.abs(amount - before) > 0.25 * Math.abs(before);
  }

  protected widthOf(cost: number): number {
    const most = Math.max(...(this.review()?.departments.map((department) => department.cost) ?? [0]), 1);
    return Math.max(0, (100 * cost) / most);
  }

  protected compare(against: string): void {
    void this.router.navigate([], { queryParams: { against }, queryParamsHandling: 'merge' });
  }

  protected figure(payslipId: string, key: string): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'figure', payslipId, key }, anew: true }));
  }

  /** A sum opens to the people behind it, each of them to the working. */
  protected people(title: string, code: string, department?: string): void {
    const query = { code, ...(department === undefined ? {} : { department }) };
    this.api
      .call('behindRun', { path: { id: this.sheet().run.id }, query })
      .subscribe((entries) =>
        this.store.dispatch(workingActions.open({ frame: { kind: 'total', title, figure: code || 'employer-cost', entries }, anew: true })),
      );
  }
}
