import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { Person, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { Problem } from '../kit/problem';
import { DayPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { employerStore } from './people.store';

type Position = Person['positions'][number];

/** What somebody does: the main position of the record, and others beside it, each with the rate it is paid at. */
@Component({
  selector: 'wr-person-positions',
  imports: [DayPipe, FormsModule, Problem],
  changeDetection: ChangeDetectionStrategy.Eager,
  template: `
    <h3>
      Positions
      @if (mayPrepare() && open() === null) {
        <button class="quiet" type="button" (click)="begin(null)">Add a position</button>
      }
    </h3>
    @if (open() !== null) {
      <form class="panel-form" (ngSubmit)="save()">
        <div class="form">
          <label class="field">Job <input name="job" [(ngModel)]="draft.job" /></label>
          <label class="field"
            >Department
            <select name="department" [(ngModel)]="draft.department">
              <option value="">as the main position</option>
              @for (name of employer()?.departments; track name) {
                <option>{{ name }}</option>
              }
            </select>
          </label>
          <label class="field"
            >Worksite
            <select name="worksite" [(ngModel)]="draft.worksite">
              <option value="">as the main position</option>
              @for (name of employer()?.worksites; track name) {
                <option>{{ name }}</option>
              }
            </select>
          </label>
          <label class="field"
            >Paid at
            <select name="rate" [(ngModel)]="draft.rate">
              <option value="">the primary rate</option>
              @for (rate of rates(); track rate.series) {
                <option [value]="rate.series">{{ rate.label }}</option>
              }
            </select>
            <small>Hours at this rate count to its department's cost</small>
          </label>
          <label class="field"
            >Share of cost, % <input name="share" inputmode="decimal" [(ngModel)]="draft.share" /><small
              >Of pay for which no time is kept; empty: none</small
            ></label
          >
          <label class="field">From <input type="date" name="from" [(ngModel)]="draft.from" /></label>
          <label class="field">To <input type="date" name="to" [(ngModel)]="draft.to" /><small>Empty: without an end</small></label>
        </div>
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save the position</button>
          @if (open()) {
            <button class="quiet" type="button" (click)="remove()">It was entered by mistake</button>
          }
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    <table class="lines">
      <tr>
        <td>{{ person().facts.job || 'no job entered' }}</td>
        <td>{{ place(person().facts.department, person().facts.worksite) }}</td>
        <td class="muted">main position</td>
        <td></td>
      </tr>
      @for (position of person().positions; track position.id) {
        <tr [class.muted]="position.to && position.to < today()">
          <td>{{ position.job }}</td>
          <td>{{ place(position.department, position.worksite) }}</td>
          <td>
            {{ position.rateLabel ? 'paid at ' + position.rateLabel + ', ' : ''
            }}{{ position.share ? position.share + '% of the cost, ' : '' }}from {{ position.from | day }}{{ position.to ? ' to ' : ''
            }}{{ position.to ?? null | day }}
          </td>
          <td class="num">
            @if (mayPrepare() && open() === null) {
              <button class="quiet" type="button" (click)="begin(position)" [attr.aria-label]="'Change the position ' + position.job">
                Change
              </button>
            }
          </td>
        </tr>
      }
    </table>
  `,
  styleUrl: './person-part.scss',
  styles: `
    h3 {
      display: flex;
      align-items: baseline;
      margin: 18px 0 4px;
    }
  `,
})
export class PersonPositions {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly session = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly employer = this.store.selectSignal(employerStore.selectData);
  protected readonly today = computed(() => this.session()?.today ?? '');
  /** The position that is changed, '' for a new one. */
  protected readonly open = signal<string | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  /** Rates beside the primary one, each once. */
  protected readonly rates = computed(() => [
    ...new Map(
      this.person()
        .rates.filter((rate) => !rate.primary)
        .map((rate) => [rate.series, rate] as const),
    ).values(),
  ]);
  protected draft = emptyOf('');

  protected place = (department: string, worksite: string): string => [department, worksite].filter(Boolean).join(', ');

  protected begin(position: Position | null): void {
    this.problem.set(null);
    this.draft = position
      ? {
          job: position.job,
          department: position.department ?? '',
          worksite: position.worksite ?? '',
          rate: position.rate ?? '',
          share: position.share ?? '',
          from: position.from,
          to: position.to ?? '',
        }
      : emptyOf(this.today());
    this.open.set(position?.id ?? '');
  }

  protected save(): void {
    const { rate, to, share, ...rest } = this.draft;
    const body = { ...rest, rate: rate || null, share: share.trim() || null, to: to || null };
    const path = { id: this.person().id };
    const position = this.open();
    this.then(
      position ? this.api.call('changePosition', { path: { ...path, position }, body }) : this.api.call('addPosition', { path, body }),
    );
  }

  protected remove(): void {
    this.then(this.api.call('removePosition', { path: { id: this.person().id, position: this.open() ?? '' } }));
  }

  private then(request: Observable<unknown>): void {
    request.subscribe({
      next: () => {
        this.open.set(null);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }
}

const emptyOf = (from: string) => ({ job: '', department: '', worksite: '', rate: '', share: '', from, to: '' });
