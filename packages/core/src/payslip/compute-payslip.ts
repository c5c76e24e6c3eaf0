import { daysBetween, daysOfPart, writtenDate } from '../calendar/dates';
import { Exact } from '../money/exact';
import { amountWanted, limited } from '../pay-items/amounts-of-items';
import { CannotCompute, type CountryPack } from '../rules/country-pack';
import { packOf } from '../rules/registry';
import { Paper, type Figure } from '../working/reckoning';
import { Deductions, netBelowZero } from './deductions';
import { PayslipDraft } from './draft';
import type { PayslipInput } from './input';
import { NO_TOTALS, type Payslip, type Problem, type Totals } from './payslip';

/**
 * Works out one payslip.
 * @param input all facts; amounts as decimal texts, balances in minor units
 * @param options.workings also give the working of every figure (about twice the time)
 * @returns lines, totals and balances in minor units. What keeps a payslip from being worked out at all
 *   (no table for the date, a fact missing) comes back as a problem of weight `stop` on an empty payslip.
 */
export function computePayslip(input: PayslipInput, options: { workings?: boolean } = {}): Payslip {
  try {
    return make(input, packOf(input.country), new Paper(options.workings === true));
  } catch (error) {
    if (!(error instanceof CannotCompute)) throw error;
    const problem: Problem = { code: error.code, weight: 'stop', sentence: error.message };
    return { lines: [], notDue: [], totals: { ...NO_TOTALS }, problems: [problem], workings: {} };
  }
}

/** The order of a payslip: what is paid, what comes off before tax, taxes, what comes off after tax, what the employer pays. */
function make(input: PayslipInput, pack: CountryPack, paper: Paper): Payslip {
  pack.assertTables(input.pay.date);
  const draft = new PayslipDraft(input, pack, paper, factsOf(input, pack));
  payHours(draft);
  payItems(draft, 'earning');
  payItems(draft, 'reimbursement');
  payItems(draft, 'benefit-in-kind');
  draft.gross = draft.sumOf('gross', 'Gross pay', ['earning']);
  checkHours(draft);

  const deductions = new Deductions(draft);
  deductions.takeBeforeTax();
  draft.addTaxes(pack.employeeTaxes(draft.context), 'tax');
  draft.taxes = draft.sumOf('taxes', 'Taxes', ['tax']);
  deductions.takeAfterTax();

  for (const [entry] of draft.itemsOf('employer-contribution')) {
    const wanted = amountWanted(entry, draft).round('half-up');
    const figure = limited(wanted, entry, draft).round('half-up').done();
    if (!figure.amount.isZero()) draft.add(figure, entry.item, 'employer-contribution');
  }
  draft.addTaxes(pack.employerTaxes(draft.context), 'employer-tax');
  draft.postBases();
  return finished(draft, draft.gross, draft.taxes);
}

function factsOf(input: PayslipInput, pack: CountryPack): { tax: unknown; employer: unknown } {
  const tax = pack.taxSchema.safeParse(input.tax);
  if (!tax.success)
    throw new CannotCompute(
      'tax-details-missing',
      `Tax details are incomplete (${issueOf(tax.error)}). Complete them on the person's page.`,
    );
  const employer = pack.employerSchema.safeParse(input.employer);
  if (!employer.success)
    throw new CannotCompute('employer-facts-missing', `Facts of the employer are incomplete (${issueOf(employer.error)}).`);
  return { tax: tax.data, employer: employer.data };
}

function payHours(draft: PayslipDraft): void {
  const { hourItems } = draft.input;
  const { rates, hoursEntries: hours } = draft;
  const several = rates.filter((rate) => rate.per === 'hour').length > 1;
  for (const entry of hours) {
    const worked = Exact.of(entry.hours);
    if (worked.isZero()) continue;
    const item = hourItems.find((candidate) => candidate.code === entry.item);
    const rate = rates.find((candidate) => candidate.id === entry.rate);
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
    const reckoning = draft.paper.reckon(id, label).start('Hours', entry.figure ?? worked);
    const regular = draft.paper.workings[rate.id];
    reckoning.times(rate.label, regular ? { key: rate.id, label: rate.label, amount: Exact.of(rate.amount) } : Exact.of(rate.amount));
    if (!multiple.equals(Exact.whole(1))) reckoning.times(item.name, multiple);
    if (rate.from) reckoning.fact(`Rate in force since ${rate.from}`, 'rate', rate.id);
    const figure = reckoning.round('half-up').done();
    draft.add(figure, item, 'earning', { quantity: entry.hours, rate: Exact.of(rate.amount).toDecimal() });
  }
}

/** Recurring items of one kind, then the one-offs of that kind. */
function payItems(draft: PayslipDraft, kind: 'earning' | 'reimbursement' | 'benefit-in-kind'): void {
  for (const [entry] of draft.itemsOf(kind)) {
    const figure = limited(amountWanted(entry, draft).round('half-up'), entry, draft).round('half-up').done();
    if (!figure.amount.isZero())
      draft.add(figure, entry.item, kind, entry.item.method.by === 'pieces' && entry.quantity ? { quantity: entry.quantity } : {});
  }
  for (const oneOff of draft.input.oneOffs) {
    if (oneOff.item.kind !== kind || draft.isLeftOut(oneOff.item.code)) continue;
    const reckoning = draft.paper
      .reckon(`once:${oneOff.id}`, oneOff.item.name)
      .start(oneOff.part ? 'Entered for this payslip only, for a whole month' : 'Entered for this payslip only', Exact.of(oneOff.amount));
    if (oneOff.part) {
      const { days, ofMonth } = daysOfPart(oneOff.part);
      reckoning
        .times(`Days from ${writtenDate(oneOff.part.from)} to ${writtenDate(oneOff.part.to)}`, Exact.whole(days))
        .over('Days of the month', Exact.whole(ofMonth));
    }
    if (oneOff.note) reckoning.note(oneOff.note);
    draft.add(reckoning.round('half-up').done(), oneOff.item, kind);
  }
}

function checkHours(draft: PayslipDraft): void {
  const { from, to } = draft.input.pay;
  const hours = draft.hours();
  const days = daysBetween(from, to) + 1;
  if (!hours.isAbove(Exact.whole(days * 12))) return;
  draft.problems.push({
    code: 'hours-unlikely',
    weight: 'look',
    figure: 'gross',
    sentence: `${hours.toDecimal(2)} hours in ${days} days is more than 12 a day, every day. Check the hours.`,
  });
}

function finished(draft: PayslipDraft, gross: Figure, taxes: Figure): Payslip {
  const reimbursements = draft.sumOf('reimbursements', 'Reimbursements', ['reimbursement']);
  const deductions = draft.sumOf('deductions', 'Deductions', ['deduction-before-tax', 'deduction-after-tax']);
  const employerTaxes = draft.sumOf('employer-taxes', "Employer's taxes", ['employer-tax']);
  const contributions = draft.sumOf('employer-contributions', "Employer's contributions", ['employer-contribution']);
  const net = draft.paper
    .reckon('net', 'Net pay')
    .start('Gross pay', gross)
    .plus('Reimbursements', reimbursements)
    .less('Deductions', deductions)
    .less('Taxes', taxes)
    .done();
  const cost = draft.paper
    .reckon('employer-cost', 'Cost to the employer')
    .start('Gross pay', gross)
    .plus('Reimbursements', reimbursements)
    .plus("Employer's taxes", employerTaxes)
    .plus("Employer's contributions", contributions)
    .done();
  const totals: Totals = {
    gross: gross.amount.toMinor(),
    reimbursements: reimbursements.amount.toMinor(),
    benefitsInKind: draft.sumOf('benefits-in-kind', 'Benefits in kind', ['benefit-in-kind']).amount.toMinor(),
    deductions: deductions.amount.toMinor(),
    taxes: taxes.amount.toMinor(),
    net: net.amount.toMinor(),
    employerTaxes: employerTaxes.amount.toMinor(),
    employerContributions: contributions.amount.toMinor(),
    employerCost: cost.amount.toMinor(),
  };
  if (totals.net < 0) draft.problems.push({ code: 'net-below-zero', weight: 'stop', figure: 'net', sentence: netBelowZero(totals.net) });
  return { lines: draft.lines, notDue: draft.notDue, totals, problems: draft.problems, workings: draft.paper.workings };
}

function issueOf(error: { issues: { path: PropertyKey[]; message: string }[] }): string {
  const issue = error.issues[0];
  return issue ? `${issue.path.join('.') || 'nothing entered'}: ${issue.message}` : 'unknown';
}
