import { dateOf, lastOfMonth, MONTHS, type IsoDate } from '../../../calendar/dates';
import { dueDay } from '../../../filings/due-rules';
import type { Filing, FilingFacts, FilingPeriod, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { written, type Minor } from '../../../money/amounts';
import { ADDITIONAL, allowanceCode, TERMINATION, terminationCode, terminationTaxCode, UNUSED_LEAVE, UNUSED_SERVICE_LEAVE } from '../codes';
import type { AuEmployer } from '../employer';
import { isPublicHoliday } from '../holidays';
import { quarterDue } from '../owed';
import { taxYearLabel } from '../tax-year';
import { PAY, WITHHELD } from '../withholding';

const kinds = Object.keys(TERMINATION) as (keyof typeof TERMINATION)[];
const [W3, W4] = ['W3', 'W4'];
/** Payments that W1 has: subject to withholding, and paid though nothing was withheld. */
const PAID = [PAY, ADDITIONAL, UNUSED_LEAVE, UNUSED_SERVICE_LEAVE, allowanceCode('CD'), allowanceCode('LD'), ...kinds.map(terminationCode)];
const TAKEN = [WITHHELD, ...kinds.map(terminationTaxCode)];

const monthsOf = (year: number): FilingPeriod[] =>
  MONTHS.map((name, index) => {
    const [from, to] = [dateOf(year, index + 1, 1), lastOfMonth(year, index + 1)];
    return {
      key: to.slice(0, 7),
      label: `${name} ${year}`,
      from,
      to,
      due: dueDay({ by: 'month', day: 21 }, to, (date: IsoDate) => isPublicHoliday(date)).due,
      taxYear: taxYearLabel(to),
    };
  });

const quartersOf = (year: number): FilingPeriod[] =>
  [1, 2, 3, 4].map((quarter) => {
    const to = lastOfMonth(year, quarter * 3);
    return {
      key: `${year}-Q${quarter}`,
      label: `quarter to ${MONTHS[quarter * 3 - 1]} ${year}`,
      from: dateOf(year, quarter * 3 - 2, 1),
      to,
      due: quarterDue(to),
      taxYear: taxYearLabel(to),
    };
  });

/** The labels of withholding on the activity statement, by the employer's cycle; a large withholder states W1 only. */
export const activityStatement = ({ withholder }: Partial<AuEmployer>): Filing => ({
  code: 'activity-statement',
  form: 'Activity statement',
  name: 'PAYG withholding, labels W1 to W5',
  agency: 'Australian Taxation Office',
  every: withholder === 'small' ? 'quarter' : 'month',
  from: 'days',
  periods: withholder === 'small' ? quartersOf : monthsOf,
  asked: ({ from, to }, { paid }) => paid.some((date) => date >= from && date <= to),
  enters: [
    { line: W3, label: 'W3, other amounts withheld', help: 'From investments and to foreign residents, not from pay.' },
    { line: W4, label: 'W4, withheld where no ABN was quoted', help: 'From suppliers without a business number.' },
  ],
  make: statement,
  owed: WITHHELD,
  statement: 'The information in this statement is true and correct, and I am authorised to make this declaration.',
});

function statement({ period, days, entered, paid }: FilingFacts): MadeFiling {
  const lines = new Lines(entered, []);
  const sum = (codes: readonly string[]): Minor =>
    days.reduce((all, { sums }) => codes.reduce((more, code) => more + (sums[code] ?? 0), all), 0);
  lines.money('W1', sum(PAID), {
    label: 'W1, total salary, wages and other payments',
    codes: PAID,
    working: `Posted in ${period.label}; salary sacrificed is not in it.`,
  });
  const w2 = lines.money('W2', sum(TAKEN), {
    label: 'W2, withheld from the payments at W1',
    codes: TAKEN,
    working: `Posted in ${period.label}.`,
  });
  let all = w2;
  for (const [line, label] of [
    [W3, 'W3, other amounts withheld'],
    [W4, 'W4, withheld where no ABN was quoted'],
  ] as const) {
    const given = lines.given(line);
    if (given) all += lines.money(line, given, { label, working: entered[line]?.reason ?? '' });
  }
  lines.money('W5', all, { label: 'W5, total withheld', working: 'W2, W3 and W4 together.', sum: true });
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    checks: [
      { sentence: 'W2 is no more than W1', holds: w2 <= sum(PAID) },
      { sentence: `Paid towards it so far ${written(paid)}, of ${written(all)}`, holds: paid >= all, weight: 'look' },
    ],
    source: 'ATO, Activity statement: PAYG withholding, labels W1 to W5',
  };
}
