import { ChangeDetectionStrategy, Component, computed, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EmployerFacts } from '@woodruff/contract';
import type { FormField } from '@woodruff/core';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { RegistrationField, type Registered } from './registration-field';
import { SetUpEdit } from './set-up-edit';

interface ListForm {
  key: string;
  title: string;
  entry: string;
  choices?: { value: string; label: string }[];
  fields: FormField[];
}
interface Entry {
  entry: string;
  values: Record<string, Registered>;
}

/** Numbers and rates that agencies gave the employer; what a change does to the open runs is shown first. */
@Component({
  selector: 'wr-employer-registrations',
  imports: [EffectOnRuns, FormsModule, Problem, RegistrationField],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Registrations
      @if (page.mayChange() && page.editing() !== 'registrations') {
        <button class="quiet" type="button" (click)="page.edit('registrations')" aria-label="Change: Registrations">Change</button>
      }
    </h2>
    @if (page.editing() === 'registrations') {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form">
          @for (field of fields(); track field.key) {
            <wr-registration-field
              [field]="field"
              [name]="field.key"
              [value]="single(field.key)"
              [fault]="faultOf(field.key)"
              (entered)="setSingle(field.key, $event)"
            />
          }
        </div>
        @for (list of listForms(); track list.key) {
          <fieldset>
            <legend>{{ list.title }}</legend>
            <div class="rows">
              @for (entry of registrations[list.key]; track $index; let entryIndex = $index) {
                <div class="row">
                  @if (list.choices) {
                    <label class="field"
                      >{{ list.entry }}
                      <select [name]="list.key + entryIndex" [(ngModel)]="entry.entry" (ngModelChange)="page.effect.set(null)">
                        <option value="">Choose</option>
                        @for (choice of list.choices; track choice.value) {
                          <option [value]="choice.value">{{ choice.label }}</option>
                        }
                      </select>
                    </label>
                  } @else {
                    <label class="field short"
                      >{{ list.entry }}
                      <input [name]="list.key + entryIndex" [(ngModel)]="entry.entry" (ngModelChange)="page.effect.set(null)"
                    /></label>
                  }
                  @for (field of fieldsFor(list, entry.entry); track field.key) {
                    <wr-registration-field
                      [field]="field"
                      [name]="list.key + field.key + entryIndex"
                      [value]="entry.values[field.key] ?? ''"
                      [fault]="faultOf(list.key + '.' + entry.entry + '.' + field.key)"
                      (entered)="setOf(entry, field.key, $event)"
                    />
                  }
                  <button
                    type="button"
                    class="quiet"
                    (click)="dropEntry(list, entryIndex)"
                    [attr.aria-label]="'Remove ' + lowered(list.entry) + ' ' + (entryIndex + 1)"
                  >
                    Remove
                  </button>
                </div>
              }
            </div>
            <button type="button" class="quiet" (click)="addEntry(list)">Add a {{ lowered(list.entry) }}</button>
          </fieldset>
        }
        <wr-problem [problem]="page.problem()" />
        @if (page.effect(); as effect) {
          <wr-effect [effect]="effect" />
        }
        <div class="form-actions">
          <button class="main-action" type="submit">{{ page.effect() ? 'Save the registrations' : 'Show what it changes' }}</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    } @else {
      <dl class="pair">
        @for (field of fields(); track field.key) {
          <dt>{{ field.label }}</dt>
          <dd>{{ country(field) }}</dd>
        }
        @for (list of listForms(); track list.key) {
          @for (entry of shown(list); track entry.label) {
            <dt>{{ entry.label }}</dt>
            <dd>{{ entry.words }}</dd>
          }
        }
      </dl>
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerRegistrations {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  protected readonly fields = computed(() => this.setUp().form.fields as unknown as FormField[]);
  protected readonly listForms = computed(() => this.setUp().form.lists as unknown as ListForm[]);
  protected registrations: Record<string, Entry[]> = {};
  private singles: Record<string, Registered> = {};

  constructor() {
    effect(() => {
      if (this.page.editing() !== 'registrations') return;
      const { facts } = untracked(this.setUp);
      this.singles = Object.fromEntries(untracked(this.fields).map(({ key }) => [key, registered(facts.country[key])]));
      this.registrations = Object.fromEntries(
        untracked(this.listForms).map((list) => [
          list.key,
          Object.entries(entriesOf(facts, list.key)).map(([entry, values]) => ({ entry, values: { ...emptyOf(list), ...values } })),
        ]),
      );
    });
  }

  /** Some fields belong to some entries only: a programme that one place has. */
  protected fieldsFor(list: ListForm, entry: string): FormField[] {
    return list.fields.filter(({ ofEntries }) => !ofEntries || ofEntries.includes(entry));
  }

  protected single(key: string): Registered {
    return this.singles[key] ?? '';
  }

  protected setSingle(key: string, value: Registered): void {
    this.singles = { ...this.singles, [key]: value };
    this.page.effect.set(null);
  }

  protected setOf(entry: Entry, key: string, value: Registered): void {
    entry.values[key] = value;
    this.page.effect.set(null);
  }

  protected faultOf(path: string): string | undefined {
    return this.page.problem()?.fields?.find((field) => field.path === path)?.expected;
  }

  /** As a sentence goes on with it: "a locality code", but "a USI". */
  protected lowered(text: string): string {
    return /^[A-Z][a-z]/.test(text) ? `${text.charAt(0).toLowerCase()}${text.slice(1)}` : text;
  }

  protected addEntry(list: ListForm): void {
    this.registrations[list.key] = [...(this.registrations[list.key] ?? []), { entry: '', values: emptyOf(list) }];
  }

  protected dropEntry(list: ListForm, index: number): void {
    this.registrations[list.key] = (this.registrations[list.key] ?? []).filter((_entry, other) => other !== index);
    this.page.effect.set(null);
  }

  protected shown(list: ListForm): { label: string; words: string }[] {
    return Object.entries(entriesOf(this.setUp().facts, list.key)).map(([entry, values]) => ({
      label: list.choices?.find((choice) => choice.value === entry)?.label ?? [entry, values['name']].filter(Boolean).join(' '),
      words: list.fields
        .filter((field) => field.key !== 'name' && values[field.key])
        .map((field) => {
          const value = values[field.key] ?? '';
          const label = field.label.replace(/, %$/, '').toLowerCase();
          if (typeof value === 'boolean') return label;
          return `${label} ${field.choices?.find((choice) => choice.value === value)?.label ?? value}${field.kind === 'percent' ? '%' : ''}`;
        })
        .join(', '),
    }));
  }

  protected country({ key, choices }: FormField): string {
    const value = registered(this.setUp().facts.country[key]);
    if (typeof value === 'boolean') return value ? 'yes' : 'no';
    return choices?.find((choice) => choice.value === value)?.label ?? (value || 'not on file yet');
  }

  /** Shown first, then saved. */
  protected save(): void {
    const facts = { country: this.entered() };
    if (this.page.effect()) this.page.save({ facts });
    else this.page.preview(facts);
  }

  private entered(): Record<string, unknown> {
    const country: Record<string, unknown> = { ...this.setUp().facts.country };
    for (const [key, value] of Object.entries(this.singles)) {
      if (value !== '') country[key] = value;
      else delete country[key];
    }
    for (const list of this.listForms())
      country[list.key] = Object.fromEntries(
        (this.registrations[list.key] ?? [])
          .filter((entry) => entry.entry.trim())
          .map(({ entry, values }) => {
            const asked = new Set(this.fieldsFor(list, entry.trim()).map(({ key }) => key));
            return [entry.trim(), Object.fromEntries(Object.entries(values).filter(([key, value]) => value !== '' && asked.has(key)))];
          }),
      );
    return country;
  }
}

const emptyOf = (list: ListForm): Record<string, Registered> => Object.fromEntries(list.fields.map((field) => [field.key, '']));
const registered = (value: unknown): Registered => (typeof value === 'string' || typeof value === 'boolean' ? value : '');
const entriesOf = ({ country }: EmployerFacts, key: string) => (country[key] ?? {}) as Record<string, Record<string, Registered>>;
