import { addDays, writtenDate, type IsoDate } from '../calendar/dates';
import type { Rate } from './input';

/** A rate with its first and last day; without one where it reaches beyond what is asked about. */
export interface RateInForce extends Rate {
  to?: IsoDate;
}

/** A rate as it was and is, one entry for each amount, oldest first. What was before has an identifier and words of its own. */
export function inForce(rate: Rate): RateInForce[] {
  const { earlier = [], ...now } = rate;
  return [
    ...earlier.map((before, index): RateInForce => {
      const to = addDays(earlier[index + 1]?.from ?? rate.from ?? '', -1);
      return {
        id: `${rate.id}@${to}`,
        label: `${rate.label} until ${writtenDate(to)}`,
        per: rate.per,
        amount: before.amount,
        ...(before.from ? { from: before.from } : {}),
        to,
      };
    }),
    now,
  ];
}

/** The rate as it was on a day. */
export const rateOn = (rate: Rate, date: IsoDate): Rate => inForce(rate).find(({ to }) => to === undefined || date <= to) ?? rate;

/** Whether the amount changed after a day. */
export const changedAfter = (rate: Rate, date: IsoDate): boolean => !!rate.earlier?.length && rate.from !== undefined && rate.from > date;
