import { calculateRun, openRun } from '../../calculation/calculation';
import { select } from '../../database/connection';
import { britishWorks } from '../../testing/british-works';
import { testDatabase } from '../../testing/database';
import { refusal } from '../../testing/refusal';
import { approveAll } from '../../testing/workplace';
import { deductionSheets } from '../deliver/deduction-sheet';
import { changePayslip } from './edits';
import { openPoints } from './points';

const WEEK = (from: string, to: string, payDate: string) => ({ from, to, payDate });

describe('Pay of weeks ahead', () => {
  const payslipIn = (run: string, person: string) =>
    select<{ id: string; version: number }>(
      testDatabase(),
      'select id, version from payslips where run_id = :run and person_id = :person',
      {
        run,
        person,
      },
    ).then(([one]) => one!);

  it('is taxed by the last of them, and the runs of those weeks ask about who was paid', async () => {
    const works = await britishWorks({ weekly: true });
    const [rhian] = works.people;
    const first = await works.run(WEEK('2026-11-02', '2026-11-08', '2026-11-13'));
    const { id, version } = await payslipIn(first, rhian);
    await changePayslip(await works.scope(), first, id, { version, edits: { ahead: 2 } });
    const [{ taxable }] = (await select<{ taxable: string }>(
      testDatabase(),
      `select input->'pay'->>'ahead' as taxable from payslip_results where payslip_id = :id`,
      { id },
    )) as [{ taxable: string }];
    expect(taxable).toBe('2');
    await approveAll(await works.scope(), first);
    const asked = async (from: string, to: string, payDate: string) => {
      const run = await works.run(WEEK(from, to, payDate));
      const scope = await works.scope();
      const points = (await openPoints(scope, await openRun(scope, run))).filter(({ key }) => key.startsWith('paid-ahead:'));
      await approveAll(await works.scope(), run);
      return points.map(({ who, sentence }) => [who, sentence.slice(0, 60)]);
    };
    const said = [['Rhian Carrow', 'Paid for this period before, with the pay of 13 Nov 2026. Le']];
    expect(await asked('2026-11-09', '2026-11-15', '2026-11-20')).toEqual(said);
    expect(await asked('2026-11-16', '2026-11-22', '2026-11-27')).toEqual(said);
    expect(await asked('2026-11-23', '2026-11-29', '2026-12-04')).toEqual([]);
  });

  it('cannot be had by the month, which the payslip says', async () => {
    const works = await britishWorks();
    const run = await works.run();
    const { id, version } = await payslipIn(run, works.people[0]);
    await changePayslip(await works.scope(), run, id, { version, edits: { ahead: 1 } });
    const scope = await works.scope();
    const stops = (await openPoints(scope, await openRun(scope, run))).filter(({ weight }) => weight === 'stop');
    expect(stops.map(({ sentence }) => sentence)).toEqual([jasmine.stringContaining('Only pay by the week')]);
    await calculateRun(scope, run);
  });
});

describe('The record of deductions', () => {
  it('is a sheet for each person with anything posted in the tax year', async () => {
    const works = await britishWorks();
    expect(await refusal(deductionSheets(await works.scope(), {}))).not.toBe('not refused');
    await approveAll(await works.scope(), await works.run());
    const [all, one] = [
      await deductionSheets(await works.scope(), {}),
      await deductionSheets(await works.scope(), { person: works.people[0] }),
    ];
    expect(all.subarray(0, 5).toString()).toBe('%PDF-');
    expect(one.length).toBeLessThan(all.length);
  });
});
