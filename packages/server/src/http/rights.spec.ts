import { randomUUID } from 'node:crypto';
import { endpoints, RIGHTS, type Endpoint, type EndpointName, type Right } from '@woodruff/contract';
import { hash } from '@node-rs/argon2';
import { select } from '../database/connection';
import { testDatabase } from '../testing/database';
import { EVERY_CHANGE } from '../testing/every-change';
import { refusal } from '../testing/refusal';
import { testApp, Visitor, Workplace } from '../testing/workplace';
import { approveRun } from '../pay-runs/posting/approval';
import { changePayslip } from '../pay-runs/sheet/edits';
import { runView, sheetOf } from '../pay-runs/sheet/sheet';

const TABLE = Object.entries(endpoints) as [EndpointName, Endpoint][];
const OF_EMPLOYER = TABLE.filter(([, { path }]) => path.includes(':employer'));

/** Every right × every endpoint × own and foreign ids; an endpoint that needs a right nobody knows has no line here. */
describe('Who may do what', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let other: Workplace;
  const visitors = new Map<Right, Visitor>();
  /** A run of the other employer. */
  let run: string;

  beforeAll(async () => {
    server = await testApp();
    await server.jobs.stop();
    place = await Workplace.make();
    other = await Workplace.make();
    run = await other.run();
    const password = await hash('a good password');
    for (const right of RIGHTS) {
      const email = `${right}-only-${place.employerId}@example.test`;
      await select(
        testDatabase(),
        `with u as (insert into users (email, name, password_hash) values (:email, 'One right', :password) returning id)
         insert into memberships (user_id, employer_id, role, rights) select id, :employer, 'viewer', array[:right]::text[] from u returning user_id`,
        { email, password, employer: place.employerId, right },
      );
      visitors.set(right, await Visitor.signIn(server.app, email));
    }
  }, 60_000);
  afterAll(() => server.stop());

  const call = (visitor: Visitor, { method, path }: Endpoint, employer: string, id: string) => {
    const address = `/api${path.replace(/:(\w+)/g, (_all, part: string) => (part === 'employer' ? employer : part === 'filing' ? '941' : part === 'period' ? '2026-Q3' : id))}`;
    return method === 'get' ? visitor.get(address) : visitor.send(method, address);
  };

  it('knows every right that an endpoint needs', () => {
    const known = new Set<string>(['nobody', 'user', 'own', ...RIGHTS]);
    for (const [name, { needs }] of TABLE) expect(known.has(needs)).withContext(name).toBeTrue();
  });

  for (const right of RIGHTS)
    it(`${right} opens what needs it, and nothing else`, async () => {
      const visitor = visitors.get(right);
      if (!visitor) return;
      for (const [name, endpoint] of OF_EMPLOYER) {
        const status = (await call(visitor, endpoint, place.employerId, randomUUID())).status;
        if (endpoint.needs === right || endpoint.needs === 'read') expect(status).withContext(name).not.toBe(403);
        else expect(status).withContext(name).toBe(403);
        // Another employer's address does not exist, whatever right one has here.
        expect((await call(visitor, endpoint, other.employerId, randomUUID())).status)
          .withContext(`${name}, foreign`)
          .toBe(404);
      }
      expect((await visitor.get(`/api/employers/${other.employerId}/pay-runs/${run}/events`)).status).toBe(404);
      expect((await visitor.get(`pay-runs/${run}/events`)).status).toBe(404);
    }, 60_000);

  it('another employer’s ids under one’s own address are ids of nothing', async () => {
    const administrator = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
    for (const [name, sent] of EVERY_CHANGE) {
      const endpoint: Endpoint = endpoints[name];
      const foreign = await Promise.resolve(sent(other)).catch(() => undefined);
      // A filing is named by its form and period, a step by its year, which every employer has; tables are the installation's.
      if (!foreign?.path || foreign.as || 'filing' in foreign.path || 'year' in foreign.path || name === 'decideTables') continue;
      const path = foreign.path;
      const address = `/api${endpoint.path.replace(/:(\w+)/g, (_all, part: string) => (part === 'employer' ? place.employerId : (path[part] ?? '')))}`;
      const response = await administrator.send(endpoint.method as 'post', address, foreign.body ?? {}, foreign.headers ?? {});
      expect([404, 409, 422])
        .withContext(`${name}: ${response.status} ${response.text.slice(0, 200)}`)
        .toContain(response.status);
    }
  }, 60_000);

  it('an event stream is no employee’s', async () => {
    const email = `own-${place.employerId}@example.test`;
    await select(
      testDatabase(),
      `with u as (insert into users (email, name, password_hash) values (:email, 'Hana', :password) returning id)
       insert into memberships (user_id, employer_id, role, person_id) select id, :employer, 'employee', :person from u returning user_id`,
      { email, password: await hash('a good password'), employer: place.employerId, person: place.people.hourly },
    );
    const employee = await Visitor.signIn(server.app, email);
    await employee.get(`pay-runs/${await place.run()}/events`).expect(403);
  });
});

describe('A second person', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  beforeAll(async () => {
    server = await testApp();
  }, 60_000);
  afterAll(() => server.stop());

  it('approves nothing that they edited themselves, however long before', async () => {
    const place = await Workplace.make({ secondPersonApproves: true });
    const run = await place.run();
    const [clerk, administrator] = [await place.scope('clerk'), await place.scope('administrator')];
    const { rows } = await sheetOf(clerk, run);
    const edit = async (scope: typeof clerk, at: number, edits: object) => {
      const row = (await sheetOf(scope, run)).rows[at];
      await changePayslip(scope, run, row?.payslipId ?? '', { version: row?.version ?? 0, edits });
    };
    expect(rows.length).toBe(3);
    await edit(administrator, 0, { oneOffs: [{ id: 'x', item: 'bonus', amount: '50000.00' }] });
    await edit(clerk, 1, { note: 'A note' });
    const version = (await runView(clerk, run)).version;
    expect(await refusal(approveRun(administrator, run, version, 'k1'))).toContain('You edited something in this run');
    expect((await sheetOf(administrator, run)).mayApprove).toBeFalse();
    expect((await sheetOf(await place.scope('approver'), run)).mayApprove).toBeTrue();
  });

  it('confirms a change of bank details, a reversal and the like; until then nothing is changed', async () => {
    const place = await Workplace.make({ secondPersonFor: ['bank', 'reversals'] });
    const clerk = await Visitor.signIn(server.app, place.emails['clerk'] ?? '');
    const approver = await Visitor.signIn(server.app, place.emails['approver'] ?? '');
    const administrator = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
    const path = `people/${place.people.hourly}/payment`;
    const deposit = { method: 'deposit', bank: '031000503', account: '123456789' };
    await clerk.send('put', path, { ...deposit, bank: '031000504' }).expect(422);
    const held = await clerk.send('put', path, deposit).expect(202);
    const { held: id } = held.body as { held: string };
    const [waits] = (await administrator.get('held').expect(200)).body as { entries: string[] }[];
    expect(waits?.entries).toEqual(['Paid by deposit: the remainder to the account ending 6789; until now paid by check']);
    const methodOf = async () =>
      ((await clerk.get(`people/${place.people.hourly}`)).body as { payment: { method: string } | null }).payment?.method;
    expect(await methodOf()).not.toBe('deposit');
    const [kept] = await select<{ sealed: string }>(
      testDatabase(),
      `select encode(sealed, 'escape') as sealed from held_changes where id = :id`,
      { id },
    );
    expect(kept?.sealed).not.toContain('123456789');
    await clerk.send('post', `held/${id}/confirmation`).expect(403);
    // Who confirms has the right that the change itself needs.
    await approver.send('post', `held/${id}/confirmation`).expect(403);
    const both = await Promise.all([1, 2, 3].map(() => administrator.send('post', `held/${id}/confirmation`)));
    expect(both.map((answer) => answer.status).sort()).toEqual([200, 404, 404]);
    expect(await methodOf()).toBe('deposit');

    const run = await place.run();
    await place.approve(run);
    const { rows } = await sheetOf(await place.scope(), run);
    const asked = await clerk.send('post', `payslips/${rows[0]?.payslipId}/reversal`, { reason: 'Paid twice', replace: false }).expect(202);
    const listed = (await approver.get('held').expect(200)).body as { what: string; entries: string[]; own: boolean }[];
    expect(listed.map((one) => one.own)).toEqual([false]);
    expect(listed[0]?.entries.join()).toMatch(/Reversed.*Paid twice/);
    expect(listed[0]?.what).toContain('Reverse a posted payslip');
    await approver.send('post', `held/${(asked.body as { held: string }).held}/confirmation`).expect(200);
    const [reversed] = await select<{ state: string }>(testDatabase(), 'select state from payslips where id = :id', {
      id: rows[0]?.payslipId,
    });
    expect(reversed?.state).toBe('reversed');
    const again = await clerk.send('post', `payslips/${rows[1]?.payslipId}/reversal`, { reason: 'Paid twice', replace: false }).expect(202);
    await approver.send('delete', `held/${(again.body as { held: string }).held}`, { reason: 'It was right' }).expect(200);
    await approver.send('post', `held/${(again.body as { held: string }).held}/confirmation`).expect(404);
  }, 60_000);

  it('confirms new accounts that come in a file of people; a file without them is taken at once', async () => {
    const place = await Workplace.make({ secondPersonFor: ['bank'] });
    const clerk = await Visitor.signIn(server.app, place.emails['clerk'] ?? '');
    const administrator = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
    const file = (text: string) => ({ name: 'people.csv', content: Buffer.from(text).toString('base64') });
    await clerk
      .send('put', `people/${place.people.hourly}/payment`, { method: 'deposit', bank: '031000503', account: '123456789' })
      .expect(202);
    await clerk.send('post', 'people/import', file('Code,Given names,Family name,Job\nH1,Hana,Hourly,Cutter\n')).expect(200);
    const accounts = file('Code,Given names,Family name,Routing number,Account number\nH1,Hana,Hourly,031000503,99990000\n');
    const held = await clerk.send('post', 'people/import', accounts).expect(202);
    const accountOf = async () =>
      (
        (await clerk.get(`people/${place.people.hourly}`)).body as { payment: { accounts?: { shown: string }[] } | null }
      ).payment?.accounts?.[0]?.shown.slice(-4);
    expect(await accountOf()).toBeUndefined();
    const waiting = (await administrator.get('held').expect(200)).body as { id: string; entries: string[] }[];
    expect(waiting[1]?.entries[0]).toBe('Paid to the account ending 0000; until now by check, from people.csv, row 2');
    await administrator.send('post', `held/${(held.body as { held: string }).held}/confirmation`).expect(200);
    expect(await accountOf()).toBe('0000');
  }, 60_000);
});
