import { addDays, dateOf, daysBetween, monthOf, weekday, yearOf, type IsoDate } from '../../calendar/dates';
import { z } from 'zod';
import { ZERO } from '../../money/exact';
import { CannotCompute, type CountryPack, type Treatment } from '../country-pack';
import { nationalInsuranceOfEmployee, nationalInsuranceOfEmployer } from './national-insurance';
import { incomeTax } from './income-tax';
import { tables } from './tables';

/** A person's tax details in the United Kingdom. */
export const ukTaxSchema = z.object({
  taxCode: z.string().regex(/^(K\d{1,5}|\d{1,5}L|BR|D0|0T)$/, 'a code such as 1257L, BR, D0, 0T or K100'),
  basis: z.enum(['cumulative', 'week-1-month-1']).default('cumulative'),
  category: z.literal('A'),
});
export type UkTax = z.infer<typeof ukTaxSchema>;

const list: Treatment[] = [
  { code: 'pay', label: 'Pay', for: ['earning'], counts: { 'uk.paye.pay': 1, 'uk.ni.earnings': 1 } },
  {
    code: 'pension-net-pay',
    label: 'Pension contribution (net pay arrangement)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: { 'uk.paye.pay': -1 },
  },
  { code: 'after-tax', label: 'After tax', for: ['deduction'], taken: 'after-tax', counts: {} },
  { code: 'expenses', label: 'Expenses paid back', for: ['reimbursement'], counts: {} },
  { code: 'employer-plan', label: "Employer's pension contribution", for: ['employer-contribution'], counts: {} },
];

/** The 6 April on or before a date. */
const yearStart = (date: IsoDate): IsoDate => {
  const here = dateOf(yearOf(date), 4, 6);
  return date >= here ? here : dateOf(yearOf(date) - 1, 4, 6);
};

/** Tax month, 1 to 12, of a pay date: month 1 runs from 6 April to 5 May. */
export function taxMonth(date: IsoDate): number {
  const months = (yearOf(date) - yearOf(yearStart(date))) * 12 + monthOf(date) - 4;
  return Number(date.slice(8)) >= 6 ? months + 1 : months;
}

/** Tax week, 1 to 53, of a pay date. */
export const taxWeek = (date: IsoDate): number => Math.floor(daysBetween(yearStart(date), date) / 7) + 1;

export const unitedKingdom: CountryPack<UkTax, unknown> = {
  code: 'UK',
  name: 'United Kingdom',
  currency: 'GBP',
  locale: 'en-GB',
  taxYearOf(date) {
    const from = yearStart(date);
    return { label: `${yearOf(from)}-${String(yearOf(from) + 1).slice(2)}`, from, to: addDays(dateOf(yearOf(from) + 1, 4, 6), -1) };
  },
  // Easter and substitute days come with the pack's screens; until then only weekends move a pay date.
  isHoliday: (date) => date.endsWith('-12-25') || (date.endsWith('-01-01') && weekday(date) !== 0),
  treatments: Object.fromEntries(list.map((treatment) => [treatment.code, treatment])),
  bases: [
    { code: 'uk.paye.pay', label: 'Pay subject to income tax' },
    { code: 'uk.ni.earnings', label: 'Earnings for national insurance' },
  ],
  taxableBase: 'uk.paye.pay',
  taxSchema: ukTaxSchema,
  employerSchema: z.unknown(),
  taxForm: [
    {
      title: 'PAYE and national insurance',
      fields: [
        { key: 'taxCode', label: 'Tax code', kind: 'text' },
        {
          key: 'basis',
          label: 'Basis',
          kind: 'choice',
          choices: [
            { value: 'cumulative', label: 'Cumulative' },
            { value: 'week-1-month-1', label: 'Week 1 / month 1' },
          ],
        },
        { key: 'category', label: 'National insurance category', kind: 'choice', choices: [{ value: 'A', label: 'A' }] },
      ],
    },
  ],
  assertTables(date) {
    if (!tables.has('uk.paye.bands', date))
      throw new CannotCompute('no-table', `There are no United Kingdom tables for the pay date ${date}.`);
  },
  legalLimit(base) {
    throw new CannotCompute('no-limit', `There is no legal limit for ${base}.`);
  },
  employeeTaxes: (context) => [incomeTax(context), nationalInsuranceOfEmployee(context)],
  employerTaxes: (context) => [nationalInsuranceOfEmployer(context)],
  overtimeRules: {},
  supplementalMethods: ['flat'],
  exemptions: {},
  disposable: ({ paper, gross, taxes }) =>
    paper
      .reckon('uk.attachable', 'Attachable earnings')
      .start(gross.label, gross)
      .less(taxes.label, taxes)
      .atLeast('Not below zero', ZERO)
      .done(),
  employerForm: { fields: [], lists: [], overtimeRules: [], kinds: [] },
  readyItems: [],
  orderLimit() {
    throw new CannotCompute('no-orders', 'Court orders are not in the rules for the United Kingdom yet.');
  },
};
