import { z } from 'zod';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { money } from '../facts';
import { tables } from '../tables';
import type { State } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-CA';
const at = (code: string): string => atPlace(code, PLACE);

const certificate = z.object({
  status: z.enum(['single', 'married', 'head-of-household']).default('single'),
  allowances: z.coerce.number().int().min(0).max(99).default(0),
  estimatedDeductions: z.coerce.number().int().min(0).max(99).default(0),
  extra: money,
  exempt: z.boolean().default(false),
});

/** Pay for unemployment and disability insurance is one, with a ceiling for the first only. */
const DISABILITY = 'us.disability';

const DEPOSITS = {
  publication: 'Employment Development Department, California Employer’s Guide (DE 44)',
  section: 'Deposit requirements, with the federal schedule',
  unconfirmed: true,
} as const;

export const california: State = {
  code: 'CA',
  name: 'California',
  place: PLACE,
  fips: '06',
  incomeTax: {
    // Health savings accounts are not recognized (Revenue and Taxation Code 17215.4).
    otherwise: { 'hsa-self-only': 0, 'hsa-family': 0, 'group-term-life': 1 },
    /** Method B, exact calculation, of the state's withholding schedules. */
    reckon(reckoning, pay, { input, tax }, periods) {
      const { date } = input.pay;
      const given = certificate.parse(tax['california'] ?? {});
      reckoning.fact('Certificate DE 4', 'tax-details');
      if (given.exempt) return reckoning.start('Exempt by certificate', ZERO);
      const wide = given.status === 'head-of-household' || (given.status === 'married' && given.allowances >= 2) ? 'wide' : 'narrow';
      const low = tables.value(at(`state-income.low-income.${wide}`), date);
      const free = low.value.over(periods);
      if (!pay.amount.isAbove(free))
        return reckoning
          .start('Pay not above the low-income exemption', ZERO)
          .note(`Low-income exemption: ${low.value.toDecimal()} a year, ${free.toDecimal(2)} for this pay date.`)
          .source(low.source);
      const estimated = tables.value(at('state-income.estimated-deduction'), date);
      const deduction = tables.value(at(`state-income.standard-deduction.${wide}`), date);
      const schedule = tables.schedule(at(`state-income.schedule.${given.status}`), date);
      const credit = tables.value(at('state-income.allowance-credit'), date);
      reckoning.start('Pay subject to this tax', pay).times(`Over a year, ${periods.toDecimal(0)} pay dates`, periods);
      if (given.estimatedDeductions)
        reckoning.less(
          `${given.estimatedDeductions} allowances for estimated deductions`,
          estimated.value.times(Exact.whole(given.estimatedDeductions)),
        );
      reckoning
        .less('Standard deduction', deduction.value)
        .atLeast('Not below zero', ZERO)
        .schedule("California's yearly schedule", schedule.bands)
        .less(`${given.allowances} allowances of ${credit.value.toDecimal()}`, credit.value.times(Exact.whole(given.allowances)))
        .atLeast('Not below zero', ZERO)
        .over('For this pay date', periods);
      const extra = Exact.of(given.extra);
      if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
      return reckoning
        .round('half-up', 2, 'Rounded to the cent once, at the end')
        .source(schedule.source, deduction.source, credit.source, low.source);
    },
  },
  creditors: {
    percentOfDisposable: 20,
    timesMinimumWage: 48,
    percentOfExcess: 40,
    source: {
      publication: 'California Code of Civil Procedure 706.050',
      section: '20 per cent, or 40 per cent of what is over 48 times the minimum wage',
    },
  },
  finalPay: {
    discharged: 0,
    resigned: 3,
    source: {
      publication: 'California Labor Code 201, 202',
      section: 'At once on discharge; within 72 hours of a resignation without notice',
    },
  },
  forms: { programmes: ['Forms DE 9 and DE 9C'] },
  unclaimed: {
    years: 1,
    until: { month: 6, day: 30 },
    report: { month: 11, day: 1 },
    source: {
      publication: 'Cal. Code of Civil Procedure 1513(a)(7), 1530',
      section: 'Wages one year; report before 1 November of what stood on 30 June',
      unconfirmed: true,
    },
  },
  agencies: { incomeTax: 'Employment Development Department', programmes: 'Employment Development Department' },
  deposits: [
    { schedule: 'quarterly', rule: { by: 'quarter', day: 31 }, source: DEPOSITS },
    { schedule: 'monthly', rule: { by: 'month', day: 15 }, source: DEPOSITS },
    { schedule: 'semiweekly', rule: 'as-federal', source: DEPOSITS },
  ],
  programmes: [
    { code: DISABILITY, label: 'California disability insurance', from: 'employee', rate: { table: 'disability.rate' } },
    unemployment('California'),
    {
      code: 'us.training',
      label: 'California employment training tax',
      from: 'employer',
      rate: { table: 'training.rate' },
      ceiling: { table: 'unemployment.ceiling', pay: 'us.unemployment.pay', label: 'California unemployment wages' },
    },
  ],
  certificate: {
    key: 'california',
    schema: certificate,
    fields: [
      {
        key: 'status',
        label: 'filing status (DE 4)',
        kind: 'choice',
        choices: [
          { value: 'single', label: 'Single, or married with two or more incomes' },
          { value: 'married', label: 'Married, one income' },
          { value: 'head-of-household', label: 'Head of household' },
        ],
      },
      { key: 'allowances', label: 'regular withholding allowances (worksheet A)', kind: 'count' },
      { key: 'estimatedDeductions', label: 'allowances for estimated deductions (worksheet B)', kind: 'count' },
      { key: 'extra', label: 'extra withholding per pay date', kind: 'amount' },
      { key: 'exempt', label: 'exempt from withholding', kind: 'yes-no' },
    ],
  },
};
