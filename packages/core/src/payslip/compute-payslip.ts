import { daysBetween, daysOfPart, writtenDate, writtenDay } from '../calendar/dates';
import { written, writtenDecimal } from '../money/amounts';
import { Exact, ZERO } from '../money/exact';
import { makeUpPay } from '../time/make-up';
import type { TimeEntry } from '../time/time';
import { amountWanted, limited } from '../pay-items/amounts-of-items';
import type { PayItem } from '../pay-items/pay-item';
import { CannotCompute, type CountryPack } from '../rules/country-pack';
import { packOf } from '../rules/registry';
import { Paper, type Figure } from '../working/reckoning';
import { Deductions, netBelowZero } from './deductions';
import { PayslipDraft } from './draft';
import type { Adjustment, PayslipInput, Rate, Recovery } from './input';
import { averageFor, hourOfSalary, keepLeave } from './leave-lines';
import { changedAfter, inForce } from './rates-in-time';
import { NO_TOTALS, type Payslip, type Problem, type Totals } from './payslip';

/**
 * Works out one payslip.
 * @param input all facts; amounts as decimal texts, balances in minor units
 * @param options.workings also give the working of every figure (about twice the time)
 * @returns lines, totals and balances in minor units. What keeps a payslip from being calculated at all
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
  if (input.adjustments) return adjusted(input.adjustments, paper);
  pack.assertTables(input.pay.date);
  const draft = new PayslipDraft(input, pack, paper, factsOf(input, pack));
  if (input.person.contractor) return contracted(draft);
  payHours(draft);
  for (const entry of input.leave ?? []) keepLeave(draft, entry);
  payItems(draft, 'earning');
  payTips(draft);
  lookAtMinimumWage(draft);
  for (const recovery of input.recoveries ?? []) recover(draft, recovery);
  payItems(draft, 'reimbursement');
  payItems(draft, 'benefit-in-kind');
  draft.gross = draft.sumOf('gross', 'Gross pay', ['earning']);
  checkHours(draft);

  const deductions = new Deductions(draft);
  deductions.takeBeforeTax();
  lookAtPayGivenUp(draft);
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

/** A contractor's: no contributions, and no taxes where the agency can know who is paid; deductions only from what is left. */
function contracted(draft: PayslipDraft): Payslip {
  const { contractorBase } = draft.pack;
  payHours(draft);
  payItems(draft, 'earning');
  payItems(draft, 'reimbursement');
  draft.gross = draft.sumOf('gross', 'Gross pay', ['earning']);
  const deductions = new Deductions(draft);
  deductions.takeBeforeTax();
  if (contractorBase && !draft.gross.amount.isZero()) {
    const figure = draft.paper.reckon(contractorBase.code, contractorBase.label).start(draft.gross.label, draft.gross).done();
    if (draft.input.person.unidentified) draft.addTaxes(draft.pack.contractorTaxes?.(draft.context, figure) ?? [], 'tax');
    draft.post(figure, { ...contractorBase, kind: 'base' });
  }
  draft.taxes = draft.sumOf('taxes', 'Taxes', ['tax']);
  deductions.takeAfterTax();
  return finished(draft, draft.gross, draft.taxes);
}

function factsOf(input: PayslipInput, pack: CountryPack): { tax: unknown; employer: unknown } {
  if (input.person.contractor) return { tax: undefined, employer: undefined };
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
    const plan = draft.input.leave?.find((one) => one.plan.cashOutItem === entry.item);
    const ofSalary =
      rate && rate.per !== 'hour' && plan?.standardHours !== undefined
        ? hourOfSalary(draft, plan.plan.code, rate, plan.standardHours)
        : undefined;
    if (!rate || (rate.per !== 'hour' && !ofSalary))
      throw new CannotCompute(
        'hours-without-rate',
        `${item.name} has hours, but there is no hourly rate in force for them. Add one on the person's page.`,
      );
    const id = several ? `${item.code}:${rate.id}` : item.code;
    const label = several ? `${item.name}, ${rate.label}` : item.name;
    const multiple = Exact.of(item.method.multiple);
    const reckoning = draft.paper.reckon(id, label).start('Hours', entry.figure ?? worked);
    const regular = draft.paper.workings[rate.id];
    const average = ofSalary ?? averageFor(draft, entry.item);
    if (average) reckoning.times(average.label, average);
    else reckoning.times(rate.label, regular ? { key: rate.id, label: rate.label, amount: Exact.of(rate.amount) } : Exact.of(rate.amount));
    if (!multiple.equals(Exact.whole(1))) reckoning.times(item.name, multiple);
    if (rate.from && !average) reckoning.fact(`Rate in force since ${rate.from}`, 'rate', rate.id);
    const figure = reckoning.round('half-up').done();
    draft.add(figure, item, 'earning', { quantity: entry.hours, rate: (average?.amount ?? Exact.of(rate.amount)).toDecimal() });
    if (!average && !entry.figure && changedAfter(rate, draft.input.pay.from)) oneSumOverAChange(draft, item, rate, figure);
  }
}

/** Hours that are one sum are paid at the latest rate, which the clerk is told. */
function oneSumOverAChange(draft: PayslipDraft, item: PayItem, rate: Rate, figure: Figure): void {
  const before = inForce(rate).at(-2);
  if (!before) return;
  draft.problems.push({
    code: 'rate-changed-within-period',
    weight: 'look',
    item: item.code,
    figure: figure.key,
    sentence: `All hours of ${item.name} are paid at ${writtenDecimal(rate.amount)}, but the rate was ${writtenDecimal(before.amount)} until ${writtenDate(before.to ?? '')}. Keep them by day on the time page, and each day has its own rate; or accept it with a reason.`,
  });
}

/** Tips of each day, and what brings low pay with them up to the minimum wage of each workweek. */
function payTips(draft: PayslipDraft): void {
  const { input, paper, pack } = draft;
  const tips: TimeEntry[] = [];
  for (const item of input.timeItems ?? []) {
    const days = draft.quantities(item.code);
    if (!days.length || item.method.by === 'pieces' || (item.kind !== 'earning' && item.kind !== 'benefit-in-kind')) continue;
    tips.push(...days);
    const reckoning = paper.reckon(`tips:${item.code}`, item.name);
    for (const day of days) reckoning.plus(writtenDay(day.date), Exact.of(day.quantity ?? '0'));
    draft.add(reckoning.round('half-up').done(), item, item.kind);
  }
  const makeUp = input.timeItems?.find((item) => item.code === input.time?.rules.items.makeUp);
  if (!makeUp || !pack.minimumWage || !input.time) return;
  const figure = makeUpPay(draft.weeks, tips, pack.minimumWage(draft.context), input.time.rules.weekBegins, paper, pack.wageLaw?.tipCredit);
  if (figure) draft.add({ ...figure, label: makeUp.name }, makeUp, 'earning');
}

/** Hours paid by the hour, and what they are paid; a premium counts, a bonus does not make up for a low rate here. */
function paidByTheHour(draft: PayslipDraft): { hours: Exact; pay: Exact } {
  const codes = new Set([...draft.input.hourItems, ...(draft.input.timeItems ?? [])].map((item) => item.code));
  const pay = draft.lines
    .filter((line) => (line.kind === 'earning' || line.kind === 'benefit-in-kind') && codes.has(line.code))
    .reduce((sum, line) => sum.plus(Exact.minor(line.amount)), ZERO);
  return { hours: draft.hours(), pay };
}

/** Each workweek by itself where time is kept by day, for a good week makes no amends for a poor one; else the period. */
function lookAtMinimumWage(draft: PayslipDraft): void {
  if (!draft.hoursEntries.length || !draft.pack.minimumWage) return;
  const least = draft.pack.minimumWage(draft.context);
  const poor: string[] = [];
  const look = (hours: Exact, pay: Exact, when: string) => {
    if (hours.isAbove(ZERO) && pay.isBelow(hours.times(least.amount)))
      poor.push(`${hours.toDecimal(2)} hours${when} are paid ${writtenDecimal(pay.toDecimal(2))}`);
  };
  const byDay = draft.weeks.filter((week) => !week.hours.isZero());
  const tipped =
    draft.input.time?.rules.items.makeUp !== undefined && (draft.input.timeItems ?? []).some((item) => draft.quantities(item.code).length);
  if (byDay.length && !tipped)
    for (const week of byDay) look(week.hours, week.pay.plus(week.beside), ` in the week from ${writtenDay(week.from)}`);
  else {
    const { hours, pay } = paidByTheHour(draft);
    look(hours, pay, '');
  }
  if (poor.length)
    draft.problems.push({
      code: 'below-minimum-wage',
      weight: 'look',
      figure: 'minimum-wage',
      sentence: `${poor.join('; ')}, which is less than the minimum wage of ${least.amount.toDecimal(2)} an hour. Raise the rate, or accept it with a reason.`,
    });
}

/** Pay that is given up leaves the minimum wage of the hours paid. */
function lookAtPayGivenUp(draft: PayslipDraft): void {
  const given = draft.sumOfTreatments(
    Object.values(draft.pack.treatments)
      .filter(({ givesUpPay }) => givesUpPay)
      .map(({ code }) => code),
  );
  if (!given.isAbove(ZERO) || !draft.pack.minimumWage || !draft.hoursEntries.length) return;
  const least = draft.pack.minimumWage(draft.context);
  const { hours, pay } = paidByTheHour(draft);
  const left = pay.minus(given);
  if (!hours.isAbove(ZERO) || !left.isBelow(hours.times(least.amount))) return;
  draft.problems.push({
    code: 'given-up-below-minimum-wage',
    weight: 'stop',
    figure: 'minimum-wage',
    sentence: `${writtenDecimal(given.toDecimal(2))} of pay is given up, and ${writtenDecimal(left.toDecimal(2))} is left for ${hours.toDecimal(2)} hours, which is less than the minimum wage of ${least.amount.toDecimal(2)} an hour. Give up less.`,
  });
}

/** Takes back what was paid too much, as negative pay, and leaves the minimum wage of the hours paid. */
function recover(draft: PayslipDraft, { id, item, left, perPayslip, reason }: Recovery): void {
  if (left <= 0 || draft.isLeftOut(item.code)) return;
  const { paper } = draft;
  const pay = draft.sumOf(`before:${id}`, 'Pay before it is recovered', ['earning']);
  const least = draft.pack.minimumWage && draft.hoursEntries.length ? draft.pack.minimumWage(draft.context) : undefined;
  const kept = least ? draft.hours().times(least.amount) : ZERO;
  const amount = paper
    .reckon(`recover:${id}:amount`, `${item.name} paid too much, recovered`)
    .start('For each payslip, as agreed', Exact.of(perPayslip))
    .atMost('Still to be recovered', Exact.minor(left))
    .atMost(`Pay of ${written(pay.amount.toMinor())}, less the minimum wage of the hours paid`, pay.amount.minus(kept).atLeast(ZERO))
    .note(`Reason: ${reason}`)
    .round('down')
    .source(...(draft.pack.wageLaw ? [draft.pack.wageLaw.kept] : []))
    .done();
  if (amount.amount.isZero()) {
    draft.problems.push({
      code: 'nothing-recovered',
      weight: 'look',
      item: item.code,
      figure: amount.key,
      sentence: `Nothing of ${written(left)} paid too much is recovered: the pay leaves no room above the minimum wage.`,
    });
    return;
  }
  const line = paper.reckon(`recover:${id}`, `${item.name}, recovered`).less(amount.label, amount).note(`Reason: ${reason}`).done();
  draft.add(line, item, 'earning');
  draft.post({ ...amount, key: `recovered:${id}` }, { code: `recovered:${id}`, kind: 'carried', label: `${item.name}, recovered` });
}

/** Balances changed without payment. */
function adjusted(adjustments: readonly Adjustment[], paper: Paper): Payslip {
  const lines = adjustments.map(({ code, label, kind, amount, reason }, index) => {
    const figure = paper
      .reckon(`adjusted:${index}`, label)
      .in(kind === 'leave' ? 'hours' : 'money')
      .start('Adjusted by hand, without payment', Exact.of(amount))
      .note(`Reason: ${reason}`)
      .done();
    return { id: figure.key, code, kind, label, amount: figure.amount.toMinor() };
  });
  return { lines, notDue: [], totals: { ...NO_TOTALS }, problems: [], workings: paper.workings };
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
