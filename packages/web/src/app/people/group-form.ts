import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { counted } from '@woodruff/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, Group, GroupEffect, PayItemRow, ProblemDetail } from '@woodruff/contract';
import type { FormGroup } from '@woodruff/core';
import { forkJoin } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { termsNow } from '../leave/leave-words';
import { leaveStore } from '../leave/leave.store';
import { asksFor, isHeld } from '../pay-items/pay-item-words';
import { payItemsStore } from '../pay-items/pay-items.store';
import { selectEmployer } from '../session/session.store';
import { GroupEffectTable } from './group-effect';
import { employerStore } from './people.store';
import { CountedPipe } from '../kit/words';

interface Line {
  itemId: string;
  value: string;
}

type Accounts = NonNullable<Group['defaults']['accounts']>;
const ACCOUNTS: { key: keyof Accounts; label: string }[] = [
  { key: 'wages', label: 'Wages' },
  { key: 'reimbursements', label: 'Reimbursed expenses' },
  { key: 'employerTaxes', label: "Employer's taxes" },
];

/** What a group supplies, entered or changed; a change can be passed on to its people after a look at what it does. */
@Component({
  selector: 'wr-group-form',
  imports: [CountedPipe, EffectOnRuns, FormsModule, GroupEffectTable, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel-form" (ngSubmit)="save()">
      <div class="form">
        <label class="field">Name <input name="name" [(ngModel)]="name" /></label>
        <label class="field"
          >Pay schedule
          <select name="schedule" [(ngModel)]="scheduleId" (ngModelChange)="forget()">
            <option value="">Left to each person</option>
            @for (schedule of employer()?.schedules; track schedule.id) {
              <option [value]="schedule.id">{{ schedule.name }}</option>
            }
          </select>
        </label>
        <label class="field"
          >Department
          <select name="department" [(ngModel)]="department" (ngModelChange)="forget()">
            <option value="">Left to each person</option>
            @for (name of employer()?.departments; track name) {
              <option>{{ name }}</option>
            }
          </select>
        </label>
        <label class="field"
          >Worksite
          <select name="worksite" [(ngModel)]="worksite" (ngModelChange)="forget()">
            <option value="">Left to each person</option>
            @for (name of employer()?.worksites; track name) {
              <option>{{ name }}</option>
            }
          </select>
        </label>
        <label class="field">Job <input name="job" [(ngModel)]="job" (ngModelChange)="forget()" /></label>
        <label class="field"
          >Kind
          <select name="kind" [(ngModel)]="kind" (ngModelChange)="forget()">
            <option value="">Left to each person</option>
            <option value="regular">Regular</option>
            <option value="seasonal">Seasonal</option>
            <option value="casual">Casual</option>
            <option value="contractor">Contractor, paid without taxes</option>
          </select>
        </label>
        <label class="field"
          >Standard hours of a period <input name="hours" inputmode="decimal" [(ngModel)]="standardHours" (ngModelChange)="forget()"
        /></label>
      </div>
      @if (taxFields().length) {
        <h3>Tax details of the place of work</h3>
        <div class="form">
          @for (field of taxFields(); track field.key) {
            @if (field.choices) {
              <label class="field"
                >{{ field.label }}
                <select [name]="'tax-' + field.key" [ngModel]="tax[field.key] ?? ''" (ngModelChange)="setTax(field.key, $event)">
                  <option value="">Left to each person</option>
                  @for (choice of field.choices; track choice.value) {
                    <option [value]="choice.value">{{ choice.label }}</option>
                  }
                </select>
              </label>
            } @else {
              <label class="field"
                >{{ field.label }}
                <input [name]="'tax-' + field.key" [ngModel]="tax[field.key] ?? ''" (ngModelChange)="setTax(field.key, $event)"
              /></label>
            }
          }
        </div>
      }
      <h3>Posted to, where the item names no account</h3>
      <div class="form">
        @for (field of accountFields; track field.key) {
          <label class="field"
            >{{ field.label }} <input [name]="'account-' + field.key" [(ngModel)]="accounts[field.key]" placeholder="the employer's"
          /></label>
        }
      </div>
      <h3>Recurring items</h3>
      <table class="lines items">
        <tr>
          <th>Item</th>
          <th>Amount or per cent</th>
          <th></th>
        </tr>
        @for (line of lines(); track $index; let at = $index) {
          <tr>
            <td>
              <select
                class="entry"
                [attr.aria-label]="'Item ' + (at + 1)"
                [name]="'item' + at"
                [(ngModel)]="line.itemId"
                (ngModelChange)="forget()"
              >
                <option value=""></option>
                @for (item of assignable(); track item.id) {
                  <option [value]="item.id">{{ item.name }}</option>
                }
              </select>
            </td>
            <td>
              @if (asks(line) !== 'nothing') {
                <input
                  class="entry amount"
                  inputmode="decimal"
                  [attr.aria-label]="'Value of item ' + (at + 1)"
                  [name]="'value' + at"
                  [(ngModel)]="line.value"
                  (ngModelChange)="forget()"
                />
                {{ asks(line) === 'percent' ? '%' : '' }}
              } @else if (line.itemId) {
                <span class="muted">calculated</span>
              }
            </td>
            <td class="num"><button type="button" class="quiet" (click)="drop(at)">Remove</button></td>
          </tr>
        }
      </table>
      <button type="button" class="quiet" (click)="add()">Another item</button>
      @if (plans().length) {
        <div class="row-of plans">
          <span class="muted">Leave plans</span>
          @for (plan of plans(); track plan.id) {
            <label
              ><input type="checkbox" [name]="'plan-' + plan.id" [checked]="leavePlans().has(plan.id)" (change)="togglePlan(plan.id)" />
              {{ plan.name }}</label
            >
          }
        </div>
      }
      @if (group()?.members?.length) {
        <div class="form passing">
          <label class="field"
            >Its {{ group()!.members.length | counted: 'person' : 'people' }}
            <select name="pass" [(ngModel)]="passOn" (ngModelChange)="forget()">
              <option [ngValue]="true">follow from a day on</option>
              <option [ngValue]="false">stay as they are; it is for those who join later</option>
            </select>
          </label>
          @if (passOn) {
            <label class="field">From <input type="date" name="from" [(ngModel)]="from" (ngModelChange)="forget()" /></label>
          }
        </div>
      }
      @if (effect(); as effect) {
        <wr-group-effect [effect]="effect" />
      }
      @if (runs(); as runs) {
        <wr-effect [effect]="runs" />
      }
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        @if (!passing() || effect()) {
          <button class="main-action" type="submit">{{ saveWords() }}</button>
        } @else {
          <button class="main-action" type="button" (click)="preview()">Show what it changes</button>
        }
        <button class="quiet" type="button" (click)="left.emit()">Cancel</button>
      </div>
    </form>
  `,
  styleUrl: './person-part.scss',
  styles: `
    .entry {
      display: inline-block;
      margin: 0;
      width: 260px;
      font-size: 14px;
    }
    .amount {
      width: 110px;
    }
    .items td {
      vertical-align: middle;
    }
    .items {
      margin: 12px 0 4px;
      max-width: 640px;
    }
    .plans {
      margin-top: 12px;
      font-size: 14px;
    }
    .passing {
      border-top: 1px solid var(--rule);
      margin-top: 14px;
      padding-top: 12px;
    }
  `,
})
export class GroupForm {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  /** The group that is changed; null for a new one. */
  readonly group = input<Group | null>(null);
  readonly saved = output();
  readonly left = output();
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly employer = this.store.selectSignal(employerStore.selectData);
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  protected readonly assignable = computed((): PayItemRow[] => this.items()?.filter((item) => !item.retired && isHeld(item)) ?? []);
  protected readonly effect = signal<GroupEffect | null>(null);
  protected readonly runs = signal<Effect | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly lines = signal<Line[]>([]);
  protected readonly leavePlans = signal<ReadonlySet<string>>(new Set());
  private readonly leave = this.store.selectSignal(leaveStore.selectData);
  protected readonly plans = computed(
    () => this.leave()?.plans.map((plan) => ({ id: plan.id, name: termsNow(plan, this.session()?.today ?? '')?.name ?? '' })) ?? [],
  );
  protected name = '';
  protected scheduleId = '';
  protected department = '';
  protected worksite = '';
  protected job = '';
  protected kind = '';
  protected standardHours = '';
  protected tax: Record<string, string> = {};
  protected accounts: Accounts = { wages: '', reimbursements: '', employerTaxes: '' };
  protected readonly accountFields = ACCOUNTS;
  /** Facts of the place of work: the rest of a certificate is each person's own. */
  protected readonly taxFields = computed(() =>
    ((this.employer()?.taxForm ?? []) as unknown as FormGroup[]).flatMap((group) => group.fields).filter((field) => field.ofGroup),
  );
  protected passOn = true;
  protected from = '';

  constructor() {
    effect(() => {
      const group = this.group();
      this.from = this.session()?.today ?? '';
      const { scheduleId, department, worksite, job, kind, standardHours, items } = group?.defaults ?? { items: [] };
      this.name = group?.name ?? '';
      this.scheduleId = scheduleId ?? '';
      this.department = department ?? '';
      this.worksite = worksite ?? '';
      this.job = job ?? '';
      this.kind = kind ?? '';
      this.standardHours = standardHours ?? '';
      this.tax = { ...group?.defaults.tax };
      this.accounts = { wages: '', reimbursements: '', employerTaxes: '', ...group?.defaults.accounts };
      this.lines.set([
        ...items.map((item) => ({ itemId: item.itemId, value: item.percent ?? item.amount ?? '' })),
        { itemId: '', value: '' },
      ]);
      this.leavePlans.set(new Set(group?.defaults.leavePlans ?? []));
      this.forget();
    });
    effect(() => {
      if (!this.session()) return;
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(leaveStore.load({ input: {}, keep: true }));
      this.store.dispatch(employerStore.load({ input: {}, keep: true }));
    });
  }

  protected setTax(key: string, value: string): void {
    this.tax = { ...this.tax, [key]: value };
    this.forget();
  }

  protected passing(): boolean {
    return this.passOn && !!this.group()?.members.length;
  }

  protected saveWords(): string {
    const group = this.group();
    if (!group) return 'Save the group';
    const followers = this.effect()?.follow.length ?? 0;
    return this.passing() ? `Save it for ${counted(followers, 'person', 'people')}` : 'Save it for those who join later';
  }

  protected asks(line: Line): string {
    const item = this.items()?.find((candidate) => candidate.id === line.itemId);
    return item ? asksFor(item) : 'nothing';
  }

  protected add(): void {
    this.lines.update((lines) => [...lines, { itemId: '', value: '' }]);
  }

  protected togglePlan(id: string): void {
    this.leavePlans.update((plans) => {
      const next = new Set(plans);
      if (!next.delete(id)) next.add(id);
      return next;
    });
    this.forget();
  }

  protected drop(at: number): void {
    this.lines.update((lines) => lines.filter((_line, index) => index !== at));
    this.forget();
  }

  /** What was shown no longer holds once something else is entered. */
  protected forget(): void {
    this.effect.set(null);
    this.runs.set(null);
  }

  protected preview(): void {
    const group = this.group();
    if (!group) return;
    this.problem.set(null);
    const call = { path: { id: group.id }, body: this.change(group) };
    forkJoin({ effect: this.api.call('checkGroupChange', call), runs: this.api.rehearse('changeGroup', call) }).subscribe({
      next: ({ effect, runs }) => {
        this.effect.set(effect);
        this.runs.set(runs);
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected save(): void {
    const group = this.group();
    this.problem.set(null);
    const { version: _version, passOnFrom: _from, ...body } = this.change(group);
    const request = group
      ? this.api.call('changeGroup', { path: { id: group.id }, body: this.change(group) })
      : this.api.call('addGroup', { body });
    (request as ReturnType<typeof this.api.call<'changeGroup'>>).subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private change(group: Group | null): BodyOf<'changeGroup'> {
    return {
      version: group?.version ?? 0,
      name: this.name,
      passOnFrom: this.passing() ? this.from : null,
      defaults: {
        scheduleId: this.scheduleId || null,
        department: this.department,
        worksite: this.worksite,
        job: this.job,
        kind: (this.kind || null) as 'regular' | null,
        standardHours: this.standardHours || null,
        leavePlans: [...this.leavePlans()],
        tax: Object.fromEntries(Object.entries(this.tax).filter(([, value]) => value)),
        accounts: this.accounts,
        items: this.lines()
          .filter((line) => line.itemId)
          .map((line) => {
            const asks = this.asks(line);
            return { itemId: line.itemId, ...(asks === 'nothing' || !line.value ? {} : { [asks]: line.value }) };
          }),
      },
    };
  }
}
