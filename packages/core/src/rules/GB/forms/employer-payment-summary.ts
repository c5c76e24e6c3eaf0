import { addDays, dateOf, writtenDate, writtenPeriod } from '../../../calendar/dates';
import type { Filing, FilingCheck, FilingFacts, FilingPeriod, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { ALLOWANCE, compensationCode, LEVY, recoveredCode } from '../employer-reckonings';
import { summaryFile } from '../files/summary-xml';
import { RECOVERED } from '../statutory-codes';
import { taxYearLabel } from '../tax-year';
import { CONSTRUCTION, FINAL, NO_PAYMENT } from './stated';

/** Tax months that end within a calendar year: from the 6th to the 5th. */
const monthsOf = (year: number): FilingPeriod[] =>
  Array.from({ length: 12 }, (_, index) => {
    const to = dateOf(year, index + 1, 5);
    const from = addDays(dateOf(index === 0 ? year - 1 : year, index === 0 ? 12 : index, 5), 1);
    const number = ((index + 8) % 12) + 1;
    const taxYear = taxYearLabel(to);
    return {
      key: `${taxYear}-${String(number).padStart(2, '0')}`,
      label: `tax month ${number} of ${taxYear}`,
      from,
      to,
      due: dateOf(year, index + 1, 19),
      taxYear,
    };
  });

/** Tells the agency what the employer takes off what it pays, or that nobody was paid. */
export const employerPaymentSummary: Filing = {
  code: 'eps',
  form: 'Employer payment summary',
  name: 'What is recovered, the allowance, the levy, months without pay',
  agency: 'HM Revenue and Customs',
  every: 'month',
  from: 'days',
  periods: monthsOf,
  asked: ({ from, to, key }, { paid, reckoned, today }) => {
    const within = (date: string): boolean => date >= from && date <= to;
    return reckoned.some(within) || (to < today && !paid.some(within)) || key.endsWith('-12');
  },
  enters: [
    {
      line: CONSTRUCTION,
      label: 'Construction industry deductions suffered in the year',
      help: 'Of a limited company, out of the statements of its contractors, for the whole tax year so far.',
    },
  ],
  make: summary,
  file: summaryFile,
  owed: 'gb.paye-payment',
  statement: 'The information in this summary is correct and complete to the best of my knowledge and belief.',
};

function summary(facts: FilingFacts): MadeFiling {
  const { period, days, employer, entered, reckoned } = facts;
  const lines = new Lines(entered, []);
  const stated = (code: string, label: string): void => {
    const amount = Math.abs(reckoned[code] ?? 0);
    if (amount)
      lines.money(code, amount, { label, codes: [code], working: `Reckoned in tax year ${period.taxYear} up to ${period.label}.` });
  };
  for (const [code, name] of Object.entries(RECOVERED)) {
    stated(recoveredCode(code), `${name} recovered, year so far`);
    stated(compensationCode(code), `Compensation on ${name.toLowerCase()}, year so far`);
  }
  stated(LEVY, 'Apprenticeship levy due, year so far');
  stated(ALLOWANCE, 'Employment allowance used, year so far');
  const suffered = lines.given(CONSTRUCTION);
  if (suffered)
    lines.money(CONSTRUCTION, suffered, {
      label: 'Construction industry deductions suffered, year so far',
      working: entered[CONSTRUCTION]?.reason ?? '',
    });
  const nobody = days.length === 0;
  if (nobody)
    lines.count(NO_PAYMENT, 1, {
      label: 'Nobody was paid',
      working: `No pay date of ${writtenPeriod(period.from, period.to)} has anything posted.`,
    });
  const ceased = typeof employer['schemeCeased'] === 'string' ? employer['schemeCeased'] : '';
  const final = period.key.endsWith('-12') || (ceased !== '' && ceased >= period.from && ceased <= period.to);
  if (final)
    lines.count(FINAL, 1, {
      label: 'Final submission of the tax year',
      working: ceased ? `The scheme ceased on ${writtenDate(ceased)}.` : 'Tax month 12 ends the year.',
    });
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    checks: checksOf(facts),
    source: 'HMRC, Real Time Information, employer payment summary; element names from memory and unconfirmed',
  };
}

function checksOf({ reckoned, employer }: FilingFacts): FilingCheck[] {
  const levy = reckoned[LEVY] ?? 0;
  return [
    {
      sentence:
        levy && !employer['accountsOffice']
          ? 'A levy is due and no Accounts Office reference is on file'
          : 'What is due can be paid under a reference',
      holds: !levy || Boolean(employer['accountsOffice']),
      weight: 'look',
    },
  ];
}
