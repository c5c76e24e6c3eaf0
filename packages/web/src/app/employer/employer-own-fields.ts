import { ChangeDetectionStrategy, Component, effect, inject, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EmployerFacts } from '@woodruff/contract';
import { Problem } from '../kit/problem';
import { SetUpEdit } from './set-up-edit';

/** Fields that the employer adds to everybody's record. */
@Component({
  selector: 'wr-employer-own-fields',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h2>
      Custom fields
      @if (page.mayChange() && page.editing() !== 'own-fields') {
        <button class="quiet" type="button" (click)="page.edit('own-fields')" aria-label="Change: Custom fields">Change</button>
      }
    </h2>
    @if (page.editing() === 'own-fields') {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="rows">
          @for (field of fields; track $index) {
            <div class="row">
              <label class="field">Field <input [name]="'own' + $index" [(ngModel)]="field.label" /></label>
              <label class="field"
                >Kind
                <select [name]="'kind' + $index" [(ngModel)]="field.kind">
                  <option value="text">text</option>
                  <option value="number">number</option>
                  <option value="date">date</option>
                  <option value="choice">choice</option>
                </select>
              </label>
              @if (field.kind === 'choice') {
                <label class="field"
                  >Choices, with commas
                  <input
                    [name]="'choices' + $index"
                    [ngModel]="field.choices.join(', ')"
                    [ngModelOptions]="{ updateOn: 'blur' }"
                    (ngModelChange)="field.choices = splitList($event)"
                /></label>
              }
              <button type="button" class="quiet" (click)="drop($index)">Remove</button>
            </div>
          }
        </div>
        <button type="button" class="quiet" (click)="add()">Add a field</button>
        <wr-problem [problem]="page.problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save the fields</button>
          <button class="quiet" type="button" (click)="page.stop()">Cancel</button>
        </div>
      </form>
    } @else {
      <dl class="pair">
        @for (field of setUp().facts.ownFields; track field.key) {
          <dt>{{ field.label }}</dt>
          <dd>{{ field.kind }}{{ field.choices.length ? ': ' + field.choices.join(', ') : '' }}</dd>
        } @empty {
          <dt>None</dt>
          <dd class="muted">Fields of your own stand on every person's page.</dd>
        }
      </dl>
    }
  `,
  styleUrl: './employer-part.scss',
})
export class EmployerOwnFields {
  protected readonly page = inject(SetUpEdit);
  protected readonly setUp = this.page.setUp;
  protected fields: EmployerFacts['ownFields'] = [];

  constructor() {
    effect(() => {
      if (this.page.editing() === 'own-fields') this.fields = structuredClone(untracked(this.setUp).facts.ownFields);
    });
  }

  protected add(): void {
    this.fields = [...this.fields, { key: '', label: '', kind: 'text', choices: [] }];
  }

  protected drop(index: number): void {
    this.fields = this.fields.filter((_field, other) => other !== index);
  }

  protected splitList(text: string): string[] {
    return text
      .split(',')
      .map((choice) => choice.trim())
      .filter(Boolean);
  }

  protected save(): void {
    const ownFields = this.fields
      .filter((field) => field.label.trim())
      .map((field) => ({ ...field, key: field.key || keyOf(field.label) }));
    this.page.save({ facts: { ownFields } });
  }
}

/** What a new field is kept under, from its name. */
const keyOf = (label: string): string =>
  label
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '-')
    .replace(/^-|-$/g, '')
    .slice(0, 40);
