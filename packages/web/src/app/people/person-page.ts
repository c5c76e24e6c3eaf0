import { ChangeDetectionStrategy, Component, computed, DestroyRef, effect, inject, input, signal, viewChild } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import { Exact, isAsked, writtenDay, writtenDecimal, type FormGroup as TaxFormGroup } from '@woodruff/core';
import type { Person, PersonFacts, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Changes } from '../kit/changes';
import { Keys } from '../kit/keys';
import { Problem } from '../kit/problem';
import { DayPipe, DecimalPipe, MoneyPipe, PeriodPipe } from '../kit/words';
import { injectPack } from '../kit/pack';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { panelOfPage } from '../working/page-with-panel';
import { workingActions } from '../working/working.store';
import { WorkingPanel } from '../working/working-panel';
import { employerStore, personStore } from './people.store';
import { PersonFactsForm } from './person-facts-form';
import { PersonItems } from './person-items';
import { PersonLeavePart } from './person-leave';
import { PersonLeaveByLaw } from './person-leave-by-law';
import { PersonLeaving } from './person-leaving';
import { PersonNotes } from './person-notes';
import { PersonOpening } from './person-opening';
import { PersonTransfers } from '../payments/person-transfers';
import { PersonPayment } from './person-payment';
import { PersonPositions } from './person-positions';
import { PersonRates } from './person-rates';
import { PersonSetRight } from './person-set-right';
import { PersonStandingTaxes } from './person-standing-taxes';
import { TaxDetailsForm } from './tax-details-form';

type Part = 'facts' | 'tax' | 'number';
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** One person: what they are paid, what comes off, how it is taxed and paid, and all they were paid. */
@Component({
  selector: 'wr-person-page',
  imports: [
    Changes,
    DayPipe,
    DecimalPipe,
    MoneyPipe,
    PeriodPipe,
    PersonFactsForm,
    PersonItems,
    PersonLeavePart,
    PersonLeaveByLaw,
    PersonLeaving,
    PersonNotes,
    PersonOpening,
    PersonPayment,
    PersonTransfers,
    PersonPositions,
    PersonRates,
    PersonSetRight,
    PersonStandingTaxes,
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
  protected readonly pack = injectPack();
  private readonly store = inject(Store);
  protected readonly api = inject(Api);
  readonly id = input.required<string>();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly person = this.store.selectSignal(personStore.selectData);
  protected readonly problem = this.store.selectSignal(personStore.selectProblem);
  private readonly rates = viewChild(PersonRates);
  private readonly payment = viewChild(PersonPayment);
  private readonly leavePart = viewChild(PersonLeavePart);
  protected readonly frame = panelOfPage();
  /** The part that is being edited, in its place. */
  protected readonly editing = signal<Part | null>(null);
  protected readonly saveProblem = signal<ProblemDetail | null>(null);
  protected readonly revealed = signal<{ what: string; value: string } | null>(null);
  protected readonly allPayslips = signal(false);
  protected readonly invited = signal(false);
  protected readonly said = signal('');
  /** Facts of somebody who is being hired again. */
  protected readonly again = signal<PersonFacts | null>(null);
  protected readonly coming = computed(() => this.person()?.dated.filter((change) => change.coming) ?? []);
  protected readonly counted = computed(() => this.person()?.dated.filter((change) => !change.coming) ?? []);
  /** Plans that somebody is in, with what is left. */
  protected readonly leavePlans = computed(
    () =>
      this.leavePart()
        ?.leave()
        ?.plans.filter((plan) => !plan.unpaid && !plan.to) ?? [],
  );
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly parts = [
    { id: 'pay', label: 'Pay' },
    { id: 'items', label: 'Recurring items' },
    { id: 'tax-details', label: 'Tax details' },
    { id: 'payment', label: 'Payment' },
    { id: 'payslips', label: 'Payslips' },
    { id: 'set-right', label: 'Corrections' },
    { id: 'leave', label: 'Leave, balances' },
    { id: 'opening', label: 'Earlier system' },
    { id: 'facts', label: 'Details' },
    { id: 'leaving', label: 'Leaving' },
    { id: 'notes', label: 'Notes, documents' },
    { id: 'changes', label: 'Changes' },
  ];
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
  protected readonly taxNow = computed(
    () => this.person()?.taxDetails.find((details) => details.from <= this.today()) ?? this.person()?.taxDetails[0] ?? null,
  );
  /** The two limits that are nearest. */
  protected readonly limits = computed(() =>
    [...(this.person()?.limitsLeft ?? [])].sort((a, b) => a.left / (a.of || 1) - b.left / (b.of || 1)).slice(0, 2),
  );
  private readonly employerFacts = this.store.selectSignal(employerStore.selectData);
  protected readonly address = computed(() => {
    const address = this.person()?.facts.address;
    return [address?.line1, address?.city, [address?.state, address?.postcode].filter(Boolean).join(' ')].filter(Boolean).join(', ');
  });
  protected readonly emergency = computed(() => {
    const contact = this.person()?.facts.emergency;
    return [contact?.name, contact?.relation, contact?.phone].filter(Boolean).join(', ');
  });
  protected readonly ownFields = computed(
    () => this.employerFacts()?.ownFields.map(({ key, label }) => ({ label, value: this.person()?.facts.own?.[key] ?? '' })) ?? [],
  );
  protected readonly correctedTax = signal<Person['taxDetails'][number] | null>(null);
  protected readonly otherTax = computed(() => this.person()?.taxDetails.filter((details) => details.id !== this.taxNow()?.id) ?? []);
  protected readonly taxWords = computed(() => this.wordsOfTax(this.taxNow()?.facts));
  protected readonly payslips = computed(() => (this.allPayslips() ? this.person()?.payslips : this.person()?.payslips.slice(0, 8)) ?? []);

  constructor() {
    effect(() => {
      if (!this.employer()) return;
      this.store.dispatch(personStore.load({ input: { path: { id: this.id() } } }));
      this.said.set('');
      this.api.call('invitation', { path: { id: this.id() } }).subscribe(({ invited }) => this.invited.set(invited));
    });
    this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    const takeBack = inject(Keys).add(
      { keys: 'e', label: 'Change details', run: () => this.edit('facts') },
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
    this.editing.set(part);
  }

  /** Leads from a missing fact to where it is entered. */
  protected fix(fact: Person['missing'][number]): void {
    if (fact.part === 'pay') return this.rates()?.begin();
    if (fact.part === 'payment') return this.payment()?.begin();
    const parts: Record<string, Part> = { tax: 'tax' };
    this.edit(parts[fact.part] ?? (fact.sentence.includes('number') ? 'number' : 'facts'));
  }

  protected stop(): void {
    this.again.set(null);
    this.editing.set(null);
    this.correctedTax.set(null);
    this.saveProblem.set(null);
  }

  protected saveFacts(change: { facts: PersonFacts; from: string | null; reason: string }): void {
    this.save(this.api.call('changePerson', { path: { id: this.id() }, body: { version: this.person()?.version ?? 0, ...change } }));
  }

  /** Opens the facts with a new hire date; the earlier time of employment stays among the changes. */
  protected hireAgain(): void {
    const facts = this.person()?.facts;
    if (!facts) return;
    this.again.set({ ...facts, hired: this.today(), left: null, leftReason: null });
    this.edit('facts');
  }

  /** Since when a fact is as it is, and what it was before. */
  protected since(key: string): string {
    for (const entry of this.counted()) {
      const change = entry.changes.find((one) => one.key === key);
      if (change) return `since ${writtenDay(entry.from)}${change.was === 'none' ? '' : `, before: ${change.was}`}`;
    }
    return '';
  }

  protected changeWords(entry: Person['dated'][number]): string {
    return entry.changes.map(({ label, was, is }) => `${label} ${is}${was && was !== 'none' ? ` instead of ${was}` : ''}`).join('; ');
  }

  protected withdraw(change: Person['dated'][number]): void {
    this.save(this.api.call('withdrawChange', { path: { id: this.id(), change: change.id } }));
  }

  protected correctTax(details: Person['taxDetails'][number]): void {
    this.stop();
    this.correctedTax.set(details);
    this.editing.set('tax');
  }

  protected shortTax(facts: Record<string, unknown>): string {
    return this.wordsOfTax(facts)
      .slice(0, 4)
      .map(({ label, value }) => `${label.replace(/, .*$/, '').toLowerCase()} ${value}`)
      .join(', ');
  }

  protected saveTax(details: { from: string; facts: Record<string, unknown> }): void {
    const corrected = this.correctedTax();
    this.save(
      corrected
        ? this.api.call('correctTaxDetails', { path: { id: this.id(), details: corrected.id }, body: details })
        : this.api.call('addTaxDetails', { path: { id: this.id() }, body: details }),
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

  /** A link goes to the address on file, by mail. */
  protected invite(): void {
    this.api.call('invite', { path: { id: this.id() } }).subscribe({
      next: () => {
        this.invited.set(true);
        this.said.set('Invited: the letter is in the outbox.');
      },
      error: (error: unknown) => this.said.set(problemOf(error).detail),
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

  protected reload(): void {
    this.store.dispatch(personStore.load({ input: { path: { id: this.id() } }, keep: true }));
  }

  private save(request: Observable<unknown>): void {
    const part = this.editing();
    request.subscribe({
      next: () => {
        // Another part may have been opened while this one was being saved: it stays open.
        if (this.editing() === part) this.stop();
        this.revealed.set(null);
        this.reload();
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
    const groups = (this.store.selectSignal(employerStore.selectData)()?.taxForm ?? []) as unknown as TaxFormGroup[];
    return groups
      .flatMap((group) => group.fields)
      .filter((field) => isAsked(field, at))
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
