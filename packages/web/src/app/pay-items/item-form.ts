import { ChangeDetectionStrategy, Component, computed, effect, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { BodyOf, ItemChoices, PayItemRow } from '@woodruff/contract';
import { MONTHS } from '@woodruff/core';
import { draftOf, itemOf, methodsFor, type ItemDraft } from './item-draft';
import { itemKinds, LIMITS } from './pay-item-words';

export type ItemPart = 'how' | 'when' | 'counts' | 'goes' | 'all';

/** The form of a pay item, whole or one part of it. */
@Component({
  selector: 'wr-item-form',
  imports: [FormsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './item-form.html',
  styleUrl: './item-form.scss',
})
export class ItemForm {
  readonly item = input<BodyOf<'addPayItem'> | null>(null);
  readonly part = input<ItemPart>('all');
  readonly choices = input.required<ItemChoices>();
  /** All items, for matches and for per cents of chosen ones. */
  readonly items = input.required<PayItemRow[]>();
  readonly mayAdjust = input(false);
  readonly edited = output();

  protected draft: ItemDraft = draftOf();
  protected readonly kinds = itemKinds;
  protected readonly limits = LIMITS;
  protected readonly months = MONTHS;
  protected readonly pays: { key: keyof ItemDraft['pays']; label: string }[] = [
    { key: '1', label: '1st' },
    { key: '2', label: '2nd' },
    { key: '3', label: '3rd' },
    { key: '4', label: '4th' },
    { key: 'last', label: 'last' },
  ];
  /** Turned with every entry, so that what depends on the draft is looked at again. */
  private readonly turn = signal(0);
  protected readonly methods = computed(() => (this.turn(), methodsFor(this.draft.kind)));
  protected readonly fitting = computed(
    () => (this.turn(), this.choices().treatments.filter((treatment) => treatment.for.includes(this.draft.kind))),
  );
  protected readonly earnings = computed(() => this.items().filter((item) => item.kind === 'earning' && !item.retired));
  protected readonly hourItems = computed(() => this.earnings().filter((item) => item.method.by === 'hours'));
  protected readonly deductions = computed(() => this.items().filter((item) => item.kind === 'deduction' && !item.retired));
  protected readonly counts = computed(() => {
    this.turn();
    const counts = this.choices().treatments.find((treatment) => treatment.code === this.draft.treatment)?.counts ?? {};
    return this.choices().bases.map((base) => ({
      ...base,
      byTreatment: counts[base.code] ?? 0,
      instead: this.draft.countsInstead[base.code],
    }));
  });

  constructor() {
    effect(() => {
      const item = this.item();
      untracked(() => {
        this.draft = draftOf(item ?? undefined);
        this.turn.update((turn) => turn + 1);
      });
    });
  }

  /** What is entered, as the contract takes it. */
  value(): BodyOf<'addPayItem'> {
    return itemOf(this.draft);
  }

  protected touched(): void {
    if (!this.methods().some((method) => method.by === this.draft.by)) this.draft.by = 'amount';
    if (!this.fitting().some((treatment) => treatment.code === this.draft.treatment)) this.draft.treatment = '';
    this.turn.update((turn) => turn + 1);
    this.edited.emit();
  }

  /** A code is proposed from the name until one is typed. */
  protected named(name: string): void {
    const before = this.draft.name;
    this.draft.name = name;
    const slug = (text: string) =>
      text
        .toLowerCase()
        .replace(/[^a-z0-9]+/g, '-')
        .replace(/^-|-$/g, '')
        .slice(0, 40);
    if (!this.item() && (this.draft.code === '' || this.draft.code === slug(before))) this.draft.code = slug(name);
    this.touched();
  }

  protected tick(code: string): void {
    const { items } = this.draft;
    this.draft.items = items.includes(code) ? items.filter((other) => other !== code) : [...items, code];
    this.touched();
  }

  protected addRow(): void {
    this.draft.rows.push({ from: '', value: '' });
    this.touched();
  }

  protected dropRow(index: number): void {
    this.draft.rows.splice(index, 1);
    this.touched();
  }

  protected adjust(base: string, text: string): void {
    const { [base]: _dropped, ...rest } = this.draft.countsInstead;
    this.draft.countsInstead = text === '' ? rest : { ...rest, [base]: Number(text) as 1 | -1 | 0 };
    this.touched();
  }
}
