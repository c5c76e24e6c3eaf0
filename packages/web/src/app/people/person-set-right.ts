import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { Effect, Person, ProblemDetail, Recovery, Refundable } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { DayPipe, MoneyPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { selectMayPrepare } from '../session/session.store';
import { workingActions } from '../working/working.store';

/** What was paid or taken too much: recovered over several payslips, or given back with the next. */
@Component({
  selector: 'wr-person-set-right',
  imports: [DayPipe, EffectOnRuns, FormsModule, MoneyPipe, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>
      Overpaid or overwithheld
      @if (mayPrepare() && !open()) {
        <button class="quiet" type="button" (click)="begin('recover')">Recover pay</button>
        @if (refundable().length) {
          <button class="quiet" type="button" (click)="begin('refund')">Refund a deduction</button>
        }
      }
    </h2>
    @if (open(); as what) {
      <form class="panel-form" (ngSubmit)="save(what)">
        @if (what === 'recover') {
          <p class="muted">
            Taken back as negative pay on the coming regular payslips, so that tax follows, and never below the minimum wage of the hours
            paid.
          </p>
          <div class="form">
            <label class="field"
              >Paid through
              <select name="item" [(ngModel)]="itemId" (ngModelChange)="forget()">
                <option value=""></option>
                @for (item of earnings(); track item.id) {
                  <option [value]="item.id">{{ item.name }}</option>
                }
              </select></label
            >
            <label class="field"
              >Overpaid, total <input name="amount" inputmode="decimal" [(ngModel)]="amount" (ngModelChange)="forget()"
            /></label>
            <label class="field"
              >Taken back each payslip <input name="per" inputmode="decimal" [(ngModel)]="perPayslip" (ngModelChange)="forget()"
            /></label>
            <label class="field">Reason <input name="reason" [(ngModel)]="reason" (ngModelChange)="forget()" /></label>
          </div>
        } @else {
          <div class="form">
            <label class="field"
              >Deduction
              <select name="deduction" [(ngModel)]="itemId" (ngModelChange)="chooseRefund()">
                <option value=""></option>
                @for (item of refundable(); track item.itemId) {
                  <option [value]="item.itemId">{{ item.name }}</option>
                }
              </select></label
            >
            <label class="field"
              >Given back <input name="amount" inputmode="decimal" [(ngModel)]="amount" (ngModelChange)="forget()"
            /></label>
            <label class="field">Reason <input name="reason" [(ngModel)]="reason" (ngModelChange)="forget()" /></label>
          </div>
          @if (refunded(); as of) {
            <p class="muted">
              Taken this year{{ of.refunded ? ', ' : '' }}
              @if (of.refunded) {
                <span>{{ of.refunded | money }} of it given back or waiting to be</span>
              }
              :
            </p>
            <div class="taken">
              @for (one of of.taken; track one.payslipId) {
                <label
                  ><input type="checkbox" [checked]="dates().has(one.payslipId)" (change)="toggle(one.payslipId)" />
                  {{ one.payDate | day: 'short' }} <span class="num">{{ one.amount | money }}</span></label
                >
              }
            </div>
          }
        }
        @if (effect(); as effect) {
          <wr-effect [effect]="effect" />
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          @if (effect()) {
            <button class="main-action" type="submit">{{ what === 'recover' ? 'Recover it' : 'Give it back with the next run' }}</button>
          } @else {
            <button class="main-action" type="button" [disabled]="!itemId || !amount" (click)="preview(what)">Show what it changes</button>
          }
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    @for (recovery of recoveries(); track recovery.id) {
      <div class="recovery">
        <div class="row-of">
          <strong>{{ recovery.item }}</strong>
          <span
            >{{ recovery.recovered | money }} of {{ recovery.total | money }} recovered, {{ recovery.perPayslip | money }} a payslip</span
          >
          <span class="muted">{{ recovery.reason }}</span>
          @if (recovery.ended) {
            <span class="muted">ended: {{ recovery.ended }}</span>
          } @else if (mayPrepare() && recovery.recovered < recovery.total) {
            <button class="quiet" type="button" (click)="ending.set(recovery.id)">End it …</button>
          }
        </div>
        <div class="bar-of-progress"><div [style.width.%]="(100 * recovery.recovered) / recovery.total"></div></div>
        @if (ending() === recovery.id) {
          <form class="row-of" (ngSubmit)="end(recovery)">
            <label>Why it ends <input class="entry" name="why" [(ngModel)]="why" /></label>
            <button class="quiet" type="submit">End the recovery</button>
            <button class="quiet" type="button" (click)="ending.set(null)">Go on with it</button>
          </form>
          <wr-problem [problem]="problem()" />
        }
        @for (one of recovery.taken; track $index) {
          <span class="muted one"
            ><button class="opens" type="button" (click)="openPayslip(one.payslipId)">{{ one.payDate | day: 'short' }}</button>
            {{ one.amount | money }}{{ one.state === 'reversal' ? ', reversal' : '' }}</span
          >
        }
      </div>
    } @empty {
      @if (!open()) {
        <p class="muted">Nothing is recovered.</p>
      }
    }
  `,
  styleUrl: './person-part.scss',
  styles: `
    .taken {
      columns: 3;
      font-size: 14px;
      max-width: 720px;
    }
    .taken label {
      display: block;
    }
    .recovery {
      margin: 8px 0;
      font-size: 14px;
    }
    .one {
      margin-right: 18px;
    }
    .entry {
      display: inline-block;
      width: 260px;
      margin: 0 0 0 6px;
      font-size: 14px;
    }
  `,
})
export class PersonSetRight {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly earnings = computed(() => this.items()?.filter((item) => !item.retired && item.kind === 'earning') ?? []);
  protected readonly recoveries = signal<Recovery[]>([]);
  protected readonly refundable = signal<Refundable>([]);
  protected readonly open = signal<'recover' | 'refund' | null>(null);
  protected readonly ending = signal<string | null>(null);
  protected readonly refunded = signal<Refundable[number] | null>(null);
  protected readonly dates = signal<ReadonlySet<string>>(new Set());
  protected readonly effect = signal<Effect | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected itemId = '';
  protected amount = '';
  protected perPayslip = '';
  protected reason = '';
  protected why = '';

  constructor() {
    effect(() => this.fetch(this.person().id));
  }

  protected begin(what: 'recover' | 'refund'): void {
    Object.assign(this, { itemId: '', amount: '', perPayslip: '', reason: '' });
    this.refunded.set(null);
    this.forget();
    this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    this.open.set(what);
  }

  /** What was shown no longer holds once something else is entered. */
  protected forget(): void {
    this.effect.set(null);
    this.problem.set(null);
  }

  protected chooseRefund(): void {
    this.forget();
    this.dates.set(new Set());
    this.refunded.set(this.refundable().find((one) => one.itemId === this.itemId) ?? null);
  }

  /** The amount is the sum of the payslips chosen; it can still be typed over. */
  protected toggle(payslipId: string): void {
    const next = new Set(this.dates());
    if (!next.delete(payslipId)) next.add(payslipId);
    this.dates.set(next);
    const sum = this.refunded()?.taken.reduce((all, one) => (next.has(one.payslipId) ? all + one.amount : all), 0) ?? 0;
    this.amount = (sum / 100).toFixed(2);
    this.forget();
  }

  protected preview(what: 'recover' | 'refund'): void {
    this.forget();
    const asked: Observable<Effect> =
      what === 'recover' ? this.api.rehearse('addRecovery', this.recovery()) : this.api.rehearse('refund', this.refund());
    asked.subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  protected save(what: 'recover' | 'refund'): void {
    if (!this.effect()) return this.preview(what);
    const request: Observable<unknown> =
      what === 'recover' ? this.api.call('addRecovery', this.recovery()) : this.api.call('refund', this.refund());
    this.then(request);
  }

  protected end(recovery: Recovery): void {
    this.then(this.api.call('endRecovery', { path: { id: this.person().id, recovery: recovery.id }, body: { reason: this.why } }));
  }

  protected openPayslip(payslipId: string): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'payslip', payslipId }, anew: true }));
  }

  private then(request: Observable<unknown>): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.open.set(null);
        this.ending.set(null);
        this.fetch(this.person().id);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private recovery() {
    return {
      path: { id: this.person().id },
      body: { itemId: this.itemId, total: this.amount, perPayslip: this.perPayslip, reason: this.reason },
    };
  }

  private refund() {
    return { path: { id: this.person().id }, body: { itemId: this.itemId, amount: this.amount, reason: this.reason } };
  }

  private fetch(id: string): void {
    this.api.call('recoveries', { path: { id } }).subscribe((recoveries) => this.recoveries.set(recoveries));
    this.api.call('refundable', { path: { id } }).subscribe((refundable) => this.refundable.set(refundable));
  }
}
