import { z } from 'zod';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { money } from '../facts';
import { tables } from '../tables';
import type { State } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-VA';
const at = (code: string): string => atPlace(code, PLACE);

const certificate = z.object({
  exemptions: z.coerce.number().int().min(0).max(50).default(0),
  ageOrBlindness: z.coerce.number().int().min(0).max(10).default(0),
  extra: money,
  exempt: z.boolean().default(false),
});

const DEPOSITS = {
  publication: 'Code of Virginia 58.1-472; Virginia Tax, Form VA-5 and VA-15',
  section: 'Quarterly, monthly by the 25th, semi-weekly',
  unconfirmed: true,
} as const;

export const virginia: State = {
  code: 'VA',
  name: 'Virginia',
  place: PLACE,
  fips: '51',
  incomeTax: {
    // Cost of group term life counts as it does in the year's federal wages.
    otherwise: { 'group-term-life': 1 },
    taxedAtHome: ['DC', 'KY', 'MD', 'PA', 'WV'],
    agreement: { publication: 'Code of Virginia 58.1-342', section: 'Reciprocal agreements' },
    /** The formula of the state's withholding guide for employers. */
    reckon(reckoning, pay, { input, tax }, periods) {
      const { date } = input.pay;
      const given = tax['virginia'] as z.infer<typeof certificate> | undefined;
      reckoning.fact('Certificate VA-4', 'tax-details');
      if (given?.exempt) return reckoning.start('Exempt by certificate', ZERO);
      const deduction = tables.value(at('state-income.standard-deduction'), date);
      const exemption = tables.value(at('state-income.exemption'), date);
      const ageExemption = tables.value(at('state-income.exemption-age'), date);
      const schedule = tables.schedule(at('state-income.schedule'), date);
      const exemptions = given?.exemptions ?? 0;
      const ages = given?.ageOrBlindness ?? 0;
      reckoning
        .start('Pay subject to this tax', pay)
        .times(`Over a year, ${periods.toDecimal(0)} pay dates`, periods)
        .less('Standard deduction', deduction.value)
        .less(`${exemptions} exemptions of ${exemption.value.toDecimal()}`, exemption.value.times(Exact.whole(exemptions)));
      if (ages)
        reckoning.less(
          `${ages} exemptions for age or blindness of ${ageExemption.value.toDecimal()}`,
          ageExemption.value.times(Exact.whole(ages)),
        );
      reckoning.atLeast('Not below zero', ZERO).schedule("Virginia's yearly schedule", schedule.bands).over('For this pay date', periods);
      const extra = Exact.of(given?.extra ?? '0');
      if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
      return reckoning
        .round('half-up', 2, 'Rounded to the cent once, at the end')
        .source(schedule.source, deduction.source, exemption.source);
    },
  },
  forms: { programmes: ['Forms VEC-FC-20 and VEC-FC-21'], income: 'Form VA-5', year: 'Form VA-6' },
  commonWageLayout: true,
  unclaimed: {
    years: 1,
    until: { month: 6, day: 30 },
    report: { month: 11, day: 1 },
    source: { publication: 'Code of Virginia 55.1-2514', section: 'Wages one year; report by 1 November', unconfirmed: true },
  },
  agencies: { incomeTax: 'Virginia Department of Taxation', programmes: 'Virginia Employment Commission' },
  deposits: [
    { schedule: 'quarterly', rule: { by: 'quarter', day: 31 }, source: DEPOSITS },
    { schedule: 'monthly', rule: { by: 'month', day: 25 }, source: DEPOSITS },
    { schedule: 'semiweekly', rule: 'as-federal', source: DEPOSITS },
  ],
  programmes: [unemployment('Virginia')],
  certificate: {
    key: 'virginia',
    schema: certificate,
    fields: [
      { key: 'exemptions', label: 'personal and dependent exemptions (VA-4, line 1c)', kind: 'count' },
      { key: 'ageOrBlindness', label: 'age 65 and blindness exemptions', kind: 'count' },
      { key: 'extra', label: 'extra withholding per pay date', kind: 'amount' },
      { key: 'exempt', label: 'exempt from withholding (VA-4, line 3)', kind: 'yes-no' },
    ],
  },
  creditors: {
    timesMinimumWage: 40,
    source: { publication: 'Code of Virginia 34-29(a)', section: '40 times the greater of the federal and the state minimum wage' },
  },
};
