import type { State } from './state';
import { unemployment } from './unemployment';

/** Paid leave: one premium, shared by employee and employer, up to the ceiling of social security. */
const paidLeave = (from: 'employee' | 'employer') => ({
  code: from === 'employee' ? 'us.family-leave' : 'us.family-leave.employer',
  label: from === 'employee' ? 'Washington paid leave' : "Washington paid leave, employer's share",
  from,
  rate: { table: 'family-leave.rate' },
  share: { table: `family-leave.share.${from}` },
  ceiling: { table: 'family-leave.ceiling', pay: 'us.family-leave.pay', label: 'Washington paid-leave wages' },
});

/** No income tax. */
export const washington: State = {
  code: 'WA',
  name: 'Washington',
  place: 'US-WA',
  fips: '53',
  // Debts that are no consumer debts are marked as excepted: the federal limit is theirs.
  creditors: {
    percentOfDisposable: 20,
    timesMinimumWage: 35,
    source: {
      publication: 'Revised Code of Washington 6.27.150(4)',
      section: 'Consumer debt: 80 per cent, or 35 times the minimum wage, stays free',
    },
  },
  forms: { programmes: ['Forms 5208 A and B'] },
  unclaimed: {
    years: 1,
    until: { month: 6, day: 30 },
    report: { month: 11, day: 1 },
    source: { publication: 'RCW 63.30', section: 'Wages one year; report by 1 November', unconfirmed: true },
  },
  agencies: { programmes: 'Washington Employment Security Department' },
  programmes: [
    paidLeave('employee'),
    { code: 'us.long-term-care', label: 'Washington long-term care', from: 'employee', rate: { table: 'long-term-care.rate' } },
    {
      code: 'us.industrial-insurance',
      payee: 'Washington Department of Labor and Industries',
      label: 'Washington industrial insurance',
      from: 'employee',
      rate: { assigned: 'hourlyEmployee', label: 'Hourly rate of industrial insurance' },
      perHour: true,
    },
    unemployment('Washington'),
    paidLeave('employer'),
    {
      code: 'us.industrial-insurance.employer',
      payee: 'Washington Department of Labor and Industries',
      label: "Washington industrial insurance, employer's share",
      from: 'employer',
      rate: { assigned: 'hourlyEmployer', label: 'Hourly rate of industrial insurance' },
      perHour: true,
    },
  ],
  registration: [
    {
      key: 'hourlyEmployer',
      label: 'Industrial insurance an hour, employer',
      help: 'Washington: the rate of the main class of work',
      kind: 'percent',
    },
    {
      key: 'hourlyEmployee',
      label: 'Industrial insurance an hour, withheld',
      help: 'Washington: the part that employees bear',
      kind: 'percent',
    },
  ],
};
