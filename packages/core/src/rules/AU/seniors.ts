import { Exact, ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import { tables } from './tables';
import type { Context } from './context';

const WEEKS = Exact.whole(52);
/** Schedule 9 prints coefficients that were not at hand: the law of the year is gone through instead. */
const LAW = {
  publication: 'Income Tax Assessment Act 1936, section 160AAAA, and its regulations; ATO, Schedule 9: seniors and pensioners (NAT 4466)',
  section: 'By the rates and offsets of the year; the published coefficients may differ by a dollar or two',
  unconfirmed: true as const,
};

/** Weekly tax of a senior or pensioner who claims the offset: rates of the year, both offsets, and the levy over its own threshold. */
export function ofSenior(context: Context, weekly: Figure, key: string): Figure {
  const { paper, input, tax } = context;
  const { date } = input.pay;
  const value = (code: string) => tables.value(`au.${code}`, date);
  const schedule = (code: string) => tables.schedule(`au.${code}`, date);
  const year = paper
    .reckon(`${key}.year`, 'Earnings of a year')
    .start(weekly.label, weekly)
    .round('down', 0, 'Whole dollars')
    .times('Weeks', WEEKS)
    .done();
  const [rates, shrinks] = [schedule('income-tax'), schedule('low-income-offset.shrinks')];
  const [low, most, from, by] = [
    value('low-income-offset'),
    value(`seniors.${tax.seniors}.most`),
    value(`seniors.${tax.seniors}.from`),
    value('seniors.shrinks'),
  ];
  const lowLess = paper
    .reckon(`${key}.low-less`, 'Shrinks by')
    .start(year.label, year)
    .schedule('Of what is over', shrinks.bands)
    .source(shrinks.source)
    .done();
  const lowOffset = paper
    .reckon(`${key}.low`, 'Low income offset')
    .start('Offset', low.value)
    .less(lowLess.label, lowLess)
    .atLeast('Not below zero', ZERO)
    .source(low.source)
    .done();
  const seniorLess = paper
    .reckon(`${key}.senior-less`, 'Shrinks by')
    .start(year.label, year)
    .less('Rebate income from which it shrinks', from.value)
    .atLeast('Not below zero', ZERO)
    .percent('Of what is over', by.value)
    .source(from.source, by.source)
    .done();
  const seniorOffset = paper
    .reckon(`${key}.senior`, 'Seniors and pensioners offset')
    .start('Most of it', most.value)
    .less(seniorLess.label, seniorLess)
    .atLeast('Not below zero', ZERO)
    .source(most.source)
    .done();
  const onYear = paper
    .reckon(`${key}.income-tax`, 'Income tax of the year')
    .start(year.label, year)
    .schedule('Rates of residents', rates.bands)
    .less(lowOffset.label, lowOffset)
    .less(seniorOffset.label, seniorOffset)
    .atLeast('Not below zero', ZERO)
    .source(rates.source)
    .done();
  const weeklyTax = paper.reckon(`${key}.weekly-tax`, 'Tax of a week').start(onYear.label, onYear);
  if (tax.medicare === 'full-exemption') return weeklyTax.over('Weeks', WEEKS).note('Exempt from the Medicare levy.').source(LAW).done();
  // Half of the levy, at half of each rate, for who is exempt from half.
  const part = tax.medicare === 'half-exemption' ? 'half' : 'full';
  const [threshold, levy, shadeIn] = [value('seniors.medicare'), value(`medicare.levy.${part}`), value(`medicare.shade-in.${part}`)];
  const whole = year.amount.times(levy.value).over(Exact.whole(100));
  const medicare = paper
    .reckon(`${key}.levy`, 'Medicare levy of the year')
    .start(year.label, year)
    .less('Threshold of seniors', threshold.value)
    .atLeast('Not below zero', ZERO)
    .percent('Shading in', shadeIn.value)
    .atMost('The whole levy', whole)
    .source(threshold.source)
    .done();
  return weeklyTax.plus(medicare.label, medicare).over('Weeks', WEEKS).source(LAW).done();
}
