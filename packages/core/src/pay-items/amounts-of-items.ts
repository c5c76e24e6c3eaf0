import { weekdaysBetween, writtenDay, writtenPeriod, yearOf, type IsoDate } from '../calendar/dates';
import { Exact, HUNDRED, ZERO } from '../money/exact';
import { written, writtenDecimal } from '../money/amounts';
import type { PayslipDraft } from '../payslip/draft';
import type { Rate } from '../payslip/input';
import { inForce } from '../payslip/rates-in-time';
import { CannotCompute } from '../rules/country-pack';
import type { Reckoning } from '../working/reckoning';
import type { ItemOnPayslip, Limits, Method } from './pay-item';

/** Begins an item's working with the amount its method gives, before limits; not rounded yet. */
export function amountWanted(entry: ItemOnPayslip, draft: PayslipDraft): Reckoning {
  const { item } = entry;
  const { method } = item;
  const reckoning = draft.paper.reckon(entry.figure ?? item.code, item.name);
  if (entry.id) reckoning.fact(`${item.name}: the person's item`, 'item', entry.id);
  if (entry.once) {
    reckoning.start('Given for this payslip only', Exact.of(entry.once.amount));
    return entry.once.note ? reckoning.note(entry.once.note) : reckoning;
  }
  const own = Exact.of(entry.amount ?? '0');
  switch (method.by) {
    case 'salary':
      return salary(reckoning, entry, draft);
    case 'amount':
      return reckoning.start('Amount', own);
    case 'percent': {
      const base = draft.percentBase(method.of, entry);
      return reckoning.start(base.label, base).percent(`${percentText(entry)}%`, Exact.of(entry.percent ?? '0'));
    }
    case 'per-hour':
      return reckoning.start(method.items ? 'Hours that count' : 'Hours paid', draft.hours(method.items)).times('For each hour', own);
    case 'pieces':
      return pieces(reckoning, entry, draft).times('For each piece', own);
    case 'match':
      return match(reckoning, entry, method, draft);
    case 'table':
      return tableRow(reckoning, method, entry, draft);
    case 'published-table': {
      const table = draft.pack.publishedTables?.[method.table];
      if (!table)
        throw new CannotCompute('table-unknown', `${item.name} uses the table "${method.table}", which ${draft.pack.name} does not have.`);
      return table.lookUp(reckoning, own, {
        ...draft.context,
        disposable: () => draft.percentBase('disposable', entry),
        deducted: (treatments) => draft.sumOfTreatments(treatments),
      });
    }
    case 'hours':
      throw new CannotCompute('hours-item-recurs', `${item.name} is paid by the hour and cannot be a recurring item. Enter hours instead.`);
  }
}

/** As entered for the payslip, else day by day as the time says. */
function pieces(reckoning: Reckoning, { quantity, item }: ItemOnPayslip, draft: PayslipDraft): Reckoning {
  if (quantity !== undefined) return reckoning.start('Pieces', Exact.of(quantity));
  for (const day of draft.quantities(item.code)) reckoning.plus(`Pieces on ${writtenDay(day.date)}`, Exact.of(day.quantity ?? '0'));
  return reckoning;
}

/** What a limit is counted over: the sum taken before, by its name in the balances, and in words. */
const OVER: [limit: keyof Limits, before: 'period' | 'month' | 'quarter' | 'year' | 'inAll', words: string][] = [
  ['perPeriod', 'period', "the period's limit"],
  ['perMonth', 'month', "the month's limit"],
  ['perQuarter', 'quarter', "the quarter's limit"],
  ['perYear', 'year', "the year's limit"],
  ['inAll', 'inAll', 'the sum in all'],
];

/** Applies the item's own and the person's limits. Says so once when a limit of zero, not the method, makes it zero. */
export function limited(reckoning: Reckoning, entry: ItemOnPayslip, draft: PayslipDraft): Reckoning {
  const limits = { ...entry.item.limits, ...entry.limits };
  const { code, name } = entry.item;
  const before = reckoning.result;
  const taken = draft.input.balances[code];
  const here = draft.lineAmount(code);
  /** What it would be without the limits of zero. */
  let otherwise = before;
  const atMost = (label: string, text: string, left: Exact) => {
    if (!Exact.of(text).isZero()) otherwise = otherwise.atMost(left);
    reckoning.atMost(label, left);
  };
  if (limits.perPayslip !== undefined) atMost('Limit per payslip', limits.perPayslip, Exact.of(limits.perPayslip));
  for (const [limit, span, words] of OVER) {
    const text = limits[limit];
    if (text === undefined) continue;
    const left = Exact.of(text)
      .minus(Exact.minor(taken?.[span] ?? 0))
      .minus(here)
      .atLeast(ZERO);
    const sum = writtenDecimal(Exact.of(text).toDecimal());
    if (limit === 'inAll' && reckoning.result.isAbove(left) && left.isAbove(ZERO)) {
      draft.problems.push({
        code: 'target-reached',
        weight: 'look',
        item: code,
        figure: reckoning.key,
        sentence: `${name} reaches its sum of ${sum} with this payslip: ${written(left.toMinor())} is the last.`,
      });
    }
    atMost(limit === 'inAll' ? `Left until ${sum} is reached` : `Remaining ${words} of ${sum}`, text, left);
  }
  if (reckoning.result.isZero() && !otherwise.isZero()) {
    draft.problems.push({
      code: 'limit-is-zero',
      weight: 'look',
      item: code,
      figure: reckoning.key,
      sentence: `${name} is zero because its limit is 0.00. Without the limit it would be ${writtenDecimal(otherwise.toDecimal(2))}. Change the limit, or leave the item out.`,
    });
  }
  return reckoning;
}

function salary(reckoning: Reckoning, entry: ItemOnPayslip, { input, paper }: PayslipDraft): Reckoning {
  const rate = input.rates.find((candidate) => candidate.primary && candidate.per !== 'hour');
  if (!rate)
    throw new CannotCompute(
      'salary-without-rate',
      `${entry.item.name} needs a salary, and none is in force on the pay date. Add one on the person's page.`,
    );
  if (rate.from) reckoning.fact(`Salary in force since ${rate.from}`, 'rate', rate.id);
  const { from, to } = input.pay;
  const [first, last] = [input.employed?.from ?? from, input.employed?.to ?? to];
  const whole = (sum: Reckoning, { label, per, amount }: Rate): Reckoning =>
    per === 'period'
      ? sum.start(`${label}, per pay period`, Exact.of(amount))
      : sum.start(`${label}, per year`, Exact.of(amount)).over('Pay dates in the year', Exact.whole(input.pay.payDatesInYear));
  const part = (sum: Reckoning, words: string, begin: IsoDate, end: IsoDate): Reckoning =>
    sum
      .times(`${words}, ${writtenPeriod(begin, end)}`, Exact.whole(weekdaysBetween(begin, end)))
      .over('Weekdays of the period', Exact.whole(weekdaysBetween(from, to)));
  // A salary that changed within the period: each amount for its weekdays.
  const spans = inForce(rate)
    .map((one, index, all) => {
      const begin = index > 0 && one.from && one.from > first ? one.from : first;
      return { one, begin, end: all[index + 1] && one.to && one.to < last ? one.to : last };
    })
    .filter(({ begin, end }) => begin <= end && weekdaysBetween(begin, end) > 0);
  if (spans.length > 1)
    for (const { one, begin, end } of spans)
      reckoning.plus(one.label, part(whole(paper.reckon(`${reckoning.key}:${begin}`, one.label), one), 'Weekdays', begin, end).done());
  else {
    whole(reckoning, spans[0]?.one ?? rate);
    if (input.employed) part(reckoning, 'Weekdays employed', first, last);
  }
  for (const away of input.away ?? []) {
    const present = weekdaysBetween(first, last);
    const days = weekdaysBetween(away.from > first ? away.from : first, away.to < last ? away.to : last);
    if (present > 0 && days > 0)
      reckoning
        .times(`Weekdays without ${away.label}, ${writtenPeriod(away.from, away.to)}`, Exact.whole(present - days))
        .over('Weekdays employed in the period', Exact.whole(present));
  }
  for (const { plan, taken, standardHours } of input.leave ?? []) {
    if (plan.item !== undefined || !taken.length || standardHours === undefined) continue;
    const away = taken.reduce((sum, day) => sum.plus(Exact.of(day.hours)), ZERO);
    const share = Exact.of(standardHours).minus(away).atLeast(ZERO).over(Exact.of(standardHours));
    reckoning.times(`${plan.name}: ${away.toDecimal(2)} of ${writtenDecimal(standardHours)} hours are not paid`, share);
  }
  return reckoning;
}

function match(reckoning: Reckoning, entry: ItemOnPayslip, method: Extract<Method, { by: 'match' }>, draft: PayslipDraft): Reckoning {
  const putIn = draft.lineAmount(method.of);
  let below = ZERO;
  for (const tier of method.tiers) {
    const base = tier.upTo === undefined ? undefined : draft.percentBase(method.on ?? 'gross', entry);
    const ceiling = base ? base.amount.times(Exact.of(tier.upTo ?? '0')).over(HUNDRED) : Exact.of(tier.upToAmount ?? '0');
    const words = base ? `${tier.upTo}% of ${base.label.toLowerCase()}` : `${writtenDecimal(ceiling.toDecimal())} a payslip`;
    const inTier = putIn.atMost(ceiling).minus(below).atLeast(ZERO);
    const part = draft.paper
      .reckon(`${reckoning.key}:${tier.upTo ?? tier.upToAmount}`, `Put in, up to ${words}`)
      .start('Put in by the employee', { key: method.of, label: 'Put in by the employee', amount: putIn })
      .atMost(words, ceiling)
      .less('In lower tiers', below)
      .atLeast('Not below zero', ZERO)
      .percent(`Matched at ${tier.match}%`, Exact.of(tier.match))
      .done();
    if (!inTier.isZero()) reckoning.plus(part.label, part);
    below = below.plus(inTier);
  }
  return reckoning;
}

function tableRow(reckoning: Reckoning, method: Extract<Method, { by: 'table' }>, entry: ItemOnPayslip, draft: PayslipDraft): Reckoning {
  const { born } = draft.input.person;
  if (method.over === 'age' && born === undefined)
    throw new CannotCompute(
      'born-unknown',
      `${entry.item.name} goes by age, and no date of birth is on file. Enter it on the person's page.`,
    );
  const looked =
    method.over === 'age' ? Exact.whole(yearOf(draft.input.pay.date) - yearOf(born as string)) : draft.percentBase('gross', entry).amount;
  const row = method.rows.filter((candidate) => !looked.isBelow(Exact.of(candidate.from))).at(-1);
  const words =
    method.over === 'age' ? `age ${looked.toDecimal(0)}, reached in the year` : `gross pay of ${writtenDecimal(looked.toDecimal(2))}`;
  if (!row) return reckoning.note(`The table has no row for ${words}.`);
  return reckoning.start(`Row from ${writtenDecimal(row.from)}: ${words}`, Exact.of(row.amount));
}

const percentText = (entry: ItemOnPayslip): string => (entry.percent ?? '0').replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '');
