import { writtenDate, yearOf } from '../../../calendar/dates';
import type { DetailColumn, Filing, FilingCheck, FilingFacts, MadeFiling, PersonSums } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written, type Minor } from '../../../money/amounts';
import { payEventFile } from '../files/pay-event-xml';
import { taxYearLabel } from '../tax-year';
import { soFar, STATED } from './stated';

/** Pay event: on or before each pay day, what everybody was paid in the tax year so far (Taxation Administration Act 1953, schedule 1, division 389). */
export const payEvent: Filing = {
  code: 'pay-event',
  form: 'Pay event',
  name: 'Pay, withholding and super of a pay day, year to date',
  agency: 'Australian Taxation Office',
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
  make: event,
  file: payEventFile,
  owed: 'au.paygw',
  statement: 'The information in this pay event is true and correct, and I am authorised to make this declaration.',
};

const ofPerson = ({ sums }: Pick<PersonSums, 'sums'>, codes: readonly string[]): Minor =>
  codes.reduce((all, code) => all + (sums[code] ?? 0), 0);
const toDateOf = ({ toDate = {} }: PersonSums, codes: readonly string[]): Minor =>
  codes.reduce((all, code) => all + (toDate[code] ?? 0), 0);

function event(facts: FilingFacts): MadeFiling {
  const { people, days, period, entered } = facts;
  const lines = new Lines(entered, []);
  const paid = people.filter(({ sums }) => Object.keys(sums).some((code) => code.startsWith('au.')));
  lines.count('people', paid.length, { label: 'People paid', working: 'With a payslip or a correction that counts on the day.' });
  const posted = (codes: readonly string[]): Minor => days.reduce((all, { sums }) => all + ofPerson({ sums }, codes), 0);
  for (const { key, label, codes } of STATED)
    if (posted(codes) || key === 'gross' || key === 'withheld')
      lines.money(key, posted(codes), {
        label,
        codes: [...codes],
        working: `Posted on ${writtenDate(period.to)}.`,
        ...(key === 'withheld' ? { sum: true } : {}),
      });
  const stated = STATED.filter(({ codes }) => paid.some((person) => ofPerson(person, codes) || toDateOf(person, codes)));
  const columns: (DetailColumn & { of: (person: PersonSums) => Minor })[] = stated.flatMap(({ key, label, codes }) => [
    { key, label, unit: 'money' as const, of: (person: PersonSums) => ofPerson(person, codes) },
    {
      key: soFar(key),
      label: `${label}, year to date`,
      unit: 'money' as const,
      fileOnly: true as const,
      of: (person: PersonSums) => toDateOf(person, codes),
    },
  ]);
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
    source: 'ATO, Single Touch Payroll phase 2: business implementation guide and PAYEVNT.0004; element names from memory and unconfirmed',
  };
}

function checksOf({ days }: FilingFacts, paid: readonly PersonSums[]): FilingCheck[] {
  const posted = (codes: readonly string[]): Minor => days.reduce((all, { sums }) => all + ofPerson({ sums }, codes), 0);
  const named = (some: readonly PersonSums[]): string => `${some[0]?.name ?? ''}${some.length > 1 ? ` and ${some.length - 1} more` : ''}`;
  const below = paid.filter((person) => STATED.some(({ codes }) => toDateOf(person, codes) < 0));
  const nameless = paid.filter(({ number }) => !number);
  const shared = paid.filter((person) => person.shared);
  return [
    ...STATED.filter(({ key }) => key === 'gross' || key === 'withheld' || key === 'super L').map(({ label, codes }): FilingCheck => {
      const all = paid.reduce((sum, person) => sum + ofPerson(person, codes), 0);
      return {
        sentence: `${label} of all people ${written(all)} equals the ledger's ${written(posted(codes))}`,
        holds: all === posted(codes),
      };
    }),
    { sentence: paid.length ? 'Somebody is paid on the day' : 'Nobody is paid on the day', holds: paid.length > 0 },
    {
      sentence: below.length
        ? `${named(below)} ${below.length > 1 ? 'have' : 'has'} less than nothing in the year so far`
        : 'Nobody has less than nothing in the year so far',
      holds: below.length === 0,
    },
    {
      sentence: shared.length
        ? `${named(shared)} ${shared.length > 1 ? 'have' : 'has'} the tax file number of somebody else`
        : 'No two people have one tax file number',
      holds: shared.length === 0,
    },
    {
      sentence: nameless.length
        ? `${named(nameless)} ${nameless.length > 1 ? 'have' : 'has'} no tax file number on file; it goes with the number that says so`
        : 'Everybody has a tax file number on file',
      holds: nameless.length === 0,
      weight: 'look',
    },
  ];
}
