import { dateOf, lastOfMonth, writtenDate, yearOf } from '../../../calendar/dates';
import type { DetailColumn, Filing, FilingCheck, FilingFacts, FilingPeriod, MadeFiling, PersonSums } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written, type Minor } from '../../../money/amounts';
import { SUPER } from '../codes';
import { CONTRIBUTIONS, type Contribution } from '../contributions';
import { contributionsFile } from '../files/contributions-csv';
import { fundOf } from '../funds';
import { superDue } from '../owed';
import { PAYDAY_SUPER, taxYearLabel } from '../tax-year';

/** Contributions of each pay day since July 2026, of a quarter before, as one message to the clearing house. */
export const superContributions: Filing = {
  code: 'super',
  form: 'Super contributions',
  name: 'Contributions to the funds of all members',
  agency: 'Super clearing house',
  every: 'pay-date',
  from: 'people',
  periods: (year, payDates = []) => [
    ...[1, 2, 3, 4]
      .map((quarter): FilingPeriod => {
        const to = lastOfMonth(year, quarter * 3);
        return {
          key: `${year}-Q${quarter}`,
          label: `quarter to ${writtenDate(to)}`,
          from: dateOf(year, quarter * 3 - 2, 1),
          to,
          due: superDue(to),
          taxYear: taxYearLabel(to),
        };
      })
      .filter(({ to }) => to < PAYDAY_SUPER),
    ...payDates
      .filter((date) => yearOf(date) === year && date >= PAYDAY_SUPER)
      .map((date): FilingPeriod => ({
        key: date,
        label: `pay of ${writtenDate(date)}`,
        from: date,
        to: date,
        due: superDue(date),
        taxYear: taxYearLabel(date),
        ahead: true,
      })),
  ],
  asked: ({ from, to }, { paid }) => paid.some((date) => date >= from && date <= to),
  make: contributions,
  file: contributionsFile,
  owed: SUPER,
  statement: 'The contributions are those of the members named, and I am authorised to make them.',
};

const sumOf = ({ sums }: Pick<PersonSums, 'sums'>, codes: readonly string[]): Minor =>
  codes.reduce((all, code) => all + (sums[code] ?? 0), 0);
const all = Object.entries(CONTRIBUTIONS) as [Contribution, (typeof CONTRIBUTIONS)[Contribution]][];

function contributions(facts: FilingFacts): MadeFiling {
  const { people, days, entered, period } = facts;
  const lines = new Lines(entered, []);
  const members = people.filter((person) => all.some(([, { codes }]) => sumOf(person, codes) !== 0));
  lines.count('members', members.length, { label: 'Members', working: 'With a contribution that counts in the period.' });
  let total = 0;
  for (const [line, { label, codes }] of all) {
    const amount = days.reduce((sum, { sums }) => sum + sumOf({ sums }, codes), 0);
    if (amount || line === 'guarantee')
      total += lines.money(line, amount, { label, codes: [...codes], working: `Posted in ${period.label}.` });
  }
  lines.money('total', total, { label: 'To be paid', working: 'All contributions together.', sum: true });
  const columns: DetailColumn[] = all.map(([key, { label }]) => ({ key, label, unit: 'money' }));
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    detail: {
      title: 'Member by member',
      columns,
      rows: members.map((person) => ({ personId: person.personId, values: all.map(([, { codes }]) => sumOf(person, codes)) })),
    },
    checks: checksOf(facts, members, total),
    source:
      'ATO, Superannuation data and payment standards: alternative file format of contributions; headings from memory and unconfirmed',
  };
}

function checksOf({ employer, period }: FilingFacts, members: readonly PersonSums[], total: Minor): FilingCheck[] {
  const named = (some: readonly PersonSums[]): string => `${some[0]?.name ?? ''}${some.length > 1 ? ` and ${some.length - 1} more` : ''}`;
  const stated = members.reduce((sum, person) => sum + all.reduce((more, [, { codes }]) => more + sumOf(person, codes), 0), 0);
  const funds = members.map((person) => ({ person, found: fundOf(person.details, employer) }));
  const without = funds.filter(({ found }) => !found.fund).map(({ person }) => person);
  const closed = funds.filter(({ found }) => found.fund?.closed && found.fund.closed <= period.to).map(({ person }) => person);
  const below = members.filter((person) => all.some(([, { codes }]) => sumOf(person, codes) < 0));
  return [
    { sentence: `Contributions of all members ${written(stated)} equal the ledger's ${written(total)}`, holds: stated === total },
    {
      sentence: without.length
        ? `${named(without)} ${without.length > 1 ? 'have' : 'has'} no super fund on file`
        : 'Everybody has a super fund',
      holds: without.length === 0,
    },
    {
      sentence: closed.length ? `The fund of ${named(closed)} takes nothing any more` : 'Every fund takes contributions',
      holds: closed.length === 0,
    },
    {
      sentence: below.length
        ? `${named(below)} ${below.length > 1 ? 'have' : 'has'} less than nothing: correct it with the next pay day`
        : 'Nobody has less than nothing',
      holds: below.length === 0,
    },
  ];
}
