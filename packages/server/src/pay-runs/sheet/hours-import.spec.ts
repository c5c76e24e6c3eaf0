import { Workplace } from '../../testing/workplace';
import { calculateRun } from '../../calculation/calculation';
import { importHours } from './hours-import';
import { Payslip } from '../../calculation/models';
import { runView } from './sheet';

describe('Hours from a CSV file', () => {
  it('are taken as a whole; a broken row is told with row, column and remedy, and nothing is entered', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const run = await place.run();
    const error = await importHours(scope, run, 'code,item,hours\nH1,overtime,4.00\nH9,ordinary,8\nX1,ordinary,eight\n').catch(
      (found: unknown) => found as { message: string; more: { fields: unknown[] } },
    );
    expect((error as { message: string }).message).toContain('Nothing was entered: 2 cells are wrong');
    expect((error as { more: { fields: unknown[] } }).more.fields).toEqual([
      { path: 'row 3, code “H9”', expected: 'the code of somebody in this run' },
      { path: 'row 4, hours “eight”', expected: 'hours in figures, such as 7.50' },
    ]);
    expect((await Payslip.findOne({ where: { runId: run, personId: place.people.hourly } }))?.edits).toEqual({});
    expect(await importHours(scope, run, '\ufeffCode,Item,Hours\nH1,overtime,4.00\nX1,ordinary,40\n')).toBe(2);
    await calculateRun(scope, run);
    expect((await runView(scope, run)).totals.gross).toBe(450_000 + 15_000 + 64_000);
  }, 60_000);
});
