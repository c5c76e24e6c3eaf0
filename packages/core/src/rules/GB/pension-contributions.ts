import { HUNDRED, ZERO, type Exact } from '../../money/exact';
import type { PublishedTable, TableContext, Treatment } from '../country-pack';
import type { Reckoning } from '../../working/reckoning';
import { progressOf } from './progress';
import { tables } from './tables';

/** Earnings of a pay reference period that count for workplace pensions: pay and statutory pay, before anything is taken. */
export const QUALIFYING = 'gb.pension.earnings';
const LAW = { publication: 'Pensions Act 2008, sections 13 to 15', section: 'Qualifying earnings of the pay reference period' };
const RELIEF = {
  publication: 'Finance Act 2004, section 192',
  section: 'Relief at source: the scheme claims tax at the basic rate of the whole Kingdom, so that so much less is deducted',
};

/** By how many weeks or months are paid: the bands that the law sets for each pay reference period. */
const PERIODS: Readonly<Record<string, string>> = {
  '52 1': 'weekly',
  '52 2': 'fortnightly',
  '52 4': 'four-weekly',
  '12 1': 'monthly',
  '12 3': 'quarterly',
  '12 6': 'half-yearly',
  '12 12': 'annual',
};

export const pensionTreatments: Treatment[] = [
  {
    code: 'pension-net-pay',
    label: 'Pension contribution (net pay arrangement)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: { 'gb.paye.pay': -1 },
  },
  {
    code: 'pension-relief-at-source',
    label: 'Pension contribution (relief at source)',
    for: ['deduction'],
    taken: 'after-tax',
    counts: {},
  },
  { code: 'employer-plan', label: "Employer's pension contribution", for: ['employer-contribution'], counts: {} },
];

function ofQualifying(reckoning: Reckoning, percent: Exact, context: TableContext): Reckoning {
  const { ofYear, paid } = progressOf(context);
  const period = PERIODS[`${ofYear} ${paid}`] ?? 'monthly';
  const { date } = context.input.pay;
  const [lower, upper] = [tables.value(`gb.pension.lower.${period}`, date), tables.value(`gb.pension.upper.${period}`, date)];
  const earnings = context.base(QUALIFYING);
  const band = context.paper
    .reckon('gb.pension.qualifying', 'Qualifying earnings')
    .start(earnings.label, earnings)
    .atMost('Upper limit of the period', upper.value)
    .less('Lower limit of the period', lower.value)
    .atLeast('Not below zero', ZERO)
    .source(lower.source, LAW)
    .done();
  return reckoning.start(band.label, band).percent('Rate of the contribution', percent).round('half-up');
}

/** Tables in which contributions on qualifying earnings are looked up. */
export const pensionTables: Readonly<Record<string, PublishedTable>> = {
  'gb.pension.qualifying': { label: 'Qualifying earnings', asks: 'Per cent of qualifying earnings', lookUp: ofQualifying },
  'gb.pension.relief-at-source': {
    label: 'Qualifying earnings, relief at source',
    asks: 'Per cent of qualifying earnings, with the tax that the scheme claims',
    lookUp(reckoning, percent, context) {
      const basic = tables.schedule('gb.paye.bands', context.input.pay.date);
      return ofQualifying(reckoning, percent, context)
        .percent('Without tax at the basic rate', HUNDRED.minus(basic.bands[0]?.percent ?? HUNDRED))
        .round('half-up')
        .source(basic.source, RELIEF);
    },
  },
};
