import { addDays, dateOf, daysBetween, quarterOf, writtenDate, yearOf, type IsoDate } from '../../calendar/dates';
import type { LateCharge, LateFacts } from '../../filings/owed';
import { Exact } from '../../money/exact';
import { Paper, type Figure } from '../../working/reckoning';
import { tables } from './tables';
import { PAYDAY_SUPER } from './tax-year';

const DAYS_OF_YEAR = Exact.whole(365);
const HUNDRED = Exact.whole(100);

/** The superannuation guarantee charge on contributions that were late, beside the contributions themselves. */
export const lateSuper = (facts: LateFacts): LateCharge => (facts.upTo < PAYDAY_SUPER ? ofQuarter(facts) : ofPayDay(facts));

/** Until June 2026: nominal interest from the first day of the quarter on, and a fee for each employee. */
function ofQuarter({ upTo, people, today, late }: LateFacts): LateCharge {
  const paper = new Paper(true);
  const from = dateOf(yearOf(upTo), quarterOf(upTo) * 3 - 2, 1);
  const rate = tables.value('au.super.late.interest', upTo);
  const fee = tables.value('au.super.late.fee', upTo);
  const parts = late.map(({ amount, on }, index) => {
    const until = on ?? today;
    return paper
      .reckon(`part-${index}`, `Interest until ${writtenDate(until)}`)
      .start(paidWords(on, today), Exact.minor(amount))
      .percent('Nominal interest, a year', rate.value)
      .times(`Days since ${writtenDate(from)}`, Exact.whole(daysBetween(from, until) + 1))
      .over('Days of a year', DAYS_OF_YEAR)
      .source(rate.source)
      .done();
  });
  const interest = sumOf(paper, 'interest', 'Nominal interest', parts);
  const administration = paper
    .reckon('fee', 'Administration component')
    .start('For each employee', fee.value)
    .times('Employees of the quarter', Exact.whole(people))
    .source(fee.source)
    .done();
  return charge(
    paper,
    [interest, administration],
    'The charge is stated to the Australian Taxation Office by the 28th of the second month after the quarter; interest runs until the statement is lodged. It is calculated on all salary and wages, overtime too, which may be more than what was late here.',
  );
}

/** Since July 2026: earnings that the fund has missed, day by day at the general interest charge, and an uplift on what is left open. */
function ofPayDay({ due, today, late }: LateFacts): LateCharge {
  const paper = new Paper(true);
  const parts = late.map(({ amount, on }, index) => {
    const until = on ?? today;
    const reckoning = paper
      .reckon(`part-${index}`, `Earnings until ${writtenDate(until)}`)
      .start(paidWords(on, today), Exact.minor(amount));
    for (const { rate, days, source } of spans(addDays(due, 1), until))
      reckoning.times(`${days} days at ${rate.toDecimal()} per cent a year, compounding daily`, growth(rate, days)).source(source);
    return reckoning.less('What was late', Exact.minor(amount)).done();
  });
  const earnings = sumOf(paper, 'earnings', 'Notional earnings', parts);
  const open = late.filter(({ on }) => on === null).reduce((sum, { amount }) => sum.plus(Exact.minor(amount)), Exact.whole(0));
  const most = tables.value('au.super.late.uplift', due > PAYDAY_SUPER ? due : PAYDAY_SUPER);
  const uplift = paper
    .reckon('uplift', 'Administrative uplift, at most')
    .start(earnings.label, earnings)
    .plus('Not paid yet', open)
    .percent('Before it is reduced', most.value)
    .round('half-up')
    .source(most.source)
    .done();
  return charge(
    paper,
    [earnings, uplift],
    'Pay it at once: what is paid before the Australian Taxation Office assesses it is no shortfall any more. The uplift is reduced, to nothing at best, where you disclose it to the Office first.',
  );
}

const paidWords = (on: IsoDate | null, today: IsoDate): string =>
  on ? `Paid on ${writtenDate(on)}` : `Not paid yet, as of ${writtenDate(today)}`;

function sumOf(paper: Paper, key: string, label: string, parts: readonly Figure[]): Figure {
  const reckoning = paper.reckon(key, label);
  parts.forEach((part, index) => (index ? reckoning.plus(part.label, part) : reckoning.start(part.label, part)));
  return reckoning.round('half-up').done();
}

const charge = (paper: Paper, figures: readonly Figure[], note: string): LateCharge => ({
  lines: figures.map(({ key, label, amount }) => ({ key, label, amount: amount.toMinor() })),
  workings: paper.workings,
  note,
});

/** Days from one to another, both counted, by the rate that was in force. */
function spans(from: IsoDate, to: IsoDate) {
  const found: { rate: Exact; days: number; source: ReturnType<typeof tables.value>['source'] }[] = [];
  for (let day = from; day <= to; day = addDays(day, 1)) {
    const { value: rate, source } = tables.value('au.gic', day);
    const last = found.at(-1);
    if (last?.rate.equals(rate)) last.days += 1;
    else found.push({ rate, days: 1, source });
  }
  return found;
}

/** By how much an amount grows that earns interest on interest each day; to twelve decimals. */
function growth(rate: Exact, days: number): Exact {
  const daily = Exact.whole(1).plus(rate.over(HUNDRED).over(DAYS_OF_YEAR));
  let grown = Exact.whole(1);
  for (let day = 0; day < days; day++) grown = Exact.of(grown.times(daily).toDecimal(12));
  return grown;
}
