import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, TemplateRef, viewChild } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { NgbModal } from '@ng-bootstrap/ng-bootstrap';
import { Store } from '@ngrx/store';
import type { AnswerOf, BodyOf, Effect, ProblemDetail } from '@woodruff/contract';
import { counted, writtenWhen } from '@woodruff/core';
import { Api, problemOf } from '../api/api';
import { Changes } from '../kit/changes';
import { EffectOnRuns } from '../kit/effect';
import { Problem } from '../kit/problem';
import { CountedPipe, DayPipe, DecimalPipe, MoneyPipe } from '../kit/words';
import { FigureWorking } from '../working/figure-working';
import { selectEmployer, selectMayPrepare } from '../session/session.store';
import { ItemForm } from './item-form';
import { ItemHolders } from './item-holders';
import { ItemMoves } from './item-moves';
import { isHeld, itemKinds, limitWords, methodWords, shortfallWords } from './pay-item-words';
import { itemChoicesStore, payItemsStore, payItemStore } from './pay-items.store';

type FormPart = 'how' | 'when' | 'counts' | 'goes';

/** One pay item: what it is, changed in place part by part; every change shows its effect before it is saved. */
@Component({
  selector: 'wr-pay-item-page',
  imports: [
    CountedPipe,
    Changes,
    DayPipe,
    DecimalPipe,
    EffectOnRuns,
    FigureWorking,
    FormsModule,
    ItemForm,
    ItemHolders,
    ItemMoves,
    MoneyPipe,
    Problem,
    RouterLink,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './pay-item-page.html',
  styleUrl: './pay-item-page.scss',
})
export class PayItemPage {
  private readonly store = inject(Store);
  private readonly api = inject(Api);
  private readonly modals = inject(NgbModal);
  readonly id = input.required<string>();
  private readonly form = viewChild(ItemForm);
  private readonly employer = this.store.selectSignal(selectEmployer);
  protected readonly today = computed(() => this.employer()?.today ?? '');
  protected readonly mayPrepare = this.store.selectSignal(selectMayPrepare);
  protected readonly mayMove = computed(() => this.employer()?.rights.includes('approve') ?? false);
  protected readonly mayAdjust = computed(() => this.employer()?.rights.includes('administer') ?? false);
  protected readonly item = this.store.selectSignal(payItemStore.selectData);
  protected readonly problem = this.store.selectSignal(payItemStore.selectProblem);
  protected readonly choices = this.store.selectSignal(itemChoicesStore.selectData);
  private readonly allItems = this.store.selectSignal(payItemsStore.selectData);
  protected readonly items = computed(() => this.allItems() ?? []);
  protected readonly editing = signal<FormPart | 'holders' | null>(null);
  protected readonly effect = signal<Effect | null>(null);
  protected readonly saveProblem = signal<ProblemDetail | null>(null);

  /** The legal limit whose working is open. */
  protected readonly legalOf = signal<AnswerOf<'payItem'>['legalLimits'][number] | null>(null);
  protected readonly formParts: { id: FormPart; label: string }[] = [
    { id: 'how', label: 'How it works' },
    { id: 'when', label: 'When it applies' },
    { id: 'counts', label: 'Tax treatment' },
    { id: 'goes', label: 'Where it goes' },
  ];
  protected readonly parts = computed(() => [
    ...this.formParts,
    ...(this.held() ? [{ id: 'holders', label: 'Assigned to' }] : []),
    { id: 'history', label: 'What changed' },
  ]);
  protected readonly definition = computed((): BodyOf<'addPayItem'> | null => {
    const item = this.item();
    if (!item) return null;
    const { code, name, kind, treatment, method, limits, order, shortfall, when, goes, countsInstead, regularRate } = item;
    return { code, name, kind, treatment, method, limits, order, shortfall, when, goes, countsInstead, regularRate };
  });
  /** How the item counts, and how it would with the change that is looked at. */
  protected readonly counted = computed(() => countedOf(this.definition()));
  protected readonly previewed = signal<BodyOf<'itemMoves'> | null>(null);
  private readonly nameOf = (code: string): string => this.items().find((item) => item.code === code)?.name ?? code;
  protected readonly held = computed(() => !!this.item() && isHeld(this.item()!));
  protected readonly kind = computed(() => itemKinds.find((kind) => kind.kind === this.item()?.kind)?.one ?? '');
  protected readonly method = computed(() => (this.item() ? methodWords(this.item()!, this.nameOf) : ''));
  protected readonly limits = computed(() => (this.item() ? limitWords(this.item()!) : ''));
  protected readonly when = computed(() => writtenWhen(this.item()?.when));
  protected readonly shortfall = computed(() => shortfallWords[this.item()?.shortfall ?? 'take-part']);
  protected readonly treatment = computed(() => this.choices()?.treatments.find((treatment) => treatment.code === this.item()?.treatment));
  protected readonly accounts = computed(() => {
    const goes = this.item()?.goes;
    return [goes?.liabilityAccount && `owed on ${goes.liabilityAccount}`, goes?.expenseAccount && `cost on ${goes.expenseAccount}`]
      .filter(Boolean)
      .join(', ');
  });
  protected readonly current = computed(() => this.item()?.holders.filter((holder) => !holder.to || holder.to >= this.today()) ?? []);
  protected readonly ended = computed(() => this.item()?.holders.filter((holder) => holder.to && holder.to < this.today()) ?? []);
  protected readonly coming = computed(() => this.current().filter((holder) => holder.from > this.today()).length);
  protected readonly takenThisYear = computed(() => {
    const byPerson = new Map(this.item()?.holders.map((holder) => [holder.personId, holder.taken]));
    return [...byPerson.values()].reduce((sum, taken) => sum + taken, 0);
  });
  protected readonly holdersInWords = computed(() => {
    const people = new Set(this.current().map((holder) => holder.personId)).size;
    return people === 1 ? 'One person has it.' : `${counted(people, 'person has', 'people have')} it.`;
  });

  constructor() {
    effect(() => {
      if (!this.employer()) return;
      this.store.dispatch(payItemStore.load({ input: { path: { id: this.id() } } }));
      this.store.dispatch(itemChoicesStore.load({ input: {}, keep: true }));
      this.store.dispatch(payItemsStore.load({ input: {}, keep: true }));
    });
  }

  protected edit(part: FormPart | 'holders'): void {
    this.stop();
    this.editing.set(part);
  }

  protected stop(): void {
    this.editing.set(null);
    this.effect.set(null);
    this.saveProblem.set(null);
  }

  protected preview(): void {
    this.saveProblem.set(null);
    this.previewed.set(countedOf(this.form()!.value()));
    this.api
      .rehearse('changePayItem', this.change())
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.saveProblem.set(problemOf(error)) });
  }

  protected save(): void {
    this.api
      .call('changePayItem', this.change())
      .subscribe({ next: () => this.saved(), error: (error: unknown) => this.saveProblem.set(problemOf(error)) });
  }

  protected saved(): void {
    this.stop();
    this.store.dispatch(payItemStore.load({ input: { path: { id: this.id() } }, keep: true }));
  }

  protected askRetire(dialog: TemplateRef<unknown>): void {
    this.stop();
    this.api
      .rehearse('retirePayItem', { path: { id: this.id() }, body: { endForAll: true } })
      .subscribe({ next: (effect) => this.effect.set(effect), error: (error: unknown) => this.saveProblem.set(problemOf(error)) });
    this.modals.open(dialog, { ariaLabelledBy: 'retire-title', size: 'lg' });
  }

  protected retire(): void {
    this.api.call('retirePayItem', { path: { id: this.id() }, body: { endForAll: this.current().length > 0 } }).subscribe({
      next: () => {
        this.modals.dismissAll();
        this.saved();
      },
      error: (error: unknown) => this.saveProblem.set(problemOf(error)),
    });
  }

  protected bringBack(): void {
    this.api.call('bringBackPayItem', { path: { id: this.id() } }).subscribe({ next: () => this.saved() });
  }

  private change() {
    return { path: { id: this.id() }, body: { version: this.item()?.version ?? 0, item: this.form()!.value() } };
  }
}

const countedOf = (item: BodyOf<'addPayItem'> | null): BodyOf<'itemMoves'> | null =>
  item && { treatment: item.treatment, ...(item.countsInstead ? { countsInstead: item.countsInstead } : {}) };
