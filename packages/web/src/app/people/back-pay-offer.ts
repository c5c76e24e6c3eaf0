import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BackPay, ProblemDetail } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe, PeriodPipe, SignedPipe } from '../kit/words';
import { itemChoicesStore, payItemsStore } from '../pay-items/pay-items.store';
import { selectMayPrepare } from '../session/session.store';
import { FigureWorking } from '../working/figure-working';

type Period = BackPay['people'][number]['periods'][number];
type Line = Period['lines'][number];

/** Back pay of one person for paid periods from a day on: period by period with its working, hours that came late, taken as one-offs. */
@Component({
  selector: 'wr-back-pay-offer',
  imports: [DayPipe, FigureWorking, FormsModule, MoneyPipe, PeriodPipe, Problem, SignedPipe],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="panel-form">
      <div class="row-of">
        <strong>Back pay</strong>
        <label>for periods that reach <input class="entry" type="date" [ngModel]="from()" (ngModelChange)="from.set($event)" /></label>
        <span class="muted">calculated with the rates, hours and items known now; taxed when it is paid</span>
      </div>
      @if (offer(); as offer) {
        @if (periods().length) {
          <table class="lines">
            <tr>
              <th>Period</th>
              <th>Pay</th>
              <th class="num">As paid</th>
              <th class="num">Now</th>
              <th class="num">Offered before</th>
              <th class="num">Still to be paid</th>
            </tr>
            @for (period of periods(); track period.payslipId) {
              @for (line of period.lines; track line.item) {
                <tr>
                  <td>
                    {{ period | period }}<span class="muted">, paid {{ period.payDate | day: 'short' }}</span>
                  </td>
                  <td>{{ line.label }}</td>
                  <td class="num">{{ line.paid | money }}</td>
                  <td class="num">{{ line.now | money }}</td>
                  <td class="num">{{ line.already | money: 'dash' }}</td>
                  <td class="num">
                    <button class="opens" type="button" (click)="open(period.payslipId, line)">{{ line.difference | signed }}</button>
                  </td>
                </tr>
                @if (opened() === period.payslipId + line.item) {
                  <tr>
                    <td colspan="6">
                      <wr-figure-working
                        [working]="line.workings[figure()]!"
                        [workings]="line.workings"
                        [difference]="null"
                        [personId]="personId()"
                        (opened)="figure.set($event)"
                      />
                    </td>
                  </tr>
                }
              } @empty {
                <tr>
                  <td>{{ period | period }}</td>
                  <td class="muted" colspan="5">as it was paid</td>
                </tr>
              }
              @if (columnsOf(period).length) {
                <tr>
                  <td class="muted">Hours that came late</td>
                  <td colspan="5">
                    @for (column of columnsOf(period); track column) {
                      <label class="muted"
                        >{{ column }}
                        <input
                          class="entry hours"
                          inputmode="decimal"
                          [attr.aria-label]="'Hours of ' + column + ', ' + (period | period)"
                          [ngModel]="late()[period.payslipId]?.[column] ?? period.hours[column]"
                          (ngModelChange)="enter(period.payslipId, column, $event)"
                          [ngModelOptions]="{ updateOn: 'blur' }"
                      /></label>
                    }
                  </td>
                </tr>
              }
            }
            <tr>
              <td colspan="5"><strong>In all</strong></td>
              <td class="num">
                <strong>{{ offer.total | signed }}</strong>
              </td>
            </tr>
          </table>
        } @else {
          <p class="muted">No paid period reaches that day.</p>
        }
      }
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        @if (offer()?.total) {
          <label
            >Paid through
            <select class="entry" [ngModel]="item()" (ngModelChange)="item.set($event)">
              <option value="">each its own item</option>
              @for (one of items(); track one.code) {
                <option [value]="one.code">{{ one.name }}</option>
              }
            </select></label
          >
          <button class="main-action" type="button" (click)="take()">Put {{ offer()!.total | money }} among the one-offs</button>
        }
        <button class="quiet" type="button" (click)="left.emit()">Close</button>
      </div>
    </div>
  `,
  styleUrl: './person-part.scss',
  styles: `
    .entry {
      display: inline-block;
      width: auto;
      margin: 0 0 0 6px;
      font-size: 14px;
    }
    .hours {
      width: 70px;
      text-align: right;
    }
  `,
})
export class BackPayOffer {
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  readonly personId = input.required<string>();
  readonly begins = input.required<string>();
  readonly left = output();
  readonly taken = output<number>();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly all = this.store.selectSignal(payItemsStore.selectData);
  protected readonly from = signal('');
  protected readonly item = signal('');
  protected readonly offer = signal<BackPay | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  /** The line whose working is open, and the figure of it that is shown. */
  protected readonly opened = signal('');
  protected readonly figure = signal('');
  /** Hours that came late, by payslip and column. */
  protected readonly late = signal<Readonly<Record<string, Record<string, string>>>>({});
  protected readonly columnsOf = (period: Period): string[] => Object.keys(period.hours);
  protected readonly items = () => this.all()?.filter((item) => item.kind === 'earning' && !item.retired) ?? [];
  protected readonly periods = () => this.offer()?.people[0]?.periods ?? [];

  constructor() {
    effect(() => this.from.set(this.begins()));
    effect((onCleanup) => {
      if (!this.from()) return;
      this.problem.set(null);
      const answer = this.api.call('backPay', { body: this.asked() }).subscribe({
        next: (offer) => this.offer.set(offer),
        error: (error: unknown) => this.problem.set(problemOf(error)),
      });
      // The answer to what was entered before does not come in over the newer one.
      onCleanup(() => answer.unsubscribe());
    });
    this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    this.store.dispatch(itemChoicesStore.load({ input: {}, keep: true }));
  }

  protected open(payslipId: string, line: Line): void {
    const key = payslipId + line.item;
    this.figure.set(`back-pay:${line.item}`);
    this.opened.update((opened) => (opened === key ? '' : key));
  }

  protected enter(payslipId: string, column: string, hours: string): void {
    this.late.update((late) => ({ ...late, [payslipId]: { ...late[payslipId], [column]: hours || '0' } }));
  }

  protected take(): void {
    this.api.call('takeBackPay', { body: { ...this.asked(), item: this.item() || null, takes: { by: 'next' } } }).subscribe({
      next: ({ added }) => this.taken.emit(added),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private asked() {
    return { from: this.from(), personIds: [this.personId()], hours: this.late() };
  }
}
