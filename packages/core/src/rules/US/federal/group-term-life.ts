import { yearOf } from '../../../calendar/dates';
import { Exact, ZERO } from '../../../money/exact';
import { CannotCompute, type PublishedTable } from '../../country-pack';
import { tables } from '../tables';

/** Ages reached in the year from which each monthly cost per 1,000 of cover holds (26 CFR 1.79-3(d)(2), table I). */
const AGES = [70, 65, 60, 55, 50, 45, 40, 35, 30, 25, 0];

/** Taxable cost of group term life insurance over 50,000, by table I, spread over the year's pay dates. */
export const groupTermLife: PublishedTable = {
  label: 'Group term life insurance over 50,000 (table I)',
  asks: 'Cover',
  lookUp(reckoning, cover, { input }) {
    if (input.person.born === undefined)
      throw new CannotCompute(
        'born-unknown',
        "Group term life goes by age, and no date of birth is on file. Enter it on the person's page.",
      );
    const age = yearOf(input.pay.date) - yearOf(input.person.born);
    const free = tables.value('us.group-term-life.free', input.pay.date);
    const cost = tables.value(`us.group-term-life.cost.${AGES.find((from) => age >= from) ?? 0}`, input.pay.date);
    return reckoning
      .start('Cover', cover)
      .less('Free of tax', free.value)
      .atLeast('Not below zero', ZERO)
      .over('In hundreds', Exact.whole(100))
      .round('half-up', 0, 'To the nearest 100')
      .over('Per 1,000', Exact.whole(10))
      .times(`Cost a month, age ${age} at the end of the year`, cost.value)
      .times('Months', Exact.whole(12))
      .over('Pay dates in the year', Exact.whole(input.pay.payDatesInYear))
      .source(free.source, cost.source);
  },
};
