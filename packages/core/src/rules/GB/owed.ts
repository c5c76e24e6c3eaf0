import { addMonths, dateOf, monthOf, yearOf, type IsoDate } from '../../calendar/dates';
import { movedToBusinessDay } from '../../calendar/schedules';
import type { Owed } from '../../filings/owed';
import { isBankHoliday } from './holidays';
import type { Minor } from '../../money/amounts';

/** The 22nd after the end of the tax month of a pay date; where it is no working day, the last one before it. */
function dueDate(payDate: IsoDate): IsoDate {
  const month = Number(payDate.slice(8)) <= 5 ? payDate : addMonths(payDate, 1);
  return movedToBusinessDay(dateOf(yearOf(month), monthOf(month), 22), 'previous', isBankHoliday);
}

/** Income tax and both sides of national insurance, paid electronically (SI 2003/2682, regulations 67G to 69). */
export const owedToHmrc: Owed = {
  code: 'gb.paye-payment',
  what: 'PAYE and national insurance',
  payee: 'HM Revenue and Customs',
  codes: ['gb.paye', 'gb.ni', 'gb.ni.employer', 'gb.student-loan', 'gb.postgraduate-loan'],
  reference: '',
  rule: 'on the 22nd after the tax month',
  due(liabilities) {
    const byDay = new Map<IsoDate, { amount: Minor; upTo: IsoDate }>();
    for (const { payDate, amount } of liabilities)
      byDay.set(dueDate(payDate), { amount: (byDay.get(dueDate(payDate))?.amount ?? 0) + amount, upTo: payDate });
    return [...byDay].map(([date, sum]) => ({ date, what: 'PAYE and national insurance', ...sum }));
  },
  since: (from) => addMonths(from, -3),
};
