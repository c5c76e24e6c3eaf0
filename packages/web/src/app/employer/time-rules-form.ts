import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { ControlContainer, FormsModule, NgForm } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { EmployerFacts } from '@woodruff/contract';
import { payItemsStore } from '../pay-items/pay-items.store';
import { groupsStore } from '../people/people.store';
import { selectEmployer } from '../session/session.store';
import { CLOCK_WORDS, WEEKDAYS } from './time-rules-in-words';

const ITEMS: { key: keyof EmployerFacts['time']['items']; label: string }[] = [
  { key: 'ordinary', label: 'Hours at the rate are paid through' },
  { key: 'overtime', label: 'Overtime, one and a half' },
  { key: 'double', label: 'Double time' },
  { key: 'halfPremium', label: 'Half the regular rate, for two rates in a week' },
  { key: 'holiday', label: 'Holidays worked' },
];

/** How time becomes hours paid: overtime, the workweek, the items, premiums by shift, and rules of groups and states from a day on. */
@Component({
  selector: 'wr-time-rules-form',
  imports: [FormsModule],
  viewProviders: [{ provide: ControlContainer, useExisting: NgForm }],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h3>How time becomes pay</h3>
    <div class="form">
      <label class="field"
        >Overtime
        <select name="overtimeRules" [(ngModel)]="facts().overtimeRules">
          <option value="">not chosen</option>
          @for (rule of rules(); track rule.code) {
            <option [value]="rule.code">{{ rule.label }}</option>
          }
        </select>
      </label>
      <label class="field"
        >A workweek begins on
        <select name="weekBegins" [(ngModel)]="facts().time.weekBegins">
          @for (day of weekdays; track $index) {
            <option [ngValue]="$index">{{ day }}</option>
          }
        </select>
      </label>
      <label class="field"
        >Timesheets are expected of
        <select name="expected" [(ngModel)]="facts().time.expected">
          <option value="nobody">nobody</option>
          <option value="without-standard-hours">hourly people without standard hours</option>
          <option value="hourly">all hourly people</option>
        </select>
      </label>
      <label class="field"
        >Times of the clock are taken
        <select name="clockStep" [(ngModel)]="facts().time.clockStep">
          @for (step of clockSteps; track step.minutes) {
            <option [ngValue]="step.minutes">{{ step.words }}</option>
          }
        </select>
        <small>Rounding has to even out over time. Half way goes to the employee.</small>
      </label>
      @for (kind of timeItems; track kind.key) {
        <label class="field"
          >{{ kind.label }}
          <select [name]="'time-' + kind.key" [(ngModel)]="facts().time.items[kind.key]">
            <option value="">none</option>
            @for (item of hourItems(); track item.code) {
              <option [value]="item.code">{{ item.name }}</option>
            }
          </select>
        </label>
      }
      <label class="field"
        >What brings tips and pay up to the minimum wage
        <select name="time-makeUp" [(ngModel)]="facts().time.items.makeUp">
          <option value="">none: nobody receives tips</option>
          @for (item of amounts(); track item.code) {
            <option [value]="item.code">{{ item.name }}</option>
          }
        </select>
      </label>
    </div>
    <h3>Minimum wages of places</h3>
    <p class="muted">
      Where a city or county sets one above the state's: for people of the worksite, in pay periods that end on the day or later.
    </p>
    @for (least of facts().time.minimumWages; track $index; let at = $index) {
      <div class="row-of premium">
        <label
          >At
          <select class="entry" [name]="'mwsite' + at" [(ngModel)]="least.worksite">
            @for (site of facts().worksites; track site.name) {
              <option [value]="site.name">{{ site.name }}</option>
            }
          </select></label
        >
        <label>from <input class="entry" type="date" [name]="'mwfrom' + at" [(ngModel)]="least.from" /></label>
        <label>an hour <input class="entry amount" inputmode="decimal" [name]="'mwamount' + at" [(ngModel)]="least.amount" /></label>
        <button class="quiet" type="button" (click)="dropMinimumWage(at)">Remove</button>
      </div>
    }
    <button class="quiet" type="button" (click)="addMinimumWage()" [disabled]="!facts().worksites.length">Add a minimum wage</button>

    <h3>Premiums by shift</h3>
    @for (premium of facts().time.premiums; track $index; let at = $index) {
      <div class="row-of premium">
        <label>Name <input class="entry" [name]="'premium' + at" [(ngModel)]="premium.label" /></label>
        <label>from <input class="entry" type="time" [name]="'pfrom' + at" [(ngModel)]="premium.from" /></label>
        <label>to <input class="entry" type="time" [name]="'pto' + at" [(ngModel)]="premium.to" /></label>
        <label>an hour <input class="entry amount" inputmode="decimal" [name]="'per' + at" [(ngModel)]="premium.perHour" /></label>
        <label
          >paid through
          <select class="entry" [name]="'pitem' + at" [(ngModel)]="premium.item">
            @for (item of hourItems(); track item.code) {
              <option [value]="item.code">{{ item.name }}</option>
            }
          </select></label
        >
        <button class="quiet" type="button" (click)="dropPremium(at)">Remove</button>
      </div>
    }
    <button class="quiet" type="button" (click)="addPremium()">Add a premium</button>

    <h3>Other rules for a group or a state</h3>
    <p class="muted">In place of those above, for pay periods that begin on the day or later. A group's rules go before a state's.</p>
    @for (other of facts().time.other; track $index; let at = $index) {
      <div class="row-of premium">
        <label>From <input class="entry" type="date" [name]="'ofrom' + at" [(ngModel)]="other.from" /></label>
        <label
          >for
          <select class="entry" [name]="'ofor' + at" [ngModel]="whom(other)" (ngModelChange)="setWhom(other, $event)">
            @for (group of groups(); track group.id) {
              <option [value]="'group ' + group.id">{{ group.name }}</option>
            }
            @for (state of states(); track state) {
              <option [value]="'state ' + state">worksites in {{ state }}</option>
            }
          </select></label
        >
        <label
          >overtime
          <select class="entry" [name]="'orule' + at" [(ngModel)]="other.overtimeRules">
            @for (rule of rules(); track rule.code) {
              <option [value]="rule.code">{{ rule.label }}</option>
            }
          </select></label
        >
        <label><input type="checkbox" [name]="'oprem' + at" [(ngModel)]="other.premiums" /> with the premiums</label>
        <button class="quiet" type="button" (click)="dropOther(at)">Remove</button>
      </div>
    }
    <button class="quiet" type="button" (click)="addOther()">Add other rules</button>
  `,
  styleUrl: './employer-part.scss',
})
export class TimeRulesForm {
  private readonly store = inject(Store);
  /** The employer's facts as they are being changed. */
  readonly facts = input.required<EmployerFacts>();
  readonly rules = input.required<readonly { code: string; label: string }[]>();
  private readonly session = this.store.selectSignal(selectEmployer);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly groups = this.store.selectSignal(groupsStore.selectData);
  protected readonly hourItems = computed(() => this.items()?.filter((item) => !item.retired && item.method.by === 'hours') ?? []);
  protected readonly amounts = computed(
    () => this.items()?.filter((item) => !item.retired && item.kind === 'earning' && item.method.by === 'amount') ?? [],
  );
  protected readonly states = computed(() => [
    ...new Set(
      this.facts()
        .worksites.map((site) => site.state)
        .filter(Boolean),
    ),
  ]);
  protected readonly weekdays = WEEKDAYS;
  protected readonly timeItems = ITEMS;
  protected readonly clockSteps = CLOCK_WORDS;

  protected addMinimumWage(): void {
    const { time, worksites } = this.facts();
    time.minimumWages = [...time.minimumWages, { worksite: worksites[0]?.name ?? '', from: this.session()?.today ?? '', amount: '' }];
  }

  protected dropMinimumWage(at: number): void {
    const { time } = this.facts();
    time.minimumWages = time.minimumWages.filter((_least, index) => index !== at);
  }

  protected addPremium(): void {
    const { time } = this.facts();
    time.premiums = [...time.premiums, { label: 'Night', from: '22:00', to: '06:00', perHour: '', item: this.hourItems()[0]?.code ?? '' }];
  }

  protected dropPremium(at: number): void {
    const { time } = this.facts();
    time.premiums = time.premiums.filter((_premium, index) => index !== at);
  }

  protected addOther(): void {
    const { time } = this.facts();
    const [group] = this.groups() ?? [];
    const whom = group ? { groupId: group.id } : { state: this.states()[0] ?? '' };
    time.other = [
      ...time.other,
      { from: this.session()?.today ?? '', ...whom, overtimeRules: this.rules()[0]?.code ?? '', premiums: true },
    ];
  }

  protected dropOther(at: number): void {
    const { time } = this.facts();
    time.other = time.other.filter((_other, index) => index !== at);
  }

  protected whom = ({ groupId, state }: EmployerFacts['time']['other'][number]): string =>
    groupId ? `group ${groupId}` : `state ${state ?? ''}`;

  protected setWhom(other: EmployerFacts['time']['other'][number], text: string): void {
    const [kind, id = ''] = text.split(' ');
    other.groupId = kind === 'group' ? id : null;
    other.state = kind === 'state' ? id : null;
  }
}
