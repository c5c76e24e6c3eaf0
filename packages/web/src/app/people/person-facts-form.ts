import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { PersonFacts, ProblemDetail } from '@woodruff/contract';
import { Api } from '../api/api';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { employerStore, peopleStore } from './people.store';

const text = (value = '') => new FormControl(value, { nonNullable: true });

/** Facts of a person, for adding and for changing. Only code and name are required; the rest can wait. */
@Component({
  selector: 'wr-person-facts-form',
  imports: [Problem, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form [formGroup]="form" (ngSubmit)="save()">
      <div class="form">
        @for (field of fields; track field.key) {
          <label class="field"
            >{{ field.label }}
            <input [formControlName]="field.key" [type]="field.type" [attr.inputmode]="field.mode" />
            @if (faultOf(field.key); as fault) {
              <span class="fault">Expected {{ fault }}</span>
            }
          </label>
        }
        <label class="field"
          >Kind
          <select formControlName="kind">
            <option value="regular">Regular</option>
            <option value="seasonal">Seasonal</option>
            <option value="casual">Casual</option>
            <option value="contractor">Contractor, paid without taxes</option>
          </select>
        </label>
        @if (form.controls.kind.value === 'contractor') {
          <label class="field"
            >Number refused by the tax agency, from <input type="date" formControlName="numberRefused" /><small
              >From this day on tax is withheld as if no number were there; empty once a new one is on file</small
            ></label
          >
        }
        <label class="field"
          >Pay schedule
          <select formControlName="scheduleId">
            <option value="">Not known yet</option>
            @for (schedule of employer()?.schedules; track schedule.id) {
              <option [value]="schedule.id">{{ schedule.name }}</option>
            }
          </select>
        </label>
        <label class="field"
          >Department
          <select formControlName="department">
            <option value=""></option>
            @for (name of employer()?.departments; track name) {
              <option>{{ name }}</option>
            }
          </select>
        </label>
        <label class="field"
          >Worksite
          <select formControlName="worksite">
            <option value=""></option>
            @for (name of employer()?.worksites; track name) {
              <option>{{ name }}</option>
            }
          </select>
        </label>
        <ng-container formGroupName="address">
          <label class="field">Street <input formControlName="line1" /></label>
          <label class="field"
            >{{ pack()?.person?.address?.postcode?.label }}
            <input formControlName="postcode" (input)="place($any($event.target).value)" /><small>Fills in city and state</small></label
          >
          <label class="field">{{ pack()?.person?.address?.city ?? 'City' }} <input formControlName="city" /></label>
          @if (pack()?.person?.address?.state; as state) {
            <label class="field">{{ state.label }} <input formControlName="state" maxlength="6" /></label>
          }
        </ng-container>
        <label class="field"
          >Reports to
          <select formControlName="managerId">
            <option value=""></option>
            @for (person of people(); track person.id) {
              <option [value]="person.id">{{ person.name }}</option>
            }
          </select>
        </label>
        <ng-container formGroupName="absence">
          <label class="field">Leave of absence from <input type="date" formControlName="from" /></label>
          <label class="field"
            >Until <input type="date" formControlName="to" /><small>Open when the day of return is not known</small></label
          >
          <label class="field"
            >Because of <input formControlName="reason" placeholder="care, service …" />
            @if (faultOf('absence.reason'); as fault) {
              <span class="fault">Expected {{ fault }}</span>
            }
          </label>
        </ng-container>
        <label class="field">Phone <input formControlName="phone" /></label>
        <ng-container formGroupName="emergency">
          <label class="field">Emergency contact <input formControlName="name" /></label>
          <label class="field">Their phone <input formControlName="phone" /></label>
          <label class="field">Relationship <input formControlName="relation" placeholder="spouse, neighbour …" /></label>
        </ng-container>
        @for (field of employer()?.ownFields; track field.key) {
          @if (field.kind === 'choice') {
            <label class="field"
              >{{ field.label }}
              <select (change)="setOwn(field.key, $any($event.target).value)">
                <option value="" [selected]="!own()[field.key]"></option>
                @for (choice of field.choices; track choice) {
                  <option [value]="choice" [selected]="own()[field.key] === choice">{{ choice }}</option>
                }
              </select>
            </label>
          } @else {
            <label class="field"
              >{{ field.label }}
              <input
                [type]="field.kind === 'date' ? 'date' : 'text'"
                [attr.inputmode]="field.kind === 'number' ? 'decimal' : null"
                [value]="own()[field.key] ?? ''"
                (input)="setOwn(field.key, $any($event.target).value)"
              />
              @if (faultOf('own.' + field.key); as fault) {
                <span class="fault">Expected {{ fault }}</span>
              }
            </label>
          }
        }
      </div>
      @if (begins()) {
        <div class="counts form">
          <label class="field"
            >Counts from <input type="date" formControlName="countsFrom" /><small
              >A day to come waits until it is there; a day passed is noted as such</small
            ></label
          >
          <label class="field">Reason <input formControlName="countsReason" placeholder="moved, promoted, corrected …" /></label>
        </div>
      }
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit">{{ action() }}</button>
        <button class="quiet" type="button" (click)="cancelled.emit()">{{ cancel() }}</button>
      </div>
    </form>
  `,
  styles: '.counts { border-top: 1px solid var(--rule); padding-top: 14px; margin-top: 4px; }',
})
export class PersonFactsForm {
  protected readonly pack = injectPack();
  readonly facts = input<PersonFacts | null>(null);
  readonly action = input('Save details');
  readonly cancel = input('Cancel');
  readonly problem = input<ProblemDetail | null>(null);
  /** The day from which changes count, unless another is entered; empty for a new person. */
  readonly begins = input('');
  readonly saved = output<{ facts: PersonFacts; from: string | null; reason: string }>();
  readonly cancelled = output<void>();
  private readonly api = inject(Api);
  private readonly store = inject(Store);
  protected readonly employer = this.store.selectSignal(employerStore.selectData);
  private readonly everybody = this.store.selectSignal(peopleStore.selectData);
  protected readonly people = computed(() =>
    (this.everybody() ?? []).filter((person) => !person.left && person.code !== this.facts()?.code),
  );
  /** Values of the employer's own fields. */
  protected readonly own = signal<Readonly<Record<string, string>>>({});
  protected readonly fields = [
    { key: 'code', label: 'Code', type: 'text', mode: null },
    { key: 'givenName', label: 'Given names', type: 'text', mode: null },
    { key: 'familyName', label: 'Family name', type: 'text', mode: null },
    { key: 'born', label: 'Date of birth', type: 'date', mode: null },
    { key: 'email', label: 'E-mail', type: 'email', mode: null },
    { key: 'job', label: 'Job', type: 'text', mode: null },
    { key: 'hired', label: 'Hire date', type: 'date', mode: null },
    { key: 'left', label: 'Last day', type: 'date', mode: null },
    { key: 'leftReason', label: 'Reason for leaving', type: 'text', mode: null },
    { key: 'standardHours', label: 'Standard hours of a period (hourly pay)', type: 'text', mode: 'decimal' },
  ] as const;
  protected readonly form = new FormGroup({
    code: text(),
    givenName: text(),
    familyName: text(),
    born: text(),
    email: text(),
    job: text(),
    hired: text(),
    left: text(),
    leftReason: text(),
    standardHours: text(),
    kind: text('regular'),
    scheduleId: text(),
    department: text(),
    worksite: text(),
    phone: text(),
    managerId: text(),
    countsFrom: text(),
    countsReason: text(),
    numberRefused: text(),
    absence: new FormGroup({ from: text(), to: text(), reason: text() }),
    emergency: new FormGroup({ name: text(), phone: text(), relation: text() }),
    address: new FormGroup({ line1: text(), line2: text(), city: text(), state: text(), postcode: text() }),
  });

  constructor() {
    effect(() => {
      const facts = this.facts();
      if (facts) this.own.set(facts.own ?? {});
      if (facts)
        this.form.patchValue(
          Object.fromEntries(
            Object.entries(facts).map(([key, value]) => [key, value ?? (key === 'absence' ? { from: '', to: '', reason: '' } : '')]),
          ),
        );
      if (facts?.absence && !facts.absence.to) this.form.controls.absence.patchValue({ to: '' });
      this.form.patchValue({ countsFrom: this.begins() });
    });
    this.store.dispatch(peopleStore.load({ input: {}, keep: true }));
  }

  protected faultOf(key: string): string | undefined {
    return this.problem()?.fields?.find((field) => field.path.replace(/^facts\./, '') === key)?.expected;
  }

  /** City and state of a postcode, from the data set that ships with the server; what is entered otherwise stays. */
  protected place(postcode: string): void {
    if (!/^\d{5}$/.test(postcode)) return;
    this.api.call('postcode', { path: { code: postcode } }).subscribe(({ city, state }) => {
      if (city && state) this.form.controls.address.patchValue({ city, state });
    });
  }

  protected setOwn(key: string, value: string): void {
    this.own.update((own) => ({ ...own, [key]: value }));
  }

  protected save(): void {
    const { countsFrom, countsReason, absence, ...entered } = this.form.getRawValue();
    const known = (value: string) => (value.trim() === '' ? null : value.trim());
    const facts: PersonFacts = {
      ...entered,
      own: Object.fromEntries(Object.entries(this.own()).filter(([, value]) => value !== '')),
      kind: entered.kind as 'regular',
      born: known(entered.born),
      email: known(entered.email),
      hired: known(entered.hired),
      left: known(entered.left),
      leftReason: known(entered.leftReason),
      standardHours: known(entered.standardHours),
      scheduleId: known(entered.scheduleId),
      managerId: known(entered.managerId),
      numberRefused: known(entered.numberRefused),
      absence: absence.from ? { from: absence.from, to: known(absence.to), reason: absence.reason } : null,
    };
    this.saved.emit({ facts, from: known(countsFrom), reason: countsReason.trim() });
  }
}
