import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { CannotCompute, type TaxResult } from '../../country-pack';
import { tables } from '../tables';
import type { Otherwise, State, StateContext } from './state';
import { unemployment } from './unemployment';

const PLACE = 'US-PA';
const LOCAL_PAY = atPlace('us.local-income.pay', PLACE);

/** Compensation under the state's law: deferrals are taxed, the cost of cover and the use of the employer's property are not (61 Pa. Code 101.6). */
const OTHERWISE: Otherwise = {
  deferral: 0,
  'deferral-403b': 0,
  'simple-deferral': 0,
  commuting: 0,
  'company-vehicle': 0,
  'group-term-life': 0,
};

/** Quarterly under 300 a quarter, monthly under 1,000, twice a month under 5,000, else semi-weekly. */
const PA_DEPOSITS = {
  publication: 'Pennsylvania Department of Revenue, REV-415, Employer Withholding Information Guide',
  section: 'Filing frequencies',
  unconfirmed: true,
} as const;

export const pennsylvania: State = {
  code: 'PA',
  name: 'Pennsylvania',
  place: PLACE,
  fips: '42',
  incomeTax: {
    otherwise: OTHERWISE,
    taxedAtHome: ['IN', 'MD', 'NJ', 'OH', 'VA', 'WV'],
    agreement: { publication: '61 Pa. Code 121.12', section: 'Reciprocal agreements' },
    /** A flat rate without allowances (72 P.S. 7302). */
    reckon(reckoning, pay, { input }) {
      const rate = tables.value(atPlace('state-income.rate', PLACE), input.pay.date);
      return reckoning
        .start(pay.label, pay)
        .atLeast('Not below zero', ZERO)
        .percent(`${rate.value.toDecimal()}%`, rate.value)
        .round('half-up')
        .source(rate.source);
    },
  },
  forms: { programmes: ['Forms UC-2 and UC-2A'], income: 'Form PA-W3', year: 'Form REV-1667' },
  commonWageLayout: true,
  unclaimed: {
    years: 2,
    until: { month: 12, day: 31 },
    report: { month: 4, day: 15 },
    source: { publication: '72 P.S. 1301.9', section: 'Wages two years; report by 15 April', unconfirmed: true },
  },
  agencies: { incomeTax: 'Pennsylvania Department of Revenue', programmes: 'Pennsylvania Department of Labor and Industry' },
  deposits: [
    { schedule: 'quarterly', rule: { by: 'quarter', day: 31 }, source: PA_DEPOSITS },
    { schedule: 'monthly', rule: { by: 'month', day: 15, december: 31 }, source: PA_DEPOSITS },
    { schedule: 'twice-a-month', rule: { by: 'half-month', days: 3 }, source: PA_DEPOSITS },
    { schedule: 'semiweekly', rule: 'as-federal', source: PA_DEPOSITS },
  ],
  programmes: [
    {
      // On all pay, without a ceiling.
      code: 'us.unemployment.employee',
      label: 'Pennsylvania unemployment',
      from: 'employee',
      rate: { table: 'unemployment.employee.rate' },
    },
    unemployment('Pennsylvania'),
  ],
  localPay: { code: 'us.local-income.pay', label: 'Local tax wages', otherwise: OTHERWISE },
  local: (context) =>
    context.tax.workState === 'PA' ? [localEarnedIncomeTax(context), localServicesTax(context)].filter((tax) => tax !== undefined) : [],
  localPlaces: ({ localities = {} }) =>
    Object.entries(localities).map(([code, { name }]) => ({ place: `${PLACE}/${code}`, name, payee: `Tax collector of ${name}` })),
  creditors: {
    barred: {
      publication: '42 Pa.C.S. 8127',
      section: 'Wages are free of attachment but for support, rent, taxes, student loans and the like',
    },
  },
};

/** Local earned income tax: the higher of the rate where one lives and the non-resident rate where one works (Act 32 of 2008). */
function localEarnedIncomeTax(context: StateContext): TaxResult | undefined {
  const home = localityOf(context, context.tax.residentState === 'PA' ? context.tax.residentLocality : undefined, 'lives');
  const work = localityOf(context, context.tax.workLocality, 'works');
  if (!home && !work) return undefined;
  const homeRate = Exact.of(home?.residentRate ?? '0');
  const workRate = Exact.of(work?.nonresidentRate ?? '0');
  const rate = homeRate.atLeast(workRate);
  const atWork = !home || homeRate.isBelow(workRate);
  const place = atWork ? work : home;
  const pay = context.base(LOCAL_PAY);
  const at = `${PLACE}/${atWork ? context.tax.workLocality : context.tax.residentLocality}`;
  const code = atPlace('us.local-income', at);
  const label = `Local earned income tax, ${place?.name ?? ''}`;
  const figure = context.paper
    .reckon(code, label)
    .start(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .percent(`${rate.toDecimal()}%, ${place?.name ?? ''}`, rate)
    .round('half-up')
    .note(
      `Rate where one lives ${homeRate.toDecimal()}%, non-resident rate where one works ${workRate.toDecimal()}%: the higher is withheld.`,
    )
    .source({ publication: 'Pennsylvania Act 32 of 2008, 53 Pa.C.S. 6924.512' })
    .done();
  return {
    code,
    label,
    figure,
    bases: [{ code: atPlace('us.local-income.wages', at), label: 'Local wages', figure: pay }],
  };
}

/** Local services tax: the year's amount in equal parts, each rounded down to the cent (Act 7 of 2007). */
function localServicesTax(context: StateContext): TaxResult | undefined {
  const work = localityOf(context, context.tax.workLocality, 'works');
  if (!work || Exact.of(work.servicesTaxPerYear).isZero()) return undefined;
  const code = atPlace('us.local-services', `${PLACE}/${context.tax.workLocality}`);
  const label = `Local services tax, ${work.name}`;
  const reckoning = context.paper.reckon(code, label).source({ publication: 'Pennsylvania Act 7 of 2007, 53 Pa.C.S. 6924.301.1' });
  const year = Exact.of(work.servicesTaxPerYear);
  if (context.tax.servicesTaxExempt) reckoning.start('Exempt: certificate on file', ZERO);
  else if (!context.base(LOCAL_PAY).amount.isAbove(ZERO)) reckoning.start('No pay on this payslip', ZERO);
  else {
    const before = context.yearToDate(code, 'Taken earlier this year');
    reckoning
      .start(`${work.name}, per year`, year)
      .over(
        'Pay dates in the year',
        Exact.whole(Math.max(context.input.pay.payDatesInYear, PAY_DATES_PER_YEAR[context.input.pay.frequency])),
      )
      .round('down')
      .atMost("Remaining the year's amount", year.minus(before.amount).atLeast(ZERO));
  }
  return { code, label, figure: reckoning.done() };
}

function localityOf(context: StateContext, code: string | undefined, how: 'lives' | 'works') {
  if (!code) return undefined;
  const locality = context.employer.localities[code];
  if (!locality) {
    throw new CannotCompute(
      'locality-missing',
      `The locality ${code} where this person ${how} has no rates. Enter them with the employer's facts, or correct the code in the tax details.`,
    );
  }
  return locality;
}
