import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { Edits, PayslipView, ProblemDetail, Sheet, SheetRow } from '@woodruff/contract';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { MoneyPipe } from '../kit/words';
import { PayslipByHand } from './payslip-by-hand';
import { PayslipPayment } from './payslip-payment';
import { PayslipReversal } from './payslip-reversal';
import { readAmount, notTaken } from './entries';
import { runActions, type Entry } from './pay-runs.store';

type Open = 'one-off' | 'amount' | 'leave-out' | 'tax' | 'net' | 'note' | 'ahead' | 'rebuild' | null;
const OF_ITEMS: ReadonlySet<string> = new Set([
  'earning',
  'reimbursement',
  'benefit-in-kind',
  'deduction-before-tax',
  'deduction-after-tax',
  'employer-contribution',
]);
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** What can be done with one payslip, beside the sheet. Everything here is for this run only. */
@Component({
  selector: 'wr-payslip-edit',
  imports: [MoneyPipe, PayslipByHand, PayslipPayment, PayslipReversal, Problem, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (row(); as row) {
      @if (editable()) {
        <p class="only muted">This run only:</p>
        <div class="by-use">
          <span class="muted">Pay</span>
          <div class="row-of">
            <button class="quiet" type="button" (click)="show('one-off')">Add a one-off</button>
            <button class="quiet" type="button" (click)="show('amount')">Change an amount</button>
            <button class="quiet" type="button" (click)="show('leave-out')">Leave an item out</button>
          </div>
          <span class="muted">Tax</span>
          <div class="row-of">
            <button class="quiet" type="button" (click)="show('tax')">Override a tax</button>
            <button class="quiet" type="button" (click)="show('net')">Gross up to a net</button>
          </div>
          <span class="muted">Payslip</span>
          <div class="row-of">
            <button class="quiet" type="button" (click)="show('note')">Note</button>
            @if (pack()?.paysAhead) {
              <button class="quiet" type="button" (click)="show('ahead')">Pay weeks ahead</button>
            }
            <button class="quiet" type="button" (click)="enter({ included: !row.included })">
              {{ row.included ? 'Leave out of this run' : 'Include again in this run' }}
            </button>
            <a class="quiet" routerLink="/pay-runs/special" [queryParams]="second()">Second payslip …</a>
            @if (edited()) {
              <button class="quiet" type="button" (click)="show('rebuild')">Rebuild from set-up</button>
            }
          </div>
        </div>
        <wr-payslip-by-hand
          [sheet]="sheet()"
          [row]="row"
          [shown]="shown()"
          (toChange)="changeOneOff($event)"
          (refused)="problem.set($event)"
        />
      }
      @if (row.edits.ahead; as ahead) {
        <p class="edit">
          Paid {{ ahead }} further {{ ahead === 1 ? 'period' : 'periods' }} ahead
          @if (editable()) {
            <button class="quiet" type="button" (click)="enter({ ahead: 0 })">as usual</button>
          }
        </p>
      }
      @if (row.edits.note) {
        <p class="edit">Note: {{ row.edits.note }}</p>
      }
      @switch (open()) {
        @case ('one-off') {
          <form [formGroup]="oneOff" (ngSubmit)="addOneOff()" class="small">
            <label class="field"
              >Item
              <select formControlName="item">
                @for (item of sheet().oneOffItems; track item.code) {
                  <option [value]="item.code">{{ item.name }}</option>
                }
              </select></label
            >
            <label class="field">Amount <input formControlName="amount" inputmode="decimal" /></label>
            <label class="field">Note on it <input formControlName="note" /></label>
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit">
                {{ changing() ? 'Save it on this payslip' : 'Add it to this payslip' }}</button><button
                class="quiet"
                type="button"
                (click)="show(null)"
              >
                Close
              </button>
            </div>
          </form>
        }
        @case ('amount') {
          <form [formGroup]="given" (ngSubmit)="giveAmount()" class="small">
            <label class="field"
              >Item
              <select formControlName="item">
                @for (line of changeable(); track line.id) {
                  <option [value]="line.code">{{ line.label }}, {{ line.amount | money }}</option>
                }
              </select></label
            >
            <label class="field">Amount this once <input formControlName="amount" inputmode="decimal" /></label>
            <label class="field">Note on its working <input formControlName="note" /></label>
            <p class="muted">Limits hold all the same. From the next payslip on it is as set up.</p>
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit">Use this amount once</button
              ><button class="quiet" type="button" (click)="show(null)">Close</button>
            </div>
          </form>
        }
        @case ('leave-out') {
          <form class="small">
            @for (line of changeable(); track line.id) {
              <p class="edit">
                {{ line.label }} {{ line.amount | money }}
                <button class="quiet" type="button" (click)="leaveOut(line.code)">leave out</button>
              </p>
            } @empty {
              <p class="muted">There is no recurring item on this payslip.</p>
            }
          </form>
        }
        @case ('tax') {
          <form [formGroup]="tax" (ngSubmit)="override()" class="small">
            <label class="field"
              >Tax
              <select formControlName="tax">
                @for (line of taxes(); track line.code) {
                  <option [value]="line.code">{{ line.label }}</option>
                }
              </select></label
            >
            <label class="field">Amount <input formControlName="amount" inputmode="decimal" /></label>
            <label class="field">Reason <input formControlName="reason" /></label>
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit">Use this amount once</button
              ><button class="quiet" type="button" (click)="show(null)">Close</button>
            </div>
          </form>
        }
        @case ('net') {
          <form [formGroup]="wanted" (ngSubmit)="findGross()" class="small">
            <label class="field">Net pay wanted <input formControlName="net" inputmode="decimal" /></label>
            <label class="field"
              >Reached by
              <select formControlName="item">
                @for (item of earnings(); track item.code) {
                  <option [value]="item.code">{{ item.name }}</option>
                }
              </select></label
            >
            <wr-problem [problem]="problem()" />
            <div class="form-actions">
              <button class="main-action" type="submit">Find the gross and add it</button
              ><button class="quiet" type="button" (click)="show(null)">Close</button>
            </div>
          </form>
        }
        @case ('note') {
          <form [formGroup]="note" (ngSubmit)="saveNote()" class="small">
            <label class="field">Printed on the payslip <textarea formControlName="text" rows="3"></textarea></label>
            <div class="form-actions">
              <button class="main-action" type="submit">Save the note</button
              ><button class="quiet" type="button" (click)="show(null)">Close</button>
            </div>
          </form>
        }
        @case ('ahead') {
          <form [formGroup]="ahead" (ngSubmit)="saveAhead()" class="small">
            <label class="field"
              >Further pay periods that are paid with this one
              <input formControlName="periods" inputmode="numeric" />
              <small>Such as a holiday: enter its pay above; tax and contributions go by all the periods.</small>
            </label>
            <div class="form-actions">
              <button class="main-action" type="submit">Pay them ahead</button
              ><button class="quiet" type="button" (click)="show(null)">Close</button>
            </div>
          </form>
        }
        @case ('rebuild') {
          <div class="notice">
            Rebuilding discards what was changed by hand on this payslip:
            @for (loss of losses(); track loss) {
              <div>{{ loss }}</div>
            }
            <div class="form-actions">
              <button class="danger" type="button" (click)="rebuild()">Discard and rebuild</button
              ><button class="quiet" type="button" (click)="show(null)">Keep it</button>
            </div>
          </div>
        }
      }
    }
    @if (!open()) {
      <wr-problem [problem]="problem()" />
    }
    @let payslip = shown();
    @if (reversing()) {
      <wr-payslip-reversal [payslipId]="payslip.id" (left)="reversing.set(false)" />
    }
    @if (payslip.state !== 'reversal') {
      <wr-payslip-payment
        [payslip]="payslip"
        [once]="row()?.edits?.payment"
        [editable]="editable()"
        [mayPay]="mayReverse()"
        (chosen)="payBy($event)"
      />
    }
    <div class="row-of acts">
      <a class="quiet" [href]="pdf()" target="_blank">Payslip as PDF</a>
      @if (payslip.state === 'posted' && mayReverse() && !reversing()) {
        <button class="quiet" type="button" (click)="reversing.set(true)">Reverse this payslip …</button>
      }
    </div>
    @for (found of payslip.problems; track found.sentence) {
      <p class="notice" [class.bad]="found.weight === 'stop'">{{ found.sentence }}</p>
    }
  `,
  styles: `
    .only {
      margin: 6px 0 2px;
    }
    .by-use {
      display: grid;
      grid-template-columns: 52px 1fr;
      align-items: baseline;
      gap: 4px 10px;
      font-size: 13px;
      margin: 4px 0 8px;
    }
    .by-use .row-of {
      gap: 4px 14px;
    }
    .acts {
      gap: 6px 14px;
      font-size: 13px;
      margin: 4px 0 8px;
    }
    .edit {
      margin: 4px 0;
      border-left: 3px solid var(--ochre);
      padding-left: 8px;
    }
    .small {
      background: var(--entry);
      border: 1px solid var(--rule);
      padding: 10px 12px;
      display: grid;
      gap: 8px;
      border-radius: 3px;
    }
  `,
})
export class PayslipEdit {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly sheet = input.required<Sheet>();
  readonly shown = input.required<PayslipView>();
  readonly editable = input(false);
  readonly mayReverse = input(false);
  /** Stays the same while the payslip is calculated again: what is being entered stays what it is. */
  private readonly payslipId = computed(() => this.shown().id);
  protected readonly open = signal<Open>(null);
  /** The payslip whose reversal is open; another payslip begins without it. */
  protected readonly reversing = linkedSignal({ source: this.payslipId, computation: () => false });
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly losses = signal<string[]>([]);
  protected readonly oneOff = new FormGroup({ item: text(), amount: text(), note: text() });
  /** The one-off that the form changes; none when it adds one, as on another payslip. */
  protected readonly changing = linkedSignal<string, string | null>({ source: this.payslipId, computation: () => null });
  protected readonly given = new FormGroup({ item: text(), amount: text(), note: text() });
  protected readonly tax = new FormGroup({ tax: text(), amount: text(), reason: text() });
  protected readonly wanted = new FormGroup({ net: text(), item: text() });
  protected readonly note = new FormGroup({ text: text() });
  protected readonly ahead = new FormGroup({ periods: text() });
  protected readonly pack = injectPack();
  protected readonly row = computed((): SheetRow | null => this.sheet().rows.find((row) => row.payslipId === this.shown().id) ?? null);
  protected readonly edited = computed(() => Object.keys(this.row()?.edits ?? {}).length > 0);
  protected readonly taxes = computed(() => this.shown().lines.filter((line) => line.kind === 'tax'));
  protected readonly earnings = computed(() => this.sheet().oneOffItems.filter((item) => item.kind === 'earning'));
  /** Lines of recurring items, which are their own figure; what is paid by hours or pieces is typed in the sheet. */
  protected readonly changeable = computed(() =>
    this.shown().lines.filter((line) => OF_ITEMS.has(line.kind) && line.id === line.code && line.quantity === undefined),
  );
  protected readonly pdf = computed(() => this.api.url('payslipPdf', { path: { id: this.shown().id } }));

  protected show(open: Open): void {
    this.problem.set(null);
    this.open.update((now) => (now === open ? null : open));
    const items = this.sheet().oneOffItems;
    this.changing.set(null);
    if (open === 'amount') this.given.reset({ item: this.changeable()[0]?.code ?? '' });
    if (open === 'one-off') this.oneOff.reset({ item: items.find((item) => item.code === 'bonus')?.code ?? items[0]?.code ?? '' });
    if (open === 'net') this.wanted.reset({ item: this.earnings()[0]?.code ?? '' });
    if (open === 'tax') this.tax.reset({ tax: this.taxes()[0]?.code ?? '' });
    if (open === 'note') this.note.reset({ text: this.row()?.edits.note ?? '' });
    if (open === 'rebuild') {
      this.api
        .call('wouldLose', { path: { id: this.sheet().run.id }, query: { payslip: this.shown().id } })
        .subscribe((losses) => this.losses.set(losses.flatMap((loss) => loss.lost)));
    }
  }

  protected enter(entry: Entry): void {
    this.store.dispatch(runActions.enter({ payslipId: this.shown().id, entry }));
    this.open.set(null);
  }

  protected changeOneOff({ id, item, amount, note = '' }: NonNullable<Edits['oneOffs']>[number]): void {
    this.open.set(null);
    this.show('one-off');
    this.changing.set(id);
    this.oneOff.reset({ item, amount, note });
  }

  protected addOneOff(): void {
    const { item, amount, note } = this.oneOff.getRawValue();
    const read = readAmount(amount);
    if ('fault' in read || read.value === null)
      return this.problem.set(notTaken('fault' in read ? read.fault : 'Enter an amount, for example 150.'));
    const all = this.row()?.edits.oneOffs ?? [];
    const number = all.length + 1 + all.filter((other) => other.id === `beside-${all.length + 1}`).length;
    const changing = this.changing();
    const entered = { id: changing ?? `beside-${number}`, item, amount: read.value, ...(note.trim() ? { note: note.trim() } : {}) };
    this.enter({ oneOffs: changing ? all.map((oneOff) => (oneOff.id === changing ? entered : oneOff)) : [...all, entered] });
  }

  protected giveAmount(): void {
    const { item, amount, note } = this.given.getRawValue();
    const read = readAmount(amount);
    if ('fault' in read || read.value === null || !item)
      return this.problem.set(
        notTaken('fault' in read ? read.fault : 'Choose an item and enter its amount on this payslip, for example 60.'),
      );
    this.enter({
      amounts: [
        ...(this.row()?.edits.amounts ?? []).filter((other) => other.item !== item),
        { item, amount: read.value, ...(note.trim() ? { note: note.trim() } : {}) },
      ],
    });
  }

  protected leaveOut(code: string): void {
    this.enter({ leftOut: [...(this.row()?.edits.leftOut ?? []), code] });
  }

  protected override(): void {
    const { tax, amount, reason } = this.tax.getRawValue();
    const read = readAmount(amount);
    if ('fault' in read || read.value === null)
      return this.problem.set(notTaken('fault' in read ? read.fault : 'Enter the amount to withhold, for example 100.'));
    if (reason.trim().length < 3)
      return this.problem.set(notTaken('Give a reason of at least three letters: it is kept with the payslip.'));
    this.enter({
      overrides: [
        ...(this.row()?.edits.overrides ?? []).filter((other) => other.tax !== tax),
        { tax, amount: read.value, reason: reason.trim() },
      ],
    });
  }

  protected findGross(): void {
    const { net, item } = this.wanted.getRawValue();
    const read = readAmount(net);
    if ('fault' in read || read.value === null)
      return this.problem.set(notTaken('fault' in read ? read.fault : 'Enter the net to reach, for example 2600.'));
    this.api.call('grossForNet', { path: { id: this.shown().id }, body: { item, net: read.value } }).subscribe({
      next: ({ amount }) =>
        this.enter({
          oneOffs: [
            ...(this.row()?.edits.oneOffs ?? []).filter((oneOff) => oneOff.id !== 'net-wanted'),
            { id: 'net-wanted', item, amount, note: `So that net pay is ${read.value}` },
          ],
        }),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected payBy(payment: NonNullable<SheetRow['edits']['payment']> | undefined): void {
    this.enter({ payment: payment ?? {} });
  }

  /** A special run with this person and pay date, in which only what is chosen applies. */
  protected readonly second = computed(() => ({ person: this.shown().personId, on: this.shown().payDate }));

  protected saveAhead(): void {
    const periods = Number(this.ahead.getRawValue().periods);
    if (!Number.isInteger(periods) || periods < 1 || periods > 12) return this.problem.set(notTaken('from 1 to 12 further periods'));
    this.enter({ ahead: periods });
    this.show(null);
  }

  protected saveNote(): void {
    this.enter({ note: this.note.getRawValue().text.trim() });
  }

  protected rebuild(): void {
    this.store.dispatch(runActions.rebuild({ runId: this.sheet().run.id, payslip: this.shown().id }));
    this.open.set(null);
  }
}
