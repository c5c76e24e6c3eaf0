import { ChangeDetectionStrategy, Component, computed, effect, inject, signal, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, EmployerFacts, ProblemDetail, Role, SetUp } from '@woodruff/contract';
import type { FormField } from '@woodruff/core';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Changes } from '../kit/changes';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { groupsStore } from '../people/people.store';
import { sessionActions, selectEmployer } from '../session/session.store';
import { setUpStore } from './employer.store';
import { PaySchedules } from './pay-schedules';
import { TimeRulesForm } from './time-rules-form';
import { timeRulesInWords } from './time-rules-in-words';

type Part = 'legal' | 'registrations' | 'places' | 'accounts' | 'bank' | 'own-fields' | 'people-here';
type Place = 'departments' | 'worksites' | 'jobs';

interface ListForm {
  key: string;
  title: string;
  entry: string;
  choices?: { value: string; label: string }[];
  fields: FormField[];
}

/** A line of a list being changed: what it was called, so that people follow a new name. */
interface Line {
  was: string;
  name: string;
  state: string;
}

/** One employer: who it is, where, how it pays, who works here; above all what is missing before the first run. */
@Component({
  selector: 'wr-employer-page',
  imports: [Changes, DayPipe, EffectOnRuns, FormsModule, PaySchedules, Problem, RouterLink, TimeRulesForm],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './employer-page.html',
  styleUrl: './employer-page.scss',
})
export class EmployerPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly schedules = viewChild(PaySchedules);
  protected readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly setUp = this.store.selectSignal(setUpStore.selectData);
  protected readonly problem = this.store.selectSignal(setUpStore.selectProblem);
  protected readonly mayChange = computed(() => this.employer()?.role === 'administrator');
  protected readonly editing = signal<Part | null>(null);
  protected readonly saveProblem = signal<ProblemDetail | null>(null);
  protected readonly effect = signal<Effect | null>(null);
  protected readonly password = signal<{ name: string; password: string | null } | null>(null);
  protected name = '';
  protected draft!: EmployerFacts;
  protected lists: Record<Place, Line[]> = { departments: [], worksites: [], jobs: [] };
  protected registrations: Record<string, { entry: string; values: Record<string, string> }[]> = {};
  protected bank = { name: '', routing: '', account: '' };
  protected member: BodyOf<'addMember'> = { email: '', name: '', role: 'clerk' };
  protected readonly parts = [
    { id: 'legal', label: 'Who it is' },
    { id: 'registrations', label: 'Registrations' },
    { id: 'schedules', label: 'Pay schedules' },
    { id: 'places', label: 'Places and jobs' },
    { id: 'bank', label: 'Account that pays' },
    { id: 'accounts', label: 'Posting and rules' },
    { id: 'own-fields', label: 'Own fields' },
    { id: 'people-here', label: 'Who works here' },
    { id: 'history', label: 'What changed' },
  ];
  protected readonly places: { key: Place; label: string; one: string }[] = [
    { key: 'departments', label: 'Departments', one: 'department' },
    { key: 'worksites', label: 'Worksites', one: 'worksite' },
    { key: 'jobs', label: 'Jobs', one: 'job' },
  ];
  protected readonly accountFields: { key: keyof EmployerFacts['accounts']; label: string }[] = [
    { key: 'wages', label: 'Wages' },
    { key: 'reimbursements', label: 'Costs paid back' },
    { key: 'employerTaxes', label: "Employer's taxes" },
    { key: 'taxes', label: 'Taxes owed' },
    { key: 'netPay', label: 'Net pay owed' },
  ];
  protected readonly roles: { value: Role; label: string }[] = [
    { value: 'administrator', label: 'Administrator: everything, set-up too' },
    { value: 'clerk', label: 'Clerk: prepares and approves' },
    { value: 'approver', label: 'Approver: looks and approves' },
    { value: 'viewer', label: 'Viewer: reads and exports' },
  ];
  protected readonly fields = computed(() => (this.setUp()?.form.fields ?? []) as unknown as FormField[]);
  protected readonly listForms = computed(() => (this.setUp()?.form.lists ?? []) as unknown as ListForm[]);
  protected readonly keepFromPay = computed(() => this.setUp()?.missing.filter((fact) => fact.keepsFromPay).length ?? 0);
  private readonly groups = this.store.selectSignal(groupsStore.selectData);
  protected readonly rules = computed(() => {
    const setUp = this.setUp();
    return setUp ? timeRulesInWords(setUp.facts, setUp.form.overtimeRules, this.groups() ?? []) : [];
  });

  constructor() {
    effect(() => {
      if (!this.employer()?.id) return;
      this.reload();
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(groupsStore.load({ input: {}, keep: true }));
    });
  }

  protected reload(): void {
    this.store.dispatch(setUpStore.load({ input: {}, keep: true }));
  }

  /** Leads from a missing fact to where it is entered. */
  protected mend(part: string): void {
    const elsewhere: Record<string, string> = { items: '/pay-items/ready', people: '/people/new' };
    if (elsewhere[part]) return void this.router.navigateByUrl(elsewhere[part]);
    if (part === 'schedules') this.schedules()?.begin();
    else this.edit(part as Part);
    void this.router.navigate([], { fragment: part });
  }

  protected edit(part: Part): void {
    const setUp = this.setUp();
    if (!setUp) return;
    this.stop();
    this.name = setUp.name;
    this.draft = structuredClone(setUp.facts);
    const lines = (names: string[]): Line[] => [...names, ''].map((name) => ({ was: name, name, state: '' }));
    this.lists = {
      departments: lines(setUp.facts.departments),
      jobs: lines(setUp.facts.jobs),
      worksites: [...setUp.facts.worksites, { name: '', state: '', city: '', postcode: '' }].map(({ name, state }) => ({
        was: name,
        name,
        state,
      })),
    };
    this.registrations = Object.fromEntries(
      this.listForms().map((list) => [
        list.key,
        Object.entries((setUp.facts.country[list.key] ?? {}) as Record<string, Record<string, string>>).map(([entry, values]) => ({
          entry,
          values: { ...emptyOf(list), ...values },
        })),
      ]),
    );
    this.bank = { name: setUp.bank?.name ?? '', routing: setUp.bank?.routing ?? '', account: '' };
    this.member = { email: '', name: '', role: 'clerk' };
    this.editing.set(part);
  }

  protected stop(): void {
    this.editing.set(null);
    this.saveProblem.set(null);
    this.effect.set(null);
    this.password.set(null);
  }

  protected single(key: string): string {
    const value = this.draft.country[key];
    return typeof value === 'string' ? value : '';
  }

  protected setSingle(key: string, value: string): void {
    const { [key]: _old, ...rest } = this.draft.country;
    this.draft.country = value ? { ...rest, [key]: value } : rest;
    this.effect.set(null);
  }

  protected addEntry(list: ListForm): void {
    this.registrations[list.key] = [...(this.registrations[list.key] ?? []), { entry: '', values: emptyOf(list) }];
  }

  protected dropEntry(list: ListForm, index: number): void {
    this.registrations[list.key] = (this.registrations[list.key] ?? []).filter((_entry, other) => other !== index);
    this.effect.set(null);
  }

  protected addLine(place: Place): void {
    this.lists[place] = [...this.lists[place], { was: '', name: '', state: '' }];
  }

  protected shown(list: ListForm): { label: string; words: string }[] {
    const entries = (this.setUp()?.facts.country[list.key] ?? {}) as Record<string, Record<string, string>>;
    return Object.entries(entries).map(([entry, values]) => ({
      label: list.choices?.find((choice) => choice.value === entry)?.label ?? [entry, values['name']].filter(Boolean).join(' '),
      words: list.fields
        .filter((field) => field.key !== 'name' && values[field.key])
        .map((field) => {
          const value = values[field.key] ?? '';
          const label = field.label.replace(/, %$/, '').toLowerCase();
          return `${label} ${field.choices?.find((choice) => choice.value === value)?.label ?? value}${field.kind === 'percent' ? '%' : ''}`;
        })
        .join(', '),
    }));
  }

  protected country(key: string): string {
    const value = this.setUp()?.facts.country[key];
    return (typeof value === 'string' && value) || 'not on file yet';
  }

  protected addHoliday(): void {
    this.draft.holidays = [...this.draft.holidays, { date: this.employer()?.today ?? '', label: '' }];
  }

  protected dropHoliday(at: number): void {
    this.draft.holidays = this.draft.holidays.filter((_holiday, index) => index !== at);
  }

  protected addOwnField(): void {
    this.draft.ownFields = [...this.draft.ownFields, { key: '', label: '', kind: 'text', choices: [] }];
  }

  protected splitList(text: string): string[] {
    return text
      .split(',')
      .map((choice) => choice.trim())
      .filter(Boolean);
  }

  protected dropOwnField(index: number): void {
    this.draft.ownFields = this.draft.ownFields.filter((_field, other) => other !== index);
  }

  protected preview(): void {
    this.saveProblem.set(null);
    this.api
      .rehearse('changeSetUp', { body: this.body() })
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.saveProblem.set(problemOf(error)) });
  }

  protected save(): void {
    this.done(this.api.call('changeSetUp', { body: this.body() }), () => {
      // The name stands in the bar, too.
      this.api.call('session').subscribe((session) => this.store.dispatch(sessionActions.restored({ session })));
    });
  }

  /** The address of the logo; another one after each change. */
  protected logo(): string {
    return `${this.api.url('logo')}?at=${this.setUp()?.changes[0]?.at ?? ''}`;
  }

  protected chooseLogo(chooser: HTMLInputElement): void {
    const file = chooser.files?.[0];
    chooser.value = '';
    if (!file) return;
    const reader = new FileReader();
    reader.onload = () => this.saveLogo(typeof reader.result === 'string' ? reader.result.replace(/^data:[^,]*,/, '') : '');
    reader.readAsDataURL(file);
  }

  protected saveLogo(content: string): void {
    this.done(this.api.call('setLogo', { body: { content } }));
  }

  protected saveBank(): void {
    this.done(this.api.call('setBank', { body: this.bank }));
  }

  protected addMember(): void {
    const { name } = this.member;
    this.saveProblem.set(null);
    this.api.call('addMember', { body: this.member }).subscribe({
      next: ({ password }) => {
        this.stop();
        this.password.set({ name, password });
        this.reload();
      },
      error: (error: unknown) => this.saveProblem.set(problemOf(error)),
    });
  }

  protected setRole(member: SetUp['members'][number], role: string): void {
    this.done(this.api.call('changeMember', { path: { id: member.id }, body: { role: (role || null) as Role | null } }));
  }

  private done(request: Observable<unknown>, then: () => void = () => undefined): void {
    this.saveProblem.set(null);
    request.subscribe({
      next: () => {
        this.stop();
        this.reload();
        then();
      },
      error: (error: unknown) => {
        this.saveProblem.set(problemOf(error));
        this.reload();
      },
    });
  }

  private body(): BodyOf<'changeSetUp'> {
    const named = (lines: Line[]) => lines.filter((line) => line.name.trim()).map((line) => ({ ...line, name: line.name.trim() }));
    const renamed = (lines: Line[]) =>
      Object.fromEntries(named(lines).flatMap((line) => (line.was && line.was !== line.name ? [[line.was, line.name]] : [])));
    const { departments, worksites, jobs } = this.lists;
    const known = new Map(this.setUp()?.facts.worksites.map((site) => [site.name, site]));
    const country = { ...this.draft.country };
    for (const list of this.listForms()) {
      const entries = (this.registrations[list.key] ?? []).filter((entry) => entry.entry.trim());
      country[list.key] = Object.fromEntries(
        entries.map(({ entry, values }) => [entry.trim(), Object.fromEntries(Object.entries(values).filter(([, value]) => value !== ''))]),
      );
    }
    return {
      version: this.setUp()?.version ?? 0,
      name: this.name,
      facts: {
        ...this.draft,
        country,
        departments: named(departments).map((line) => line.name),
        jobs: named(jobs).map((line) => line.name),
        worksites: named(worksites).map((line) => ({ city: '', postcode: '', ...known.get(line.was), name: line.name, state: line.state })),
        ownFields: this.draft.ownFields
          .filter((field) => field.label.trim())
          .map((field) => ({
            ...field,
            key:
              field.key ||
              field.label
                .toLowerCase()
                .replace(/[^a-z0-9]+/g, '-')
                .replace(/^-|-$/g, '')
                .slice(0, 40),
          })),
      },
      renamed: { departments: renamed(departments), worksites: renamed(worksites), jobs: renamed(jobs) },
    };
  }
}

const emptyOf = (list: ListForm): Record<string, string> => Object.fromEntries(list.fields.map((field) => [field.key, '']));
