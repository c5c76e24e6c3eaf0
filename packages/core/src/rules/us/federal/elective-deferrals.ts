import { yearOf } from '../../../calendar/dates';
import type { Figure } from '../../../working/reckoning';
import type { TaxContext } from '../../country-pack';
import { tables } from '../tables';

/** The year's limit on elective deferrals, with catch-up by the age reached in the year (26 U.S.C. 402(g), 414(v)). */
export function electiveDeferralLimit(context: TaxContext): Figure {
  const { paper, input } = context;
  const date = input.pay.date;
  const limit = tables.value('us.elective-deferrals.limit', date);
  const reckoning = paper
    .reckon('us.elective-deferrals.limit', "The year's deferral limit")
    .start('Limit', limit.value)
    .source(limit.source);
  const born = input.person.born;
  const age = born === undefined ? 0 : yearOf(date) - yearOf(born);
  if (born === undefined) reckoning.note('No date of birth on file: no catch-up is allowed for.');
  if (age >= 60 && age <= 63) {
    const catchUp = tables.value('us.elective-deferrals.catch-up-60', date);
    reckoning.plus(`Catch-up, age ${age} in the year`, catchUp.value).source(catchUp.source);
  } else if (age >= 50) {
    const catchUp = tables.value('us.elective-deferrals.catch-up', date);
    reckoning.plus(`Catch-up, age ${age} in the year`, catchUp.value).source(catchUp.source);
  }
  return reckoning.done();
}
