import type { Frequency } from '../../calendar/schedules';
import { PAY_DATES_PER_YEAR } from '../../calendar/schedules';
import { addDays } from '../../calendar/dates';
import type { ItemOnPayslip, PayItem } from '../../pay-items/pay-item';
import { PAYSLIP_INPUT_FORMAT, type Balances, type OneOff, type PayFacts, type PayslipInput } from '../input';

/** What an example or a test says of a payslip; the rest is filled in as for an ordinary one. */
export interface Sketch {
  country?: string;
  date?: string;
  frequency?: Frequency;
  born?: string;
  left?: string;
  ending?: NonNullable<PayslipInput['person']['ending']>;
  /** Pay of the period, as a salary. */
  pay?: string;
  bonus?: string;
  deferral?: string;
  health?: string;
  vehicle?: string;
  tax?: Record<string, unknown>;
  employer?: Record<string, unknown>;
  /** Year to date in minor units. */
  yearToDate?: Record<string, number>;
  items?: ItemOnPayslip[];
  oneOffs?: OneOff[];
  /** Hours on one rate, by item. */
  hours?: { rate: string; by: Record<string, string> };
  place?: PayFacts['place'];
  payDatesInTaxYear?: number;
  special?: boolean;
  workplaces?: PayslipInput['workplaces'];
  taxMethod?: PayFacts['taxMethod'];
  earlierPay?: PayslipInput['earlierPay'];
  /** Posted before, in minor units, where more than the year's sum matters. */
  before?: Balances;
}

export const anItem = (code: string, kind: PayItem['kind'], treatment: string, more: Partial<PayItem> = {}): PayItem => ({
  code,
  name: more.name ?? code,
  kind,
  treatment,
  method: { by: 'amount' },
  order: 100,
  ...more,
});

export const SINGLE = { certificate: '2020', status: 'single' };
export const TEXAS = { federal: SINGLE, residentState: 'TX', workState: 'TX' };
export const EMPLOYER = {
  federalNumber: '98-7654321',
  states: {
    PA: { unemploymentRate: '3.822' },
    VA: { unemploymentRate: '2.5' },
    TX: { unemploymentRate: '2.7' },
    IL: { unemploymentRate: '3.0' },
  },
  localities: {
    '990101': { name: 'Corbel Falls', residentRate: '1.0', nonresidentRate: '1.0', servicesTaxPerYear: '52' },
    '990102': { name: 'Upper Corbel', residentRate: '1.25', nonresidentRate: '1.0', servicesTaxPerYear: '10' },
  },
};

const TAX_OF: Readonly<Record<string, Record<string, unknown>>> = {
  US: TEXAS,
  GB: { taxCode: '1257L', category: 'A' },
  AU: { state: 'TAS' },
};

export function inputOf(sketch: Sketch): PayslipInput {
  const country = sketch.country ?? 'US';
  const date = sketch.date ?? '2026-11-27';
  const frequency = sketch.frequency ?? 'fortnightly';
  const pay = country === 'US' ? 'wages' : 'pay';
  const items: ItemOnPayslip[] = [{ item: anItem('salary', 'earning', pay, { method: { by: 'salary' } }) }];
  if (sketch.deferral) items.push({ item: anItem('deferral', 'deduction', 'deferral', { order: 10 }), amount: sketch.deferral });
  if (sketch.health) items.push({ item: anItem('health', 'deduction', 'health-premium', { order: 5 }), amount: sketch.health });
  if (sketch.vehicle) items.push({ item: anItem('vehicle', 'benefit-in-kind', 'company-vehicle'), amount: sketch.vehicle });
  const oneOffs: OneOff[] = sketch.bonus ? [{ id: 'bonus', item: anItem('bonus', 'earning', 'supplemental'), amount: sketch.bonus }] : [];
  return {
    format: PAYSLIP_INPUT_FORMAT,
    country,
    pay: {
      date,
      from: addDays(date, -19),
      to: addDays(date, -6),
      frequency,
      payDatesInYear: PAY_DATES_PER_YEAR[frequency],
      ...(sketch.place ? { place: sketch.place } : {}),
      ...(sketch.payDatesInTaxYear ? { payDatesInTaxYear: sketch.payDatesInTaxYear } : {}),
      ...(sketch.special ? { special: true } : {}),
      ...(sketch.taxMethod ? { taxMethod: sketch.taxMethod } : {}),
    },
    ...(sketch.workplaces ? { workplaces: sketch.workplaces } : {}),
    ...(sketch.earlierPay ? { earlierPay: sketch.earlierPay } : {}),
    person: {
      name: 'Ines Halloway',
      ...(sketch.born === undefined ? {} : { born: sketch.born }),
      ...(sketch.left === undefined ? {} : { left: sketch.left }),
      ...(sketch.ending === undefined ? {} : { ending: sketch.ending }),
    },
    employer: sketch.employer ?? (country === 'US' ? EMPLOYER : {}),
    tax: sketch.tax ?? TAX_OF[country] ?? {},
    rates: [
      { id: 'main', label: 'Salary', per: 'period', amount: sketch.pay ?? '0', primary: true },
      ...(sketch.hours ? [{ id: 'hourly', label: 'Hourly', per: 'hour' as const, amount: sketch.hours.rate }] : []),
    ],
    hourItems: Object.keys(sketch.hours?.by ?? {}).map((code) => anItem(code, 'earning', pay, { method: { by: 'hours', multiple: '1' } })),
    hours: Object.entries(sketch.hours?.by ?? {}).map(([item, hours]) => ({ rate: 'hourly', item, hours })),
    items: [...items, ...(sketch.items ?? [])],
    oneOffs: [...oneOffs, ...(sketch.oneOffs ?? [])],
    leftOut: [],
    overrides: [],
    balances: {
      ...Object.fromEntries(Object.entries(sketch.yearToDate ?? {}).map(([code, year]) => [code, { year, inAll: year }])),
      ...sketch.before,
    },
  };
}
