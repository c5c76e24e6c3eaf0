import { ChangeDetectionStrategy, Component, effect, input, output, signal } from '@angular/core';
import type { ProblemDetail } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { injectPack } from '../kit/pack';
import { TaxFields } from './tax-fields';
import { TaxPreviewPanel } from './tax-preview';

type Facts = Record<string, unknown>;

/** Tax details in the terms of the country's own certificates. The fields come from the country's pack as data. */
@Component({
  selector: 'wr-tax-details-form',
  imports: [Problem, TaxFields, TaxPreviewPanel],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="beside">
      <div>
        <div class="form">
          <label class="field">In force from <input type="date" [value]="from()" (input)="from.set($any($event.target).value)" /></label>
        </div>
        <wr-tax-fields [details]="entered()" [problem]="problem()" (entered)="entered.set($event)" />
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
  private readonly pack = injectPack();
  protected readonly from = signal('');
  protected readonly entered = signal<Facts>({});

  constructor() {
    effect(() => {
      this.entered.set(structuredClone(this.facts() ?? { ...this.pack()?.newTaxDetails }));
      this.from.set(this.begins());
    });
  }

  protected save(): void {
    this.saved.emit({ from: this.from(), facts: this.entered() });
  }
}
