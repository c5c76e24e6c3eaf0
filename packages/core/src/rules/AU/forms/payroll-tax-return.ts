import { dateOf, lastOfMonth, MONTHS } from '../../../calendar/dates';
import type { Filing, FilingFacts, FilingPeriod, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import type { Minor } from '../../../money/amounts';
import { PAYROLL_TAX, TAXED_WAGES } from '../codes';
import { OFFICES, payrollTaxDue } from '../owed';
import { placeOf, STATES, type StateCode } from '../states';
import { taxYearLabel } from '../tax-year';

const monthsOf = (year: number): FilingPeriod[] =>
  MONTHS.map((name, index) => {
    const to = lastOfMonth(year, index + 1);
    return {
      key: to.slice(0, 7),
      label: `${name} ${year}${index === 5 ? ', with the annual reconciliation' : ''}`,
      from: dateOf(year, index + 1, 1),
      to,
      due: payrollTaxDue(to),
      taxYear: taxYearLabel(to),
    };
  });

/** Monthly return of payroll tax; that of June reconciles the year. */
export function payrollTaxReturn(state: StateCode): Filing {
  const place = placeOf(state);
  const [wages, tax] = [`${TAXED_WAGES}@${place}`, `${PAYROLL_TAX}@${place}`];
  return {
    code: `payroll-tax-${state.toLowerCase()}`,
    form: `Payroll tax, ${state}`,
    name: `Wages and payroll tax in ${STATES[state]}`,
    agency: OFFICES[state],
    place,
    every: 'month',
    from: 'days',
    periods: monthsOf,
    asked: ({ from, to }, { paid }) => paid.some((date) => date >= from && date <= to),
    make: ({ period, days, reckoned, entered }: FilingFacts): MadeFiling => {
      const lines = new Lines(entered, []);
      const sum = (code: string): Minor => days.reduce((all, { sums }) => all + (sums[code] ?? 0), 0);
      lines.money('wages', sum(wages), { label: 'Taxable wages, with super', codes: [wages], working: `Posted in ${period.label}.` });
      const owed = reckoned[tax] ?? 0;
      lines.money('tax', owed, {
        label: 'Payroll tax of the tax year so far',
        codes: [tax],
        working: 'Month by month out of the wages of the year so far, over the threshold of those months.',
        sum: true,
      });
      return {
        lines: lines.all,
        byDay: null,
        copies: [],
        checks: [{ sentence: 'Tax so far is not less than nothing', holds: owed >= 0 }],
        source: `${OFFICES[state]}, monthly return and annual reconciliation of payroll tax`,
      };
    },
    owed: tax,
    statement: 'The wages stated are complete and correct, with those of contractors and grouped employers that are liable.',
  };
}
