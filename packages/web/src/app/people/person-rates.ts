import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, Effect, Person, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { effectWhileTyping } from '../kit/while-typing';
import { DayPipe, DecimalPipe } from '../kit/words';
import { selectEmployer, selectMayPrepare } from '../session/session.store';

import { BackPayOffer } from './back-pay-offer';

type Rate = Person['rates'][number];
const text = (value = '') => new FormControl(value, { nonNullable: true });
const SHOWN = 6;

/** What a person is paid, with its history: a new rate from a date on, or an entry corrected that was wrong from its first day. */
@Component({
  selector: 'wr-person-rates',
  imports: [BackPayOffer, DayPipe, DecimalPipe, EffectOnRuns, Problem, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './person-rates.html',
  styleUrl: './person-part.scss',
})
export class PersonRates {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  /** A new rate, or the entry that is corrected. */
  protected readonly open = signal<'new' | Rate | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  /** Back pay for periods that reach this day is offered while there is one. */
  protected readonly backFrom = signal('');
  protected readonly said = signal('');
  protected readonly all = signal(false);
  protected readonly shown = computed(() => (this.all() ? this.person().rates : this.person().rates.slice(0, SHOWN)));
  protected readonly folded = computed(() => this.person().rates.length - this.shown().length);
  protected readonly form = new FormGroup({
    label: text(),
    per: text('hour'),
    amount: text(),
    from: text(),
    reason: text(),
    primary: text('yes'),
  });
  protected readonly effect = effectWhileTyping(this.form.valueChanges, () =>
    this.open() && this.form.value.amount && this.form.value.from ? (this.send(true) as Observable<Effect>) : null,
  );
  private readonly now = computed(() => this.person().rates.find((rate) => rate.primary && rate.from <= this.today()) ?? null);

  /** Also called from the list of missing facts. */
  begin(): void {
    const now = this.now();
    this.problem.set(null);
    this.form.reset({ label: now?.label ?? 'Salary', per: now?.per ?? 'hour', amount: '', from: this.today(), reason: '', primary: 'yes' });
    this.open.set('new');
  }

  protected correct(rate: Rate): void {
    this.problem.set(null);
    this.form.reset({ ...rate, reason: rate.reason ?? '', primary: rate.primary ? 'yes' : 'no' });
    this.open.set(rate);
  }

  protected withdraw(rate: Rate): void {
    this.done(this.api.call('withdrawRate', { path: { id: this.person().id, rate: rate.id } }));
  }

  protected offered(lines: number): void {
    this.backFrom.set('');
    this.said.set(`Back pay is among the one-offs: ${lines === 1 ? 'one line' : `${lines} lines`}.`);
  }

  protected save(): void {
    const { from = '' } = this.form.getRawValue();
    // A rate that reaches into paid periods offers what is still to be paid for them.
    const reaches = this.person().payslips.some((payslip) => payslip.state === 'posted' && payslip.to >= from);
    this.done(this.send(false), () => reaches && this.backFrom.set(from));
  }

  protected since(rate: Rate): string {
    const earlier = this.person().rates.find((other) => other.series === rate.series && other.per === rate.per && other.from < rate.from);
    if (!earlier) return '';
    const share = (Number(rate.amount) / Number(earlier.amount) - 1) * 100;
    return `${share >= 0 ? '+' : '−'}${Math.abs(share).toFixed(1)}%`;
  }

  private done(request: Observable<unknown>, then: () => unknown = () => undefined): void {
    this.problem.set(null);
    request.subscribe({
      next: () => {
        this.open.set(null);
        this.saved.emit();
        then();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  private send(rehearsed: boolean): Observable<unknown> {
    const open = this.open();
    const { primary, per, ...rest } = this.form.getRawValue();
    const body: BodyOf<'addRate'> = { ...rest, per: per as 'hour', primary: primary === 'yes' };
    if (open === 'new' || open === null) {
      const call = { path: { id: this.person().id }, body };
      return rehearsed ? this.api.rehearse('addRate', call) : this.api.call('addRate', call);
    }
    const call = { path: { id: this.person().id, rate: open.id }, body };
    return rehearsed ? this.api.rehearse('correctRate', call) : this.api.call('correctRate', call);
  }
}
