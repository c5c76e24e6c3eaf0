import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { GeneralRead, NoticesPage, ProblemDetail } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { injectPack } from '../kit/pack';
import { Problem } from '../kit/problem';
import { CountedPipe } from '../kit/words';

/** A change of everybody's details, such as codes that all go up with a tax year: whose, before it is made. */
@Component({
  selector: 'wr-general-change',
  imports: [CountedPipe, FormsModule, Problem, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p class="muted">{{ rules().help }}</p>
    <form class="form" (ngSubmit)="look()" (input)="read.set(null)" (change)="read.set(null)">
      <label class="field">Holds from <input type="date" name="from" [ngModel]="from()" (ngModelChange)="from.set($event)" /></label>
      @for (field of rules().fields; track field.key) {
        <label class="field" [for]="'general-' + field.key"
          >{{ field.label }}
          @if (field.kind === 'choice') {
            <select
              [id]="'general-' + field.key"
              [name]="field.key"
              [ngModel]="entered[field.key] || field.choices[0]?.value"
              (ngModelChange)="entered[field.key] = $event"
            >
              @for (choice of field.choices; track choice.value) {
                <option [value]="choice.value">{{ choice.label }}</option>
              }
            </select>
          } @else {
            <input [id]="'general-' + field.key" inputmode="numeric" [name]="field.key" [(ngModel)]="entered[field.key]" placeholder="0" />
          }
        </label>
      }
      <div class="form-actions">
        @if (!read()) {
          <button class="quiet" type="submit">Show whose details change</button>
        }
      </div>
    </form>
    <wr-problem [problem]="problem()" />
    @if (read(); as read) {
      @if (read.rows.length) {
        <table class="lines">
          @for (row of read.rows; track row.personId) {
            <tr>
              <td>
                <a [routerLink]="['/people', row.personId]">{{ row.name }}</a>
              </td>
              <td>{{ row.before }}</td>
              <td>{{ row.after }}</td>
              <td class="attention">{{ row.problem }}</td>
            </tr>
          }
        </table>
        <div class="form-actions">
          <button class="main-action" type="button" (click)="save()">Change {{ changing(read) | counted: 'person' : 'people' }}</button>
          <span class="muted">{{ read.unchanged | counted: 'person stays' : 'people stay' }} as they are.</span>
        </div>
      } @else {
        <p class="muted">Nobody’s details change by it.</p>
      }
    }
  `,
})
export class GeneralChange {
  private readonly api = inject(Api);
  readonly rules = input.required<NonNullable<NoticesPage['rules']>['general']>();
  readonly today = input('');
  readonly saved = output();
  private readonly pack = injectPack();
  protected readonly read = signal<GeneralRead | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  /** The first day of the next tax year. */
  protected readonly from = linkedSignal(() => {
    const pack = this.pack();
    const today = this.today();
    if (!pack || !today) return '';
    const { to } = pack.taxYearOf(today);
    return addDays(to, 1);
  });
  protected entered: Record<string, string> = {};

  protected changing = ({ rows }: GeneralRead): number => rows.filter(({ problem }) => problem === null).length;

  private get body() {
    const entered = Object.fromEntries(
      this.rules().fields.map(({ key, choices }) => [key, this.entered[key] || (choices[0]?.value ?? '0')]),
    );
    return { from: this.from(), entered };
  }

  protected look(): void {
    this.problem.set(null);
    this.api
      .call('checkGenerally', { body: this.body })
      .subscribe({ next: (read) => this.read.set(read), error: (error: unknown) => this.problem.set(problemOf(error)) });
  }

  protected save(): void {
    this.api.call('changeGenerally', { body: this.body }).subscribe({
      next: () => {
        this.read.set(null);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}
