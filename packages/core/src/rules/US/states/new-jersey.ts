import { z } from 'zod';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { money } from '../facts';
import { tables } from '../tables';
import type { Otherwise, Programme, State } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-NJ';
const at = (code: string): string => atPlace(code, PLACE);

const certificate = z.object({
  table: z.enum(['A', 'B', 'C', 'D', 'E']).default('A'),
  allowances: z.coerce.number().int().min(0).max(99).default(0),
  extra: money,
  exempt: z.boolean().default(false),
});

/** Cafeteria plans are not recognized; what they take stays in pay (N.J.A.C. 18:35-7.3). */
const NO_CAFETERIA: Otherwise = {
  'health-premium': 0,
  'premium-before-tax': 0,
  'hsa-self-only': 0,
  'hsa-family': 0,
  'health-fsa': 0,
  'dependent-care': 0,
};

/** Workers' contributions with two ceilings: that of unemployment, and that of disability and family leave. */
const worker = (code: string, label: string, table: string, ceiling: 'unemployment' | 'disability'): Programme => ({
  code,
  label: `New Jersey ${label}`,
  from: 'employee',
  rate: { table },
  ceiling: { table: `${ceiling}.ceiling`, pay: `us.${ceiling}.pay`, label: `New Jersey ${ceiling} wages` },
  otherwise: NO_CAFETERIA,
});

const DEPOSITS = {
  publication: 'New Jersey Division of Taxation, NJ-WT, Income Tax Withholding Instructions',
  section: 'NJ-500, NJ-927 and weekly payers',
  unconfirmed: true,
} as const;

export const newJersey: State = {
  code: 'NJ',
  name: 'New Jersey',
  place: PLACE,
  fips: '34',
  incomeTax: {
    otherwise: { ...NO_CAFETERIA, 'deferral-403b': 0, 'simple-deferral': 0, commuting: 0, 'group-term-life': 1 },
    taxedAtHome: ['PA'],
    agreement: { publication: 'N.J.S.A. 54A:9A-1', section: 'Reciprocal agreement with Pennsylvania' },
    /** The percentage method of the withholding instructions, by the rate table of the certificate. */
    reckon(reckoning, pay, { input, tax }, periods) {
      const { date } = input.pay;
      const given = certificate.parse(tax['newJersey'] ?? {});
      reckoning.fact('Certificate NJ-W4', 'tax-details');
      if (given.exempt) return reckoning.start('Exempt by certificate', ZERO);
      const allowance = tables.value(at('state-income.allowance'), date);
      const schedule = tables.schedule(at(`state-income.schedule.${given.table}`), date);
      reckoning
        .start('Pay subject to this tax', pay)
        .times(`Over a year, ${periods.toDecimal(0)} pay dates`, periods)
        .less(`${given.allowances} allowances of ${allowance.value.toDecimal()}`, allowance.value.times(Exact.whole(given.allowances)))
        .atLeast('Not below zero', ZERO)
        .schedule(`Rate table ${given.table}, over a year`, schedule.bands)
        .over('For this pay date', periods);
      const extra = Exact.of(given.extra);
      if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
      return reckoning.round('half-up', 2, 'Rounded to the cent once, at the end').source(schedule.source, allowance.source);
    },
  },
  // An order may take up to 25% of who earns over 250% of the poverty level; such an order is marked as excepted.
  creditors: {
    percentOfGross: 10,
    source: {
      publication: 'New Jersey Statutes 2A:17-56',
      section: '10 per cent of gross pay, unless the order takes more of a higher income',
    },
  },
  forms: { programmes: ['Forms NJ-927 and WR-30'], year: 'Form NJ-W-3' },
  unclaimed: {
    years: 1,
    until: { month: 6, day: 30 },
    report: { month: 11, day: 1 },
    source: { publication: 'N.J.S.A. 46:30B', section: 'Wages one year; report by 1 November', unconfirmed: true },
  },
  agencies: { incomeTax: 'New Jersey Division of Taxation', programmes: 'New Jersey Department of Labor and Workforce Development' },
  deposits: [
    { schedule: 'quarterly', rule: { by: 'quarter', day: 30 }, source: DEPOSITS },
    { schedule: 'monthly', rule: { by: 'month', day: 15 }, source: DEPOSITS },
    // Weekly payers: by the Wednesday after the week.
    { schedule: 'semiweekly', rule: { by: 'week', ends: 6, days: 4 }, source: DEPOSITS },
  ],
  programmesDue: { rule: { by: 'quarter', day: 30 }, source: DEPOSITS },
  programmes: [
    worker('us.unemployment.employee', 'unemployment insurance', 'unemployment.employee.rate', 'unemployment'),
    worker('us.workforce', 'workforce development', 'workforce.rate', 'unemployment'),
    worker('us.disability', 'temporary disability insurance', 'disability.rate', 'disability'),
    worker('us.family-leave', 'family leave insurance', 'family-leave.rate', 'disability'),
    unemployment('New Jersey', NO_CAFETERIA),
    {
      code: 'us.disability.employer',
      label: "New Jersey disability insurance, employer's share",
      from: 'employer',
      rate: { assigned: 'disabilityRate', label: 'Disability rate' },
      ceiling: { table: 'unemployment.ceiling', pay: 'us.unemployment.pay', label: 'New Jersey unemployment wages' },
      otherwise: NO_CAFETERIA,
    },
    {
      code: 'us.workforce.employer',
      label: "New Jersey workforce development, employer's share",
      from: 'employer',
      rate: { table: 'workforce.employer.rate' },
      ceiling: { table: 'unemployment.ceiling', pay: 'us.unemployment.pay', label: 'New Jersey unemployment wages' },
      otherwise: NO_CAFETERIA,
    },
  ],
  certificate: {
    key: 'newJersey',
    schema: certificate,
    fields: [
      {
        key: 'table',
        label: 'rate table (NJ-W4, line 3)',
        kind: 'choice',
        choices: ['A', 'B', 'C', 'D', 'E'].map((value) => ({ value, label: value })),
      },
      { key: 'allowances', label: 'allowances (NJ-W4, line 4)', kind: 'count' },
      { key: 'extra', label: 'extra withholding per pay date', kind: 'amount' },
      { key: 'exempt', label: 'exempt from withholding', kind: 'yes-no' },
    ],
  },
  registration: [
    { key: 'disabilityRate', label: 'Disability rate, %', help: "New Jersey: the employer's, from the yearly notice", kind: 'percent' },
  ],
};
