import { packOf } from '../registry';
import { inputOf } from '../../payslip/testing/inputs';
import { computePayslip } from '../../payslip/compute-payslip';

const us = packOf('US');
const ahead = (employer: object, liability = 0, people: { details: object }[] = []) =>
  us.yearAhead({
    payDates: [],
    year: 2027,
    employer: employer as never,
    posted: (_codes, from, to) => (from === '2025-07-01' && to === '2026-06-30' ? liability : 0),
    people: people.map(({ details }, index) => ({ personId: String(index), name: `Person ${index}`, details: details as never })),
  });
const point = (points: ReturnType<typeof ahead>, code: string) => points.find((one) => one.code === code);

describe('The year ahead', () => {
  it('has the deposit schedule by the lookback period: semi-weekly from a cent over 50,000.00', () => {
    expect(point(ahead({}, 5_000_000), 'deposits')).toEqual(jasmine.objectContaining({ done: true }));
    const over = point(ahead({}, 5_000_001), 'deposits');
    expect(over?.done).toBeFalse();
    expect(over?.sentence).toContain('Federal deposits are semi-weekly in 2027, and monthly is registered: 50,000.01');
    expect(point(ahead({ depositor: 'semiweekly' }, 5_000_001), 'deposits')?.done).toBeTrue();
    expect(point(ahead({ depositor: 'semiweekly' }, 0), 'deposits')?.done).toBeFalse();
    expect(point(ahead({ federalReturn: '944' }, 0), 'deposits')).toBeUndefined();
  });

  it('asks for each state’s rate until that of the year is entered', () => {
    const states = {
      PA: { unemploymentRate: '2.1' },
      TX: { unemploymentRate: '2.7', nextUnemploymentRate: '2.5', nextUnemploymentFrom: '2027-01-01' },
    };
    const points = ahead({ states });
    expect([point(points, 'rate-PA')?.done, point(points, 'rate-TX')?.done]).toEqual([false, true]);
  });

  it('names whose exemption from withholding lapses', () => {
    const exempt = (onFileSince: string) => ({ details: { federal: { certificate: '2020', exempt: true, onFileSince } } });
    const found = point(ahead({}, 0, [exempt('2026-01-20'), exempt('2027-01-04'), { details: { federal: { exempt: false } } }]), 'exempt');
    expect(found?.people?.map(({ name }) => name)).toEqual(['Person 0']);
    expect(found?.sentence).toContain('16 Feb 2027');
  });

  it('counts a state’s next rate from its day on', () => {
    const taxOn = (date: string) => {
      const input = inputOf({ pay: '1000.00', date });
      const employer = input.employer as { states: Record<string, object> };
      const state = (input.tax as { workState: string }).workState;
      const registered = {
        ...employer.states[state],
        unemploymentRate: '2',
        nextUnemploymentRate: '3',
        nextUnemploymentFrom: '2026-07-01',
      };
      const { lines } = computePayslip({ ...input, employer: { ...employer, states: { [state]: registered } }, balances: {} });
      return lines.find(({ code }) => code === `us.unemployment@US-${state}`)?.amount;
    };
    expect([taxOn('2026-06-30'), taxOn('2026-07-01')]).toEqual([2_000, 3_000]);
  });
});
