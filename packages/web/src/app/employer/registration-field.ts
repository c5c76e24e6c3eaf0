import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { FormField } from '@woodruff/core';

/** What is entered of a registration: a text, or whether something holds. */
export type Registered = string | boolean;

/** One registration by its kind, with what is expected of it where what was entered cannot be. */
@Component({
  selector: 'wr-registration-field',
  imports: [FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @let asked = field();
    @if (asked.choices; as choices) {
      <label class="field"
        >{{ asked.label }}
        <select [name]="name()" [ngModel]="value()" (ngModelChange)="entered.emit($event)" [ngModelOptions]="alone">
          <option value="">not chosen</option>
          @for (choice of choices; track choice.value) {
            <option [value]="choice.value">{{ choice.label }}</option>
          }
        </select>
        <small>{{ asked.help }}</small>
        @if (fault(); as expected) {
          <span class="fault">Expected {{ expected }}</span>
        }
      </label>
    } @else if (asked.kind === 'yes-no') {
      <label class="check"
        ><input
          type="checkbox"
          [name]="name()"
          [ngModel]="value() === true"
          (ngModelChange)="entered.emit($event)"
          [ngModelOptions]="alone"
        />
        {{ asked.label }}</label
      >
      @if (asked.help) {
        <small>{{ asked.help }}</small>
      }
    } @else {
      <label class="field" [class.short]="asked.kind === 'percent'"
        >{{ asked.label }}
        <input
          [type]="asked.kind === 'date' ? 'date' : 'text'"
          [name]="name()"
          [ngModel]="value()"
          (ngModelChange)="entered.emit($event)"
          [ngModelOptions]="alone"
        /><small>{{ asked.help }}</small>
        @if (fault(); as expected) {
          <span class="fault">Expected {{ expected }}</span>
        }
      </label>
    }
  `,
})
export class RegistrationField {
  readonly field = input.required<FormField>();
  readonly name = input.required<string>();
  readonly value = input<Registered>('');
  readonly fault = input<string | undefined>();
  readonly entered = output<Registered>();
  /** The form around it is saved by what was emitted. */
  protected readonly alone = { standalone: true };
}
