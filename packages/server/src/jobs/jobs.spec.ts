import { pino } from 'pino';
import { execute, select } from '../database/connection';
import { calculateRun } from '../calculation/calculation';
import { runView } from '../pay-runs/sheet/sheet';
import { startRun } from '../pay-runs/making/start';
import { testDatabase, testDatabaseUrl } from '../testing/database';
import { PERIOD, testApp, Visitor, Workplace } from '../testing/workplace';
import { Jobs } from './jobs';

describe('Calculating as a job', () => {
  it('reports progress to the end over HTTP', async () => {
    const server = await testApp();
    const place = await Workplace.make();
    const visitor = await Visitor.signIn(server.app, place.emails['clerk']!);
    const { body } = await visitor.send('post', 'pay-runs', { scheduleId: place.scheduleId, ...PERIOD }).expect(200);
    const runId = (body as { id: string }).id;
    const events = await visitor.get(`pay-runs/${runId}/events`).expect(200);
    expect(events.text).toContain('"state":"done"');
    const sheet = await visitor.get(`pay-runs/${runId}`).expect(200);
    expect(sheet.body.run.state).toBe('open');
    const payslip = sheet.body.rows[0];
    const letters = await visitor
      .send('patch', `pay-runs/${runId}/payslips/${payslip.payslipId}`, { version: 1, edits: { hours: { ordinary: 'abc' } } })
      .expect(422);
    expect(letters.body.fields[0]).toEqual({ path: 'edits.hours.ordinary', expected: 'hours such as 7.50, in figures' });
    await server.stop();
  }, 60_000);

  it('a calculation cut off leaves nothing half done, and is taken up again at the next start', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const { id } = await startRun(scope, { scheduleId: place.scheduleId, ...PERIOD });
    await execute(testDatabase(), `insert into run_progress (run_id, state, beat) values (:id, 'running', now() - interval '1 minute')`, {
      id,
    });
    expect((await select(testDatabase(), 'select 1 as one from payslip_results where run_id = :id', { id })).length).toBe(0);
    const jobs = await Jobs.start(testDatabaseUrl(), testDatabase(), pino({ level: 'silent' }));
    for (let turn = 0; turn < 300 && (await runView(scope, id)).state !== 'open'; turn++)
      await new Promise((resolve) => setTimeout(resolve, 100));
    await jobs.stop();
    expect((await runView(scope, id)).totals.gross).toBe(450_000);
  }, 60_000);

  it('saves all results or none', async () => {
    const place = await Workplace.make();
    const scope = await place.scope();
    const run = await place.run();
    const before = await runView(scope, run);
    await execute(testDatabase(), `alter table payslip_results add constraint break_it check (run_id <> '${run}' or gross < 0) not valid`);
    await expectAsync(calculateRun(scope, run)).toBeRejected();
    await execute(testDatabase(), 'alter table payslip_results drop constraint break_it');
    expect(await runView(scope, run)).toEqual(before);
  }, 60_000);
});
