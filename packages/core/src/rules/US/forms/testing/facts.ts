import type { Filing, FilingFacts, PersonSums } from '../../../../filings/filing';
import { computePayslip } from '../../../../payslip/compute-payslip';
import { inputOf } from '../../../../payslip/testing/inputs';
import { packOf } from '../../../registry';

export const EMPLOYER = {
  federalNumber: '00-1234567',
  states: { PA: { unemploymentRate: '2.1' }, CA: { unemploymentRate: '3.4' } },
  localities: { '990101': { name: 'Corbel Falls', residentRate: '1.0', nonresidentRate: '1.0', servicesTaxPerYear: '52' } },
};

/** Facts without anything in them. */
export const NOTHING: Omit<FilingFacts, 'period' | 'days'> = {
  people: [],
  headcounts: [],
  gross: 0,
  earlier: { days: [], deposits: [] },
  byPlace: {},
  reckoned: {},
  employer: EMPLOYER,
  paid: 0,
  entered: {},
  items: [],
  filed: {},
};

export const SOMEBODY: PersonSums = {
  personId: 'one',
  name: 'Halloway, Ines',
  givenName: 'Ines',
  familyName: 'Halloway',
  number: '123456789',
  shared: false,
  address: true,
  sums: {},
  details: {},
  marked: {},
};

export const filing = (code: string): Filing =>
  packOf('US')
    .filings(EMPLOYER)
    .find((one) => one.code === code)!;

/** What payslips of the same pay post, added up. */
export function sumsOf(pay: string, count: number): Record<string, number> {
  const sums: Record<string, number> = {};
  for (let index = 0; index < count; index++) {
    for (const line of computePayslip(inputOf({ pay })).lines) sums[line.code] = (sums[line.code] ?? 0) + line.amount;
  }
  return sums;
}
