import { part } from '../../testing/part';
import { RunAgain } from './run-again';

const person = (name: string, before: number, after: number) => ({ name, before, after, cost: 0, stop: null, look: [] });
const told = (changed: number, unchanged: number, people = [person('Halloway, Ines', 180_000, 182_500)]) => ({
  at: '2026-11-23T10:00:00Z',
  changed,
  unchanged,
  people,
});

describe('A run recalculated', () => {
  it('tells whose payslip is other than before, and by how much', async () => {
    const shown = await part(RunAgain, { told: told(1, 21) });
    expect(shown.text).toContain('Worked out again: one payslip is other than before, 21 as they were.');
    expect(shown.text).toMatch(/Halloway, Ines 1,800\.00 1,825\.00 \+25\.00/);
  });

  it('says so when nothing is other than before', async () => {
    const shown = await part(RunAgain, { told: told(0, 22, []) });
    expect(shown.text).toContain('no payslip is other than before');
    expect(shown.element.querySelector('table')).toBeNull();
  });

  it('says that only the largest differences are listed, when there are more', async () => {
    const shown = await part(RunAgain, {
      told: told(
        9_000,
        1_000,
        Array.from({ length: 500 }, (_none, index) => person(`P${index}`, 0, 1)),
      ),
    });
    expect(shown.text).toContain('Worked out again: 9,000 payslips are other than before, 1,000 as they were.');
    expect(shown.text).toContain('The 500 largest differences are listed, of 9,000.');
    expect(shown.element.querySelectorAll('tr').length).toBe(13);
  });

  it('is closed by the clerk', async () => {
    const shown = await part(RunAgain, { told: told(1, 21) });
    const closed = shown.given(shown.fixture.componentInstance.closed);
    await shown.press('Close');
    expect(closed.length).toBe(1);
  });
});
