import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { FilingView } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { DayPipe, MoneyPipe } from '../kit/words';
import { selectMayPrepare } from '../session/session.store';

type Earlier = NonNullable<FilingView['earlier']>;

/** Pay of before this system: what was entered of it by month, beside the deposits that were made of it. */
@Component({
  selector: 'wr-earlier-pay',
  imports: [DayPipe, FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Paid before this system</h2>
    <p class="muted">
      Pay until {{ earlier().through | day }} was entered as sums. The deposits made of it give the liability by date, and count as deposits
      of the period.
    </p>
    <table class="lines">
      <tr>
        <th>Month</th>
        <th class="num">Entered</th>
        <th class="num">Deposited</th>
        <th class="num">Differs</th>
      </tr>
      @for (row of earlier().months; track row.month) {
        <tr>
          <td>{{ row.month }}</td>
          <td class="num">{{ row.entered | money: 'dash' }}</td>
          <td class="num">{{ row.deposited | money: 'dash' }}</td>
          <td class="num" [class.attention]="earlier().months.length === 1 && row.entered !== row.deposited">
            {{ row.deposited - row.entered | money: 'dash' }}
          </td>
        </tr>
      }
      @if (earlier().months.length > 1) {
        <tr class="sum">
          <td>Sum</td>
          <td class="num">{{ sums().entered | money: 'dash' }}</td>
          <td class="num">{{ sums().deposited | money: 'dash' }}</td>
          <td class="num" [class.attention]="sums().entered !== sums().deposited">
            {{ sums().deposited - sums().entered | money: 'dash' }}
          </td>
        </tr>
      }
    </table>
    @if (earlier().deposits.length) {
      <table class="lines deposits">
        <tr>
          <th>For pay of</th>
          <th>Deposit</th>
          <th class="num">Amount</th>
          <th></th>
        </tr>
        @for (deposit of earlier().deposits; track deposit.id) {
          <tr [class.undone]="deposit.undone !== null">
            <td>{{ deposit.on | day }}</td>
            <td>
              {{ deposit.paidOn | day }}, number {{ deposit.reference }}
              @if (deposit.undone !== null) {
                <div class="muted">Taken back: {{ deposit.undone }}</div>
              }
            </td>
            <td class="num">{{ deposit.amount | money }}</td>
            <td>
              @if (deposit.undone === null && mayPrepare() && undoing() !== deposit.id) {
                <button class="quiet" type="button" (click)="undoing.set(deposit.id)" [attr.aria-label]="'Take back ' + deposit.reference">
                  Take back
                </button>
              }
            </td>
          </tr>
          @if (undoing() === deposit.id) {
            <tr>
              <td colspan="4">
                <form (ngSubmit)="undo(deposit.id)">
                  <label class="field">Why it is taken back <input name="why" [(ngModel)]="reason" maxlength="300" /></label>
                  <wr-problem [problem]="problem()" />
                  <div class="form-actions">
                    <button class="main-action" type="submit">Take the deposit back</button>
                    <button class="quiet" type="button" (click)="undoing.set('')">Cancel</button>
                  </div>
                </form>
              </td>
            </tr>
          }
        }
      </table>
    }
    @if (recording()) {
      <form (ngSubmit)="record()">
        <div class="row">
          <label class="field">For pay of <input type="date" name="on" [(ngModel)]="on" [max]="earlier().through" /></label>
          <label class="field">Deposited on <input type="date" name="paidOn" [(ngModel)]="paidOn" /></label>
        </div>
        <div class="row">
          <label class="field">Amount <input name="amount" inputmode="decimal" [(ngModel)]="amount" /></label>
          <label class="field">Number of the payment <input name="reference" [(ngModel)]="reference" maxlength="80" /></label>
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Record the deposit</button>
          <button class="quiet" type="button" (click)="recording.set(false)">Cancel</button>
        </div>
      </form>
    } @else if (mayPrepare()) {
      <p><button class="quiet" type="button" (click)="recording.set(true)">Record an earlier deposit</button></p>
    }
  `,
  styles: `
    .deposits {
      margin-top: 14px;
    }
    .undone td:not(:nth-child(2)) {
      text-decoration: line-through;
    }
    form {
      display: grid;
      gap: 12px;
      padding: 8px 0 12px;
    }
    .row {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 12px;
    }
  `,
})
export class EarlierPayPart {
  private readonly api = inject(Api);
  readonly filing = input.required<FilingView>();
  readonly earlier = input.required<Earlier>();
  readonly saved = output();
  protected readonly mayPrepare = inject(Store).selectSignal(selectMayPrepare);
  protected readonly recording = signal(false);
  /** The deposit that is being taken back. */
  protected readonly undoing = signal('');
  private readonly saving = saving(() => this.saved.emit());
  protected readonly problem = this.saving.problem;
  protected readonly sums = computed(() =>
    this.earlier().months.reduce((sum, row) => ({ entered: sum.entered + row.entered, deposited: sum.deposited + row.deposited }), {
      entered: 0,
      deposited: 0,
    }),
  );
  protected on = '';
  protected paidOn = '';
  protected amount = '';
  protected reference = '';
  protected reason = '';

  protected record(): void {
    const { filing, period } = this.filing();
    const { on, paidOn, amount, reference } = this;
    this.then(
      this.api.call('recordEarlierDeposit', {
        path: { filing, period: period.key },
        body: { on, paidOn, amount: amount.trim(), reference },
      }),
    );
  }

  protected undo(id: string): void {
    this.then(this.api.call('undoEarlierDeposit', { path: { id }, body: { reason: this.reason } }));
  }

  private then(request: Observable<unknown>): void {
    this.saving.save(request, () => {
      [this.on, this.paidOn, this.amount, this.reference, this.reason] = ['', '', '', '', ''];
      this.undoing.set('');
      this.recording.set(false);
    });
  }
}
