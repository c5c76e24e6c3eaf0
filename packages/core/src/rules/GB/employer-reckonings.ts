import type { IsoDate } from '../../calendar/dates';
import type { EmployerReckonings, Reckoned, YearOfEmployer } from '../../filings/reckoned';
import { Exact, ZERO } from '../../money/exact';
import type { Minor } from '../../money/amounts';
import { Paper, type Figure } from '../../working/reckoning';
import { RECOVERED } from './statutory-codes';
import { tables } from './tables';
import { taxMonth, taxYearLabel } from './tax-year';

export const ALLOWANCE = 'gb.allowance';
export const LEVY = 'gb.levy';
/** Benefits in kind that are payrolled, and the employer's contributions on them. */
export const BENEFITS = 'gb.benefits';
export const CLASS_1A_BENEFITS = 'gb.ni.1a.benefits';
const SECONDARY = 'gb.ni.employer';
const EARNINGS = 'gb.ni.earnings';
export const recoveredCode = (of: string): string => `${of}.recovered`;
export const compensationCode = (of: string): string => `${of}.compensation`;

const LABELS: Record<string, string> = {
  [ALLOWANCE]: 'Employment allowance',
  [LEVY]: 'Apprenticeship levy',
  [CLASS_1A_BENEFITS]: 'National insurance on benefits in kind, class 1A',
  ...Object.fromEntries(
    Object.entries(RECOVERED).flatMap(([code, name]) => [
      [recoveredCode(code), `${name} recovered`],
      [compensationCode(code), `Compensation on ${name.toLowerCase()}`],
    ]),
  ),
};

/** A tax month with anything paid in it: its first pay date, and everything of the year up to its last one. */
interface Month {
  number: number;
  on: IsoDate;
  readonly toDate: (code: string) => Minor;
}

function monthsOf(days: YearOfEmployer['days']): Month[] {
  const months: Month[] = [];
  const sums: Record<string, Minor> = {};
  for (const { payDate, sums: of } of days) {
    for (const [code, amount] of Object.entries(of)) sums[code] = (sums[code] ?? 0) + amount;
    const soFar = { ...sums };
    const before = months.at(-1);
    const same = before?.number === taxMonth(payDate);
    // With the first pay date of the month, so that a later one of it only adds to what was reckoned.
    const month = { number: taxMonth(payDate), on: same ? before.on : payDate, toDate: (code: string) => soFar[code] ?? 0 };
    if (same) months.pop();
    months.push(month);
  }
  return months;
}

/** What a figure of the year so far comes to in the month, with what was reckoned of it before. */
function stepOf(code: string, year: string, month: Month, before: Minor, reckon: (paper: Paper) => Figure): Reckoned {
  const paper = new Paper(true);
  const toDate = reckon(paper);
  const figure = paper
    .reckon(code, `${LABELS[code]}, tax month ${month.number}`)
    .start(toDate.label, toDate)
    .less('Reckoned earlier in the tax year', Exact.minor(before))
    .done();
  return { code, on: month.on, amount: figure.amount.toMinor(), period: `tax month ${month.number} of ${year}`, workings: paper.workings };
}

/**
 * By tax month, each from the year so far, so that a correction of an earlier month is made good in its own: the employment
 * allowance against the employer's contributions, the apprenticeship levy, and statutory pay recovered.
 */
export const employerReckonings: EmployerReckonings = {
  codes: [SECONDARY, EARNINGS, BENEFITS, ...Object.keys(RECOVERED)],
  labels: LABELS,
  of({ employer, days }) {
    const made: Reckoned[] = [];
    const before: Record<string, Minor> = {};
    for (const month of monthsOf(days)) {
      const year = taxYearLabel(month.on);
      const add = (code: string, reckon: (paper: Paper) => Figure): void => {
        const one = stepOf(code, year, month, before[code] ?? 0, reckon);
        before[code] = (before[code] ?? 0) + one.amount;
        if (one.amount !== 0) made.push(one);
      };
      if (employer['employmentAllowance'] === true) add(ALLOWANCE, (paper) => allowance(paper, month));
      add(LEVY, (paper) => levy(paper, month, employer['levyAllowance']));
      if (month.toDate(BENEFITS) || before[CLASS_1A_BENEFITS]) add(CLASS_1A_BENEFITS, (paper) => class1a(paper, month));
      const small = employer['smallEmployer'] === true;
      for (const code of Object.keys(RECOVERED)) {
        if (!month.toDate(code)) continue;
        add(recoveredCode(code), (paper) => recovered(paper, month, code, small));
        if (small) add(compensationCode(code), (paper) => compensation(paper, month, code));
      }
    }
    return made;
  },
};

/** Taken off the employer's class 1 contributions of the year until it is used up. */
function allowance(paper: Paper, { on, toDate }: Month): Figure {
  const whole = tables.value(ALLOWANCE, on);
  return paper
    .reckon(`${ALLOWANCE}.to-date`, 'Employment allowance in the tax year')
    .start("Employer's contributions in the tax year", Exact.minor(toDate(SECONDARY)))
    .atMost('Allowance of the year', whole.value)
    .atLeast('Not below zero', ZERO)
    .times('Taken off', Exact.of('-1'))
    .source(whole.source, { publication: 'National Insurance Contributions Act 2014, sections 1 to 4' })
    .done();
}

/** So much of all earnings for contributions, less a twelfth of the allowance for each month of the year. */
function levy(paper: Paper, { number, on, toDate }: Month, share: unknown): Figure {
  const rate = tables.value(`${LEVY}.rate`, on);
  const whole = tables.value(`${LEVY}.allowance`, on);
  const yearly = typeof share === 'string' && share !== '' ? Exact.of(share) : whole.value;
  const allowed = paper
    .reckon(`${LEVY}.allowed`, 'Allowance in the tax year so far')
    .start(typeof share === 'string' && share !== '' ? "The employer's share of the allowance" : 'Allowance of the year', yearly)
    .times('Tax months so far', Exact.whole(number))
    .over('Months of the year', Exact.whole(12))
    .round('half-up')
    .source(whole.source)
    .done();
  return paper
    .reckon(`${LEVY}.to-date`, 'Apprenticeship levy in the tax year')
    .start('Pay bill in the tax year', Exact.minor(toDate(EARNINGS)))
    .percent('Rate', rate.value)
    .round('down')
    .less(allowed.label, allowed)
    .atLeast('Not below zero', ZERO)
    .source(rate.source, { publication: 'Finance Act 2016, sections 98 to 100; Income Tax (PAYE) Regulations 2003, part 7A' })
    .done();
}

/** On benefits of the year, paid once a year after it. */
function class1a(paper: Paper, { on, toDate }: Month): Figure {
  const rate = tables.value('gb.ni.1a', on);
  return paper
    .reckon(`${CLASS_1A_BENEFITS}.to-date`, 'Class 1A on benefits in kind in the tax year')
    .start('Benefits payrolled in the tax year', Exact.minor(toDate(BENEFITS)))
    .percent('Rate', rate.value)
    .round('half-down')
    .source(rate.source, { publication: 'Social Security Contributions and Benefits Act 1992, section 10' })
    .done();
}

/** Of family payments the state gives back so much; to a small employer the whole. */
function recovered(paper: Paper, { on, toDate }: Month, code: string, small: boolean): Figure {
  const rate = tables.value('gb.statutory.recovered', on);
  const reckoning = paper
    .reckon(`${recoveredCode(code)}.to-date`, `${LABELS[recoveredCode(code)]} in the tax year`)
    .start(`${RECOVERED[code]} in the tax year`, Exact.minor(toDate(code)));
  if (!small) reckoning.percent('Recovered', rate.value).round('half-up').source(rate.source);
  return reckoning
    .times('Taken off', Exact.of('-1'))
    .source({ publication: 'Statutory Maternity Pay (Compensation of Employers) Regulations 1994, regulations 3 to 6' })
    .done();
}

/** A small employer's, for its own contributions on the payments. */
function compensation(paper: Paper, { on, toDate }: Month, code: string): Figure {
  const rate = tables.value('gb.statutory.compensation', on);
  return paper
    .reckon(`${compensationCode(code)}.to-date`, `${LABELS[compensationCode(code)]} in the tax year`)
    .start(`${RECOVERED[code]} in the tax year`, Exact.minor(toDate(code)))
    .percent('Compensation', rate.value)
    .round('half-up')
    .times('Taken off', Exact.of('-1'))
    .source(rate.source)
    .done();
}
