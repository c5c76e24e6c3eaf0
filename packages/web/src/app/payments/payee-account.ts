import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, PayeeView } from '@woodruff/contract';
import { Api } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { saving } from '../kit/saving';
import { selectMay } from '../session/session.store';
import { payeeWays } from './payment-words';

/** Where a payee is usually paid and, where the law leaves it open, by when. */
@Component({
  selector: 'wr-payee-account',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <section class="section">
      <h2>
        Where it is paid
        @if (mayBank() && !editing()) {
          <button class="quiet right" type="button" (click)="edit()">Change</button>
        }
      </h2>
      @if (editing()) {
        <form class="panel-form" (ngSubmit)="save()">
          <wr-problem [problem]="problem()" />
          <div class="form">
            <label class="field"
              >Usually paid
              <select name="usual" [(ngModel)]="draft.method">
                <option value="agency">through its own service</option>
                <option value="file">by file</option>
                <option value="cheque">by {{ pack()?.words?.cheque }}</option>
                <option value="elsewhere">elsewhere</option>
              </select></label
            >
            <label class="field">{{ pack()?.bank?.code?.label }} <input name="bank" [(ngModel)]="draft.bank" /></label>
            <label class="field"
              >{{ pack()?.bank?.account?.label }} <input name="account" [(ngModel)]="draft.account" autocomplete="off" /><small>{{
                payee().last4 ? 'Empty: the one ending ' + payee().last4 + ' is kept' : ''
              }}</small></label
            >
            @if (payee().accounts.length > 1) {
              <label class="field"
                >From
                <select name="from" [(ngModel)]="draft.payingAccountId">
                  @for (account of payee().accounts; track account.id) {
                    <option [ngValue]="account.id">{{ account.name }}, ending {{ account.last4 }}</option>
                  }
                </select></label
              >
            }
            <label class="field wide">Address <input name="line1" [(ngModel)]="draft.address.line1" /></label>
            <label class="field"
              >{{ pack()?.person?.address?.city ?? 'City' }} <input name="city" [(ngModel)]="draft.address.city"
            /></label>
            <label class="field"
              >{{ pack()?.person?.address?.postcode?.label }} <input name="postcode" [(ngModel)]="draft.address.postcode"
            /></label>
            @if (!payee().ruleFixed) {
              <label class="field"
                >Due, as agreed
                <select name="rule" [(ngModel)]="ruleBy">
                  <option value="month">a day of the following month</option>
                  <option value="pay-date">days after each pay date</option>
                  <option value="quarter">a day after the quarter</option>
                </select></label
              >
              <label class="field"
                >{{ ruleBy === 'pay-date' ? 'Days' : 'Day' }} <input name="ruleDay" inputmode="numeric" [(ngModel)]="ruleDay"
              /></label>
            }
          </div>
          <div class="form-actions">
            <button class="main-action" type="submit">Save the payee</button>
            <button class="quiet" type="button" (click)="editing.set(false)">Cancel</button>
          </div>
        </form>
      } @else {
        <dl class="pair">
          <dt>Usually</dt>
          <dd>{{ ways()[payee().method] }}</dd>
          <dt>Account</dt>
          <dd>{{ payee().last4 ? payee().bank + ', account ending ' + payee().last4 : 'none on file' }}</dd>
          @if (payee().accounts.length > 1) {
            <dt>From</dt>
            <dd>{{ from() }}</dd>
          }
          <dt>Address</dt>
          <dd>{{ address() || 'none on file' }}</dd>
        </dl>
      }
    </section>
  `,
  styles: `
    h2 {
      display: flex;
      gap: 12px;
      align-items: baseline;
    }
  `,
})
export class PayeeAccount {
  private readonly api = inject(Api);
  readonly payee = input.required<PayeeView>();
  readonly saved = output();
  protected readonly pack = injectPack();
  protected readonly mayBank = inject(Store).selectSignal(selectMay('bank'));
  protected readonly ways = computed(() => payeeWays(this.pack()?.words));
  protected readonly editing = signal(false);
  private readonly saving = saving(() => this.saved.emit());
  protected readonly problem = this.saving.problem;
  protected draft = {
    method: 'cheque' as PayeeView['method'],
    bank: '',
    account: '',
    address: { line1: '', line2: '', city: '', state: '', postcode: '' },
    payingAccountId: null as string | null,
  };
  protected ruleBy: 'month' | 'pay-date' | 'quarter' = 'month';
  protected ruleDay = '15';

  protected address(): string {
    const { address } = this.payee();
    return [address.line1, address.line2, address.city, address.postcode].filter(Boolean).join(', ');
  }

  protected from(): string {
    const { accounts, payingAccountId } = this.payee();
    const account = accounts.find(({ id }) => id === payingAccountId);
    return account ? `${account.name}, ending ${account.last4}` : '';
  }

  protected edit(): void {
    const payee = this.payee();
    this.draft = {
      method: payee.method,
      bank: payee.bank,
      account: '',
      address: { ...payee.address },
      payingAccountId: payee.payingAccountId,
    };
    if (payee.agreed && 'day' in payee.agreed && payee.agreed.by !== 'year')
      [this.ruleBy, this.ruleDay] = [payee.agreed.by, String(payee.agreed.day)];
    if (payee.agreed?.by === 'pay-date') [this.ruleBy, this.ruleDay] = ['pay-date', String(payee.agreed.days)];
    this.editing.set(true);
  }

  protected save(): void {
    const payee = this.payee();
    const day = Number(this.ruleDay);
    const rule: BodyOf<'changePayee'>['rule'] = payee.ruleFixed
      ? null
      : this.ruleBy === 'pay-date'
        ? { by: 'pay-date', days: day }
        : { by: this.ruleBy, day };
    const body = { owed: payee.owed, version: payee.version, ...this.draft, rule };
    this.saving.save(this.api.call('changePayee', { body }), () => this.editing.set(false));
  }
}
