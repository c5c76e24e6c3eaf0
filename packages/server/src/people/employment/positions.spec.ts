import { timeSettingsSchema } from '@woodruff/contract';
import { changeSetUp, setUpView } from '../../employers/set-up';
import { changePayslip } from '../../pay-runs/sheet/edits';
import { behindRun, reviewOf } from '../../pay-runs/review/review';
import { runView, sheetOf } from '../../pay-runs/sheet/sheet';
import { refusal } from '../../testing/refusal';
import { PERIOD, Workplace } from '../../testing/workplace';
import { importTime } from '../../time/files';
import { timePage } from '../../time/page';
import type { Scope } from '../../scope';
import { addPosition, changePosition, removePosition } from './positions';
import { addRate } from './rates';
import { personPage } from '../service';

describe('Several positions', () => {
  let place: Workplace;
  let scope: Scope;
  const hana = () => place.people.hourly;
  const position = (more: object = {}) => ({
    job: 'Packer',
    department: 'Store',
    worksite: '',
    rate: '2',
    from: '2026-10-01',
    to: null,
    ...more,
  });

  beforeEach(async () => {
    place = await Workplace.make({
      departments: ['Shop', 'Store'],
      time: timeSettingsSchema.parse({ items: { ordinary: 'ordinary', overtime: 'overtime', double: '', halfPremium: '', holiday: '' } }),
      overtimeRules: 'weekly',
    });
    scope = await place.scope();
    await addRate(scope, hana(), { label: 'Store', per: 'hour', amount: '15', from: '2026-01-01', reason: '', primary: false });
  });

  it('stand on the record with their rate, and end on a day', async () => {
    const { id } = await addPosition(scope, hana(), position());
    await changePosition(scope, hana(), id, position({ to: '2026-12-31' }));
    const { positions, changes } = await personPage(scope, hana());
    expect(positions.map((one) => [one.job, one.department, one.rateLabel, one.from, one.to])).toEqual([
      ['Packer', 'Store', 'Store', '2026-10-01', '2026-12-31'],
    ]);
    expect(changes.map((change) => change.what)).toContain('Position changed: Packer, Store from 1 Oct 2026 to 31 Dec 2026');
    await removePosition(scope, hana(), id);
    expect((await personPage(scope, hana())).positions).toEqual([]);
    expect(await refusal(removePosition(scope, hana(), id))).toContain('no such position');
  });

  it('are refused without their rate, department or worksite, and with days the wrong way round', async () => {
    expect(await refusal(addPosition(scope, hana(), position({ rate: '9' })))).toContain('no such rate');
    expect(await refusal(addPosition(scope, hana(), position({ department: 'Loft' })))).toContain('Loft is no department here');
    expect(await refusal(addPosition(scope, hana(), position({ worksite: 'Moon' })))).toContain('Moon is no worksite here');
    expect(await refusal(addPosition(scope, hana(), position({ to: '2026-09-30' })))).toContain('ends before it begins');
    const other = await (await Workplace.make()).scope();
    expect(await refusal(addPosition(other, hana(), position({ department: '', rate: null })))).toContain('no such person');
  });

  it('cost their own department what is paid at their rate; the sum stays that of the run', async () => {
    await addPosition(scope, hana(), position());
    const run = await place.run();
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === hana());
    await changePayslip(scope, run, row?.payslipId ?? '', { version: row?.version ?? 0, edits: { hours: { 'ordinary@2': '10.00' } } });
    const review = await reviewOf(scope, run);
    const cost = (name: string) => review.departments.find((one) => one.department === name)?.cost ?? 0;
    expect(cost('Store')).toBe(15_000);
    expect(review.departments.reduce((sum, one) => sum + one.cost, 0)).toBe((await runView(scope, run)).totals.employerCost);
    expect((await behindRun(scope, run, { code: '', department: 'Store' })).map((one) => [one.name, one.amount])).toEqual([
      ['Hana Hourly', 15_000],
    ]);
  });

  it('are named beside their rate on the time page, and stand for it in a file of time', async () => {
    await addPosition(scope, hana(), position());
    const where = { scheduleId: place.scheduleId, from: PERIOD.from };
    const row = async () => (await timePage(scope, { ...where, person: hana() })).rows[0];
    expect((await row())?.rates).toEqual([{ id: '2', label: 'Store: Packer' }]);
    const content = Buffer.from('code,date,hours,rate\nH1,2026-11-09,8,packer\n').toString('base64');
    await importTime(scope, { ...where, name: 'time.csv', content });
    expect((await row())?.lines[0]?.rate).toBe('2');
  });

  it('follow a renamed department, and keep one from being taken off', async () => {
    await addPosition(scope, hana(), position());
    const view = await setUpView(scope);
    const change = (departments: string[], renamed: Record<string, string>) =>
      changeSetUp(scope, {
        version: view.version,
        name: view.name,
        facts: { ...view.facts, departments },
        renamed: { departments: renamed, worksites: {}, jobs: {} },
      });
    expect(await refusal(change(['Shop'], {}))).toContain('One person is in the department Store');
    await change(['Shop', 'Warehouse'], { Store: 'Warehouse' });
    expect((await personPage(scope, hana())).positions[0]?.department).toBe('Warehouse');
  });
});
