import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Exact, writtenDay, writtenDecimal } from '@woodruff/core';
import type { Person, PersonFacts, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { DayPipe, DecimalPipe, MoneyPipe, PeriodPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { panelOfPage } from '../working/page-with-panel';
import { workingActions } from '../working/working.store';
import { WorkingPanel } from '../working/working-panel';
import { employerStore, personStore } from './people.store';
import { PersonFactsForm } from './person-facts-form';
import { TaxDetailsForm } from './tax-details-form';

type Part = 'facts' | 'rate' | 'tax' | 'item' | 'payment' | 'number';
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** One person: what they are paid, what comes off, how it is taxed and paid, and all they were paid. */
@Component({
  selector: 'wr-person-page',
  imports: [
    DayPipe,
    DecimalPipe,
    MoneyPipe,
    PeriodPipe,
    PersonFactsForm,
    Problem,
    ReactiveFormsModule,
    RouterLink,
    TaxDetailsForm,
    WorkingPanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './person-page.html',
  styleUrl: './person-page.scss',
})
export class PersonPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly id = input.required<string>();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly person = this.store.selectSignal(personStore.selectData);
  protected readonly problem = this.store.selectSignal(personStore.selectProblem);
  protected readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly frame = panelOfPage();
  /** The part that is being edited, in its place. */
  protected readonly editing = signal<Part | null>(null);
  protected readonly changedItem = signal<Person['items'][number] | null>(null);
  protected readonly saveProblem = signal<ProblemDetail | null>(null);
  protected readonly revealed = signal<{ what: string; value: string } | null>(null);
  protected readonly allPayslips = signal(false);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly parts = [
    { id: 'pay', label: 'Pay' },
    { id: 'items', label: 'Recurring items' },
    { id: 'tax-details', label: 'Tax details' },
    { id: 'payment', label: 'Payment' },
    { id: 'payslips', label: 'Payslips' },
    { id: 'facts', label: 'Facts' },
    { id: 'changes', label: 'Changes' },
  ];
  protected readonly rateForm = new FormGroup({
    label: text('Pay'),
    per: text('hour'),
    amount: text(),
    from: text(),
    reason: text(),
    primary: text('yes'),
  });
  protected readonly itemForm = new FormGroup({
    itemId: text(),
    amount: text(),
    percent: text(),
    from: text(),
    to: text(),
    perYear: text(),
    inAll: text(),
  });
  protected readonly paymentForm = new FormGroup({ method: text('deposit'), bank: text(), account: text() });
  protected readonly numberForm = new FormGroup({ nationalNumber: text() });

  protected readonly rateNow = computed(() => this.person()?.rates.find((rate) => rate.primary && rate.from <= this.today()) ?? null);
  protected readonly subtitle = computed(() => {
    const facts = this.person()?.facts;
    if (!facts) return '';
    return [facts.code, facts.job, facts.department, facts.left ? `left ${writtenDay(facts.left)}` : ''].filter(Boolean).join(', ');
  });
  protected readonly rateWords = computed(() => {
    const rate = this.rateNow();
    if (!rate) return '';
    const per = { hour: 'an hour', year: 'a year', period: 'a pay period' }[rate.per];
    return rate.yearly && rate.per !== 'year' ? `${per}, ${writtenDecimal(rate.yearly)} a year` : per;
  });
  protected readonly activeItems = computed(() => this.person()?.items.filter((item) => !item.to || item.to >= this.today()) ?? []);
  protected readonly endedItems = computed(() => this.person()?.items.filter((item) => item.to && item.to < this.today()) ?? []);
  protected readonly taxNow = computed(
    () => this.person()?.taxDetails.find((details) => details.from <= this.today()) ?? this.person()?.taxDetails[0] ?? null,
  );
  protected readonly taxWords = computed(() => this.wordsOfTax(this.taxNow()?.facts));
  protected readonly payslips = computed(() => (this.allPayslips() ? this.person()?.payslips : this.person()?.payslips.slice(0, 8)) ?? []);
  protected readonly assignable = computed(
    () =>
      this.items()?.filter(
        (item) => !item.retired && (item.method.by === 'amount' || item.method.by === 'percent' || item.method.by === 'match'),
      ) ?? [],
  );
  protected readonly chosenItem = signal('');
  protected readonly chosenMethod = computed(() => this.items()?.find((item) => item.id === this.chosenItem())?.method.by ?? 'amount');

  constructor() {
    effect(() => {
      if (this.employer()) this.store.dispatch(personStore.load({ input: { path: { id: this.id() } } }));
    });
    this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    this.itemForm.controls.itemId.valueChanges.subscribe((id) => this.chosenItem.set(id));
    const takeBack = inject(Keys).add(
      { keys: 'e', label: 'Change the facts', run: () => this.edit('facts') },
      {
        keys: 'Escape',
        label: 'Close the panel or the form',
        run: () => (this.editing() ? this.stop() : this.store.dispatch(workingActions.close())),
      },
    );
    inject(DestroyRef).onDestroy(takeBack);
  }

  protected edit(part: Part): void {
    this.saveProblem.set(null);
    this.changedItem.set(null);
    if (part === 'rate') {
      const rate = this.rateNow();
      this.rateForm.reset({
        label: rate?.label ?? 'Salary',
        per: rate?.per ?? 'hour',
        amount: '',
        from: this.today(),
        reason: '',
        primary: 'yes',
      });
    }
    if (part === 'item') this.itemForm.reset({ from: this.today() });
    this.editing.set(part);
  }

  /** Leads from a missing fact to where it is entered. */
  protected mend(fact: Person['missing'][number]): void {
    const parts: Record<string, Part> = { pay: 'rate', tax: 'tax', payment: 'payment' };
    this.edit(parts[fact.part] ?? (fact.sentence.includes('number') ? 'number' : 'facts'));
  }

  protected changeItem(item: Person['items'][number]): void {
    this.saveProblem.set(null);
    this.changedItem.set(item);
    this.itemForm.reset({
      itemId: item.itemId,
      amount: item.amount ?? '',
      percent: item.percent ?? '',
      from: item.from,
      to: item.to ?? '',
      perYear: item.limits?.perYear ?? '',
      inAll: item.limits?.inAll ?? '',
    });
    this.editing.set('item');
  }

  protected stop(): void {
    this.editing.set(null);
    this.saveProblem.set(null);
  }

  protected saveFacts(facts: PersonFacts): void {
    this.save(this.api.call('changePerson', { path: { id: this.id() }, body: { version: this.person()?.version ?? 0, facts } }));
  }

  protected saveRate(): void {
    const { primary, per, ...rate } = this.rateForm.getRawValue();
    this.save(this.api.call('addRate', { path: { id: this.id() }, body: { ...rate, per: per as 'hour', primary: primary === 'yes' } }));
  }

  protected saveTax(details: { from: string; facts: Record<string, unknown> }): void {
    this.save(this.api.call('addTaxDetails', { path: { id: this.id() }, body: details }));
  }

  protected saveItem(): void {
    const { itemId, amount, percent, from, to, perYear, inAll } = this.itemForm.getRawValue();
    const limits = { ...(perYear ? { perYear } : {}), ...(inAll ? { inAll } : {}) };
    const changed = this.changedItem();
    const body = {
      itemId,
      amount: amount || null,
      percent: percent || null,
      from,
      to: to || null,
      limits: Object.keys(limits).length ? limits : null,
      orderFacts: changed?.orderFacts ?? null,
    };
    this.save(
      changed
        ? this.api.call('changePersonItem', { path: { id: this.id(), item: changed.id }, body: { ...body, version: changed.version } })
        : this.api.call('addPersonItem', { path: { id: this.id() }, body }),
    );
  }

  protected savePayment(): void {
    const { method, bank, account } = this.paymentForm.getRawValue();
    this.save(
      this.api.call('setPayment', {
        path: { id: this.id() },
        body: method === 'cheque' ? { method: 'cheque' } : { method: 'deposit', bank, account },
      }),
    );
  }

  protected saveNumber(): void {
    this.save(this.api.call('setNationalNumber', { path: { id: this.id() }, body: this.numberForm.getRawValue() }));
  }

  protected reveal(what: 'national-number' | 'account'): void {
    this.api.call('reveal', { path: { id: this.id() }, body: { what } }).subscribe({
      next: ({ value }) => this.revealed.set({ what, value }),
      error: (error: unknown) => this.saveProblem.set(problemOf(error)),
    });
  }

  protected openPayslip(payslipId: string): void {
    this.store.dispatch(workingActions.open({ frame: { kind: 'payslip', payslipId }, anew: true }));
  }

  protected behindTotal(title: string, kind: 'gross' | 'taxes' | 'deductions' | 'net'): void {
    const person = this.person();
    if (!person) return;
    const entries = person.payslips
      .filter((payslip) => payslip.payDate.startsWith(person.yearToDate.year))
      .map((payslip) => ({
        payslipId: payslip.id,
        name: `${payslip.payDate}${payslip.state === 'reversal' ? ', reversal' : ''}`,
        amount: payslip[kind],
      }));
    this.store.dispatch(workingActions.open({ frame: { kind: 'total', title, figure: kind, entries }, anew: true }));
  }

  private save(request: Observable<unknown>): void {
    const part = this.editing();
    request.subscribe({
      next: () => {
        // Another part may have been opened while this one was being saved: it stays open.
        if (this.editing() === part) this.stop();
        this.revealed.set(null);
        this.store.dispatch(personStore.load({ input: { path: { id: this.id() } }, keep: true }));
      },
      error: (error: unknown) => this.saveProblem.set(problemOf(error)),
    });
  }

  /** The details in the words of the form's own fields. */
  private wordsOfTax(facts: Record<string, unknown> | undefined): { label: string; value: string }[] {
    if (!facts) return [];
    const at = (key: string): unknown =>
      key
        .split('.')
        .reduce<unknown>((here, part) => (here && typeof here === 'object' ? (here as Record<string, unknown>)[part] : undefined), facts);
    const groups = (this.store.selectSignal(employerStore.selectData)()?.taxForm ?? []) as unknown as {
      fields: {
        key: string;
        label: string;
        kind: string;
        when?: { key: string; is: string };
        choices?: { value: string; label: string }[];
      }[];
    }[];
    return groups
      .flatMap((group) => group.fields)
      .filter((field) => !field.when || at(field.when.key) === field.when.is)
      .flatMap((field) => {
        const value = at(field.key);
        if (value === undefined || value === null || value === '' || value === false || value === '0' || value === 0) return [];
        const written = value === true ? 'yes' : typeof value === 'string' || typeof value === 'number' ? `${value}` : '';
        const shown =
          field.choices?.find((choice) => choice.value === value)?.label ??
          (field.kind === 'amount' ? writtenDecimal(Exact.of(written).toDecimal()) : field.kind === 'date' ? writtenDay(written) : written);
        return [{ label: field.label, value: shown }];
      });
  }
}
