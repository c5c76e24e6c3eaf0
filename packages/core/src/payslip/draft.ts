import { Exact, ZERO } from '../money/exact';
import type { ItemOnPayslip, PayItem, PercentOf } from '../pay-items/pay-item';
import { notDueWhy } from '../pay-items/when';
import { CannotCompute, type CountryPack, type TaxContext, type TaxResult, type Treatment } from '../rules/country-pack';
import { Paper, type Figure } from '../working/reckoning';
import type { PayslipInput } from './input';
import type { LineKind, NotDue, PayslipLine, Problem } from './payslip';

/** A line with what the later steps need to know of it. */
interface DraftLine {
  line: PayslipLine;
  figure: Figure;
  treatment: Treatment | undefined;
}

/** A payslip in the making: the lines so far, and what can be asked of them. */
export class PayslipDraft {
  readonly problems: Problem[] = [];
  readonly notDue: NotDue[] = [];
  readonly context: TaxContext;
  /** Known once earnings are worked out. */
  gross: Figure | undefined;
  /** Known once taxes are worked out. */
  taxes: Figure | undefined;
  /** Deducted so far, before and after tax. */
  deducted = ZERO;
  private readonly drafts: DraftLine[] = [];
  private readonly baseFigures = new Map<string, Figure>();
  private readonly leftOut: ReadonlySet<string>;

  constructor(
    readonly input: PayslipInput,
    readonly pack: CountryPack,
    readonly paper: Paper,
    facts: { tax: unknown; employer: unknown },
  ) {
    this.leftOut = new Set(input.leftOut);
    this.context = {
      paper,
      input,
      tax: facts.tax,
      employer: facts.employer,
      base: (code) => this.base(code),
      yearToDate: (code, label) => ({ key: '', label, amount: Exact.minor(input.balances[code]?.year ?? 0) }),
      problem: (problem) => this.problems.push(problem),
    };
  }

  get lines(): PayslipLine[] {
    return this.drafts.map((draft) => draft.line);
  }

  /** Adds a line of an item, which counts as the item's treatment says. */
  add(figure: Figure, item: PayItem, kind: LineKind, more?: Partial<PayslipLine>): void {
    const hidden: Partial<PayslipLine> =
      item.goes?.hidden && (kind === 'employer-contribution' || kind === 'benefit-in-kind') ? { hidden: true } : {};
    this.drafts.push({
      line: { id: figure.key, code: item.code, kind, label: figure.label, amount: figure.amount.toMinor(), ...more, ...hidden },
      figure,
      treatment: this.treatmentOf(item),
    });
  }

  /** Adds a line that counts for nothing but itself: a tax, a base, a sum carried forward. */
  post(figure: Figure, line: Omit<PayslipLine, 'id' | 'amount'>): void {
    this.drafts.push({ line: { id: figure.key, amount: figure.amount.toMinor(), ...line }, figure, treatment: undefined });
  }

  addTaxes(results: readonly TaxResult[], kind: 'tax' | 'employer-tax'): void {
    for (const result of results) {
      for (const { figure, code, label } of result.bases ?? [])
        if (!figure.amount.isZero()) this.post(figure, { code, kind: 'base', label });
      const figure = kind === 'tax' ? this.overridden(result) : result.figure;
      if (!figure.amount.isZero()) this.post({ ...figure, key: result.code }, { code: result.code, kind, label: result.label });
    }
  }

  /** Pay counted for a base; asked for once, it stays as it was then. */
  base(code: string): Figure {
    const known = this.baseFigures.get(code);
    if (known) return known;
    const label = this.pack.bases.find((base) => base.code === code)?.label ?? code;
    const reckoning = this.paper.reckon(code, label);
    let first = true;
    for (const { figure, treatment } of this.drafts) {
      const sign = treatment?.counts[code];
      if (sign === undefined) continue;
      if (sign === -1) reckoning.less(figure.label, figure);
      else if (first) reckoning.start(figure.label, figure);
      else reckoning.plus(figure.label, figure);
      first = false;
    }
    const figure = reckoning.done();
    this.baseFigures.set(code, figure);
    return figure;
  }

  /** Bases that no tax has posted after a ceiling or its place. */
  postBases(): void {
    for (const base of this.pack.bases) {
      if (base.byTax) continue;
      const figure = this.base(base.code);
      if (!figure.amount.isZero()) this.post(figure, { code: base.code, kind: 'base', label: base.label });
    }
  }

  countedFor(base: string): Exact {
    let sum = ZERO;
    for (const { figure, treatment } of this.drafts) if (treatment?.counts[base]) sum = sum.plus(figure.amount);
    return sum;
  }

  sumOf(key: string, label: string, kinds: readonly LineKind[]): Figure {
    const reckoning = this.paper.reckon(key, label);
    for (const { line, figure } of this.drafts) if (kinds.includes(line.kind)) reckoning.plus(figure.label, figure);
    return reckoning.done();
  }

  /** Sum of this payslip's lines of an item, so far. */
  lineAmount(code: string): Exact {
    let sum = ZERO;
    for (const { line, figure } of this.drafts) if (line.code === code && line.kind !== 'base') sum = sum.plus(figure.amount);
    return sum;
  }

  /** Hours paid, of all items or of those named. */
  hours(items?: readonly string[]): Exact {
    let sum = ZERO;
    for (const entry of this.input.hours) if (!items || items.includes(entry.item)) sum = sum.plus(Exact.of(entry.hours));
    return sum;
  }

  /** What is left of pay for deductions. */
  available(): Exact {
    return (this.gross?.amount ?? ZERO).minus(this.taxes?.amount ?? ZERO).minus(this.deducted);
  }

  /** What an item is a per cent of. Throws CannotCompute when that is not known before the item itself. */
  percentBase(of: PercentOf, entry: ItemOnPayslip): Figure {
    if (typeof of === 'object') {
      const reckoning = this.paper.reckon(`of:${entry.figure ?? entry.item.code}`, 'Pay it is taken of');
      for (const { line, figure } of this.drafts) if (of.items.includes(line.code)) reckoning.plus(figure.label, figure);
      return reckoning.done();
    }
    const { gross, taxes } = this;
    if (!gross)
      throw new CannotCompute(
        'percent-of-gross',
        `${entry.item.name} is a per cent of ${of} pay and so cannot be part of it. Give it as an amount, or as a per cent of chosen items.`,
      );
    if (of === 'gross') return gross;
    if (!taxes)
      throw new CannotCompute(
        'percent-of-later-pay',
        `${entry.item.name} is taken before tax, and ${of} pay is known only afterwards. Take it as a per cent of gross pay or of chosen items.`,
      );
    if (of === 'taxable') return this.base(this.pack.taxableBase);
    if (of === 'disposable') return this.pack.disposable({ ...this.context, gross, taxes });
    return this.paper
      .reckon(`left-for:${entry.figure ?? entry.item.code}`, 'Pay left when its turn comes')
      .start(gross.label, gross)
      .less(taxes.label, taxes)
      .less('Taken before', this.deducted)
      .atLeast('Not below zero', ZERO)
      .done();
  }

  /** Items of a kind that are due on this payslip, in the order of taking; one-offs stand among deductions and contributions. */
  itemsOf(kind: PayItem['kind']): [ItemOnPayslip, Treatment][] {
    const once =
      kind === 'deduction' || kind === 'employer-contribution' ? this.input.oneOffs.filter((oneOff) => oneOff.item.kind === kind) : [];
    return [
      ...this.input.items.filter((entry) => entry.item.kind === kind && this.isDue(entry)),
      ...once.map((oneOff): ItemOnPayslip => ({
        item: { ...oneOff.item, method: { by: 'amount' } },
        amount: oneOff.amount,
        figure: `once:${oneOff.id}`,
      })),
    ]
      .sort((a, b) => a.item.order - b.item.order || (a.item.code < b.item.code ? -1 : 1))
      .map((entry) => [entry, this.treatmentOf(entry.item)]);
  }

  isLeftOut(code: string): boolean {
    return this.leftOut.has(code);
  }

  /** The treatment of the country's pack, with what was adjusted at the item. */
  treatmentOf(item: PayItem): Treatment {
    const treatment = this.pack.treatments[item.treatment];
    if (!treatment?.for.includes(item.kind)) {
      throw new CannotCompute(
        'treatment-unknown',
        `${item.name} has the tax treatment "${item.treatment}", which is none for ${item.kind} items in ${this.pack.name}. Choose one on the item's page.`,
      );
    }
    if (!item.countsInstead) return treatment;
    const counts = Object.entries({ ...treatment.counts, ...item.countsInstead }).filter(
      (entry): entry is [string, 1 | -1] => entry[1] !== 0,
    );
    return { ...treatment, counts: Object.fromEntries(counts) };
  }

  private isDue(entry: ItemOnPayslip): boolean {
    const { code, name, when } = entry.item;
    const why = this.leftOut.has(code)
      ? 'Left out of this payslip by hand'
      : when
        ? notDueWhy(entry.item, when, this.input.pay)
        : undefined;
    if (why) this.notDue.push({ code, label: name, why });
    return !why;
  }

  private overridden(result: TaxResult): Figure {
    const override = this.input.overrides.find((candidate) => candidate.tax === result.code);
    if (!override) return result.figure;
    const workedOut = this.paper.workings[result.code];
    const key = `${result.code}:worked-out`;
    if (workedOut) this.paper.workings[key] = { ...workedOut, key };
    return this.paper
      .reckon(result.code, result.label)
      .start('As worked out', { ...result.figure, key })
      .instead('Given by hand for this payslip', Exact.of(override.amount))
      .note(`Reason: ${override.reason}`)
      .round('half-up')
      .done();
  }
}
