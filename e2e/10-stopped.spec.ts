import { expect, test } from '@playwright/test';
import { OwnCluster } from './own-cluster';
import { OwnServer } from './own-server';

test.describe.configure({ mode: 'serial' });

let cluster: OwnCluster;
let server: OwnServer;
let run = '';
interface Row {
  payslipId: string;
  name: string;
  version: number;
  hourly: boolean;
  included: boolean;
}
const rows = async () => (await server.get<{ rows: Row[] }>(`pay-runs/${run}`)).rows;
const linesOfRun = () => server.sql(`select count(*) from ledger_lines where run_id = '${run}'`);
/** Balances that are not the sums of the ledger, over all people and years. */
const outOfStep = () =>
  server.sql(
    `select count(*) from balances b full join (select person_id, tax_year, code, sum(amount) as amount from ledger_lines group by 1, 2, 3) l
       on l.person_id = b.person_id and l.tax_year = b.tax_year and l.code = b.code where b.amount is distinct from l.amount`,
  );

test.beforeAll(async () => {
  cluster = new OwnCluster('stopped');
  server = await OwnServer.withDemo('woodruff_stopped', 8492, cluster.url);
  await server.signIn();
});
test.afterAll(async () => {
  await server.stop();
  cluster.remove();
});

test('stopped during a calculation: nothing is half done, and it goes on after the start', async () => {
  const { proposals } = await server.get<{
    proposals: { scheduleId: string; from: string; to: string; payDate: string; people: number }[];
  }>('today');
  const { scheduleId, from, to, payDate } = proposals[0]!;
  const started = await server.send('POST', 'pay-runs', { scheduleId, from, to, payDate });
  run = (started.body as { id: string }).id;
  await server.kill();
  expect(['0', '22']).toContain(server.sql(`select count(*) from payslip_results where run_id = '${run}'`));
  await server.start();
  await expect
    .poll(
      () =>
        server.sql(`select state || ' ' || (select count(*) from payslip_results where run_id = r.id) from pay_runs r where id = '${run}'`),
      { timeout: 60_000 },
    )
    .toBe('open 22');
  expect(linesOfRun()).toBe('0');
});

test('PostgreSQL stopped while many edit: what was answered is saved, what was not is whole or absent', async () => {
  await server.signIn();
  const people = (await rows()).filter((row) => row.hourly && row.included);
  const edits = people.map((row, index) =>
    server
      .send('PATCH', `pay-runs/${run}/payslips/${row.payslipId}`, {
        version: row.version,
        edits: { hours: { overtime: `${index + 1}.00` } },
      })
      .then((answer) => ({ id: row.payslipId, hours: `${index + 1}.00`, status: answer.status })),
  );
  // Some are through, some under way, some wait.
  await Promise.race(edits);
  cluster.stop();
  const answered = await Promise.all(edits);
  expect(answered.some((answer) => answer.status !== 200)).toBe(true);
  cluster.start();
  await server.isWell();
  for (const { id, hours, status } of answered) {
    const saved = server.sql(`select edits->'hours'->>'overtime' from payslips where id = '${id}'`);
    if (status === 200) expect(saved).toBe(hours);
    // Whatever was saved, the figures beside it were calculated from it.
    const paid = server.sql(
      `select coalesce((select l->>'quantity' from payslip_results x, jsonb_array_elements(x.lines) l where x.payslip_id = '${id}' and l->>'code' = 'overtime'), '')`,
    );
    expect(paid).toBe(saved);
  }
});

test('stopped while it is approved: posted whole or not at all, and once', async () => {
  await server.signIn();
  await server.send('POST', `pay-runs/${run}/calculate`, {});
  interface Point {
    key: string;
    weight: string;
    accepted: object | null;
  }
  await expect.poll(() => server.sql(`select state from pay_runs where id = '${run}'`), { timeout: 30_000 }).toBe('open');
  const sheet = await server.get<{ points: Point[] }>(`pay-runs/${run}`);
  for (const point of sheet.points.filter((one) => one.weight === 'look' && !one.accepted))
    await server.send('POST', `pay-runs/${run}/points`, { keys: [point.key], reason: 'looked at' });
  await server.signIn('approver');
  const { version } = (await server.get<{ run: { version: number } }>(`pay-runs/${run}`)).run;
  const approve = () => server.send('POST', `pay-runs/${run}/approve`, { version }, { 'idempotency-key': 'the-same-key' });
  const first = approve();
  await new Promise((resolve) => setTimeout(resolve, 60));
  await server.kill();
  await first;
  const state = server.sql(`select state from pay_runs where id = '${run}'`);
  expect(linesOfRun() === '0').toBe(state === 'open');
  await server.start();
  await server.signIn('approver');
  expect((await approve()).status).toBe(200);
  const lines = linesOfRun();
  expect(Number(lines)).toBeGreaterThan(200);
  // Asked again with the same key: the same answer, and nothing more is posted.
  expect((await approve()).status).toBe(200);
  expect(linesOfRun()).toBe(lines);
  expect(outOfStep()).toBe('0');
  expect(server.sql(`select count(*) from net_payments where run_id = '${run}'`)).toBe(
    server.sql(
      `select count(*) from payslips y join payslip_results x on x.payslip_id = y.id where y.run_id = '${run}' and y.included and x.net > 0`,
    ),
  );
});

test('stopped while payslips are sent: the rest goes after the start, and nobody gets two', async () => {
  await server.signIn();
  const sending = server.send('POST', `pay-runs/${run}/delivery`, { reports: [] });
  await new Promise((resolve) => setTimeout(resolve, 40));
  await server.kill();
  await sending;
  await server.start();
  await server.signIn();
  await server.send('POST', `pay-runs/${run}/delivery`, { reports: [] });
  const inboxes = server.sql(
    `select count(*) from payslips y join people p on p.id = y.person_id where y.run_id = '${run}' and y.state = 'posted' and coalesce(p.email, '') <> ''`,
  );
  await expect
    .poll(() => server.sql(`select count(*) || ' ' || count(delivered_at) from outbox where run_id = '${run}'`), { timeout: 30_000 })
    .toBe(`${inboxes} ${inboxes}`);
  await server.send('POST', `pay-runs/${run}/delivery`, { reports: [] });
  expect(server.sql(`select count(*) from outbox where run_id = '${run}'`)).toBe(inboxes);
});
