import { decimalOf, written, type Minor } from '../../../money/amounts';
import { Exact } from '../../../money/exact';
import { round } from '../../../money/roundings';
import { monthOf, type IsoDate } from '../../../calendar/dates';
import type { FilingCheck, FilingFacts } from '../../../filings/filing';
import { liabilityByDay } from '../../../filings/earlier';
import type { Lines } from '../../../filings/lines';
import { FEDERAL_LIABILITY as LIABILITY } from '../federal/liability';
import { tables } from '../tables';

const EMPLOYEE_SHARE = ['us.oasdi', 'us.medicare', 'us.medicare.additional'];

/** How a form numbers the lines that the quarterly and the annual return have in common. */
export interface Numbers {
  wages: string;
  withheld: string;
  social: string;
  tips: string;
  medicare: string;
  additional: string;
  shares: string;
  before: string;
}

/** What a return of taxes withheld comes to before its adjustments, and the liability that the ledger has for each day. */
export interface Withheld {
  before: Minor;
  /** Rounding of each payslip by itself, against rates of the sums. */
  fractions: Minor;
  total: Minor;
  byDay: { date: IsoDate; amount: Minor }[];
  socialWages: Minor;
  medicareWages: Minor;
}

export const sumOf = (days: FilingFacts['days'], codes: readonly string[]): Minor =>
  days.reduce((all, day) => all + codes.reduce((part, code) => part + (day.sums[code] ?? 0), 0), 0);

/** Income tax, social security and Medicare of a period: wages by the ledger, taxes by the rates of the form. */
export function withheldTaxes(facts: FilingFacts, lines: Lines, at: Numbers): Withheld {
  const { period, days } = facts;
  const date = period.to;
  const social = tables.value('us.oasdi.rate', date).value.times(Exact.whole(2));
  const medicare = tables.value('us.medicare.rate', date).value.times(Exact.whole(2));
  const additional = tables.value('us.medicare.additional.rate', date).value;
  const posted = monthOf(period.to) - monthOf(period.from) > 2 ? 'year' : 'quarter';
  lines.money(at.wages, sumOf(days, ['us.fit.wages', 'us.fit.not-withheld']), {
    label: 'Wages, tips and other compensation',
    codes: ['us.fit.wages', 'us.fit.not-withheld'],
    working: `Federal income-tax wages posted in the ${posted}.`,
  });
  const withheld = lines.money(at.withheld, sumOf(days, ['us.fit']), {
    label: 'Federal income tax withheld',
    codes: ['us.fit'],
    working: `Federal income tax posted in the ${posted}.`,
  });
  /** Wages and the tax on them, side by side. */
  const taxed = (
    line: string,
    rate: Exact,
    wages: { label: string; codes: string[]; working: string },
    tax: { label: string; codes: string[] },
  ) => {
    const amount = lines.money(`${line} (1)`, sumOf(days, wages.codes), wages);
    const due = lines.money(`${line} (2)`, percentOf(amount, rate), {
      ...tax,
      working: `${written(amount)} × ${rate.toDecimal()}%, rounded to the cent.`,
    });
    return { amount, due };
  };
  const wages = taxed(
    at.social,
    social,
    { label: 'Taxable social security wages', codes: ['us.oasdi.wages'], working: 'Posted up to the wage base of each person.' },
    { label: 'Tax on social security wages', codes: ['us.oasdi', 'us.oasdi.employer'] },
  );
  const tips = sumOf(days, ['us.oasdi.tips'])
    ? taxed(
        at.tips,
        social,
        {
          label: 'Taxable social security tips',
          codes: ['us.oasdi.tips'],
          working: 'Tips posted, after wages, up to the wage base of each person.',
        },
        { label: 'Tax on social security tips', codes: [] },
      )
    : { amount: 0, due: 0 };
  const medical = taxed(
    at.medicare,
    medicare,
    { label: 'Taxable Medicare wages', codes: ['us.medicare.wages'], working: 'Medicare wages posted.' },
    { label: 'Tax on Medicare wages', codes: ['us.medicare', 'us.medicare.employer'] },
  );
  const above = taxed(
    at.additional,
    additional,
    {
      label: 'Wages subject to Additional Medicare Tax withholding',
      codes: ['us.medicare.additional.wages'],
      working: 'Medicare wages over 200,000 in the year.',
    },
    { label: 'Additional Medicare Tax withheld', codes: ['us.medicare.additional'] },
  );
  const parts = [at.social, ...(tips.due ? [at.tips] : []), at.medicare, at.additional].map((line) => `${line} (2)`);
  const shares = lines.money(at.shares, wages.due + tips.due + medical.due + above.due, {
    label: 'Social security and Medicare taxes',
    working: `${parts.join(' + ')}.`,
  });
  const before = lines.money(at.before, withheld + shares, {
    label: 'Taxes before adjustments',
    working: `Line ${at.withheld} + line ${at.shares}.`,
  });
  const byDay = liabilityByDay(facts, LIABILITY);
  const total = byDay.reduce((all, { amount }) => all + amount, 0);
  return { before, fractions: total - before, total, byDay, socialWages: wages.amount + tips.amount, medicareWages: medical.amount };
}

/** The line of fractions of cents, and how it came about. */
export function fractionsOf(
  { total, before }: Withheld,
  { days }: FilingFacts,
  others: Minor,
): { amount: Minor; working: string; codes: string[] } {
  const amount = total - before - others;
  return {
    amount,
    codes: EMPLOYEE_SHARE,
    working: `Liability by date ${written(total)} − taxes before adjustments ${written(before)}${others ? ' − the other adjustments' : ''}. Withheld from employees ${written(sumOf(days, EMPLOYEE_SHARE))}, each payslip rounded by itself.`,
  };
}

/** What must hold of any return of taxes withheld. */
export const withheldChecks = (
  { socialWages, medicareWages }: Withheld,
  { days }: FilingFacts,
  fractions: { line: string; amount: Minor },
): FilingCheck[] => [
  {
    sentence: `Line ${fractions.line}, ${decimalOf(fractions.amount)}, is no more than rounding on each payslip can make`,
    // Five taxes on each payslip, each off by half a cent at most.
    holds: Math.abs(fractions.amount) * 2 <= 5 * days.reduce((all, day) => all + day.payslips, 0) + 5,
  },
  {
    sentence: `Social security wages ${written(socialWages)} are not more than Medicare wages ${written(medicareWages)}`,
    holds: socialWages <= medicareWages,
  },
];

export const percentOf = (amount: Minor, percent: Exact): Minor =>
  round(Exact.minor(amount).times(percent).over(Exact.whole(100)), 'half-up', 2).toMinor();
