import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { Store } from '@ngrx/store';
import type { BodyOf, Person, ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { Api, problemOf } from '../api/api';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { effectWhileTyping } from '../kit/while-typing';
import { DayPipe, DecimalPipe, MoneyPipe } from '../kit/words';
import { asksFor, baseWords, isHeld } from '../pay-items/pay-item-words';
import { itemChoicesStore, payItemsStore } from '../pay-items/pay-items.store';
import { selectEmployer, selectMayPrepare } from '../session/session.store';

type Held = Person['items'][number];
type Facts = NonNullable<Held['orderFacts']>;
const text = (value = '') => new FormControl(value, { nonNullable: true });

/** The recurring items of one person, entered and changed in place; their effect on the open run is shown while typing. */
@Component({
  selector: 'wr-person-items',
  imports: [DayPipe, DecimalPipe, EffectOnRuns, MoneyPipe, Problem, ReactiveFormsModule, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './person-items.html',
  styleUrl: './person-part.scss',
})
export class PersonItems {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  readonly person = input.required<Person>();
  readonly saved = output();
  private readonly items = this.store.selectSignal(payItemsStore.selectData);
  private readonly choices = this.store.selectSignal(itemChoicesStore.selectData);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  private readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly open = signal<'new' | Held | null>(null);
  protected readonly problem = signal<ProblemDetail | null>(null);
  protected readonly form = new FormGroup({
    itemId: text(),
    amount: text(),
    percent: text(),
    from: text(),
    to: text(),
    perPayslip: text(),
    perYear: text(),
    inAll: text(),
    reference: text(),
    fee: text(),
  });
  private readonly chosenId = signal('');
  private readonly chosen = computed(() => this.items()?.find((item) => item.id === this.chosenId()) ?? null);
  protected readonly asks = computed(() => (this.chosen() ? asksFor(this.chosen()!) : 'nothing'));
  protected readonly amountLabel = computed(() => {
    const method = this.chosen()?.method;
    if (method?.by === 'pieces') return 'For each piece';
    if (method?.by === 'per-hour') return 'For each hour';
    if (method?.by === 'published-table') return this.choices()?.tables.find((table) => table.code === method.table)?.asks ?? 'Amount';
    return 'Amount each pay';
  });
  protected readonly percentLabel = computed(() => {
    const method = this.chosen()?.method;
    return `Percentage of ${method?.by === 'percent' ? baseWords(method.of, this.nameOf) : 'pay'}`;
  });
  protected readonly isOrder = computed(() => this.treatment()?.taken === 'order');
  /** What the kind of order asks for beside its number and fee. */
  protected readonly asked = computed(() => this.treatment()?.asks ?? []);
  protected readonly facts = signal<Facts>({});
  protected readonly assignable = computed(() => this.items()?.filter((item) => !item.retired && isHeld(item)) ?? []);
  protected readonly active = computed(() => this.person().items.filter((item) => !item.to || item.to >= this.today()));
  protected readonly ended = computed(() => this.person().items.filter((item) => item.to && item.to < this.today()));
  protected readonly effect = effectWhileTyping(
    this.form.valueChanges,
    () => (this.open() && this.form.value.itemId ? this.send(true) : null) as never,
  );
  private readonly treatment = computed(() => this.choices()?.treatments.find((treatment) => treatment.code === this.chosen()?.treatment));
  private readonly nameOf = (code: string): string => this.items()?.find((item) => item.code === code)?.name ?? code;

  constructor() {
    effect(() => {
      if (!this.employer()) return;
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
      this.store.dispatch(itemChoicesStore.load({ input: {}, keep: true }));
    });
    this.form.controls.itemId.valueChanges.subscribe((id) => this.chosenId.set(id));
  }

  protected add(): void {
    this.problem.set(null);
    this.form.reset({ from: this.today() });
    this.facts.set({});
    this.open.set('new');
  }

  protected change(item: Held): void {
    this.problem.set(null);
    this.open.set(item);
    const { limits, orderFacts } = item;
    this.form.reset({
      itemId: item.itemId,
      amount: item.amount ?? '',
      percent: item.percent ?? '',
      from: item.from,
      to: item.to ?? '',
      perPayslip: limits?.perPayslip ?? '',
      perYear: limits?.perYear ?? '',
      inAll: limits?.inAll ?? '',
      reference: orderFacts?.reference ?? '',
      fee: orderFacts?.fee ?? '',
    });
    this.facts.set({ ...orderFacts });
  }

  protected save(): void {
    this.problem.set(null);
    this.send(false).subscribe({
      next: () => {
        this.open.set(null);
        this.saved.emit();
      },
      error: (error: unknown) => this.problem.set(problemOf(error)),
    });
  }

  protected setFact(key: string, value: string | boolean): void {
    this.facts.update((facts) => ({ ...facts, [key]: value }));
    // What the form shows of its effect is asked for again.
    this.form.updateValueAndValidity();
  }

  protected each(item: Held): string {
    const definition = this.items()?.find((candidate) => candidate.id === item.itemId);
    if (item.percent)
      return `${item.percent}% of ${definition?.method.by === 'percent' ? baseWords(definition.method.of, this.nameOf) : 'gross pay'}`;
    if (item.amount === null || item.amount === undefined) return 'calculated';
    return '';
  }

  /** What follows the amount, where it is not so much each pay. */
  protected per(item: Held): string {
    const method = this.items()?.find((candidate) => candidate.id === item.itemId)?.method;
    return method?.by === 'pieces'
      ? ' a piece'
      : method?.by === 'per-hour'
        ? ' an hour'
        : method?.by === 'published-table'
          ? ' of cover'
          : '';
  }

  private send(rehearsed: boolean): Observable<unknown> {
    const open = this.open();
    const body = this.body();
    if (open === 'new' || open === null) {
      const call = { path: { id: this.person().id }, body };
      return rehearsed ? this.api.rehearse('addPersonItem', call) : this.api.call('addPersonItem', call);
    }
    const call = { path: { id: this.person().id, item: open.id }, body: { ...body, version: open.version } };
    return rehearsed ? this.api.rehearse('changePersonItem', call) : this.api.call('changePersonItem', call);
  }

  private body(): BodyOf<'addPersonItem'> {
    const { itemId, amount, percent, from, to, perPayslip, perYear, inAll, reference, fee } = this.form.getRawValue();
    const limits = { ...(perPayslip ? { perPayslip } : {}), ...(perYear ? { perYear } : {}), ...(inAll ? { inAll } : {}) };
    const facts = {
      ...(reference ? { reference } : {}),
      ...Object.fromEntries(this.asked().flatMap(({ key }) => (this.facts()[key] ? [[key, this.facts()[key]]] : []))),
      ...(fee ? { fee } : {}),
    };
    return {
      itemId,
      amount: (this.asks() === 'amount' && amount) || null,
      percent: (this.asks() === 'percent' && percent) || null,
      from,
      to: to || null,
      limits: Object.keys(limits).length ? limits : null,
      orderFacts: this.isOrder() && Object.keys(facts).length ? facts : null,
    };
  }
}
