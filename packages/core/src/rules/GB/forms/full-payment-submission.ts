import type { DetailColumn, Filing, FilingCheck, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written, type Minor } from '../../../money/amounts';
import { LETTERS } from '../letters';
import { taxMonth, taxYearLabel } from '../tax-year';
import { submissionFile } from '../files/submission-xml';
import { letterKey, OF_LETTER, soFar, STATED } from './stated';
import { yearOf, writtenDate } from '../../../calendar/dates';

/** Full payment submission: with every pay date, on or before it (Income Tax (PAYE) Regulations 2003, regulation 67B). */
export const fullPaymentSubmission: Filing = {
  code: 'fps',
  form: 'Full payment submission',
  name: 'Pay and deductions of a pay date',
  agency: 'HM Revenue and Customs',
  every: 'pay-date',
  from: 'people',
  statesYear: true,
  periods: (year, payDates = []) =>
    payDates
      .filter((date) => yearOf(date) === year)
      .map((date) => ({
        key: date,
        label: `pay of ${writtenDate(date)}`,
        from: date,
        to: date,
        due: date,
        taxYear: taxYearLabel(date),
        ahead: true,
      })),
  make: submission,
  file: submissionFile,
  owed: 'gb.paye-payment',
  statement: 'The information in this submission is correct and complete to the best of my knowledge and belief.',
};

function submission(facts: FilingFacts): MadeFiling {
  const { people, days, period, entered } = facts;
  const lines = new Lines(entered, []);
  const paid = people.filter(({ sums }) => Object.keys(sums).some((code) => code.startsWith('gb.')));
  lines.count('people', paid.length, { label: 'People paid', working: 'With a payslip or a correction that counts on the day.' });
  const sumOf = (code: string): Minor => days.reduce((all, { sums }) => all + (sums[code] ?? 0), 0);
  for (const [line, { code, label }] of Object.entries(STATED))
    if (sumOf(code) || line === 'pay' || line === 'tax')
      lines.money(line, sumOf(code), {
        label,
        codes: [code],
        working: `Posted on ${writtenDate(period.to)}, tax month ${taxMonth(period.to)}.`,
        ...(line === 'tax' ? { sum: true } : {}),
      });
  const letters = Object.keys(LETTERS).filter((letter) => paid.some(({ toDate = {} }) => toDate[`gb.ni.${letter}.earnings`] !== undefined));
  const columns: (DetailColumn & { of: (person: FilingFacts['people'][number]) => Minor })[] = [
    ...Object.entries(STATED).flatMap(([key, { code, label }]) => [
      { key, label, unit: 'money' as const, of: ({ sums }: FilingFacts['people'][number]) => sums[code] ?? 0 },
      {
        key: soFar(key),
        label: `${label}, year so far`,
        unit: 'money' as const,
        fileOnly: true as const,
        of: ({ toDate = {} }: FilingFacts['people'][number]) => toDate[code] ?? 0,
      },
    ]),
    ...letters.flatMap((letter) =>
      OF_LETTER.flatMap((what) => {
        const code = `gb.ni.${letter}.${what}`;
        const key = letterKey(letter, what);
        return [
          {
            key,
            label: key,
            unit: 'money' as const,
            fileOnly: true as const,
            of: ({ sums }: FilingFacts['people'][number]) => sums[code] ?? 0,
          },
          {
            key: soFar(key),
            label: soFar(key),
            unit: 'money' as const,
            fileOnly: true as const,
            of: ({ toDate = {} }: FilingFacts['people'][number]) => toDate[code] ?? 0,
          },
        ];
      }),
    ),
  ];
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    detail: {
      title: 'Person by person',
      columns: columns.map(({ of: _of, ...column }) => column),
      rows: paid.map((person) => ({ personId: person.personId, values: columns.map(({ of }) => of(person)) })),
    },
    checks: checksOf(facts, paid),
    source: 'HMRC, Real Time Information, full payment submission; element names from memory and unconfirmed',
  };
}

function checksOf({ days }: FilingFacts, paid: FilingFacts['people']): FilingCheck[] {
  const all = (code: string): Minor => paid.reduce((sum, { sums }) => sum + (sums[code] ?? 0), 0);
  const posted = (code: string): Minor => days.reduce((sum, { sums }) => sum + (sums[code] ?? 0), 0);
  const named = (some: FilingFacts['people']): string => `${some[0]?.name ?? ''}${some.length > 1 ? ` and ${some.length - 1} more` : ''}`;
  const nameless = paid.filter(({ number }) => !number);
  const below = paid.filter(({ toDate = {} }) => (toDate['gb.paye.pay'] ?? 0) < 0);
  return [
    ...(['pay', 'tax', 'employee', 'employer'] as const).map((key): FilingCheck => {
      const { code, label } = STATED[key];
      return {
        sentence: `${label} of all people ${written(all(code))} equals the ledger's ${written(posted(code))}`,
        holds: all(code) === posted(code),
      };
    }),
    { sentence: paid.length ? 'Somebody is paid on the day' : 'Nobody is paid on the day', holds: paid.length > 0 },
    {
      sentence: below.length
        ? `${named(below)} ${below.length > 1 ? 'have' : 'has'} less than nothing as pay of the year`
        : 'Nobody has less than nothing as pay of the year',
      holds: below.length === 0,
    },
    // It goes without a number, too, with date of birth and address in its place.
    {
      sentence: nameless.length
        ? `${named(nameless)} ${nameless.length > 1 ? 'have' : 'has'} no National Insurance number on file; date of birth and address go in its place`
        : 'Everybody has a National Insurance number on file',
      holds: nameless.length === 0,
      weight: 'look',
    },
  ];
}
