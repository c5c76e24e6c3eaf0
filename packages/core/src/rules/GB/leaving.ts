import { writtenDate } from '../../calendar/dates';
import { minorOf, written } from '../../money/amounts';
import type { LeavingRules } from '../../leaving/final-pay';
import { leastNotice, redundancyPay } from './redundancy';
import { taxMonth, taxWeek, taxYearLabel } from './tax-year';

/** Kinds of ending, and the certificate that the new employer asks for (Income Tax (PAYE) Regulations 2003, regulation 36). */
export const leaving: LeavingRules = {
  kinds: [
    { code: 'resigned', label: 'resigned' },
    { code: 'dismissed', label: 'dismissed' },
    { code: 'redundant', label: 'redundant' },
    { code: 'retired', label: 'retired' },
    { code: 'died', label: 'died' },
  ],
  finalPayBy: () => undefined,
  leastNotice,
  owed: redundancyPay,
  certificate: {
    name: 'P45',
    title: 'Details of an employee leaving work',
    of({ name, number, born, code, lastDay, lastPaid, frequency, employer, tax, sums }) {
      const text = (key: string): string => (typeof tax[key] === 'string' ? tax[key] : '');
      const monthly = ['monthly', 'quarterly', 'half-yearly', 'yearly'].includes(frequency);
      const day = lastPaid ?? lastDay;
      const cumulative = text('basis') !== 'week-1-month-1';
      const [pay, withheld] = [sums['gb.paye.pay'] ?? 0, sums['gb.paye'] ?? 0];
      const before = text('previousYear') === taxYearLabel(day);
      const [payBefore, taxBefore] = before ? [minorOf(text('previousPay') || '0'), minorOf(text('previousTax') || '0')] : [0, 0];
      return [
        {
          heading: 'Employer and employee',
          rows: [
            ['PAYE reference', typeof employer['payeReference'] === 'string' ? employer['payeReference'] : ''],
            ['National Insurance number', number || 'not on file'],
            ['Name', name],
            ['Date of birth', born ? writtenDate(born) : 'not on file'],
            ['Gender', text('gender') || 'not on file'],
            ['Payroll number', code],
            ['Leaving date', writtenDate(lastDay)],
          ],
        },
        {
          heading: `Tax code and tax year ${taxYearLabel(day)}`,
          rows: [
            ['Tax code at leaving', `${text('taxCode')}${cumulative ? '' : ', week 1 / month 1'}`],
            ...(cumulative
              ? ([
                  [monthly ? 'Month number' : 'Week number', String(monthly ? taxMonth(day) : taxWeek(day))],
                  ['Total pay to date', written(pay + payBefore)],
                  ['Total tax to date', written(withheld + taxBefore)],
                ] as [string, string][])
              : []),
            ['Pay in this employment', written(pay)],
            ['Tax in this employment', written(withheld)],
          ],
        },
        {
          heading: 'Loans',
          rows: [
            ['Student loan deductions continue', text('studentLoan') && text('studentLoan') !== 'none' ? 'yes' : 'no'],
            ['Postgraduate loan deductions continue', tax['postgraduateLoan'] === true ? 'yes' : 'no'],
          ],
        },
      ];
    },
    note: 'Give this to the new employer, or keep it. A payment after it was given is taxed by code 0T.',
    source: { publication: 'Income Tax (PAYE) Regulations 2003, regulations 36 and 37' },
  },
};
