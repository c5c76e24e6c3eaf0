import { daysBetween } from '../calendar/dates';
import { Exact, ZERO } from '../money/exact';
import { written, writtenDecimal } from '../money/amounts';
import type { ItemOnPayslip, PayItem } from '../pay-items/pay-item';
import { amountWanted, limited } from '../pay-items/amounts-of-items';
import { CannotCompute, type CountryPack, type OrderContext, type TaxContext, type TaxResult, type Treatment } from '../rules/country-pack';
import { packOf } from '../rules/registry';
import { Paper, type Figure } from '../working/reckoning';
import type { PayslipInput } from './input';
import { NO_TOTALS, type LineKind, type Payslip, type PayslipLine, type Problem, type Totals } from './payslip';

/** A line with what the later steps need to know of it. */
export interface DraftLine {
  line: PayslipLine;
  figure: Figure;
  treatment: Treatment | undefined;
}

/**
 * Works out one payslip.
 * @param input all facts; amounts as decimal texts, balances in minor units
 * @param options.workings also give the working of every figure (about twice the time)
 * @returns lines, totals and balances in minor units. What keeps a payslip from being worked out at all
 *   (no table for the date, a fact missing) comes back as a problem of weight `stop` on an empty payslip.
 */
export function computePayslip(input: PayslipInput, options: { workings?: boolean } = {}): Payslip {
  const paper = new Paper(options.workings === true);
  try {
    return new PayslipInTheMaking(input, packOf(input.country), paper).make();
  } catch (error) {
    if (!(error instanceof CannotCompute)) throw error;
    const problem: Problem = { code: error.code, weight: 'stop', sentence: error.message };
    return { lines: [], totals: { ...NO_TOTALS }, problems: [problem], workings: {} };
  }
}

class PayslipInTheMaking {
  private readonly drafts: DraftLine[] = [];
  private readonly problems: Problem[] = [];
  private readonly baseFigures = new Map<string, Figure>();
  private readonly leftOut: ReadonlySet<string>;
  private readonly context: TaxContext;

  constructor(
    private readonly input: PayslipInput,
    private readonly pack: CountryPack,
    private readonly paper: Paper,
  ) {
    this.leftOut = new Set(input.leftOut);
    pack.assertTables(input.pay.date);
    const facts = this.facts();
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

  make(): Payslip {
    this.payHours();
    this.payItems('earning');
    this.payItems('reimbursement');
    this.payItems('benefit-in-kind');
    const gross = this.sumOf('gross', 'Gross pay', ['earning']);
    this.checkHours();

    let available = gross.amount;
    const taken: Exact[] = [];
    const deduct = (entry: ItemOnPayslip, treatment: Treatment, ceiling?: Figure): Exact => {
      const amount = this.takeDeduction(entry, treatment, gross, available, ceiling);
      available = available.minus(amount);
      taken.push(amount);
      return amount;
    };

    const deductions = this.itemsOf('deduction');
    for (const [entry, treatment] of deductions) if (treatment.taken === 'before-tax') deduct(entry, treatment);

    this.addTaxes(this.pack.employeeTaxes(this.context), 'tax');
    const taxes = this.sumOf('taxes', 'Taxes', ['tax']);
    available = available.minus(taxes.amount);

    let takenByOrders = ZERO;
    for (const [entry, treatment] of deductions) {
      if (treatment.taken === 'before-tax') continue;
      if (treatment.taken !== 'order') {
        deduct(entry, treatment);
        continue;
      }
      const orderContext: OrderContext = { ...this.context, gross, taxes, takenByOrders };
      takenByOrders = takenByOrders.plus(deduct(entry, treatment, this.pack.orderLimit(entry, orderContext)));
    }

    for (const [entry, treatment] of this.itemsOf('employer-contribution')) this.contribute(entry, treatment, gross);
    this.addTaxes(this.pack.employerTaxes(this.context), 'employer-tax');
    this.postBases();
    return this.finish(gross, taxes);
  }

  private facts(): { tax: unknown; employer: unknown } {
    const tax = this.pack.taxSchema.safeParse(this.input.tax);
    if (!tax.success)
      throw new CannotCompute(
        'tax-details-missing',
        `Tax details are incomplete (${issueOf(tax.error)}). Complete them on the person's page.`,
      );
    const employer = this.pack.employerSchema.safeParse(this.input.employer);
    if (!employer.success)
      throw new CannotCompute('employer-facts-missing', `Facts of the employer are incomplete (${issueOf(employer.error)}).`);
    return { tax: tax.data, employer: employer.data };
  }

  private payHours(): void {
    const several = this.input.rates.filter((rate) => rate.per === 'hour').length > 1;
    for (const entry of this.input.hours) {
      const hours = Exact.of(entry.hours);
      if (hours.isZero()) continue;
      const item = this.input.hourItems.find((candidate) => candidate.code === entry.item);
      const rate = this.input.rates.find((candidate) => candidate.id === entry.rate);
      if (!item || item.method.by !== 'hours')
        throw new CannotCompute('hours-without-item', `Hours are entered on "${entry.item}", which is not an item paid by the hour.`);
      if (rate?.per !== 'hour')
        throw new CannotCompute(
          'hours-without-rate',
          `${item.name} has hours, but there is no hourly rate in force for them. Add one on the person's page.`,
        );
      const id = several ? `${item.code}:${rate.id}` : item.code;
      const label = several ? `${item.name}, ${rate.label}` : item.name;
      const multiple = Exact.of(item.method.multiple);
      const reckoning = this.paper.reckon(id, label).start('Hours', hours).times(rate.label, Exact.of(rate.amount));
      if (!multiple.equals(Exact.whole(1))) reckoning.times(item.name, multiple);
      if (rate.from) reckoning.fact(`Rate in force since ${rate.from}`, 'rate', rate.id);
      const figure = reckoning.round('half-up').done();
      this.add(figure, item.code, 'earning', item.treatment, { quantity: entry.hours, rate: Exact.of(rate.amount).toDecimal() });
    }
  }

  /** Recurring items of one kind, then the one-offs of that kind. */
  private payItems(kind: 'earning' | 'reimbursement' | 'benefit-in-kind'): void {
    for (const [entry] of this.itemsOf(kind)) {
      const wanted = amountWanted(entry, { input: this.input, paper: this.paper, gross: undefined, lineAmount: () => ZERO });
      if (!wanted.result.isZero()) this.add(wanted.round('half-up').done(), entry.item.code, kind, entry.item.treatment);
    }
    for (const oneOff of this.input.oneOffs) {
      if (oneOff.item.kind !== kind || this.leftOut.has(oneOff.item.code)) continue;
      const reckoning = this.paper
        .reckon(`once:${oneOff.id}`, oneOff.item.name)
        .start('Entered for this payslip only', Exact.of(oneOff.amount));
      if (oneOff.note) reckoning.note(oneOff.note);
      this.add(reckoning.round('half-up').done(), oneOff.item.code, kind, oneOff.item.treatment);
    }
  }

  private takeDeduction(entry: ItemOnPayslip, treatment: Treatment, gross: Figure, available: Exact, ceiling?: Figure): Exact {
    const wanted = amountWanted(entry, { input: this.input, paper: this.paper, gross, lineAmount: (code) => this.lineAmount(code) });
    if (entry.carried && Exact.of(entry.carried).isAbove(ZERO)) wanted.plus('Carried from earlier payslips', Exact.of(entry.carried));
    const due = wanted.round('half-up').result;
    const uncapped = limited(wanted, entry, this.input.balances, this.lineAmount(entry.item.code), (problem) =>
      this.problems.push(problem),
    ).result;
    if (treatment.limitedBy) this.capByLaw(wanted, entry, treatment.limitedBy);
    if (ceiling) wanted.atMost(ceiling.label, ceiling);
    const fitting = available.atLeast(ZERO);
    if (wanted.result.isAbove(fitting)) {
      const part = entry.item.shortfall !== 'skip';
      wanted.atMost(part ? 'Pay that is left' : 'Left out: pay does not cover it', part ? fitting : ZERO);
      this.problems.push({
        code: 'pay-does-not-cover',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name}: pay covers ${writtenDecimal(wanted.result.toDecimal())} of ${writtenDecimal(due.toDecimal())}. ${
          entry.item.shortfall === 'carry-forward' ? 'The rest is carried to the next payslip.' : 'Nothing is carried forward.'
        }`,
      });
    } else if (ceiling && wanted.result.isBelow(uncapped)) {
      this.problems.push({
        code: 'order-does-not-fit',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name}: protected earnings leave room for ${writtenDecimal(wanted.result.toDecimal())} of ${writtenDecimal(due.toDecimal())}.`,
      });
    }
    const figure = wanted.round('half-up').done();
    this.carryForward(entry, due, uncapped, figure.amount);
    if (!figure.amount.isZero()) {
      this.add(
        figure,
        entry.item.code,
        treatment.taken === 'before-tax' ? 'deduction-before-tax' : 'deduction-after-tax',
        entry.item.treatment,
      );
    }
    return figure.amount;
  }

  private capByLaw(wanted: ReturnType<typeof amountWanted>, entry: ItemOnPayslip, base: string): void {
    const limit = this.pack.legalLimit(base, this.context);
    const usedBefore = Exact.minor(this.input.balances[base]?.year ?? 0);
    const usedHere = this.countedFor(base);
    const left = this.paper
      .reckon(`left:${base}:${entry.item.code}`, `Left of ${limit.label.toLowerCase()}`)
      .start(limit.label, limit)
      .less('Taken earlier this year', usedBefore)
      .less('Taken on this payslip before', usedHere)
      .atLeast('Not below zero', ZERO)
      .done();
    if (wanted.result.isAbove(left.amount) && !left.amount.isZero()) {
      this.problems.push({
        code: 'limit-reached',
        weight: 'look',
        item: entry.item.code,
        figure: wanted.key,
        sentence: `${entry.item.name} reaches ${limit.label.toLowerCase()} of ${writtenDecimal(limit.amount.toDecimal())}: ${writtenDecimal(left.amount.toDecimal())} is the last that can be taken this year.`,
      });
    }
    wanted.atMost(left.label, left);
  }

  private carryForward(entry: ItemOnPayslip, due: Exact, afterLimits: Exact, taken: Exact): void {
    if (entry.item.shortfall !== 'carry-forward') return;
    const carriedNow = afterLimits.minus(taken).atLeast(ZERO);
    const change = carriedNow.minus(Exact.of(entry.carried ?? '0'));
    if (change.isZero()) return;
    const label = `${entry.item.name}, carried forward`;
    const figure = this.paper.reckon(`carried:${entry.item.code}`, label).start('Due', due).less('Taken', taken).done();
    this.drafts.push({
      line: { id: `carried:${entry.item.code}`, code: `carried:${entry.item.code}`, kind: 'carried', label, amount: change.toMinor() },
      figure,
      treatment: undefined,
    });
  }

  private contribute(entry: ItemOnPayslip, treatment: Treatment, gross: Figure): void {
    const wanted = amountWanted(entry, { input: this.input, paper: this.paper, gross, lineAmount: (code) => this.lineAmount(code) });
    wanted.round('half-up');
    const figure = limited(wanted, entry, this.input.balances, this.lineAmount(entry.item.code), (problem) =>
      this.problems.push(problem),
    ).done();
    if (!figure.amount.isZero()) this.add(figure, entry.item.code, 'employer-contribution', treatment.code);
  }

  private addTaxes(results: TaxResult[], kind: 'tax' | 'employer-tax'): void {
    for (const result of results) {
      for (const base of result.bases ?? []) {
        if (base.figure.amount.isZero()) continue;
        this.drafts.push({
          line: { id: base.figure.key, code: base.code, kind: 'base', label: base.label, amount: base.figure.amount.toMinor() },
          figure: base.figure,
          treatment: undefined,
        });
      }
      const figure = kind === 'tax' ? this.overridden(result) : result.figure;
      if (figure.amount.isZero()) continue;
      this.drafts.push({
        line: { id: result.code, code: result.code, kind, label: result.label, amount: figure.amount.toMinor() },
        figure,
        treatment: undefined,
      });
    }
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

  private base(code: string): Figure {
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

  private countedFor(base: string): Exact {
    let sum = ZERO;
    for (const { figure, treatment } of this.drafts) if (treatment?.counts[base]) sum = sum.plus(figure.amount);
    return sum;
  }

  private postBases(): void {
    for (const base of this.pack.bases) {
      if (base.byTax) continue;
      const figure = this.base(base.code);
      if (figure.amount.isZero()) continue;
      this.drafts.push({
        line: { id: base.code, code: base.code, kind: 'base', label: base.label, amount: figure.amount.toMinor() },
        figure,
        treatment: undefined,
      });
    }
  }

  private finish(gross: Figure, taxes: Figure): Payslip {
    const reimbursements = this.sumOf('reimbursements', 'Reimbursements', ['reimbursement']);
    const deductions = this.sumOf('deductions', 'Deductions', ['deduction-before-tax', 'deduction-after-tax']);
    const employerTaxes = this.sumOf('employer-taxes', "Employer's taxes", ['employer-tax']);
    const contributions = this.sumOf('employer-contributions', "Employer's contributions", ['employer-contribution']);
    const net = this.paper
      .reckon('net', 'Net pay')
      .start('Gross pay', gross)
      .plus('Reimbursements', reimbursements)
      .less('Deductions', deductions)
      .less('Taxes', taxes)
      .done();
    const cost = this.paper
      .reckon('employer-cost', 'Cost to the employer')
      .start('Gross pay', gross)
      .plus('Reimbursements', reimbursements)
      .plus("Employer's taxes", employerTaxes)
      .plus("Employer's contributions", contributions)
      .done();
    const totals: Totals = {
      gross: gross.amount.toMinor(),
      reimbursements: reimbursements.amount.toMinor(),
      benefitsInKind: this.sumOf('benefits-in-kind', 'Benefits in kind', ['benefit-in-kind']).amount.toMinor(),
      deductions: deductions.amount.toMinor(),
      taxes: taxes.amount.toMinor(),
      net: net.amount.toMinor(),
      employerTaxes: employerTaxes.amount.toMinor(),
      employerContributions: contributions.amount.toMinor(),
      employerCost: cost.amount.toMinor(),
    };
    if (totals.net < 0) {
      this.problems.push({
        code: 'net-below-zero',
        weight: 'stop',
        figure: 'net',
        sentence: `Net pay is ${written(totals.net)}. It lacks ${written(-totals.net)}: add pay, leave out or lower a deduction, or spread a correction over several pay dates.`,
      });
    }
    return { lines: this.drafts.map((draft) => draft.line), totals, problems: this.problems, workings: this.paper.workings };
  }

  private checkHours(): void {
    let hours = ZERO;
    for (const entry of this.input.hours) hours = hours.plus(Exact.of(entry.hours));
    const days = daysBetween(this.input.pay.from, this.input.pay.to) + 1;
    if (hours.isAbove(Exact.whole(days * 12))) {
      this.problems.push({
        code: 'hours-unlikely',
        weight: 'look',
        figure: 'gross',
        sentence: `${hours.toDecimal(2)} hours in ${days} days is more than 12 a day, every day. Check the hours.`,
      });
    }
  }

  private sumOf(key: string, label: string, kinds: readonly LineKind[]): Figure {
    const reckoning = this.paper.reckon(key, label);
    for (const { line, figure } of this.drafts) if (kinds.includes(line.kind)) reckoning.plus(figure.label, figure);
    return reckoning.done();
  }

  private lineAmount(code: string): Exact {
    let sum = ZERO;
    for (const { line, figure } of this.drafts) if (line.code === code && line.kind !== 'base') sum = sum.plus(figure.amount);
    return sum;
  }

  private itemsOf(kind: PayItem['kind']): [ItemOnPayslip, Treatment][] {
    const once =
      kind === 'deduction' || kind === 'employer-contribution' ? this.input.oneOffs.filter((oneOff) => oneOff.item.kind === kind) : [];
    return [
      ...this.input.items.filter((entry) => entry.item.kind === kind && !this.leftOut.has(entry.item.code)),
      ...once.map((oneOff): ItemOnPayslip => ({
        item: { ...oneOff.item, method: { by: 'amount' } },
        amount: oneOff.amount,
        figure: `once:${oneOff.id}`,
      })),
    ]
      .sort((a, b) => a.item.order - b.item.order || (a.item.code < b.item.code ? -1 : 1))
      .map((entry) => [entry, this.treatmentOf(entry.item)]);
  }

  private treatmentOf(item: PayItem): Treatment {
    const treatment = this.pack.treatments[item.treatment];
    if (!treatment || !treatment.for.includes(item.kind)) {
      throw new CannotCompute(
        'treatment-unknown',
        `${item.name} has the tax treatment "${item.treatment}", which is none for ${item.kind} items in ${this.pack.name}. Choose one on the item's page.`,
      );
    }
    return treatment;
  }

  private add(figure: Figure, code: string, kind: LineKind, treatmentCode: string, hours?: { quantity: string; rate: string }): void {
    const treatment = this.pack.treatments[treatmentCode];
    if (!treatment) throw new CannotCompute('treatment-unknown', `${figure.label} has an unknown tax treatment "${treatmentCode}".`);
    this.drafts.push({
      line: { id: figure.key, code, kind, label: figure.label, amount: figure.amount.toMinor(), ...hours },
      figure,
      treatment,
    });
  }
}

function issueOf(error: { issues: { path: PropertyKey[]; message: string }[] }): string {
  const issue = error.issues[0];
  return issue ? `${issue.path.join('.') || 'nothing entered'}: ${issue.message}` : 'unknown';
}
