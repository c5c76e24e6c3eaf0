import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal } from '@angular/core';
import { counted } from '@woodruff/core';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, MoneyPipe } from '../kit/words';
import { FigureWorking } from './figure-working';
import { workingActions, workingFeature, type Frame } from './working.store';

const LEAVE = 'Leave, in hours';
/** As many people or posted lines as are shown at once: the sum stands above or below them all. */
const AT_ONCE = 200;

/** The panel on the right: how a figure came about, down to the fact, and back to the same place. */
@Component({
  selector: 'wr-working-panel',
  imports: [CountedPipe, DayPipe, FigureWorking, MoneyPipe, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (frame(); as frame) {
      <nav class="back">
        @if (frames().length > 1) {
          <button class="quiet" type="button" (click)="back()">‹ Back</button>
        }
        <button class="quiet right" type="button" (click)="close()" aria-label="Close the panel">Close</button>
      </nav>
      <wr-problem [problem]="problem()" />
      @switch (frame.kind) {
        @case ('figure') {
          @if (working(); as working) {
            <h2 class="head">
              <span>{{ working.label }}</span><span class="num">{{ headAmount() }}</span>
            </h2>
            <p class="muted">{{ payslip()?.name }} · paid {{ payslip()?.payDate | day: 'short' }}</p>
            <wr-figure-working
              [working]="working"
              [workings]="payslip()!.workings"
              [difference]="difference()"
              [personId]="payslip()!.personId"
              (opened)="openFigure($event)"
            />
          } @else if (payslip()) {
            <p class="notice">There is nothing to show: this figure is zero because nothing on the payslip counts for it.</p>
          } @else {
            <p class="muted">Working it out …</p>
          }
        }
        @case ('total') {
          <h2 class="head">
            <span>{{ frame.title }}</span><span class="num">{{ totalOf(frame) | money }}</span>
          </h2>
          <p class="muted">{{ frame.entries.length | counted: 'person' : 'people, largest first' }}</p>
          <table class="lines">
            @for (entry of frame.entries.slice(0, shown()); track entry.payslipId) {
              <tr>
                <td>
                  <button class="opens" type="button" (click)="openPerson(frame, entry)">{{ entry.name }} ›</button>
                </td>
                <td class="num">{{ entry.amount | money }}</td>
              </tr>
            }
          </table>
          @if (frame.entries.length > shown()) {
            <button class="quiet" type="button" (click)="more()">{{ moreWords(frame.entries.length) }}</button>
          }
        }
        @case ('behind') {
          <h2 class="head">
            <span>{{ frame.title }}</span>
          </h2>
          <p class="muted">{{ frame.note }}</p>
          @if (behind(); as behind) {
            <table class="lines">
              @for (entry of behind.entries.slice(0, shown()); track $index) {
                <tr>
                  <td>
                    <button class="opens" type="button" (click)="open({ kind: 'figure', payslipId: entry.payslipId, key: entry.code })">
                      {{ entry.name }} ›
                    </button>
                    <div class="muted">{{ entry.payDate | day }} · {{ entry.label }}</div>
                  </td>
                  <td class="num">{{ entry.amount | money }}</td>
                </tr>
              } @empty {
                <tr>
                  <td class="muted">Nothing was posted for it.</td>
                </tr>
              }
              @if (behind.entries.length) {
                <tr class="sum">
                  <td>{{ behind.entries.length | counted: 'entry' : 'entries' }}</td>
                  <td class="num">{{ behind.total | money }}</td>
                </tr>
              }
            </table>
            @if (behind.entries.length > shown()) {
              <button class="quiet" type="button" (click)="more()">{{ moreWords(behind.entries.length) }}</button>
            }
          } @else {
            <p class="muted">Looking into the ledger …</p>
          }
        }
        @case ('payslip') {
          @if (payslip(); as payslip) {
            <h2 class="head">
              <span>{{ payslip.name }}</span><span class="num">{{ payslip.totals.net | money }}</span>
            </h2>
            <p class="muted">
              Net pay · paid {{ payslip.payDate | day: 'short' }} · <a [routerLink]="['/people', payslip.personId]">person</a>
            </p>
            <ng-content />
            @for (group of groups(); track group.heading) {
              <h3>{{ group.heading }}</h3>
              <table class="lines">
                @for (line of group.lines; track line.id) {
                  <tr>
                    <td>
                      <button class="opens" type="button" (click)="openFigure(line.id)">{{ line.label }}</button>
                      @if (line.quantity) {
                        <span class="muted"> {{ line.quantity }}{{ line.rate ? ' × ' + line.rate : ' pieces' }}</span>
                      }
                    </td>
                    <td class="num">{{ line.amount | money }}</td>
                  </tr>
                }
                @if (group.heading === leaveHeading) {
                  @for (plan of payslip.leave; track plan.figure) {
                    <tr>
                      <td>
                        <button class="opens" type="button" (click)="openFigure(plan.figure)">{{ plan.plan }}, left after it</button>
                      </td>
                      <td class="num">{{ plan.balance | money }}</td>
                    </tr>
                  }
                }
              </table>
            }
            <table class="lines totals">
              @for (total of totals(); track total.key) {
                <tr [class.sum]="total.key === 'net'">
                  <td>
                    <button class="opens" type="button" (click)="openFigure(total.key)">{{ total.label }}</button>
                  </td>
                  <td class="num">{{ total.amount | money }}</td>
                </tr>
              }
            </table>
            @if (payslip.notDue.length) {
              <h3>Not on this payslip</h3>
              @for (item of payslip.notDue; track item.code) {
                <p class="history">
                  {{ item.label }}<br /><span class="muted">{{ item.why }}</span>
                </p>
              }
            }
            @if (payslip.history.length) {
              <h3>Changed by hand</h3>
              @for (entry of payslip.history; track $index) {
                <p class="history">
                  {{ entry.what }}<br /><span class="muted"
                    >{{ entry.who }}, {{ entry.at.slice(0, 10) | day: 'short' }} {{ entry.at.slice(11, 16) }}</span
                  >
                </p>
              }
            }
          } @else {
            <p class="muted">Opening the payslip …</p>
          }
        }
      }
    }
  `,
  styles: `
    :host {
      display: block;
      font-size: 14px;
    }
    .back {
      display: flex;
      min-height: 24px;
      margin-bottom: 6px;
    }
    .head {
      display: flex;
      justify-content: space-between;
      gap: 14px;
      font-size: 18px;
      align-items: baseline;
    }
    p.muted {
      margin: 2px 0 10px;
    }
    h3 {
      margin: 16px 0 2px;
      font-size: 15px;
    }
    .totals {
      margin-top: 14px;
      border-top: 1px solid var(--ink);
    }
    .history {
      margin: 6px 0;
    }
  `,
})
export class WorkingPanel {
  /** The person's page or a return may show the panel without the ways to edit. */
  readonly label = input('Working');
  private readonly store = inject(Store);
  protected readonly frames = this.store.selectSignal(workingFeature.selectFrames);
  protected readonly frame = this.store.selectSignal(workingFeature.selectFrame);
  private readonly loaded = this.store.selectSignal(workingFeature.selectPayslip);
  protected readonly difference = this.store.selectSignal(workingFeature.selectDifference);
  protected readonly behind = this.store.selectSignal(workingFeature.selectBehind);
  protected readonly problem = this.store.selectSignal(workingFeature.selectProblem);
  /** A longer list unfolds; another frame begins folded. */
  protected readonly shown = linkedSignal({ source: this.frame, computation: () => AT_ONCE });
  protected readonly payslip = computed(() => {
    const frame = this.frame();
    const payslip = this.loaded();
    return frame && 'payslipId' in frame && payslip?.id === frame.payslipId ? payslip : null;
  });
  protected readonly working = computed(() => {
    const frame = this.frame();
    const payslip = this.payslip();
    if (frame?.kind !== 'figure' || !payslip) return null;
    // A figure of the ledger is named by its code; on the payslip it may stand on a line of its own.
    return payslip.workings[frame.key] ?? payslip.workings[payslip.lines.find((line) => line.code === frame.key)?.id ?? ''] ?? null;
  });
  protected readonly headAmount = computed(() => {
    const working = this.working();
    return working ? working.amount.replace('-', '−').replace(/\B(?=(\d{3})+(?=\.))/g, ',') : '';
  });
  protected readonly groups = computed(() => {
    const lines = this.payslip()?.lines ?? [];
    const groups: [string, string[]][] = [
      ['Earnings', ['earning']],
      ['Reimbursements', ['reimbursement']],
      ['Benefits in kind', ['benefit-in-kind']],
      ['Before tax', ['deduction-before-tax']],
      ['Taxes', ['tax']],
      ['After tax', ['deduction-after-tax']],
      ['Paid by the employer', ['employer-tax', 'employer-contribution']],
      [LEAVE, ['leave']],
    ];
    return groups
      .map(([heading, kinds]) => ({ heading, lines: lines.filter((line) => kinds.includes(line.kind)) }))
      .filter((group) => group.lines.length);
  });
  protected readonly leaveHeading = LEAVE;
  protected readonly totals = computed(() => {
    const totals = this.payslip()?.totals;
    if (!totals) return [];
    return [
      { key: 'gross', label: 'Gross pay', amount: totals.gross },
      { key: 'deductions', label: 'Deductions', amount: totals.deductions },
      { key: 'taxes', label: 'Taxes', amount: totals.taxes },
      { key: 'net', label: 'Net pay', amount: totals.net },
    ];
  });

  protected open(frame: Frame): void {
    this.store.dispatch(workingActions.open({ frame }));
  }

  protected openFigure(key: string): void {
    const payslip = this.payslip();
    if (payslip) this.open({ kind: 'figure', payslipId: payslip.id, key });
  }

  protected openPerson(frame: Extract<Frame, { kind: 'total' }>, { payslipId, figure }: { payslipId: string; figure?: string }): void {
    this.open({ kind: 'figure', payslipId, key: figure ?? frame.figure });
  }

  protected totalOf(frame: Extract<Frame, { kind: 'total' }>): number {
    return frame.entries.reduce((sum, entry) => sum + entry.amount, 0);
  }

  protected more(): void {
    this.shown.update((shown) => shown * 4);
  }

  protected moreWords(all: number): string {
    return `${counted(this.shown())} of ${counted(all)} are shown: show ${counted(Math.min(all, this.shown() * 4) - this.shown())} more`;
  }

  protected back(): void {
    this.store.dispatch(workingActions.back());
  }

  protected close(): void {
    this.store.dispatch(workingActions.close());
  }
}
