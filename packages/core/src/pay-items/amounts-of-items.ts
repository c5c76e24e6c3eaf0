import { Exact, HUNDRED, ZERO } from '../money/exact';
import { written, writtenDecimal } from '../money/amounts';
import type { Balances, PayslipInput } from '../payslip/input';
import type { Problem } from '../payslip/payslip';
import { CannotCompute } from '../rules/country-pack';
import type { Figure, Paper, Reckoning } from '../working/reckoning';
import type { ItemOnPayslip, MatchTier } from './pay-item';

/** What the methods need of the payslip in the making. */
export interface AmountContext {
  input: PayslipInput;
  paper: Paper;
  /** Not known yet while earnings are worked out. */
  gross: Figure | undefined;
  /** Sum of this payslip's lines of an item, so far. */
  lineAmount(code: string): Exact;
}

/** Begins an item's working with the amount its method gives, before limits; not rounded yet. */
export function amountWanted(entry: ItemOnPayslip, context: AmountContext): Reckoning {
  const { item } = entry;
  const reckoning = context.paper.reckon(entry.figure ?? item.code, item.name);
  if (entry.id) reckoning.fact(`${item.name}: the person's item`, 'item', entry.id);
  switch (item.method.by) {
    case 'salary':
      return salary(reckoning, entry, context.input);
    case 'amount':
      return reckoning.start('Amount', Exact.of(entry.amount ?? '0'));
    case 'percent':
      return reckoning.start('Gross pay', grossOf(context, entry)).percent(`${percentText(entry)}%`, Exact.of(entry.percent ?? '0'));
    case 'match':
      return match(reckoning, item.method.of, item.method.tiers, grossOf(context, entry), context);
    case 'hours':
      throw new CannotCompute('hours-item-recurs', `${item.name} is paid by the hour and cannot be a recurring item. Enter hours instead.`);
  }
}

/** Applies the item's own and the person's limits. Says so once when a limit of zero, not the method, makes it zero. */
export function limited(
  reckoning: Reckoning,
  entry: ItemOnPayslip,
  balances: Balances,
  takenHere: Exact,
  problem: (problem: Problem) => void,
): Reckoning {
  const limits = { ...entry.item.limits, ...entry.limits };
  const before = reckoning.result;
  const taken = balances[entry.item.code];
  if (limits.perPayslip !== undefined) reckoning.atMost('Limit per payslip', Exact.of(limits.perPayslip));
  if (limits.perYear !== undefined) {
    const left = Exact.of(limits.perYear)
      .minus(Exact.minor(taken?.year ?? 0))
      .minus(takenHere)
      .atLeast(ZERO);
    reckoning.atMost(`Left of the year's limit of ${writtenDecimal(Exact.of(limits.perYear).toDecimal())}`, left);
  }
  if (limits.inAll !== undefined) {
    const left = Exact.of(limits.inAll)
      .minus(Exact.minor(taken?.inAll ?? 0))
      .minus(takenHere)
      .atLeast(ZERO);
    if (reckoning.result.isAbove(left) && left.isAbove(ZERO)) {
      problem({
        code: 'target-reached',
        weight: 'look',
        item: entry.item.code,
        figure: reckoning.key,
        sentence: `${entry.item.name} reaches its sum of ${writtenDecimal(Exact.of(limits.inAll).toDecimal())} with this payslip: ${written(left.toMinor())} is the last.`,
      });
    }
    reckoning.atMost(`Left until ${writtenDecimal(Exact.of(limits.inAll).toDecimal())} is reached`, left);
  }
  const zeroLimit = [limits.perPayslip, limits.perYear, limits.inAll].some((limit) => limit !== undefined && Exact.of(limit).isZero());
  if (zeroLimit && reckoning.result.isZero() && !before.isZero()) {
    problem({
      code: 'limit-is-zero',
      weight: 'look',
      item: entry.item.code,
      figure: reckoning.key,
      sentence: `${entry.item.name} is zero because its limit is 0.00. Without the limit it would be ${writtenDecimal(before.toDecimal(2))}. Change the limit, or leave the item out.`,
    });
  }
  return reckoning;
}

function salary(reckoning: Reckoning, entry: ItemOnPayslip, input: PayslipInput): Reckoning {
  const rate = input.rates.find((candidate) => candidate.primary && candidate.per !== 'hour');
  if (!rate)
    throw new CannotCompute(
      'salary-without-rate',
      `${entry.item.name} needs a salary, and none is in force on the pay date. Add one on the person's page.`,
    );
  if (rate.from) reckoning.fact(`Salary in force since ${rate.from}`, 'rate', rate.id);
  if (rate.per === 'period') return reckoning.start(`${rate.label}, per pay period`, Exact.of(rate.amount));
  return reckoning
    .start(`${rate.label}, per year`, Exact.of(rate.amount))
    .over('Pay dates in the year', Exact.whole(input.pay.payDatesInYear));
}

function match(reckoning: Reckoning, of: string, tiers: readonly MatchTier[], gross: Figure, context: AmountContext): Reckoning {
  const putIn = context.lineAmount(of);
  let below = ZERO;
  for (const tier of tiers) {
    const ceiling = gross.amount.times(Exact.of(tier.upTo)).over(HUNDRED);
    const inTier = putIn.atMost(ceiling).minus(below).atLeast(ZERO);
    const part = context.paper
      .reckon(`${reckoning.key}:${tier.upTo}`, `Put in, up to ${tier.upTo}% of pay`)
      .start('Put in by the employee', { key: of, label: 'Put in by the employee', amount: putIn })
      .atMost(`${tier.upTo}% of gross pay`, ceiling)
      .less('In lower tiers', below)
      .atLeast('Not below zero', ZERO)
      .percent(`Matched at ${tier.match}%`, Exact.of(tier.match))
      .done();
    if (!inTier.isZero()) reckoning.plus(part.label, part);
    below = below.plus(inTier);
  }
  return reckoning;
}

function grossOf(context: AmountContext, entry: ItemOnPayslip): Figure {
  if (!context.gross)
    throw new CannotCompute(
      'percent-of-gross',
      `${entry.item.name} is a per cent of gross pay and so cannot be part of it. Give it as an amount.`,
    );
  return context.gross;
}

const percentText = (entry: ItemOnPayslip): string => (entry.percent ?? '0').replace(/(\.\d*?)0+$/, '$1').replace(/\.$/, '');
