import fc from 'fast-check';
import { decimalOf } from '../../money/amounts';
import { anItem, SINGLE, type Sketch } from './inputs';

export const PENNSYLVANIA = { federal: SINGLE, residentState: 'PA', workState: 'PA', residentLocality: '990101', workLocality: '990101' };
export const VIRGINIA = {
  federal: { certificate: '2020', status: 'married-jointly', dependents: '4400' },
  residentState: 'VA',
  workState: 'VA',
  virginia: { exemptions: 3 },
};

const amount = (max: number) => fc.integer({ min: 0, max }).map(decimalOf);
/** Payslips of every sort, for what holds of all of them. */
export const sketches: fc.Arbitrary<Sketch> = fc.record({
  pay: amount(2_000_000),
  bonus: amount(500_000),
  deferral: amount(100_000),
  health: amount(30_000),
  vehicle: amount(20_000),
  frequency: fc.constantFrom('weekly' as const, 'fortnightly' as const, 'twice-a-month' as const, 'monthly' as const),
  tax: fc.constantFrom(PENNSYLVANIA, VIRGINIA, { ...PENNSYLVANIA, residentState: 'VA' }),
  yearToDate: fc.record({
    'us.oasdi.pay': fc.integer({ min: 0, max: 30_000_000 }),
    'us.medicare.wages': fc.integer({ min: 0, max: 30_000_000 }),
    'us.elective-deferrals': fc.integer({ min: 0, max: 2_450_000 }),
  }),
  items: fc.constant([
    { item: anItem('dues', 'deduction', 'union-dues'), amount: '21.50' },
    { item: anItem('support', 'deduction', 'child-support', { order: 200, shortfall: 'take-part' }), amount: '350.00' },
    {
      item: anItem('match', 'employer-contribution', 'employer-plan', {
        method: {
          by: 'match',
          of: 'deferral',
          tiers: [
            { upTo: '3', match: '100' },
            { upTo: '5', match: '50' },
          ],
        },
      }),
    },
  ]),
  oneOffs: fc.constant([{ id: 'travel', item: anItem('travel', 'reimbursement', 'expenses'), amount: '84.20' }]),
});
