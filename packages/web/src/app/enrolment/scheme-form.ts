import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { EnrolmentPage, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';

type Scheme = EnrolmentPage['schemes'][number];
type Tier = Scheme['tiers'][number];

/** A scheme: its provider and references, what contributions are of, and the rates of its groups. */
@Component({
  selector: 'wr-scheme-form',
  imports: [FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <form class="panel-form" (ngSubmit)="save()">
      <div class="form">
        <label class="field">Name of the scheme <input name="name" [(ngModel)]="draft().name" /></label>
        <label class="field">Provider <input name="provider" [(ngModel)]="draft().provider" /></label>
        <label class="field">Employer's reference there <input name="reference" [(ngModel)]="draft().reference" /></label>
        <label class="field">Group there <input name="group" [(ngModel)]="draft().group" placeholder="if the provider has any" /></label>
        @if (!scheme()) {
          @for (field of fields(); track field.key) {
            <label class="field"
              >{{ field.label }}
              <select [name]="field.key" [(ngModel)]="draft().choices[field.key]">
                @for (choice of field.choices; track choice.value) {
                  <option [value]="choice.value">{{ choice.label }}</option>
                }
              </select>
            </label>
          }
          <label class="field"
            >The employer puts in at most, each year
            <input name="most" [(ngModel)]="draft().employerAtMost" placeholder="no limit" />
          </label>
        }
      </div>
      <h3>Groups and their rates</h3>
      <table class="lines">
        <tr>
          <th>Group</th>
          <th class="num">Person puts in, %</th>
          <th class="num">Employer puts in, %</th>
          <th></th>
        </tr>
        @for (tier of draft().tiers; track $index) {
          <tr>
            <td>
              <input class="entry" [name]="'label' + $index" [(ngModel)]="tier.label" [attr.aria-label]="'Name of group ' + ($index + 1)" />
            </td>
            <td class="num">
              <input
                class="entry num"
                [name]="'own' + $index"
                [(ngModel)]="tier.employee"
                [attr.aria-label]="'Per cent of group ' + ($index + 1)"
              />
            </td>
            <td class="num">
              <input
                class="entry num"
                [name]="'employer' + $index"
                [(ngModel)]="tier.employer"
                [attr.aria-label]="'Per cent of the employer for group ' + ($index + 1)"
              />
            </td>
            <td>
              @if (draft().tiers.length > 1) {
                <button class="quiet" type="button" (click)="remove($index)">Remove</button>
              }
            </td>
          </tr>
        }
      </table>
      <button class="quiet" type="button" (click)="add()">Another group</button>
      <wr-problem [problem]="problem()" />
      <div class="form-actions">
        <button class="main-action" type="submit">{{ scheme() ? 'Save the scheme' : 'Add the scheme and its pay items' }}</button>
        <button class="quiet" type="button" (click)="left.emit()">Cancel</button>
      </div>
    </form>
  `,
})
export class SchemeForm {
  private readonly api = inject(Api);
  readonly fields = input<NonNullable<EnrolmentPage['law']>['fields']>([]);
  readonly scheme = input<Scheme | null>(null);
  readonly saved = output();
  readonly left = output();
  protected readonly problem = signal<ProblemDetail | null>(null);
  private readonly choices = computed(() => Object.fromEntries(this.fields().map(({ key, choices }) => [key, choices[0]?.value ?? ''])));
  protected readonly draft = linkedSignal(() => {
    const { name = '', provider = '', reference = '', group = '', tiers, choices, employerAtMost = '' } = this.scheme() ?? {};
    return {
      name,
      provider,
      reference,
      group,
      employerAtMost,
      choices: { ...(choices ?? this.choices()) },
      tiers: (tiers ?? [{ code: 'standard', label: 'Standard', employee: '5', employer: '3' }]).map((tier): Tier => ({ ...tier })),
    };
  });

  protected add(): void {
    const codes = new Set(this.draft().tiers.map(({ code }) => code));
    let number = codes.size + 1;
    while (codes.has(`group-${number}`)) number += 1;
    this.draft.update((draft) => ({
      ...draft,
      tiers: [...draft.tiers, { code: `group-${number}`, label: '', employee: '', employer: '' }],
    }));
  }

  protected remove(at: number): void {
    this.draft.update((draft) => ({ ...draft, tiers: draft.tiers.filter((_tier, index) => index !== at) }));
  }

  protected save(): void {
    this.problem.set(null);
    const scheme = this.scheme();
    const { choices, employerAtMost, ...rest } = this.draft();
    const saving: Observable<unknown> = scheme
      ? this.api.call('changeSavingsScheme', { path: { id: scheme.id }, body: { ...rest, version: scheme.version } })
      : this.api.call('addSavingsScheme', { body: { ...rest, choices, employerAtMost } });
    saving.subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
