import { openingImportSchema } from '@woodruff/contract';
import { balancesOutOfStep } from '../../ledger/posting';
import { select } from '../../database/connection';
import { refusal } from '../../testing/refusal';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { checkOpenings, importOpenings } from './openings';

const HEAD = 'Code,Paid until,ordinary,salary,health,Federal income tax,Social security,Medicare,Pennsylvania income tax';
/** Gross 26,000.00, premiums 300.00: 6.2% and 1.45% of 25,700.00; and a salary of 16,250.00. */
const ROWS = [
  'H1,2026-03-31,26000.00,,300.00,2610.00,1593.40,372.65,788.99',
  'H1,6/30/2026,26000.00,,300.00,2610.00,1593.40,372.65,788.99',
  'S1,2026-03-31,,16250.00,,1500.00,1007.50,235.63,498.88',
];

describe('A file of opening balances', () => {
  let place: Workplace;
  let scope: Scope;
  const file = (rows: string[], more: object = {}) =>
    openingImportSchema.parse({ name: 'earlier.csv', content: Buffer.from([HEAD, ...rows].join('\n')).toString('base64'), ...more });
  const posted = async (code: string) =>
    (
      await select<{ amount: number }>(
        scope.database,
        'select coalesce(sum(amount), 0)::bigint as amount from ledger_lines where employer_id = :id and code = :code',
        { id: place.employerId, code },
      )
    )[0]?.amount;

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
  });

  it('is looked at without a trace, taken whole, and changes nothing a second time', async () => {
    const check = await checkOpenings(scope, file(ROWS));
    expect([check.problemCount, check.added, check.unchanged]).toEqual([0, 3, 0]);
    expect(await posted('us.fit')).toBe(0);
    expect(await importOpenings(scope, file(ROWS))).toEqual({ added: 3, changed: 0, unchanged: 0 });
    expect(await posted('us.fit')).toBe(672_000);
    expect(await posted('us.oasdi.wages')).toBe(2 * 2_570_000 + 1_625_000);
    expect(await importOpenings(scope, file(ROWS))).toEqual({ added: 0, changed: 0, unchanged: 3 });
    expect(await posted('us.fit')).toBe(672_000);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('with another amount reverses the earlier entry and posts the new one', async () => {
    await importOpenings(scope, file(ROWS));
    const changed = ROWS.map((row) => row.replace('2610.00', '2600.00'));
    expect(await importOpenings(scope, file(changed))).toEqual({ added: 0, changed: 2, unchanged: 1 });
    expect(await posted('us.fit')).toBe(670_000);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('lists every cell that is not taken with row, column, value and remedy, and takes nothing', async () => {
    const rows = [...ROWS, 'Z9,2026-03-31,1.00', 'H1,soon,1.00', 'S1,2026-03-31,,1 000x', 'U1,2026-03-31,100.00'];
    const check = await checkOpenings(scope, file(rows));
    expect(check.problems.map(({ row, column, value }) => [row, column, value])).toEqual([
      [5, 'Code', 'Z9'],
      [6, 'Paid until', 'soon'],
      [7, 'salary', '1 000x'],
      [7, 'Paid until', '2026-03-31'],
    ]);
    expect(await refusal(importOpenings(scope, file(rows)))).toContain('4 cells were not taken');
    const later = await checkOpenings(scope, file(['U1,2026-03-31,100.00']));
    expect(later.problems[0]?.remedy).toContain('no tax details in force on 31 Mar 2026');
    expect(await posted('us.fit')).toBe(0);
  });

  it('that does not tie out is refused until it is accepted as the earlier system paid it', async () => {
    const rows = [ROWS[0]!.replace('1593.40', '1500.00')];
    expect((await checkOpenings(scope, file(rows))).problems[0]?.remedy).toContain('1593.40');
    expect(await refusal(importOpenings(scope, file(rows)))).toContain('nothing was imported');
    expect((await importOpenings(scope, file(rows, { acceptDifferences: true }))).added).toBe(1);
    expect(await posted('us.oasdi')).toBe(150_000);
  });
});
