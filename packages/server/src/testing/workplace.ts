import { randomBytes } from 'node:crypto';
import { pino, type Logger } from 'pino';
import pg from 'pg';
import supertest from 'supertest';
import { employerFactsSchema, payItemSchema, personFactsSchema, rateSchema, type Role, type Session } from '@woodruff/contract';
import type { PayItem } from '@woodruff/core';
import { addEmployer } from '../employers/service';
import { readEnvironment } from '../environment';
import { createApp } from '../http/app';
import { Jobs } from '../jobs/jobs';
import { addPayItem } from '../pay-items/service';
import { approveRun } from '../pay-runs/posting/approval';
import { calculateRun, openRun } from '../calculation/calculation';
import { acceptPoint } from '../pay-runs/sheet/edits';
import { openPoints } from '../pay-runs/sheet/points';
import { runView } from '../pay-runs/sheet/sheet';
import { startRun } from '../pay-runs/making/start';
import { addRate } from '../people/employment/rates';
import { addPersonItem } from '../people/employment/recurring-items';
import { addPerson } from '../people/service';
import { addTaxDetails } from '../people/tax/tax-details';
import type { EmployerFacts, Scope } from '../scope';
import { addUser, scopeOf } from '../users/service';
import { testDatabase, testDatabaseUrl } from './database';

const PASSWORD = 'a good password';

export const EMPLOYER_FACTS: EmployerFacts = employerFactsSchema.parse({
  country: {
    federalNumber: '00-1234567',
    states: { PA: { unemploymentRate: '2.1' } },
    localities: { '990101': { name: 'Corbel Falls', residentRate: '1.0', nonresidentRate: '1.0', servicesTaxPerYear: '52' } },
  },
  departments: ['Shop'],
  worksites: [{ name: 'Corbel Falls', state: 'PA', city: '', postcode: '' }],
  address: { line1: '1 Test Lane', city: 'Corbel Falls', state: 'PA', postcode: '17999' },
  signatory: { name: 'A. Signatory', title: 'Owner' },
  secondPersonApproves: false,
});

const item = (code: string, kind: PayItem['kind'], treatment: string, more: Partial<PayItem> = {}) =>
  payItemSchema.parse({ code, name: more.name ?? code, kind, treatment, method: { by: 'amount' }, order: 100, ...more });

export const PENNSYLVANIA = {
  federal: { certificate: '2020', status: 'single' },
  residentState: 'PA',
  workState: 'PA',
  residentLocality: '990101',
  workLocality: '990101',
};
export const PERIOD = { from: '2026-11-08', to: '2026-11-21', payDate: '2026-11-27' };

/** A small employer with four people, four users and its own pay items; every test makes its own. */
export class Workplace {
  readonly people: Record<'hourly' | 'salaried' | 'seasonal' | 'unfinished', string> = {
    hourly: '',
    salaried: '',
    seasonal: '',
    unfinished: '',
  };
  readonly items: Record<string, string> = {};
  readonly emails: Record<string, string> = {};
  private readonly users: Record<string, string> = {};
  employerId = '';
  scheduleId = '';

  static async make(facts: Partial<EmployerFacts> = {}): Promise<Workplace> {
    const place = new Workplace();
    const made = await addEmployer(testDatabase(), {
      name: `Test works ${randomBytes(3).toString('hex')}`,
      country: 'US',
      today: '2026-11-23',
      demo: true,
      facts: { ...EMPLOYER_FACTS, ...facts },
      schedules: [{ name: 'Fortnightly', frequency: 'fortnightly', anchor: '2025-12-21', payDateOffset: 6, move: 'previous' }],
    });
    place.employerId = made.id;
    place.scheduleId = made.schedules['Fortnightly'] ?? '';
    for (const role of ['clerk', 'approver', 'viewer', 'administrator'] as const) {
      place.emails[role] = `${role}-${made.id}@example.test`;
      place.users[role] = await addUser(place.emails[role] ?? '', `The ${role}`, PASSWORD, { [made.id]: role });
    }
    const scope = await place.scope();
    for (const entry of [
      item('salary', 'earning', 'wages', { method: { by: 'salary' }, order: 10 }),
      item('ordinary', 'earning', 'wages', { method: { by: 'hours', multiple: '1' }, order: 20 }),
      item('overtime', 'earning', 'wages', { method: { by: 'hours', multiple: '1.5' }, order: 21 }),
      item('bonus', 'earning', 'supplemental'),
      item('health', 'deduction', 'health-premium'),
      item('loan', 'deduction', 'after-tax', { name: 'Loan', order: 300, shortfall: 'take-part' }),
      item('van', 'benefit-in-kind', 'company-vehicle'),
    ]) {
      place.items[entry.code] = (await addPayItem(scope, entry)).id;
    }
    const rate = (per: 'hour' | 'year', amount: string) => rateSchema.parse({ label: 'Pay', per, amount, from: '2026-01-01' });
    place.people.hourly = await place.person(scope, 'H1', 'Hana Hourly', { rate: rate('hour', '25.00'), standardHours: '80.00' });
    place.people.salaried = await place.person(scope, 'S1', 'Sol Salaried', { rate: rate('year', '65000') });
    place.people.seasonal = await place.person(scope, 'X1', 'Xeno Seasonal', { rate: rate('hour', '16.00') });
    place.people.unfinished = await place.person(scope, 'U1', 'Una Unfinished', {});
    await addPersonItem(scope, place.people.hourly, { itemId: place.items['health'] ?? '', amount: '50.00', from: '2026-01-01' });
    return place;
  }

  scope(role: Role = 'clerk'): Promise<Scope> {
    return scopeOf(testDatabase(), this.users[role] ?? '', this.employerId);
  }

  /** A run of the period with everybody ready in it, calculated. */
  async run(period = PERIOD): Promise<string> {
    const scope = await this.scope();
    const { id } = await startRun(scope, { scheduleId: this.scheduleId, ...period });
    await calculateRun(scope, id);
    return id;
  }

  /** Accepts what can be accepted. */
  async acceptPoints(run: string): Promise<void> {
    await acceptAll(await this.scope(), run);
  }

  /** Accepts what can be accepted, and approves the run. */
  async approve(run: string): Promise<void> {
    await approveAll(await this.scope(), run);
  }

  private async person(
    scope: Scope,
    code: string,
    name: string,
    more: { rate?: ReturnType<typeof rateSchema.parse>; standardHours?: string },
  ): Promise<string> {
    const [givenName = '', familyName = ''] = name.split(' ');
    const { id } = await addPerson(
      scope,
      personFactsSchema.parse({
        code,
        givenName,
        familyName,
        hired: '2026-01-01',
        scheduleId: this.scheduleId,
        standardHours: more.standardHours ?? null,
      }),
    );
    if (!more.rate) return id;
    await addRate(scope, id, more.rate);
    await addTaxDetails(scope, id, { from: '2026-01-01', facts: PENNSYLVANIA });
    return id;
  }
}

/** Accepts what can be accepted of a run. */
export async function acceptAll(scope: Scope, run: string): Promise<void> {
  for (const point of await openPoints(scope, await openRun(scope, run)))
    if (point.weight === 'look' && !point.accepted) await acceptPoint(scope, run, point.key, 'looked at');
}

/** Accepts what can be accepted of a run, and approves it. */
export async function approveAll(scope: Scope, run: string): Promise<void> {
  await acceptAll(scope, run);
  await approveRun(scope, run, (await runView(scope, run)).version, `key-${run}`);
}

/** A browser of one user: keeps the cookie and sends the token. */
export class Visitor {
  private constructor(
    private readonly agent: ReturnType<typeof supertest.agent>,
    readonly session: Session,
  ) {}

  static async signIn(app: Parameters<typeof supertest>[0], email: string, password = PASSWORD): Promise<Visitor> {
    const agent = supertest.agent(app);
    const response = await agent.post('/api/session').send({ email, password }).expect(200);
    return new Visitor(agent, response.body as Session);
  }

  get(path: string) {
    return this.agent.get(this.url(path));
  }

  send(method: 'post' | 'put' | 'patch' | 'delete', path: string, body: object = {}, headers: Record<string, string> = {}) {
    return this.agent[method](this.url(path))
      .set({ 'x-csrf-token': this.session.csrfToken, ...headers })
      .send(body);
  }

  /** A body as it is, in a media type of one's own. */
  raw(method: 'post', path: string, type: string, body: string | Buffer) {
    return this.agent[method](this.url(path)).set({ 'x-csrf-token': this.session.csrfToken, 'content-type': type }).send(body);
  }

  withoutToken(path: string, body: object) {
    return this.agent.post(this.url(path)).send(body);
  }

  private url(path: string): string {
    return path.startsWith('/api') ? path : `/api/employers/${this.session.employers[0]?.id}/${path}`;
  }
}

/** The whole application over the test database, with its job queue. */
export async function testApp(more: Record<string, string> = {}, logger: Logger = pino({ level: process.env['TEST_LOG'] ?? 'silent' })) {
  const environment = readEnvironment({
    NODE_ENV: 'test',
    DATABASE_URL: testDatabaseUrl(),
    WOODRUFF_KEY: randomBytes(32).toString('hex'),
    SESSION_SECRET: randomBytes(32).toString('hex'),
    TRUST_PROXY: '1',
    ATTEMPTS_FACTOR: '1',
    ...more,
  });
  const pool = new pg.Pool({ connectionString: testDatabaseUrl(), max: 3 });
  const jobs = await Jobs.start(testDatabaseUrl(), testDatabase(), logger);
  const app = createApp({ environment, database: testDatabase(), pool, jobs, logger });
  return {
    app,
    jobs,
    async stop() {
      await jobs.stop();
      await pool.end();
    },
  };
}
