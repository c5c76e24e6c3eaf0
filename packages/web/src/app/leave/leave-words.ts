import type { LeavePlanView, LeaveTerms } from '@woodruff/contract';
import { decimalOf, Exact, writtenDate } from '@woodruff/core';

/** Hundredths of hours as people read them. */
export const hoursWords = (hundredths: number): string => decimalOf(hundredths).replace('-', '−');

export const hoursText = (hours: string): string =>
  Exact.of(hours)
    .toDecimal()
    .replace(/(\.\d*?)0+$/, '$1')
    .replace(/\.$/, '');

/** The terms in force on a day, or the first that come. */
export const termsNow = (plan: LeavePlanView, today: string): LeaveTerms | undefined =>
  (plan.terms.find((one) => one.from <= today) ?? plan.terms.at(-1))?.terms;

const service = (months: number): string =>
  months === 0
    ? ''
    : months % 12 === 0
      ? ` from ${months / 12} ${months === 12 ? 'year' : 'years'} of service`
      : ` from ${months} months of service`;

/** A plan in one sentence after another. */
export function termsWords(terms: LeaveTerms, itemName: (code: string) => string): string[] {
  const { earns } = terms;
  const steps = (rows: { fromMonths: number; hours: string }[], per: string) =>
    [...rows]
      .sort((a, b) => a.fromMonths - b.fromMonths)
      .map((row, index) => `${hoursText(row.hours)}${index === 0 ? ` hours ${per}` : ''}${service(row.fromMonths)}`)
      .join(', ');
  return [
    earns.by === 'hours-worked'
      ? `${hoursText(earns.hours)} ${earns.hours === '1' ? 'hour' : 'hours'} earned for every ${hoursText(earns.forEvery)} worked`
      : earns.by === 'period'
        ? `${steps(earns.steps, 'a pay period')}`
        : `${steps(earns.steps, 'a plan year')}, all of it at its beginning${earns.firstYearByDays ? '; in the year of hire by the days left' : ''}`,
    terms.atMostInYear ? `at most ${hoursText(terms.atMostInYear)} a plan year` : '',
    terms.atMostBalance ? `until the balance is ${hoursText(terms.atMostBalance)}` : '',
    terms.carryOver === undefined
      ? ''
      : terms.carryOver === '0'
        ? 'nothing carried over'
        : `at most ${hoursText(terms.carryOver)} carried over`,
    terms.earnsAfterDays ? `earned from day ${terms.earnsAfterDays} after hire` : '',
    terms.usableAfterDays ? `taken from day ${terms.usableAfterDays} after hire` : '',
    terms.mayOwe && Number(terms.mayOwe) ? `down to −${hoursText(terms.mayOwe)}` : '',
    `plan year from ${terms.yearBegins === 'hire' ? 'the day of hire' : writtenDate(`2026-${terms.yearBegins}`).replace(' 2026', '')}`,
    terms.item ? `paid through ${itemName(terms.item)}` : 'not paid',
    terms.cashOutItem
      ? [
          `may be cashed out through ${itemName(terms.cashOutItem)}`,
          terms.cashOutKeeps ? `with ${hoursText(terms.cashOutKeeps)} hours left` : '',
          terms.cashOutAtMost ? `at most ${hoursText(terms.cashOutAtMost)} in twelve months` : '',
        ]
          .filter(Boolean)
          .join(', ')
      : '',
    terms.payOutItem ? `paid out on leaving through ${itemName(terms.payOutItem)}` : '',
  ].filter(Boolean);
}
