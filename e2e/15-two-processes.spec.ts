import { expect, test } from '@playwright/test';
import { TwoServers } from './two-servers';

test.describe.configure({ mode: 'serial' });

let servers: TwoServers;
let run = '';
interface Row {
  payslipId: string;
  name: string;
  version: number;
  hourly: boolean;
  included: boolean;
}
const through = () => servers.first;
const rows = async () => (await through().get<{ rows: Row[] }>(`pay-runs/${run}`)).rows;
const stateOf = () =>
  through().sql(`select state || ' ' || (select count(*) from payslip_results where run_id = r.id) from pay_runs r where id = '${run}'`);

test.beforeAll(async () => {
  servers = await TwoServers.start('woodruff_two', 8493);
  await through().signIn();
});
test.afterAll(() => servers.stop());

test('a session opens both processes, and what one is asked the other knows', async () => {
  const answers = await Promise.all(Array.from({ length: 12 }, () => through().get<{ user: { email: string } }>('../../session')));
  expect(answers.every((answer) => answer.user.email === 'clerk@quillmere.example')).toBe(true);
});

test('one is killed while it calculates: the other takes it over, and nothing is done twice', async () => {
  const { proposals } = await through().get<{
    proposals: { scheduleId: string; from: string; to: string; payDate: string; people: number }[];
  }>('today');
  const { scheduleId, from, to, payDate, people } = proposals[0]!;
  const started = await through().send('POST', 'pay-runs', { scheduleId, from, to, payDate });
  expect(started.status).toBe(200);
  run = (started.body as { id: string }).id;
  await servers.second.kill();
  await expect.poll(stateOf, { timeout: 60_000 }).toBe(`open ${people}`);
  await servers.second.start();
  expect(
    through().sql(
      `select count(*) from (select person_id from payslips where run_id = '${run}' group by person_id having count(*) > 1) twice`,
    ),
  ).toBe('0');
});

test('entries, progress, approval and delivery go through whichever process answers', async () => {
  const hourly = (await rows()).filter((row) => row.hourly && row.included);
  const edits = await Promise.all(
    hourly.map((row, index) =>
      through().send('PATCH', `pay-runs/${run}/payslips/${row.payslipId}`, { version: row.version, edits: { note: `Note ${index}` } }),
    ),
  );
  expect(edits.map((edit) => edit.status)).toEqual(hourly.map(() => 200));
  await through().send('POST', `pay-runs/${run}/calculate`, {});
  const events = await through().text(`pay-runs/${run}/events`);
  expect(events).toContain('"state":"done"');

  const points = (await through().get<{ points: { key: string; weight: string; accepted: unknown }[] }>(`pay-runs/${run}`)).points;
  const keys = points.filter((point) => point.weight === 'look' && !point.accepted).map((point) => point.key);
  if (keys.length) expect((await through().send('POST', `pay-runs/${run}/points`, { keys, reason: 'Looked at it' })).status).toBe(200);
  const { version } = await through().get<{ version: number }>(`pay-runs/${run}/totals`);
  const key = { 'idempotency-key': `approve-${run}` };
  const approvals = await Promise.all([1, 2, 3, 4].map(() => through().send('POST', `pay-runs/${run}/approve`, { version }, key)));
  expect(approvals.map((one) => one.status)).toEqual([200, 200, 200, 200]);
  expect(through().sql(`select count(*) from payslips where run_id = '${run}' and state = 'posted'`)).toBe(
    through().sql(`select count(distinct payslip_id) from ledger_lines where run_id = '${run}'`),
  );
  expect(
    through().sql(
      `select count(*) from (select payslip_id from net_payments where run_id = '${run}' and stopped is null group by 1 having count(*) > 1) twice`,
    ),
  ).toBe('0');

  await Promise.all([1, 2].map(() => through().send('POST', `pay-runs/${run}/delivery`, {})));
  await expect
    .poll(() => through().sql(`select count(*) from outbox where run_id = '${run}' and delivered_at is null`), { timeout: 30_000 })
    .toBe('0');
  expect(
    through().sql(`select count(*) from (select payslip_id from outbox where run_id = '${run}' group by 1 having count(*) > 1) twice`),
  ).toBe('0');
});

test('a change that was to come counts once, whichever process looks first', async () => {
  const person = through().sql(`select id from people where code = (select min(code) from people)`);
  through().sql(
    `insert into dated_changes (person_id, from_date, facts, reason, user_id) select '${person}', e.business_date, '{"job": "Gaffer"}', 'Promoted', (select user_id from memberships where employer_id = e.id limit 1) from people p join employers e on e.id = p.employer_id where p.id = '${person}'`,
  );
  await Promise.all([servers.second.stop(), through().stop()]);
  await Promise.all([servers.second.start(), through().start()]);
  await expect.poll(() => through().sql(`select job from people where id = '${person}'`), { timeout: 30_000 }).toBe('Gaffer');
  expect(through().sql(`select count(*) from audit_entries where subject_id = '${person}' and what like 'Counts from%'`)).toBe('1');
});
