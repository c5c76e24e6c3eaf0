import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { Store } from '@ngrx/store';
import type { BodyOf, Person, ProblemDetail, StandingTaxes } from '@woodruff/contract';
import { writtenDecimal } from '@woodruff/core';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { effectWhileTyping } from '../kit/while-typing';
import { DayPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';

type Entry = StandingTaxes['entries'][number];
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** Taxes of a person that are not taken by their rules for a time: exemptions, and those fixed by a letter. */
@Component({
  selector: 'wr-person-standing-taxes',
  imports: [DayPipe, EffectOnRuns, Problem, ReactiveFormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h3>
      Exemptions and fixed taxes
      @if (mayPrepare() && !open()) {
        <button class="quiet" type="button" (click)="begin()">Add one</button>
      }
    </h3>
    @if (open()) {
      <form class="panel-form" [formGroup]="form" (ngSubmit)="save()">
        <div class="form">
          <label class="field"
            >Tax
            <select formControlName="tax">
              <option value=""></option>
              @for (tax of known()?.taxes; track tax.code) {
                <option [value]="tax.code">{{ tax.label }}</option>
              }
            </select>
          </label>
          <label class="field"
            >Instead of its rules
            <select formControlName="instead">
              <option value="exempt">nothing is taken: exempt</option>
              <option value="amount">a fixed amount each pay</option>
              <option value="percent">a fixed per cent</option>
            </select>
          </label>
          @if (form.value.instead !== 'exempt') {
            <label class="field"
              >{{ form.value.instead === 'percent' ? 'Percentage of the pay counted' : 'Amount each pay' }}
              <input formControlName="value" inputmode="decimal" />
            </label>
          }
          <label class="field">From <input type="date" formControlName="from" /></label>
          <label class="field">Until <input type="date" formControlName="to" /><small>Empty while no end is known</small></label>
          <label class="field wide"
            >Reason <input formControlName="reason" placeholder="letter of the agency of 3 March, certificate …"
          /></label>
        </div>
        @if (effect(); as effect) {
          <wr-effect [effect]="effect" />
        }
        <wr-problem [problem]="problem()" />
        <div class="form-actions">
          <button class="main-action" type="submit">Save the entry</button>
          <button class="quiet" type="button" (click)="open.set(null)">Cancel</button>
        </div>
      </form>
    }
    @if (known()?.entries?.length) {
      <table class="lines">
        <tr>
          <th>Tax</th>
          <th>Taken</th>
          <th>From</th>
          <th>Until</th>
          <th>Reason</th>
          <th></th>
        </tr>
        @for (entry of known()!.entries; track entry.id) {
          <tr [class.ended]="entry.to && entry.to < today()">
            <td>{{ entry.label }}</td>
            <td>{{ words(entry) }}</td>
            <td>{{ entry.from | day }}</td>
            <td>{{ entry.to ? (entry.to | day) : 'open' }}</td>
            <td>{{ entry.reason }}</td>
            <td class="num">
              @if (mayPrepare()) {
                <button class="quiet" type="button" (click)="change(entry)" [attr.aria-label]="'Change the entry for ' + entry.label">
                  Change
                </button>
              }
            </td>
          </tr>
        }
      </table>
    } @else if (!open()) {
      <p class="muted">None: every tax is taken by its rules.</p>
    }
  `,
  styleUrl: './person-part.scss',
  styles: 'h3 { display: flex; align-items: baseline; font-size: 15px; margin: 18px 0 4px; }',
})
export class PersonStandingTaxes {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly known = signal<StandingTaxes | null>(null);
  protected readonly open = signal<'new' | Entry | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly form = new FormGroup({
    tax: text(),
    instead: text('exempt'),
    value: text(),
    reason: text(),
    from: text(),
    to: text(),
  });
  protected readonly effect = effectWhileTyping(this.form.valueChanges, () =>
    this.open() && this.form.value.tax && (this.form.value.reason ?? '').length > 2 ? (this.send(true) as never) : null,
  );

  constructor() {
    effect(() => {
      this.fetch(this.person().id);
    });
  }

  protected today(): string {
    return this.employer()?.today ?? '';
  }

  protected begin(): void {
    this.problem.set(null);
    this.form.reset({ instead: 'exempt', from: this.today() });
    this.open.set('new');
  }

  protected change(entry: Entry): void {
    this.problem.set(null);
    this.form.reset({ ...entry, value: entry.value ?? '', to: entry.to ?? '' });
    this.open.set(entry);
  }

  protected words({ instead, value }: Entry): string {
    if (instead === 'exempt') return 'exempt';
    return instead === 'percent' ? `${value ?? ''}% of the pay counted` : `${writtenDecimal(value ?? '0')} each pay`;
  }

  protected save(): void {
    this.problem.set(null);
    this.send(false).subscribe({
      next: () => {
        this.open.set(null);
        this.fetch(this.person().id);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private fetch(id: string): void {
    this.api.call('standingTaxes', { path: { id } }).subscribe((known) => this.known.set(known));
  }

  private send(rehearsed: boolean): Observable<unknown> {
    const open = this.open();
    const { value, to, instead, ...rest } = this.form.getRawValue();
    const body: BodyOf<'addStandingTax'> = {
      ...rest,
      instead: instead as 'exempt',
      value: (instead !== 'exempt' && value) || null,
      to: to || null,
    };
    if (open === 'new' || open === null) {
      const call = { path: { id: this.person().id }, body };
      return rehearsed ? this.api.rehearse('addStandingTax', call) : this.api.call('addStandingTax', call);
    }
    const call = { path: { id: this.person().id, entry: open.id }, body };
    return rehearsed ? this.api.rehearse('changeStandingTax', call) : this.api.call('changeStandingTax', call);
  }
}
