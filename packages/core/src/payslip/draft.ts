import { addDays, daysOfPart, weekday, writtenDate } from '../calendar/dates';
import { leaveItemsOf } from '../leave/leave';
import { Exact, ZERO } from '../money/exact';
import type { ItemOnPayslip, PayItem, PercentOf } from '../pay-items/pay-item';
import { notDueWhy } from '../pay-items/when';
import {
  CannotCompute,
  countOf,
  type Base,
  type CountryPack,
  type TaxContext,
  type TaxResult,
  type Treatment,
} from '../rules/country-pack';
import { Paper, type Figure } from '../working/reckoning';
import { hoursByRule, type WeekPaid } from '../time/pay-rules';
import type { TimeEntry, TimeFacts } from '../time/time';
import type { HoursEntry, OneOff, PayslipInput, Rate, StandingTax } from './input';
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
  /** Hours as entered and as the time rules make them, and the rates in force with those that the rules made. */
  readonly hoursEntries: readonly (HoursEntry & { figure?: Figure; again?: true })[];
  readonly rates: readonly Rate[];
  /** Workweeks of time kept by day. */
  readonly weeks: readonly WeekPaid[];
  /** Known once earnings are calculated. */
  gross: Figure | undefined;
  /** Known once taxes are calculated. */
  taxes: Figure | undefined;
  /** Deducted so far, before and after tax. */
  deducted = ZERO;
  private readonly drafts: DraftLine[] = [];
  private readonly baseFigures = new Map<string, Figure>();
  private readonly leftOut: ReadonlySet<string>;
  private readonly bases: ReadonlyMap<string, Base>;
  /** Bases that the pay does not count for, because the person is exempt. */
  private readonly uncounted: ReadonlySet<string>;

  constructor(
    readonly input: PayslipInput,
    readonly pack: CountryPack,
    readonly paper: Paper,
    facts: { tax: unknown; employer: unknown },
  ) {
    const ruled = input.time ? hoursByRule(withPayBeside(input.time, input, pack), input.pay, input.rates, paper) : NO_TIME;
    this.rates = [...input.rates, ...ruled.rates];
    this.weeks = ruled.weeks;
    const entered = new Set(input.hours.map((entry) => `${entry.item} ${entry.rate}`));
    const primary = input.rates.find((rate) => rate.primary)?.id ?? '';
    this.hoursEntries = [
      ...input.hours,
      ...ruled.hours
        .map((entry) => ({ ...entry, rate: entry.rate === 'primary' ? primary : entry.rate }))
        .filter((entry) => !entered.has(`${entry.item} ${entry.rate}`)),
    ];
    this.bases = basesOf(pack);
    this.leftOut = new Set(input.leftOut);
    this.uncounted = new Set(
      (input.standingTaxes ?? []).flatMap(({ tax, instead }) => (instead === 'exempt' ? (pack.exemptions[tax]?.uncounted ?? []) : [])),
    );
    this.context = {
      paper,
      input,
      tax: facts.tax,
      employer: facts.employer,
      base: (code) => this.base(code),
      yearToDate: (code, label) => ({ key: '', label, amount: Exact.minor(input.balances[code]?.year ?? 0) }),
      earlierInPeriod: (code, label) => ({ key: '', label, amount: Exact.minor(input.balances[code]?.earnings ?? 0) }),
      hoursWorked: () => this.hours().minus(this.hours((input.leave ?? []).flatMap(({ plan }) => leaveItemsOf(plan)))),
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
      const standing = this.standingFor(result.code);
      for (const { figure, code, label } of result.bases ?? [])
        if (!figure.amount.isZero() && !this.uncounted.has(code)) this.post(figure, { code, kind: 'base', label });
      const usual = standing ? this.asArranged(result, standing) : result.figure;
      const figure = kind === 'tax' ? this.overridden({ ...result, figure: usual }) : usual;
      if (!figure.amount.isZero()) this.post({ ...figure, key: result.code }, { code: result.code, kind, label: result.label });
    }
  }

  /** Pay counted for a base; asked for once, it stays as it was then. */
  base(code: string): Figure {
    const known = this.baseFigures.get(code);
    if (known) return known;
    const base = this.bases.get(code);
    const reckoning = this.paper.reckon(code, base?.label ?? code);
    let first = true;
    for (const { figure, treatment } of this.drafts) {
      const sign = treatment && base ? countOf(treatment, base, this.bases) : 0;
      if (sign === 0) continue;
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
      if (base.byTax || this.uncounted.has(base.code)) continue;
      const figure = this.base(base.code);
      if (!figure.amount.isZero()) this.post(figure, { code: base.code, kind: 'base', label: base.label });
    }
  }

  countedFor(base: string): Exact {
    let sum = ZERO;
    const found = this.bases.get(base);
    for (const { figure, treatment } of this.drafts)
      if (found && treatment && countOf(treatment, found, this.bases)) sum = sum.plus(figure.amount);
    return sum;
  }

  sumOf(key: string, label: string, kinds: readonly LineKind[]): Figure {
    const reckoning = this.paper.reckon(key, label);
    for (const { line, figure } of this.drafts) if (kinds.includes(line.kind)) reckoning.plus(figure.label, figure);
    return reckoning.done();
  }

  /** Withheld so far under codes of taxes. */
  withheld(codes: readonly string[]): Exact {
    return this.lines
      .filter(({ code, kind }) => kind === 'tax' && codes.includes(code))
      .reduce((sum, { amount }) => sum.plus(Exact.minor(amount)), ZERO);
  }

  /** Sum of this payslip's lines with one of the treatments, so far. */
  sumOfTreatments(treatments: readonly string[]): Exact {
    return this.drafts.reduce(
      (sum, { figure, treatment }) => (treatment && treatments.includes(treatment.code) ? sum.plus(figure.amount) : sum),
      ZERO,
    );
  }

  /** Sum of this payslip's lines of an item, so far. */
  lineAmount(code: string): Exact {
    let sum = ZERO;
    for (const { line, figure } of this.drafts) if (line.code === code && line.kind !== 'base') sum = sum.plus(figure.amount);
    return sum;
  }

  /** Hours paid, of all items or of those named; an hour with a premium on top is one hour. */
  hours(items?: readonly string[]): Exact {
    let sum = ZERO;
    for (const entry of this.hoursEntries) if (items ? items.includes(entry.item) : !entry.again) sum = sum.plus(Exact.of(entry.hours));
    return sum;
  }

  /** Days with pieces or tips of an item within the period. */
  quantities(item: string): TimeEntry[] {
    const { from, to } = this.input.pay;
    return (this.input.time?.entries ?? []).filter(
      (entry) => entry.item === item && entry.quantity !== undefined && entry.date >= from && entry.date <= to,
    );
  }

  /** What is left of pay for deductions. */
  available(): Exact {
    return (this.gross?.amount ?? ZERO).minus(this.taxes?.amount ?? ZERO).minus(this.deducted);
  }

  /** What an item is a per cent of. Throws CannotCompute when that is not known before the item itself. */
  percentBase(of: PercentOf, entry: ItemOnPayslip): Figure {
    return this.countedPay(this.payOf(of, entry), entry);
  }

  /** Of the pay that a contribution goes by, what is left of the year's pay that the law lets it count. */
  private countedPay(pay: Figure, entry: ItemOnPayslip): Figure {
    const upTo = this.pack.treatments[entry.item.treatment]?.countsPayUpTo;
    if (!upTo) return pay;
    const earlier = this.context.yearToDate(upTo.base, 'Counted earlier this year');
    const limit = this.pack.legalLimit(upTo.limit, this.context);
    const left = limit.amount.minus(earlier.amount).atLeast(ZERO);
    if (!pay.amount.isAbove(left)) return pay;
    return this.paper
      .reckon(`counted:${entry.figure ?? entry.item.code}`, pay.label)
      .start(pay.label, pay)
      .atMost(`Left of ${limit.label.toLowerCase()}, ${limit.amount.toDecimal(2)} less ${earlier.amount.toDecimal(2)}`, left)
      .done();
  }

  private payOf(of: PercentOf, entry: ItemOnPayslip): Figure {
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
    if (of === 'disposable')
      return this.pack.disposable({
        ...this.context,
        gross,
        taxes,
        deductedBeforeTax: (treatments) => this.sumOfTreatments(treatments),
        withheld: (codes) => this.withheld(codes),
      });
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
        amount: wholeOrPart(oneOff),
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
    return { ...treatment, counts: { ...treatment.counts, ...item.countsInstead } };
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

  /** What stands for a tax, itself or through one that takes it along. */
  private standingFor(code: string): StandingTax | undefined {
    return this.input.standingTaxes?.find(
      ({ tax, instead }) => tax === code || (instead === 'exempt' && this.pack.exemptions[tax]?.also.includes(code)),
    );
  }

  /** The figure by an exemption or a letter; what the rules would have given stays open to look at. */
  private asArranged(result: TaxResult, { tax, instead, value, reason, from, to }: StandingTax): Figure {
    const key = `${result.code}:by-the-rules`;
    const workedOut = this.paper.workings[result.code];
    if (workedOut) this.paper.workings[key] = { ...workedOut, key };
    const reckoning = this.paper.reckon(result.code, result.label);
    const until = to ? ` until ${writtenDate(to)}` : '';
    if (instead === 'percent') {
      const counted = result.counted ?? result.bases?.[0]?.figure;
      if (!counted)
        throw new CannotCompute(
          'rate-without-base',
          `${result.label} cannot be taken at a fixed per cent. Give it as an amount, or as exempt.`,
        );
      reckoning
        .start(counted.label, counted)
        .atLeast('Not below zero', ZERO)
        .percent(`${value ?? '0'}%, fixed by letter`, Exact.of(value ?? '0'));
    } else {
      reckoning
        .start('By the rules', { ...result.figure, key })
        .instead(instead === 'exempt' ? 'Exempt' : 'Fixed by letter', instead === 'exempt' ? ZERO : Exact.of(value ?? '0'));
    }
    const source = instead === 'exempt' ? this.pack.exemptions[tax]?.source : undefined;
    if (source) reckoning.source(source);
    return reckoning
      .note(`From ${writtenDate(from)}${until}. Reason: ${reason}`)
      .fact('Exemptions and fixed taxes', 'tax-details')
      .round('half-up')
      .done();
  }

  private overridden(result: TaxResult): Figure {
    const override = this.input.overrides.find((candidate) => candidate.tax === result.code);
    if (!override) return result.figure;
    const workedOut = this.paper.workings[result.code];
    const key = `${result.code}:worked-out`;
    if (workedOut) this.paper.workings[key] = { ...workedOut, key };
    return this.paper
      .reckon(result.code, result.label)
      .start('As calculated', { ...result.figure, key })
      .instead('Overridden for this payslip', Exact.of(override.amount))
      .note(`Reason: ${override.reason}`)
      .round('half-up')
      .done();
  }
}

const NO_TIME = { hours: [], rates: [], weeks: [] };

/**
 * Pay that belongs to the regular rate beside the hourly pay, by workweek: pieces in the week they were made in, one-offs
 * that count and pieces of the whole period in equal parts to its weeks with work.
 */
function withPayBeside(given: TimeFacts, { oneOffs, items, pay: period }: PayslipInput, pack: CountryPack): TimeFacts {
  const source = pack.wageLaw?.regularRate;
  const time: TimeFacts = source ? { ...given, rules: { ...given.rules, regularRateSource: source } } : given;
  const within = (entry: TimeEntry) => entry.date >= period.from && entry.date <= period.to;
  const weekOf = (date: string) => addDays(date, -((weekday(date) - time.rules.weekBegins + 7) % 7));
  const byWeek = new Map<string, Exact>();
  const add = (week: string, amount: Exact) => byWeek.set(week, (byWeek.get(week) ?? ZERO).plus(amount));
  let shared = oneOffs.filter((oneOff) => oneOff.item.regularRate).reduce((all, oneOff) => all.plus(Exact.of(wholeOrPart(oneOff))), ZERO);
  for (const { item, amount, quantity } of items) {
    if (item.method.by !== 'pieces' || item.kind !== 'earning' || amount === undefined) continue;
    const made = time.entries.filter((entry) => entry.item === item.code && entry.quantity !== undefined);
    for (const entry of made) add(weekOf(entry.date), Exact.of(entry.quantity ?? '0').times(Exact.of(amount)));
    if (!made.length && quantity !== undefined) shared = shared.plus(Exact.of(quantity).times(Exact.of(amount)));
  }
  const weeks = [...new Set(time.entries.filter((entry) => !entry.item && within(entry)).map((entry) => weekOf(entry.date)))];
  if (shared.isAbove(ZERO)) for (const week of weeks) add(week, shared.over(Exact.whole(weeks.length)));
  if (!byWeek.size) return time;
  const bonuses = Object.fromEntries([...byWeek].map(([week, amount]) => [week, amount.toDecimal(6)]));
  return { ...time, rules: { ...time.rules, bonuses } };
}

function wholeOrPart({ amount, part }: OneOff): string {
  if (!part) return amount;
  const { days, ofMonth } = daysOfPart(part);
  return Exact.of(amount).times(Exact.whole(days)).over(Exact.whole(ofMonth)).toDecimal(6);
}

const kept = new WeakMap<CountryPack, ReadonlyMap<string, Base>>();

/** The bases of a pack by code, put together once. */
function basesOf(pack: CountryPack): ReadonlyMap<string, Base> {
  const known = kept.get(pack) ?? new Map(pack.bases.map((base) => [base.code, base]));
  kept.set(pack, known);
  return known;
}
