import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { AnswerOf, BodyOf, Effect, FinalPay, Leaving, Person, PersonLeave, ProblemDetail } from '@woodruff/contract';
import { forkJoin } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { DayPipe, DecimalPipe } from '../kit/words';
import { hoursWords } from '../leave/leave-words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { LeavingByLaw, type OwedByLaw } from './leaving-by-law';
import { FinalPayPreview } from './final-pay-preview';
import { FigureWorking } from '../working/figure-working';

const EMPTY = { item: '', amount: '', note: '' };
const NOTICE_NOTE = 'Notice not worked';
const NOTICE = { none: 'none', worked: 'worked', paid: 'paid, not worked', deducted: 'deducted' };

/** A person's leaving: entered after a look at what it changes, and undone as long as it takes. */
@Component({
  selector: 'wr-person-leaving',
  imports: [DayPipe, DecimalPipe, EffectOnRuns, FigureWorking, FinalPayPreview, FormsModule, LeavingByLaw, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Leaving
      @if (mayPrepare() && !leaving() && !open() && !person().facts.left) {
        <button class="quiet" type="button" (click)="begin()">Record leaving</button>
      }
    </h2>
    @if (!open() && leaving(); as leaving) {
      <p>
        Last day {{ leaving.lastDay | day }}: {{ leaving.reason }}. Notice {{ notice[leaving.notice.how]
        }}{{ leaving.notice.given ? ', given ' : '' }}{{ leaving.notice.given ?? null | day }}{{ leaving.notice.until ? ', until ' : ''
        }}{{ leaving.notice.until ?? null | day }}.
        @if (leaving.runId) {
          <a [routerLink]="['/pay-runs', leaving.runId]">The final pay</a>,
          {{ leaving.state === 'approved' ? 'approved' : 'not approved yet' }}.
        } @else {
          The final pay is with the regular run.
        }
      </p>
      <div class="row-of">
        <a class="quiet" [href]="pdf()" target="_blank">Statement for the employee, PDF</a>
        @if (leaving.certificate) {
          <a class="quiet" [href]="pdf('leavingCertificate')" target="_blank">{{ leaving.certificate }}, PDF</a>
        }
        @if (mayPrepare() && leaving.entered && leaving.state !== 'approved') {
          <button class="quiet" type="button" (click)="change(leaving.entered)">Change it</button>
        }
        @if (mayPrepare()) {
          <label>Why it is undone <input class="entry" name="why" [(ngModel)]="why" /></label>
          <button class="quiet" type="button" (click)="undo()">Undo the leaving</button>
        }
      </div>
      <wr-problem [problem]="problem()" />
    } @else if (open()) {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form">
          <label class="field"
            >Last day <input type="date" name="lastDay" [(ngModel)]="lastDay" (ngModelChange)="effect.set(null)"
          /></label>
          <label class="field"
            >How it ends
            <select name="kind" [(ngModel)]="kind" (ngModelChange)="effect.set(null)">
              <option value="">not known</option>
              @for (one of pack()?.leaving?.kinds ?? []; track one.code) {
                <option [value]="one.code">{{ one.label }}</option>
              }
            </select></label
          >
          <label class="field">Reason <input name="reason" [(ngModel)]="reason" placeholder="resigned, season over …" /></label>
          <label class="field"
            >Notice
            <select name="how" [(ngModel)]="how">
              <option value="none">none</option>
              <option value="worked">worked</option>
              <option value="paid">paid, not worked</option>
              <option value="deducted">deducted</option>
            </select></label
          >
          <label class="field">Notice given on <input type="date" name="given" [(ngModel)]="given" /></label>
          @if (how === 'paid' || how === 'deducted') {
            <label class="field"
              >Notice goes until
              <input type="date" name="until" [(ngModel)]="until" (ngModelChange)="noticeTill()" />
              @if (noticeSum(); as sum) {
                <small>comes to {{ sum.amount | decimal: 2 }}; put in below</small>
              }
            </label>
          }
          <label class="field"
            >Final pay
            <select name="in" [(ngModel)]="finalIn" (ngModelChange)="effect.set(null)">
              <option value="next-run">with the next regular run</option>
              <option value="own-run">in a run of its own</option>
            </select></label
          >
          @if (finalIn === 'own-run') {
            <label class="field"
              >Paid on <input type="date" name="payDate" [(ngModel)]="payDate" (ngModelChange)="effect.set(null)"
            /></label>
            <label class="field"
              >{{ pack()?.paidBeside?.label }}
              <select name="taxMethod" [(ngModel)]="taxMethod" (ngModelChange)="effect.set(null)">
                @for (method of pack()?.paidBeside?.methods; track method.code) {
                  <option [value]="method.code">{{ method.label }}</option>
                }
              </select></label
            >
            <label class="check"
              ><input type="checkbox" name="ordinary" [(ngModel)]="ordinaryDeductions" (ngModelChange)="effect.set(null)" /> With the
              ordinary deductions</label
            >
          }
          @if (leaves().length) {
            <label class="check"
              ><input type="checkbox" name="paysLeave" [(ngModel)]="paysLeave" (ngModelChange)="effect.set(null)" /> Pay out what is left of
              leave</label
            >
          }
        </div>
        @if (leaves().length) {
          <p class="muted">
            Leave on file:
            @for (plan of leaves(); track plan.memberId; let last = $last) {
              {{ plan.plan }} {{ hours(plan.balance) }} hours{{ plan.ahead ? ', ' + hours(plan.ahead) + ' approved ahead' : ''
              }}{{ last ? '.' : ';' }}
            }
          </p>
        }
        <wr-leaving-by-law [personId]="person().id" [lastDay]="lastDay" [kind]="kind" (owed)="putIn($event)" />
        <table class="lines">
          <tr>
            <th>Beside the last hours: notice, lump sums</th>
            <th>Amount</th>
            <th>Note</th>
          </tr>
          @for (line of lines(); track $index; let at = $index) {
            <tr>
              <td>
                <select
                  class="entry"
                  [name]="'item' + at"
                  [attr.aria-label]="'Item, line ' + (at + 1)"
                  [(ngModel)]="line.item"
                  (ngModelChange)="grow()"
                >
                  <option value=""></option>
                  @for (item of items(); track item.code) {
                    <option [value]="item.code">{{ item.name }}</option>
                  }
                </select>
              </td>
              <td>
                <input
                  class="entry"
                  inputmode="decimal"
                  [name]="'amount' + at"
                  [attr.aria-label]="'Amount, line ' + (at + 1)"
                  [(ngModel)]="line.amount"
                  (ngModelChange)="effect.set(null)"
                />
              </td>
              <td><input class="entry" [name]="'note' + at" [attr.aria-label]="'Note, line ' + (at + 1)" [(ngModel)]="line.note" /></td>
            </tr>
          }
        </table>
        <p class="muted">Recurring items end with the final pay. Everything comes back when the leaving is undone.</p>
        @if (noticeSum(); as sum) {
          @if (sum.workings['notice']; as working) {
            <h3>Notice not worked</h3>
            <wr-figure-working
              [working]="sum.workings[figure()] ?? working"
              [workings]="sum.workings"
              [difference]="null"
              [personId]="person().id"
              (opened)="figure.set($event)"
            />
          }
        }
        @if (effect(); as effect) {
          <wr-final-pay-preview [pay]="finalPay()" [personId]="person().id" />
          <h3>In the open runs</h3>
          <wr-effect [effect]="effect" />
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          @if (effect()) {
            <button class="main-action" type="submit">{{ leaving() ? 'Save the leaving as changed' : 'Save the leaving' }}</button>
          } @else {
            <button class="main-action" type="button" (click)="preview()">Show what it changes</button>
          }
          <button class="quiet" type="button" (click)="open.set(false)">Cancel</button>
        </div>
      </form>
    } @else {
      <p class="muted">
        {{ person().facts.left ? 'Left before leavings were entered here: only the last day is on file.' : 'No leaving is recorded.' }}
      </p>
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    .entry {
      display: inline-block;
      width: auto;
      margin: 0 6px 0 0;
      font-size: 14px;
    }
    form > p.muted {
      margin: 8px 0 12px;
    }
  `,
})
export class PersonLeaving {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly employer = this.store.selectSignal(selectEmployer);
  private readonly all = this.store.selectSignal(payItemsStore.selectData);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly notice = NOTICE;
  protected readonly leaving = signal<Leaving>(null);
  protected readonly open = signal(false);
  protected readonly effect = signal<Effect | null>(null);
  protected readonly finalPay = signal<FinalPay | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly lines = signal<{ item: string; amount: string; note: string }[]>([]);
  protected readonly leaves = signal<PersonLeave['plans']>([]);
  protected readonly noticeSum = signal<AnswerOf<'noticePay'> | null>(null);
  protected readonly figure = signal('notice');
  protected readonly hours = hoursWords;
  protected readonly items = () =>
    this.all()?.filter((item) => !item.retired && item.kind !== 'employer-contribution' && item.method.by !== 'salary') ?? [];
  protected lastDay = '';
  protected readonly pack = injectPack();
  protected kind = '';
  protected reason = '';
  protected how: keyof typeof NOTICE = 'none';
  protected given = '';
  protected until = '';
  protected finalIn: 'next-run' | 'own-run' = 'next-run';
  protected payDate = '';
  protected taxMethod = this.pack()?.paidBeside.methods[0]?.code ?? '';
  protected ordinaryDeductions = true;
  protected paysLeave = true;
  protected why = '';

  constructor() {
    effect(() => this.fetch(this.person().id));
  }

  protected begin(): void {
    const today = this.employer()?.today ?? '';
    Object.assign(this, { lastDay: today, kind: '', reason: '', how: 'none', given: '', until: '', finalIn: 'next-run', payDate: today });
    this.lines.set([{ ...EMPTY }]);
    this.openForm();
  }

  /** The form as it was entered; saved, it takes the place of what was. */
  protected change({ lastDay, kind, reason, notice, amounts, paysLeave, finalPay }: NonNullable<NonNullable<Leaving>['entered']>): void {
    const { how, given, until } = notice;
    Object.assign(this, {
      lastDay,
      kind: kind ?? '',
      reason,
      how,
      given: given ?? '',
      until: until ?? '',
      paysLeave,
      finalIn: finalPay.in,
    });
    if (finalPay.in === 'own-run') {
      const { payDate, taxMethod, ordinaryDeductions } = finalPay;
      Object.assign(this, { payDate, taxMethod, ordinaryDeductions });
    } else this.payDate = this.employer()?.today ?? '';
    this.lines.set([...amounts.map((amount) => ({ ...amount })), { ...EMPTY }]);
    this.openForm();
  }

  private openForm(): void {
    this.noticeSum.set(null);
    this.problem.set(null);
    this.effect.set(null);
    this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    this.api
      .call('personLeave', { path: { id: this.person().id } })
      .subscribe(({ plans }) => this.leaves.set(plans.filter((plan) => plan.balance !== 0)));
    this.open.set(true);
  }

  protected grow(): void {
    this.effect.set(null);
    if (this.lines().at(-1)?.item) this.lines.update((lines) => [...lines, { ...EMPTY }]);
  }

  /** What the notice comes to goes into its own line, which the clerk may change. */
  protected noticeTill(): void {
    this.effect.set(null);
    this.noticeSum.set(null);
    const query = { lastDay: this.lastDay, until: this.until };
    if (!this.lastDay || !this.until) return;
    this.problem.set(null);
    this.api.call('noticePay', { path: { id: this.person().id }, query }).subscribe({
      next: (sum) => {
        this.noticeSum.set(sum);
        const amount = this.how === 'deducted' ? `-${sum.amount}` : sum.amount;
        const line = { item: this.lumpSum(), amount, note: NOTICE_NOTE };
        this.lines.update((lines) => [line, ...lines.filter((one) => one.note !== NOTICE_NOTE)]);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  /** What the law wants paid becomes a line, which the clerk may change. */
  protected putIn({ item, amount, label }: OwedByLaw): void {
    this.effect.set(null);
    const line = { item: item ?? '', amount: amount ?? '', note: label };
    this.lines.update((lines) => [line, ...lines.filter(({ note }) => note !== label)]);
  }

  /** An earning that is taxed as a lump sum, where there is one. */
  private lumpSum(): string {
    const earnings = this.items().filter((item) => item.kind === 'earning' && item.method.by === 'amount');
    return (earnings.find((item) => item.treatment === this.pack()?.paidBeside.treatment) ?? earnings[0])?.code ?? '';
  }

  protected preview(): void {
    this.problem.set(null);
    const call = this.call();
    forkJoin([this.api.rehearse(this.leaving() ? 'changeLeaving' : 'leave', call), this.api.call('finalPay', call)]).subscribe({
      next: ([effect, finalPay]) => {
        this.effect.set(effect);
        this.finalPay.set(finalPay);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected save(): void {
    if (!this.effect()) return this.preview();
    this.api.call(this.leaving() ? 'changeLeaving' : 'leave', this.call()).subscribe({
      next: () => {
        this.open.set(false);
        this.fetch(this.person().id);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected undo(): void {
    this.problem.set(null);
    this.api.call('undoLeaving', { path: { id: this.person().id }, body: { reason: this.why } }).subscribe({
      next: () => {
        this.why = '';
        this.fetch(this.person().id);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected pdf(of: 'leavingPdf' | 'leavingCertificate' = 'leavingPdf'): string {
    return this.api.url(of, { path: { id: this.person().id } });
  }

  private fetch(id: string): void {
    this.api.call('leaving', { path: { id } }).subscribe((leaving) => this.leaving.set(leaving));
  }

  private call() {
    const body: BodyOf<'leave'> = {
      lastDay: this.lastDay,
      reason: this.reason,
      ...(this.kind ? { kind: this.kind } : {}),
      notice: {
        how: this.how,
        given: this.given || null,
        until: this.how === 'paid' || this.how === 'deducted' ? this.until || null : null,
      },
      paysLeave: this.paysLeave,
      amounts: this.lines().filter((line) => line.item && line.amount),
      finalPay:
        this.finalIn === 'next-run'
          ? { in: 'next-run' }
          : { in: 'own-run', payDate: this.payDate, taxMethod: this.taxMethod, ordinaryDeductions: this.ordinaryDeductions },
    };
    return { path: { id: this.person().id }, body };
  }
}
