import { z } from 'zod';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { money } from '../facts';
import { tables } from '../tables';
import type { State } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-IL';
const at = (code: string): string => atPlace(code, PLACE);

const certificate = z.object({
  basic: z.coerce.number().int().min(0).max(99).default(0),
  additional: z.coerce.number().int().min(0).max(99).default(0),
  extra: money,
  exempt: z.boolean().default(false),
});

const DEPOSITS = {
  publication: 'Illinois Department of Revenue, Publication 131',
  section: 'Payment schedules: monthly by the 15th, semi-weekly',
  unconfirmed: true,
} as const;

export const illinois: State = {
  code: 'IL',
  name: 'Illinois',
  place: PLACE,
  fips: '17',
  incomeTax: {
    otherwise: { 'group-term-life': 1 },
    taxedAtHome: ['IA', 'KY', 'MI', 'WI'],
    agreement: { publication: '86 Ill. Adm. Code 100.7090', section: 'Reciprocal agreements' },
    /** A flat rate on what is over the exemptions (Booklet IL-700-T, automated method). */
    reckon(reckoning, pay, { input, tax }, periods) {
      const { date } = input.pay;
      const given = certificate.parse(tax['illinois'] ?? {});
      reckoning.fact('Certificate IL-W-4', 'tax-details');
      if (given.exempt) return reckoning.start('Exempt by certificate', ZERO);
      const rate = tables.value(at('state-income.rate'), date);
      const basic = tables.value(at('state-income.exemption'), date);
      const additional = tables.value(at('state-income.exemption-additional'), date);
      reckoning.start('Pay subject to this tax', pay);
      const exemptions = basic.value.times(Exact.whole(given.basic)).plus(additional.value.times(Exact.whole(given.additional)));
      if (!exemptions.isZero())
        reckoning.less(
          `Exemptions for this pay date: ${given.basic} of ${basic.value.toDecimal()} and ${given.additional} of ${additional.value.toDecimal()} a year`,
          exemptions.over(periods),
        );
      reckoning.atLeast('Not below zero', ZERO).percent(`${rate.value.toDecimal()}%`, rate.value);
      const extra = Exact.of(given.extra);
      if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
      return reckoning.round('half-up').source(rate.source, basic.source, additional.source);
    },
  },
  creditors: {
    percentOfGross: 15,
    timesMinimumWage: 45,
    source: { publication: '735 ILCS 5/12-803', section: '15 per cent of gross wages, or what is over 45 times the minimum wage' },
  },
  forms: { programmes: ['Form UI-3/40'], income: 'Form IL-941' },
  unclaimed: {
    years: 1,
    until: { month: 6, day: 30 },
    report: { month: 11, day: 1 },
    source: { publication: '765 ILCS 1026/15-201', section: 'Wages one year; report before 1 November', unconfirmed: true },
  },
  agencies: { incomeTax: 'Illinois Department of Revenue', programmes: 'Illinois Department of Employment Security' },
  deposits: [
    { schedule: 'monthly', rule: { by: 'month', day: 15 }, source: DEPOSITS },
    { schedule: 'semiweekly', rule: 'as-federal', source: DEPOSITS },
  ],
  programmes: [unemployment('Illinois')],
  certificate: {
    key: 'illinois',
    schema: certificate,
    fields: [
      { key: 'basic', label: 'basic allowances (IL-W-4, line 1)', kind: 'count' },
      { key: 'additional', label: 'additional allowances (IL-W-4, line 2)', kind: 'count' },
      { key: 'extra', label: 'extra withholding per pay date', kind: 'amount' },
      { key: 'exempt', label: 'exempt from withholding', kind: 'yes-no' },
    ],
  },
};
