import { addDays, anniversary, writtenDate } from '../../calendar/dates';
import { counted, written } from '../../money/amounts';
import { Exact } from '../../money/exact';
import type { LawfulPayment, LeavingRules, OwedOnLeaving } from '../../leaving/final-pay';
import type { Paper } from '../../working/reckoning';
import { leaveCode, lumpSumCode, LUMP_SUMS, TERMINATION, terminationCode, terminationTaxCode } from './codes';
import { taxYearLabel } from './tax-year';
import { yearsOfService } from './termination';
import { WITHHELD } from './withholding';

const FAIR_WORK = 'Fair Work Act 2009';
const REDUNDANCY = { publication: `${FAIR_WORK}, sections 119 to 122`, section: 'Weeks by completed years of continuous service' };
/** Weeks of redundancy pay by whole years of service, from one year on; ten years and more have twelve. */
const WEEKS = [4, 6, 7, 8, 10, 11, 13, 14, 16];
const WEEKS_OF_TEN = 12;

/** Redundancy pay by the National Employment Standards; a small business owes none. */
function redundancyPay({ kind, hired, lastDay, week, employer }: OwedOnLeaving, paper: Paper): LawfulPayment[] {
  if (kind !== 'redundant') return [];
  const of = { label: 'Redundancy pay', treatment: 'redundancy' };
  const years = yearsOfService(hired, lastDay);
  if (employer?.['smallBusiness'] === true)
    return [{ ...of, sentence: 'Nothing by law: a small business of fewer than fifteen people owes no redundancy pay (section 121).' }];
  if (years < 1) return [{ ...of, sentence: 'Nothing by law: less than a year of service.' }];
  if (!week) return [{ ...of, sentence: 'Enter a rate of pay: it is so many times a week of pay.' }];
  const weeks = years >= 10 ? WEEKS_OF_TEN : (WEEKS[years - 1] ?? WEEKS_OF_TEN);
  const figure = paper
    .reckon('redundancy', of.label)
    .start(week.label, week)
    .times(`Weeks for ${counted(years, 'year', 'years')} of service`, Exact.whole(weeks))
    .round('half-up')
    .note(`Service from ${writtenDate(hired)} to ${writtenDate(lastDay)}`)
    .source(REDUNDANCY)
    .done();
  return [{ ...of, figure, sentence: `${weeks} weeks of pay for ${years} whole years of service.` }];
}

/** Notice of the employer by the National Employment Standards: by service, a week more from 45 on with two years. */
export function leastNotice({ kind, hired, lastDay, born }: OwedOnLeaving): { weeks: number; sentence: string } {
  if (['misconduct', 'contract-ended', 'died', 'transferred'].includes(kind))
    return { weeks: 0, sentence: 'The law wants no notice from the employer for this reason.' };
  const years = yearsOfService(hired, lastDay);
  const served = (count: number): boolean => anniversary(hired, count) < addDays(lastDay, 1);
  const base = served(5) ? 4 : served(3) ? 3 : served(1) ? 2 : 1;
  const older = born !== undefined && anniversary(born, 45) < lastDay && years >= 2;
  const weeks = base + (older ? 1 : 0);
  const given = kind === 'resigned' ? 'An award usually wants as much from the employee' : 'The law wants it from the employer';
  return {
    weeks,
    sentence: `${counted(weeks, 'week', 'weeks')} of notice${older ? ', one of them for being over 45' : ''}. ${given} (${FAIR_WORK}, section 117).`,
  };
}

/** Kinds of ending by the cessation codes of the pay event, and what each means for what is paid. */
export const KINDS = {
  resigned: { label: 'resignation', code: 'V' },
  redundant: { label: 'genuine redundancy or approved early retirement', code: 'R' },
  dismissed: { label: 'dismissal', code: 'F' },
  misconduct: { label: 'dismissal for serious misconduct', code: 'F' },
  invalidity: { label: 'ill health (invalidity)', code: 'I' },
  died: { label: 'death', code: 'D' },
  'contract-ended': { label: 'end of contract', code: 'C' },
  transferred: { label: 'transfer to another payroll', code: 'T' },
} as const;

/** Days after the payment (Taxation Administration Act 1953, schedule 1, section 16-165). */
const SUMMARY_DAYS = 14;

/** Kinds of ending, what the law wants paid, and the statement that tells termination payments from the rest. */
export const leaving: LeavingRules = {
  taxedByEnding: true,
  kinds: Object.entries(KINDS).map(([code, { label }]) => ({ code, label })),
  // By award mostly within seven days of the last day; the law sets no day of its own.
  finalPayBy: () => undefined,
  leastNotice,
  owed: redundancyPay,
  certificate: {
    name: 'Termination statement and payment summary',
    title: 'What was paid on leaving: termination payments, and what is none',
    of({ name, number, born, code, lastDay, lastPaid, employer, sums }) {
      const amount = (key: string): number => sums[key] ?? 0;
      const rows = (of: readonly (readonly [label: string, code: string])[]): [string, string][] =>
        of.flatMap(([label, key]): [string, string][] => (amount(key) ? [[label, written(amount(key))]] : []));
      const kinds = Object.entries(TERMINATION) as [keyof typeof TERMINATION, string][];
      const payments = kinds.flatMap(([kind, label]): [string, string][] =>
        amount(terminationCode(kind))
          ? [
              [`Code ${kind}, ${label.toLowerCase()}: taxable component`, written(amount(terminationCode(kind)))],
              [`Tax withheld from it`, written(amount(terminationTaxCode(kind)))],
            ]
          : [],
      );
      const other = rows([
        ...(['R', 'T', 'B', 'D'] as const).map((kind) => [LUMP_SUMS[kind], lumpSumCode(kind)] as const),
        ['Unused leave, at marginal rates', leaveCode('U')],
      ]);
      return [
        {
          heading: 'Employer and employee',
          rows: [
            ['ABN', typeof employer['abn'] === 'string' ? employer['abn'] : ''],
            ['Name', name],
            ['Tax file number', number ? 'on file' : 'not on file'],
            ['Date of birth', born ? writtenDate(born) : 'not on file'],
            ['Payroll number', code],
            ['Last day', writtenDate(lastDay)],
            ['Last paid', lastPaid ? writtenDate(lastPaid) : 'not yet'],
          ],
        },
        {
          heading: 'Employment termination payments',
          rows: payments.length
            ? [
                ...payments,
                ['Paid on', lastPaid ? writtenDate(lastPaid) : 'not yet'],
                ['To be given by, where a summary is due', lastPaid ? writtenDate(addDays(lastPaid, SUMMARY_DAYS)) : 'not paid yet'],
              ]
            : [['None', '']],
        },
        { heading: 'Paid on leaving, and no termination payment', rows: other.length ? other : [['None', '']] },
        {
          heading: `Tax year ${taxYearLabel(lastPaid ?? lastDay)}`,
          rows: [['Withheld from pay and leave', written(amount(WITHHELD))]],
        },
      ];
    },
    note: 'Termination payments are reported with the pay event and shown by the tax office within days; a payment summary on paper is due within 14 days only where they are not.',
    source: { publication: 'Taxation Administration Act 1953, schedule 1, section 16-165; Income Tax Assessment Act 1997, division 82' },
  },
};
