import { addMonths, dateOf, monthOf, yearOf, type IsoDate } from '../../calendar/dates';
import { movedToBusinessDay } from '../../calendar/schedules';
import type { Owed } from '../../filings/owed';
import { isBankHoliday } from './holidays';
import type { Minor } from '../../money/amounts';
import type { UkEmployer } from './employer';
import { CLASS_1A_BENEFITS, employerReckonings } from './employer-reckonings';
import { taxMonth, yearStart } from './tax-year';

/** The 22nd after the end of the tax month of a pay date, or of its tax quarter; where it is no working day, the last one before it. */
function dueDate(payDate: IsoDate, quarterly: boolean): IsoDate {
  const later = quarterly ? (3 - (taxMonth(payDate) % 3)) % 3 : 0;
  const month = addMonths(dateOf(yearOf(payDate), monthOf(payDate), 1), (Number(payDate.slice(8)) <= 5 ? 0 : 1) + later);
  return movedToBusinessDay(dateOf(yearOf(month), monthOf(month), 22), 'previous', isBankHoliday);
}

/** Income tax, both sides of national insurance, loans and the levy, less the allowance and what is recovered, paid electronically (SI 2003/2682, regulations 67G to 70). */
export const owedToHmrc = ({ accountsOffice = '', paysQuarterly = false }: Partial<UkEmployer>): Owed => ({
  code: 'gb.paye-payment',
  what: 'PAYE and national insurance',
  payee: 'HM Revenue and Customs',
  codes: [
    'gb.paye',
    'gb.ni',
    'gb.ni.employer',
    'gb.ni.1a',
    'gb.student-loan',
    'gb.postgraduate-loan',
    ...Object.keys(employerReckonings.labels).filter((code) => code !== CLASS_1A_BENEFITS),
  ],
  reference: accountsOffice,
  rule: paysQuarterly ? 'on the 22nd after the tax quarter' : 'on the 22nd after the tax month',
  source: {
    publication: 'Income Tax (PAYE) Regulations 2003, regulations 67G to 70',
    section: 'Within 17 days, or 14 where not electronically',
  },
  due(liabilities) {
    const byDay = new Map<IsoDate, { amount: Minor; upTo: IsoDate }>();
    for (const { payDate, amount } of liabilities) {
      const day = dueDate(payDate, paysQuarterly);
      byDay.set(day, { amount: (byDay.get(day)?.amount ?? 0) + amount, upTo: payDate });
    }
    return [...byDay].map(([date, sum]) => ({ date, what: 'PAYE and national insurance', ...sum }));
  },
  since: (from) => addMonths(from, paysQuarterly ? -7 : -3),
});

/** Class 1A contributions on benefits of a tax year: by 22 July after it (Social Security (Contributions) Regulations 2001, regulation 71). */
export const owedClass1a = ({ accountsOffice = '' }: Partial<UkEmployer>): Owed => ({
  code: 'gb.class-1a',
  what: 'Class 1A contributions on benefits',
  payee: 'HM Revenue and Customs',
  codes: [CLASS_1A_BENEFITS],
  reference: accountsOffice,
  rule: 'on 22 July after the tax year',
  source: { publication: 'Social Security (Contributions) Regulations 2001, regulation 71' },
  filing: 'p11d-b',
  due(liabilities) {
    const byDay = new Map<IsoDate, { amount: Minor; upTo: IsoDate }>();
    for (const { payDate, amount } of liabilities) {
      const day = movedToBusinessDay(dateOf(yearOf(yearStart(payDate)) + 1, 7, 22), 'previous', isBankHoliday);
      byDay.set(day, { amount: (byDay.get(day)?.amount ?? 0) + amount, upTo: payDate });
    }
    return [...byDay].map(([date, sum]) => ({ date, what: 'Class 1A contributions on benefits', ...sum }));
  },
  since: (from) => addMonths(from, -16),
});
