import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { EmployerFacts } from '@woodruff/contract';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { groupsStore } from '../people/people.store';
import { selectEmployer } from '../session/session.store';
import { TimeRulesForm } from './time-rules-form';
import { timeRulesInWords } from './time-rules-in-words';
import { SetUpEdit } from './set-up-edit';

const ACCOUNTS: { key: keyof EmployerFacts['accounts']; label: string }[] = [
  { key: 'wages', label: 'Wages' },
  { key: 'reimbursements', label: 'Reimbursed expenses' },
  { key: 'employerTaxes', label: "Employer's taxes" },
  { key: 'taxes', label: 'Taxes owed' },
  { key: 'netPay', label: 'Net pay owed' },
  { key: 'deductions', label: 'Deductions owed' },
  { key: 'contributions', label: "Employer's contributions" },
  { key: 'bank', label: 'Bank' },
];

/** Accounts posted to, how time becomes pay, and own holidays. */
@Component({
  selector: 'wr-employer-rules',
  imports: [EffectOnRuns, FormsModule, Problem, TimeRulesForm],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Posting and rules
      @if (page.mayChange() && page.editing() !== 'accounts') {
        <button class="quiet" type="button" (click)="page.edit('accounts')" aria-label="Change: Posting and rules">Change</button>
      }
    </h2>
    @if (page.editing() === 'accounts') {
      <form class="panel-form" (ngSubmit)="save()" (input)="page.effect.set(null)" (change)="page.effect.set(null)">
        <p class="muted">Accounts for what no pay item names its own.</p>
        <div class="form">
          @for (field of accountFields; track field.key) {
            <label class="field">{{ field.label }} <input [name]="field.key" [(ngModel)]="draft.accounts[field.key]" /></label>
          }
        </div>
        <wr-time-rules-form [facts]="draft" [rules]="setUp().form.overtimeRules" />
        <h3>Extra holidays</h3>
        <p class="muted">Days on which nothing is paid, beside the bank holidays: pay dates move off them.</p>
        @for (holiday of draft.holidays; track $index; let at = $index) {
          <div class="row-of premium">
            <input
              class="entry"
              type="date"
              [attr.aria-label]="'Day of holiday ' + (at + 1)"
              [name]="'hdate' + at"
              [(ngModel)]="holiday.date"
            />
            <input class="entry" [attr.aria-label]="'Name of holiday ' + (at + 1)" [name]="'hname' + at" [(ngModel)]="holiday.label" />
            <button class="quiet" type="button" (click)="dropHoliday(at)">Remove</button>
          </div>
        }
        <button class="quiet" type="button" (click)="addHoliday()">Add a day</button>
        <wr-problem [problem]="page.problem()" />
        @if (page.effect(); as effect) {
          <wr-effect [effect]="effect" />
        }
        <div class="form-actions">
          <button class="main-action" type="submit">{{ page.effect() ? 'Save posting and rules' : 'Show what it changes' }}</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    } @else {
      <dl class="pair">
        @for (field of accountFields; track field.key) {
          <dt>{{ field.label }}</dt>
          <dd>{{ setUp().facts.accounts[field.key] || 'none' }}</dd>
        }
        @for (line of rules(); track line.label) {
          <dt>{{ line.label }}</dt>
          <dd>{{ line.words }}</dd>
        }
      </dl>
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerRules {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  private readonly store = inject(Store);
  private readonly employer = this.store.selectSignal(selectEmployer);
  private readonly groups = this.store.selectSignal(groupsStore.selectData);
  protected readonly accountFields = ACCOUNTS;
  protected readonly rules = computed(() => timeRulesInWords(this.setUp().facts, this.setUp().form.overtimeRules, this.groups() ?? []));
  protected draft!: EmployerFacts;

  constructor() {
    effect(() => {
      if (this.page.editing() === 'accounts') this.draft = structuredClone(untracked(this.setUp).facts);
    });
  }

  protected addHoliday(): void {
    this.page.effect.set(null);
    this.draft.holidays = [...this.draft.holidays, { date: this.employer()?.today ?? '', label: '' }];
  }

  protected dropHoliday(at: number): void {
    this.page.effect.set(null);
    this.draft.holidays = this.draft.holidays.filter((_holiday, index) => index !== at);
  }

  /** Shown first: new rules turn the same time into other hours. */
  protected save(): void {
    const { accounts, overtimeRules, time, holidays } = this.draft;
    const facts = { accounts, overtimeRules, time, holidays };
    if (this.page.effect()) this.page.save({ facts });
    else this.page.preview(facts);
  }
}
