import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { isAsked, type FormField, type FormGroup } from '@woodruff/core';
import type { ProblemDetail } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { employerStore } from './people.store';
import { TaxPreviewPanel } from './tax-preview';

type Facts = Record<string, unknown>;

/** Tax details in the terms of the country's own certificates. The fields come from the country's pack as data. */
@Component({
  selector: 'wr-tax-details-form',
  imports: [Problem, TaxPreviewPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="beside">
      <div>
        <div class="form">
          <label class="field">In force from <input type="date" [value]="from()" (input)="from.set($any($event.target).value)" /></label>
        </div>
        @for (group of groups(); track group.title) {
          @if (visible(group).length) {
            <h3>{{ group.title }}</h3>
            <div class="form">
              @for (field of visible(group); track field.key + field.label) {
                @switch (field.kind) {
                  @case ('yes-no') {
                    <label class="check"
                      ><input type="checkbox" [checked]="value(field) === true" (change)="set(field, $any($event.target).checked)" />
                      {{ field.label }}</label
                    >
                  }
                  @case ('choice') {
                    <label class="field"
                      >{{ field.label }}
                      <select (change)="set(field, $any($event.target).value)">
                        <option value="" [selected]="!value(field)"></option>
                        @for (choice of field.choices; track choice.value) {
                          <option [value]="choice.value" [selected]="value(field) === choice.value">{{ choice.label }}</option>
                        }
                      </select>
                    </label>
                  }
                  @default {
                    <label class="field"
                      >{{ field.label }}
                      <input
                        [type]="field.kind === 'date' ? 'date' : 'text'"
                        [attr.inputmode]="field.kind === 'text' ? null : 'decimal'"
                        [value]="value(field) ?? ''"
                        (input)="set(field, $any($event.target).value)"
                        [attr.list]="field.entryOf ?? null"
                      />
                      @if (field.help) {
                        <small>{{ field.help }}</small>
                      }
                      @if (faultOf(field.key); as fault) {
                        <span class="fault">Expected {{ fault }}</span>
                      }
                    </label>
                  }
                }
              }
            </div>
          }
        }
        @for (list of lists(); track list.key) {
          <datalist [id]="list.key">
            @for (entry of list.entries; track entry.code) {
              <option [value]="entry.code">{{ entry.name }}</option>
            }
          </datalist>
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="button" (click)="save()">{{ action() }}</button>
          <button class="quiet" type="button" (click)="cancelled.emit()">Cancel</button>
        </div>
      </div>
      <aside aria-label="On a typical payslip"><wr-tax-preview [personId]="personId()" [facts]="entered()" /></aside>
    </div>
  `,
  styles: `
    h3 {
      margin: 18px 0 8px;
    }
    .beside {
      display: grid;
      grid-template-columns: minmax(0, 1fr) 400px;
      gap: 30px;
    }
    aside {
      border-left: 1px solid var(--rule);
      padding-left: 24px;
      font-size: 14px;
    }
  `,
})
export class TaxDetailsForm {
  readonly facts = input<Facts | null>(null);
  readonly personId = input.required<string>();
  readonly action = input('Save from this date on');
  readonly begins = input.required<string>();
  readonly problem = input<ProblemDetail | null>(null);
  readonly saved = output<{ from: string; facts: Facts }>();
  readonly cancelled = output<void>();
  protected readonly employer = inject(Store).selectSignal(employerStore.selectData);
  /** Entries of the employer's registrations that a field may name. */
  protected readonly lists = computed(() => Object.entries(this.employer()?.entries ?? {}).map(([key, entries]) => ({ key, entries })));
  private readonly pack = injectPack();
  protected readonly from = signal('');
  protected readonly entered = signal<Facts>({});
  protected readonly groups = computed(() => (this.employer()?.taxForm ?? []) as unknown as FormGroup[]);

  constructor() {
    effect(() => {
      this.entered.set(structuredClone(this.facts() ?? { ...this.pack()?.newTaxDetails }));
      this.from.set(this.begins());
    });
  }

  protected visible(group: FormGroup): readonly FormField[] {
    return group.fields.filter((field) => isAsked(field, (key) => this.at(key)));
  }

  protected value(field: FormField): unknown {
    return this.at(field.key);
  }

  protected set(field: FormField, value: unknown): void {
    this.entered.update((facts) => {
      const copy = structuredClone(facts);
      const path = field.key.split('.');
      const last = path.pop() ?? '';
      let here = copy;
      for (const part of path) here = (here[part] ??= {}) as Facts;
      if (value === '') delete here[last];
      else here[last] = value;
      return copy;
    });
  }

  protected faultOf(key: string): string | undefined {
    return this.problem()?.fields?.find((field) => field.path === key)?.expected;
  }

  protected save(): void {
    this.saved.emit({ from: this.from(), facts: this.entered() });
  }

  private at(key: string): unknown {
    return key
      .split('.')
      .reduce<unknown>((here, part) => (here && typeof here === 'object' ? (here as Facts)[part] : undefined), this.entered());
  }
}
