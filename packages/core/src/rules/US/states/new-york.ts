import { z } from 'zod';
import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { money } from '../facts';
import { tables } from '../tables';
import type { TaxResult } from '../../country-pack';
import type { Figure, Reckoning } from '../../../working/reckoning';
import type { State, StateContext } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-NY';
const CITY = `${PLACE}/NYC`;
const YONKERS = `${PLACE}/Yonkers`;
/** Both benefits are insured with a carrier of the employer's choice, or the state's fund (Workers' Compensation Law 204, 209). */
const CARRIER = 'Disability and paid family leave carrier';

const certificate = z.object({
  status: z.enum(['single', 'married']).default('single'),
  allowances: z.coerce.number().int().min(0).max(99).default(0),
  cityAllowances: z.coerce.number().int().min(0).max(99).default(0),
  city: z.enum(['none', 'nyc', 'yonkers']).default('none'),
  worksInYonkers: z.boolean().default(false),
  extra: money,
  exempt: z.boolean().default(false),
});
type Certificate = z.infer<typeof certificate>;

const certificateOf = ({ tax }: StateContext): Certificate => certificate.parse(tax['newYork'] ?? {});

/** Yearly pay less the deduction and the allowances, by a schedule: the exact calculation method of the state and of the city. */
function exact(
  reckoning: Reckoning,
  pay: Figure,
  { place, allowances, status, words }: { place: string; allowances: number; status: Certificate['status']; words: string },
  { input }: StateContext,
  periods: Exact,
): Reckoning {
  const { date } = input.pay;
  const deduction = tables.value(atPlace(`state-income.deduction.${status}`, place), date);
  const allowance = tables.value(atPlace('state-income.allowance', place), date);
  const schedule = tables.schedule(atPlace('state-income.schedule', place), date);
  return reckoning
    .start('Pay subject to this tax', pay)
    .times(`Over a year, ${periods.toDecimal(0)} pay dates`, periods)
    .less('Deduction allowance', deduction.value)
    .less(`${allowances} allowances of ${allowance.value.toDecimal()}`, allowance.value.times(Exact.whole(allowances)))
    .atLeast('Not below zero', ZERO)
    .schedule(words, schedule.bands)
    .over('For this pay date', periods)
    .source(schedule.source, deduction.source, allowance.source);
}

const DEPOSITS = {
  publication: 'New York Tax Law 674(a); Publication NYS-50',
  section: 'Form NYS-1 within three business days, else with NYS-45',
  unconfirmed: true,
} as const;

export const newYork: State = {
  code: 'NY',
  name: 'New York',
  place: PLACE,
  fips: '36',
  incomeTax: {
    otherwise: { 'group-term-life': 1 },
    reckon(reckoning, pay, context, periods) {
      const given = certificateOf(context);
      reckoning.fact('Certificate IT-2104', 'tax-details');
      if (given.exempt) return reckoning.start('Exempt by certificate', ZERO);
      exact(
        reckoning,
        pay,
        { place: PLACE, allowances: given.allowances, status: given.status, words: "New York's yearly schedule" },
        context,
        periods,
      );
      const extra = Exact.of(given.extra);
      if (!extra.isZero()) reckoning.plus('Extra withholding asked for', extra);
      return reckoning.round('half-up', 2, 'Rounded to the cent once, at the end');
    },
  },
  creditors: {
    percentOfGross: 10,
    timesMinimumWage: 30,
    source: {
      publication: 'New York Civil Practice Law and Rules 5231(b)',
      section: '10 per cent of gross income; 30 times the minimum wage stays free',
    },
  },
  forms: { programmes: ['Form NYS-45'] },
  unclaimed: {
    years: 3,
    until: { month: 12, day: 31 },
    report: { month: 3, day: 10 },
    source: { publication: 'N.Y. Abandoned Property Law 1315', section: 'Unpaid wages three years; report by 10 March', unconfirmed: true },
  },
  agencies: { incomeTax: 'New York State Department of Taxation and Finance', programmes: 'New York State Department of Labor' },
  deposits: [
    // More than 700 withheld: within three business days after the payroll.
    { schedule: 'semiweekly', rule: { by: 'pay-date', days: 3, business: true }, source: DEPOSITS },
    { schedule: 'quarterly', rule: { by: 'quarter', day: 31 }, source: DEPOSITS },
  ],
  programmes: [
    {
      code: 'us.disability',
      payee: CARRIER,
      label: 'New York disability benefits',
      from: 'employee',
      rate: { table: 'disability.rate' },
      most: { per: 'week', table: 'disability.week' },
    },
    {
      code: 'us.family-leave',
      payee: CARRIER,
      label: 'New York paid family leave',
      from: 'employee',
      rate: { table: 'family-leave.rate' },
      most: { per: 'year', table: 'family-leave.year' },
    },
    unemployment('New York'),
  ],
  // The state collects for both cities, on its own return.
  localPlaces: () =>
    [CITY, YONKERS].map((place) => ({
      place,
      name: place === CITY ? 'New York City' : 'Yonkers',
      payee: 'New York State Department of Taxation and Finance',
    })),
  localPay: { code: 'us.local-income.pay', label: 'New York local tax wages', otherwise: { 'group-term-life': 1 } },
  local(context) {
    const given = certificateOf(context);
    const resident = context.tax.residentState === 'NY';
    const works = context.tax.workState === 'NY';
    if (given.exempt || !(resident || works)) return [];
    const taxes: TaxResult[] = [];
    const pay = context.base(atPlace('us.local-income.pay', PLACE));
    const periods = Exact.whole(PAY_DATES_PER_YEAR[context.input.pay.frequency]);
    const add = (place: string, label: string, write: (reckoning: Reckoning) => Reckoning) => {
      const code = atPlace('us.local-income', place);
      const figure = write(context.paper.reckon(code, label)).round('half-up', 2, 'Rounded to the cent once, at the end').done();
      taxes.push({ code, label, figure, bases: [{ code: atPlace('us.local-income.wages', place), label: `${label} wages`, figure: pay }] });
    };
    if (resident && given.city === 'nyc')
      add(CITY, 'New York City income tax', (reckoning) =>
        exact(
          reckoning,
          pay,
          { place: CITY, allowances: given.cityAllowances, status: given.status, words: "The city's yearly schedule" },
          context,
          periods,
        ),
      );
    if (resident && given.city === 'yonkers') {
      const rate = tables.value(atPlace('surcharge', YONKERS), context.input.pay.date);
      const state = exact(
        context.paper.reckon(`${atPlace('us.local-income', YONKERS)}:state`, 'State income tax that the surcharge is on'),
        pay,
        { place: PLACE, allowances: given.allowances, status: given.status, words: "New York's yearly schedule" },
        context,
        periods,
      ).done();
      add(YONKERS, 'Yonkers resident surcharge', (reckoning) =>
        reckoning.start(state.label, state).percent(`${rate.value.toDecimal()}%`, rate.value).source(rate.source),
      );
    } else if (works && given.worksInYonkers)
      add(YONKERS, 'Yonkers earnings tax', (reckoning) => yonkersEarnings(reckoning, pay, context, periods));
    return taxes;
  },
  certificate: {
    key: 'newYork',
    schema: certificate,
    fields: [
      {
        key: 'status',
        label: 'filing status (IT-2104)',
        kind: 'choice',
        choices: [
          { value: 'single', label: 'Single or head of household, or married at the higher single rate' },
          { value: 'married', label: 'Married' },
        ],
      },
      { key: 'allowances', label: 'allowances for the state and Yonkers (line 1)', kind: 'count' },
      { key: 'cityAllowances', label: 'allowances for New York City (line 2)', kind: 'count' },
      {
        key: 'city',
        label: 'resident of',
        kind: 'choice',
        choices: [
          { value: 'none', label: 'neither New York City nor Yonkers' },
          { value: 'nyc', label: 'New York City' },
          { value: 'yonkers', label: 'Yonkers' },
        ],
      },
      { key: 'worksInYonkers', label: 'works in Yonkers', kind: 'yes-no' },
      { key: 'extra', label: 'extra withholding per pay date (line 3)', kind: 'amount' },
      { key: 'exempt', label: 'exempt from withholding (IT-2104-E)', kind: 'yes-no' },
    ],
  },
};

/** Half a per cent of pay over an exclusion that falls as pay rises (20 NYCRR 252.1). */
function yonkersEarnings(reckoning: Reckoning, pay: Figure, context: StateContext, periods: Exact): Reckoning {
  const { date } = context.input.pay;
  const rate = tables.value(atPlace('earnings.rate', YONKERS), date);
  const year = pay.amount.times(periods);
  const step = ['4000', '10000', '20000', '30000'].find((most) => !year.isAbove(Exact.of(most)));
  const exclusion =
    step === '4000' ? year : Exact.of(step === '10000' ? '3000' : step === '20000' ? '2000' : step === '30000' ? '1000' : '0');
  return reckoning
    .start('Pay subject to this tax', pay)
    .times(`Over a year, ${periods.toDecimal(0)} pay dates`, periods)
    .less('Exclusion by the size of yearly pay', exclusion)
    .percent(`${rate.value.toDecimal()}%`, rate.value)
    .over('For this pay date', periods)
    .source(rate.source);
}
