import { pino } from 'pino';
import supertest from 'supertest';
import { generateSync } from 'otplib';
import { execute, select } from '../database/connection';
import { Authenticator } from '../testing/authenticator';
import { linkTo } from '../testing/link';
import { testDatabase } from '../testing/database';
import { testApp, Visitor, Workplace } from '../testing/workplace';
import { refuseWeak } from './passwords';

const NEW = 'marble teapot lantern fog';
const OLD = 'a good password';

describe('Passwords and sessions', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let email: string;
  beforeAll(async () => {
    server = await testApp();
  }, 60_000);
  afterAll(() => server.stop());
  beforeEach(async () => {
    place = await Workplace.make();
    email = place.emails['clerk'] ?? '';
    // All specs come from one address; each has its own failures.
    await execute(testDatabase(), 'delete from sign_in_attempts');
  });

  const enter = (body: object, from = '203.0.113.7', cookie = '') =>
    supertest(server.app).post('/api/session').set({ 'x-forwarded-for': from, cookie }).send(body);

  it('are by policy: long enough, and not easily guessed', () => {
    for (const weak of ['short', 'password123', 'aaaaaaaaaaaa', 'qwertyuiop12', 'Hana Hourly 1'])
      expect(() => refuseWeak(weak, ['Hana Hourly', 'hana@example.test']))
        .withContext(weak)
        .toThrow();
    expect(() => refuseWeak(NEW, [])).not.toThrow();
  });

  it('are changed by who knows the old one; every other session ends', async () => {
    const [here, there] = [await Visitor.signIn(server.app, email), await Visitor.signIn(server.app, email)];
    await here.send('put', '/api/session/password', { current: 'wrong', password: NEW }).expect(422);
    await here.send('put', '/api/session/password', { current: OLD, password: 'password123' }).expect(422);
    expect(((await here.get('/api/session/all').expect(200)).body as unknown[]).length).toBe(2);
    await here.send('put', '/api/session/password', { current: OLD, password: NEW }).expect(200);
    await here.get('people').expect(200);
    await there.get('people').expect(401);
    await enter({ email, password: OLD }).expect(401);
    await enter({ email, password: NEW }).expect(200);
  });

  it('are reset by a link that is used once; of two letters only the later one counts, and an unknown address is answered alike', async () => {
    const ask = (to: string) => supertest(server.app).post('/api/password-resets').send({ email: to }).expect(200);
    const unknown = await ask('nobody@example.test');
    expect((await ask(email)).body).toEqual(unknown.body);
    const first = await linkTo(email);
    await ask(email);
    const second = await linkTo(email);
    const use = (token: string, password = NEW) => supertest(server.app).post('/api/links/use').send({ token, password });
    await use(first).expect(410);
    const visitor = await Visitor.signIn(server.app, email);
    await use(second, 'password123').expect(422);
    await use(second).expect(200);
    await use(second).expect(410);
    await visitor.get('people').expect(401);
    await Visitor.signIn(server.app, email, NEW);
    await ask(email);
    await execute(testDatabase(), `update user_links set expires_at = now() - interval '1 second' where used_at is null`);
    await use(await linkTo(email)).expect(410);
  });

  it('are not guessed: sixty wrong ones from sixty addresses at once are stopped', async () => {
    const answers = await Promise.all(
      Array.from({ length: 60 }, (_none, index) => enter({ email, password: `guess ${index}` }, `198.51.100.${index}`)),
    );
    const statuses = answers.map((answer) => answer.status);
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(20);
    expect(statuses.filter((status) => status === 429).length).toBeGreaterThanOrEqual(40);
  });

  it('a thousand wrong ones for somebody else’s account do not lock them out', async () => {
    const signedIn = await enter({ email, password: OLD }, '203.0.113.20').expect(200);
    const device = /woodruff_device=[^;]+/.exec(String(signedIn.headers['set-cookie']))?.[0] ?? '';
    for (let turn = 0; turn < 1000; turn += 100)
      await Promise.all(
        Array.from({ length: 100 }, (_none, index) => enter({ email, password: 'guess' }, `10.0.${turn / 100}.${index % 50}`)),
      );
    await enter({ email, password: OLD }, '10.0.0.1').expect(429);
    // From their own browser, wherever it is; and from an address they have used, with any browser.
    await enter({ email, password: OLD }, '192.0.2.99', device).expect(200);
    await enter({ email, password: OLD }, '203.0.113.20').expect(200);
  }, 120_000);

  it('right ones do not count as attempts', async () => {
    for (let turn = 0; turn < 30; turn++) await enter({ email, password: OLD }, '203.0.113.30').expect(200);
  });

  it('sessions end when their time is over, at will, and with an event stream', async () => {
    const visitor = await Visitor.signIn(server.app, email);
    const other = await Visitor.signIn(server.app, email);
    await visitor.send('delete', '/api/session/others').expect(200);
    await other.get('people').expect(401);
    const run = await place.run();
    await execute(
      testDatabase(),
      `insert into run_progress (run_id, state, beat) values (:run, 'running', now() + interval '1 hour') on conflict (run_id) do update set state = 'running', beat = now() + interval '1 hour'`,
      { run },
    );
    const stream = visitor.get(`pay-runs/${run}/events`).then((response) => response.text);
    await new Promise((resolve) => setTimeout(resolve, 400));
    await execute(
      testDatabase(),
      `update user_sessions set sess = jsonb_set(sess::jsonb, '{signedInAt}', '1')::json where sess->>'userId' = :id`,
      { id: visitor.session.user.id },
    );
    await visitor.get('people').expect(401);
    await execute(testDatabase(), `delete from user_sessions where sess->>'userId' = :id`, { id: visitor.session.user.id });
    expect(await stream).not.toContain('"state":"done"');
  }, 30_000);
});

describe('A second factor', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let visitor: Visitor;
  let email: string;
  let secret: string;
  let codes: string[];
  beforeAll(async () => {
    server = await testApp();
    place = await Workplace.make({ secondFactor: true });
    email = place.emails['clerk'] ?? '';
    visitor = await Visitor.signIn(server.app, email);
  }, 60_000);
  afterAll(() => server.stop());
  const code = (offset = 0) => generateSync({ secret, epoch: Math.floor(Date.now() / 1000) + offset });
  const enter = (body: object) => supertest(server.app).post('/api/session').send(body);

  it('is wanted of who may approve or see numbers, where the employer says so', async () => {
    const refused = await visitor.send('put', `people/${place.people.hourly}/payment`, { method: 'cheque' }).expect(403);
    expect((refused.body as { code: string }).code).toBe('second-factor-needed');
    await visitor.get('people').expect(200);
  });

  it('is set up with the password and a code, and gives recovery codes once', async () => {
    await visitor.send('post', '/api/session/second-factor', { password: 'wrong' }).expect(422);
    const begun = await visitor.send('post', '/api/session/second-factor', { password: OLD }).expect(200);
    secret = (begun.body as { secret: string }).secret;
    await visitor.send('put', '/api/session/second-factor', { code: '000000' }).expect(422);
    codes = ((await visitor.send('put', '/api/session/second-factor', { code: code() }).expect(200)).body as { recoveryCodes: string[] })
      .recoveryCodes;
    expect(new Set(codes).size).toBe(8);
    await visitor.send('put', `people/${place.people.hourly}/payment`, { method: 'cheque' }).expect(200);
    const [stored] = await select<{ kept: string }>(
      testDatabase(),
      `select encode(totp_sealed, 'escape') || recovery_hashes::text as kept from users where email = :email`,
      { email },
    );
    for (const secretText of [secret, ...codes]) expect(stored?.kept).not.toContain(secretText);
  });

  it('is asked for at every sign-in; a code opens once', async () => {
    const asked = await enter({ email, password: OLD }).expect(401);
    expect((asked.body as { code: string }).code).toBe('second-factor');
    await enter({ email, password: OLD, code: '123456' }).expect(401);
    const next = code(30);
    await enter({ email, password: OLD, code: next }).expect(200);
    await enter({ email, password: OLD, code: next }).expect(401);
  });

  it('is not guessed by who knows the password, however the attempts are put', async () => {
    const from = (body: object) => supertest(server.app).post('/api/session').set('x-forwarded-for', '198.51.100.77').send(body);
    const statuses: number[] = [];
    for (let turn = 0; turn < 12; turn++) {
      await from({ email, password: OLD });
      statuses.push((await from({ email, password: OLD, code: '000000' })).status);
    }
    expect(statuses.filter((status) => status === 401).length).toBe(8);
    expect(statuses.slice(8)).toEqual([429, 429, 429, 429]);
  });

  it('lost, a recovery code opens once, and an administrator removes it', async () => {
    await enter({ email, password: OLD, code: codes[0] }).expect(200);
    await enter({ email, password: OLD, code: codes[0] }).expect(401);
    const administrator = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
    await administrator.send('delete', `members/${visitor.session.user.id}/second-factor`).expect(200);
    await enter({ email, password: OLD }).expect(200);
  });
});

describe('A passkey', () => {
  const ORIGIN = 'http://payroll.example.test';
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let clerk: Visitor;
  let email: string;
  const key = new Authenticator(ORIGIN, 'payroll.example.test');
  let recovery: string[];
  const enter = (body: object) => supertest(server.app).post('/api/session').set('host', 'payroll.example.test').send(body);
  const asked = async (of: string): Promise<Record<string, unknown>> =>
    ((await enter({ email: of, password: OLD }).expect(401)).body as { passkey: Record<string, unknown> }).passkey;
  const add = async (visitor: Visitor, authenticator: Authenticator) => {
    const { options } = (
      await visitor.send('post', '/api/session/passkeys/options', { password: OLD }).set('host', 'payroll.example.test').expect(200)
    ).body as { options: Record<string, unknown> };
    return visitor
      .send('post', '/api/session/passkeys', { label: 'Blue key', response: authenticator.made(options) })
      .set('host', 'payroll.example.test');
  };
  beforeAll(async () => {
    server = await testApp();
    place = await Workplace.make();
    await execute(testDatabase(), 'delete from sign_in_attempts');
    email = place.emails['clerk'] ?? '';
    clerk = await Visitor.signIn(server.app, email);
  }, 60_000);
  afterAll(() => server.stop());

  it('is kept with the password only, once, and gives recovery codes', async () => {
    await clerk.send('post', '/api/session/passkeys/options', { password: 'wrong' }).expect(422);
    recovery = ((await add(clerk, key)).body as { recoveryCodes: string[] }).recoveryCodes;
    expect(recovery.length).toBe(8);
    const elsewhere = new Authenticator('http://elsewhere.example.test', 'elsewhere.example.test');
    expect((await add(clerk, elsewhere)).status).toBe(422);
    const kept = (await clerk.get('/api/session/passkeys').expect(200)).body as { label: string }[];
    expect(kept.map(({ label }) => label)).toEqual(['Blue key']);
  });

  it('is asked for at every sign-in, and each of its answers opens once', async () => {
    const answer = key.answer(await asked(email));
    await enter({ email, password: 'wrong', passkey: answer }).expect(401);
    await enter({ email, password: OLD, passkey: answer }).expect(200);
    const again = await enter({ email, password: OLD, passkey: answer }).expect(401);
    expect((again.body as { code: string }).code).toBe('wrong-passkey');
    await enter({ email, password: OLD, code: recovery[0] }).expect(200);
  });

  it('opens for nobody else, not from another address, and not once it was copied', async () => {
    const administrator = place.emails['administrator'] ?? '';
    const theirs = new Authenticator(ORIGIN, 'payroll.example.test');
    await add(await Visitor.signIn(server.app, administrator), theirs);
    await enter({ email, password: OLD, passkey: theirs.answer(await asked(email)) }).expect(401);
    await enter({ email, password: OLD, passkey: key.answer(await asked(administrator)) }).expect(401);
    const answer = key.answer(await asked(email));
    await supertest(server.app)
      .post('/api/session')
      .set('host', 'elsewhere.example.test')
      .send({ email, password: OLD, passkey: answer })
      .expect(401);
    key.counter = 0;
    await enter({ email, password: OLD, passkey: key.answer(await asked(email)) }).expect(401);
    key.counter = 100;
    await enter({ email, password: OLD, passkey: key.answer(await asked(email)) }).expect(200);
  });

  it('is removed with the password; the last factor takes the recovery codes with it', async () => {
    const [kept] = (await clerk.get('/api/session/passkeys').expect(200)).body as { id: string }[];
    await clerk.send('delete', `/api/session/passkeys/${kept?.id}`, { password: 'wrong' }).expect(422);
    await clerk.send('delete', `/api/session/passkeys/${kept?.id}`, { password: OLD }).expect(200);
    await clerk.send('delete', `/api/session/passkeys/${kept?.id}`, { password: OLD }).expect(404);
    await enter({ email, password: OLD }).expect(200);
    expect((await clerk.get('/api/session').expect(200)).body).toEqual(jasmine.objectContaining({ secondFactor: false }));
  });
});

describe('What is told', () => {
  it('signing in, exports and revealing are in the trail; logs hold no cookie, password, hash, number, name or amount at any level', async () => {
    const lines: string[] = [];
    const logger = pino({ level: 'trace' }, { write: (line: string) => lines.push(line) });
    const server = await testApp({}, logger);
    try {
      const place = await Workplace.make();
      const clerk = await Visitor.signIn(server.app, place.emails['clerk'] ?? '');
      await clerk.send('put', `people/${place.people.hourly}/national-number`, { nationalNumber: '123-45-6789' }).expect(200);
      await clerk.send('post', `people/${place.people.hourly}/reveal`, { what: 'national-number' }).expect(200);
      await clerk
        .send('post', `people/${place.people.hourly}/rates`, { label: 'Pay', per: 'hour', amount: '77.31', from: '2026-12-01' })
        .expect(200);
      await clerk.get('people/export.csv').expect(200);
      await execute(testDatabase(), `alter table person_notes add constraint broken check (text <> 'Secretly wrong') not valid`);
      await clerk.send('post', `people/${place.people.hourly}/notes`, { date: '2026-11-20', text: 'Secretly wrong' });
      await execute(testDatabase(), 'alter table person_notes drop constraint broken');
      await execute(testDatabase(), 'alter table person_notes rename to person_notes_away');
      await clerk.send('post', `people/${place.people.hourly}/notes`, { date: '2026-11-20', text: 'Secretly lost' }).expect(500);
      await execute(testDatabase(), 'alter table person_notes_away rename to person_notes');
      const audit = await clerk.get('audit').expect(200);
      const actions = (audit.body as { action: string }[]).map((entry) => entry.action);
      for (const action of ['sign-in', 'reveal', 'export']) expect(actions).toContain(action);
      const [user] = await select<{ hash: string }>(testDatabase(), 'select password_hash as hash from users where email = :email', {
        email: place.emails['clerk'],
      });
      const log = lines.join('');
      expect(lines.length).toBeGreaterThan(5);
      for (const secret of [
        'a good password',
        '123-45-6789',
        '123456789',
        '77.31',
        'Hourly',
        'Secretly',
        user?.hash ?? 'no hash',
        'woodruff=s',
        clerk.session.csrfToken,
      ])
        expect(log.includes(secret)).withContext(secret).toBeFalse();
    } finally {
      await server.stop();
    }
  }, 60_000);
});
