import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { Store } from '@ngrx/store';
import { isAsked, type FormField, type FormGroup } from '@woodruff/core';
import type { ProblemDetail } from '@woodruff/contract';
import { employerStore } from './people.store';

type Facts = Record<string, unknown>;

/** Fields of tax details in the terms of the country's own certificates; they come from the country's pack as data. */
@Component({
  selector: 'wr-tax-fields',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
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
                  @if (faultOf(field.key); as fault) {
                    <span class="fault">Expected {{ fault }}</span>
                  }
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
  `,
  styles: `
    h3 {
      margin: 18px 0 8px;
    }
  `,
})
export class TaxFields {
  readonly details = input.required<Facts>();
  readonly problem = input<ProblemDetail | null>(null);
  readonly entered = output<Facts>();
  private readonly employer = inject(Store).selectSignal(employerStore.selectData);
  /** Entries of the employer's registrations that a field may name. */
  protected readonly lists = computed(() => Object.entries(this.employer()?.entries ?? {}).map(([key, entries]) => ({ key, entries })));
  protected readonly groups = computed(() => (this.employer()?.taxForm ?? []) as unknown as FormGroup[]);

  protected visible(group: FormGroup): readonly FormField[] {
    return group.fields.filter((field) => isAsked(field, (key) => this.at(key)));
  }

  protected value(field: FormField): unknown {
    return this.at(field.key);
  }

  protected set(field: FormField, value: unknown): void {
    const copy = structuredClone(this.details());
    const path = field.key.split('.');
    const last = path.pop() ?? '';
    let here = copy;
    for (const part of path) here = (here[part] ??= {}) as Facts;
    if (value === '') delete here[last];
    else here[last] = value;
    this.entered.emit(copy);
  }

  protected faultOf(key: string): string | undefined {
    return this.problem()?.fields?.find((field) => field.path === key)?.expected;
  }

  private at(key: string): unknown {
    return key
      .split('.')
      .reduce<unknown>((here, part) => (here && typeof here === 'object' ? (here as Facts)[part] : undefined), this.details());
  }
}
