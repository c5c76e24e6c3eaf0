import type { Effect } from '@woodruff/contract';
import { part } from '../../testing/part';
import { EffectOnRuns } from './effect';

const person = (name: string, before: number, after: number, more: object = {}) => ({
  name,
  before,
  after,
  cost: 0,
  stop: null,
  look: [],
  ...more,
});
const effect = (more: object): Effect => ({ people: [], unchanged: 0, runs: [], ...more });

describe('What a change would do to the open runs', () => {
  it('is told person by person, with net before and after', async () => {
    const { text } = await part(EffectOnRuns, {
      effect: effect({ people: [person('Ines Halloway', 200_000, 195_000, { cost: 1_250 })], unchanged: 21 }),
    });
    expect(text).toContain('In the open runs this changes 1 payslip; 21 stay as they are.');
    expect(text).toMatch(/Ines Halloway 2,000\.00 1,950\.00 −50\.00 \+12\.50/);
  });

  it('names who could not be paid any more, and why', async () => {
    const { text } = await part(EffectOnRuns, {
      effect: effect({ people: [person('Ines Halloway', 200_000, 0, { stop: 'There is no rate in force.' })] }),
    });
    expect(text).toContain('1 could not be paid any more.');
    expect(text).toContain('There is no rate in force.');
  });

  it('names what would have to be looked at, though no amount changes', async () => {
    const look = ['80.00 hours are paid 1,000.00, which is less than the minimum wage of 19.50 an hour.'];
    const { text } = await part(EffectOnRuns, { effect: effect({ people: [person('Ines Halloway', 200_000, 200_000, { look })] }) });
    expect(text).toContain('In the open runs this changes 1 payslip. 1 would have to be looked at.');
    expect(text).toContain('less than the minimum wage of 19.50');
  });

  it('says that nothing changes, or that no run is open', async () => {
    const one = await part(EffectOnRuns, { effect: effect({ unchanged: 22 }) });
    expect(one.text).toContain('No payslip in the open runs changes.');
    one.fixture.componentRef.setInput('effect', effect({}));
    await one.settle();
    expect(one.text).toContain('No run is open: it counts from the next run on.');
  });

  it('folds a long list, and opens it', async () => {
    const people = Array.from({ length: 34 }, (_none, index) => person(`Person ${index}`, 100, 200));
    const one = await part(EffectOnRuns, { effect: effect({ people }) });
    const rows = () => one.element.querySelectorAll('tr').length - 1;
    expect(rows()).toBe(12);
    await one.press('Show all 34');
    expect(rows()).toBe(34);
  });

  it('tells of runs too large to be calculated beforehand', async () => {
    const { text } = await part(EffectOnRuns, { effect: effect({ runs: [{ runId: 'r', label: '2026-11-27', people: 5000 }] }) });
    expect(text).toContain('Run paid Fri 27 Nov 2026: 5,000 payslips, to be recalculated');
  });
});
