import { randomUUID } from 'node:crypto';
import supertest from 'supertest';
import { endpoints, type Endpoint } from '@woodruff/contract';
import { execute } from '../database/connection';
import { openEmployer } from '../employers/service';
import { testDatabase } from '../testing/database';
import { testApp, Visitor, Workplace } from '../testing/workplace';

const ALL = Object.entries(endpoints as Record<string, Endpoint>);

describe('The HTTP interface', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  /** The address of an endpoint at the employer, with ids that belong to nothing. */
  const addressOf = ({ path }: Endpoint): string =>
    `/api${path.replace(/:(\w+)/g, (_all, part: string) =>
      part === 'employer'
        ? place.employerId
        : part === 'code'
          ? '17999'
          : part === 'filing'
            ? '941'
            : part === 'period'
              ? '2026-Q3'
              : randomUUID(),
    )}`;

  beforeAll(async () => {
    server = await testApp();
    place = await Workplace.make();
  }, 60_000);
  afterAll(() => server.stop());

  it('answers every endpoint of the contract, and none to who is not signed in', async () => {
    for (const [name, endpoint] of ALL) {
      if (endpoint.needs === 'nobody') continue;
      const response = await supertest(server.app)[endpoint.method](addressOf(endpoint));
      // Changes are stopped by the missing token already.
      expect([401, 403]).withContext(`${name}: ${endpoint.method} ${endpoint.path}`).toContain(response.status);
      expect(['signed-out', 'csrf']).withContext(name).toContain(response.body.code);
    }
  });

  it('lets who may only read change nothing, whatever they send', async () => {
    const viewer = await Visitor.signIn(server.app, place.emails['viewer']!);
    for (const [name, endpoint] of ALL) {
      if (!['prepare', 'approve', 'administer', 'reveal'].includes(endpoint.needs)) continue;
      const response =
        endpoint.method === 'get' ? await viewer.get(addressOf(endpoint)) : await viewer.send(endpoint.method, addressOf(endpoint));
      expect(response.status).withContext(`${name}: ${endpoint.method} ${endpoint.path}`).toBe(403);
    }
  });

  it('gives the own view to employees only', async () => {
    const clerk = await Visitor.signIn(server.app, place.emails['clerk']!);
    for (const [name, endpoint] of ALL) {
      if (endpoint.needs !== 'own') continue;
      const response =
        endpoint.method === 'get' ? await clerk.get(addressOf(endpoint)) : await clerk.send(endpoint.method, addressOf(endpoint));
      expect(response.status).withContext(name).toBe(403);
    }
  });

  it('keeps an employer closed while the demo plays its years, to whoever may work there', async () => {
    const made = await Workplace.make();
    const administrator = await Visitor.signIn(server.app, made.emails['administrator']!);
    await execute(testDatabase(), 'update employers set being_played = true where id = :id', { id: made.employerId });
    for (const [name, endpoint] of ALL.filter(([, { path, needs }]) => path.includes(':employer') && needs !== 'own')) {
      const path = addressOf(endpoint).replace(place.employerId, made.employerId);
      const response = endpoint.method === 'get' ? await administrator.get(path) : await administrator.send(endpoint.method, path);
      expect(response.body.code).withContext(name).toBe('being-played');
    }
    const listed = async () => (await administrator.get('/api/session')).body.employers as { beingPlayed: boolean }[];
    expect((await listed()).map(({ beingPlayed }) => beingPlayed)).toEqual([true]);
    await openEmployer(testDatabase(), made.employerId);
    expect((await listed()).map(({ beingPlayed }) => beingPlayed)).toEqual([false]);
    expect((await administrator.get(`/api/employers/${made.employerId}/today`)).status).toBe(200);
  });

  it('never shows what belongs to another employer, by any address', async () => {
    const stranger = await Visitor.signIn(server.app, (await Workplace.make()).emails['administrator']!);
    for (const [name, endpoint] of ALL) {
      if (!endpoint.path.includes(':employer')) continue;
      const response =
        endpoint.method === 'get' ? await stranger.get(addressOf(endpoint)) : await stranger.send(endpoint.method, addressOf(endpoint));
      expect(response.status).withContext(name).toBe(404);
    }
  });

  it('names the field at fault and what is expected there', async () => {
    const clerk = await Visitor.signIn(server.app, place.emails['clerk']!);
    const response = await clerk.send('post', 'people', { code: '', givenName: 'N' }).expect(422);
    expect(response.headers['content-type']).toContain('application/problem+json');
    const { fields } = response.body as { fields: { path: string }[] };
    expect(fields.map((field) => field.path)).toEqual(jasmine.arrayContaining(['code', 'familyName']));
    expect(response.body.detail).toContain('expected');
  });

  it('tells what to do about something that cannot be read', async () => {
    const agent = supertest(server.app);
    const response = await agent.post('/api/session').set('content-type', 'application/json').send('{"email":').expect(400);
    expect(response.body.code).toBe('unreadable');
    expect(response.body.detail).toContain('Load the page again');
  });

  it('has no other pages, and keeps nothing of its answers in caches', async () => {
    const clerk = await Visitor.signIn(server.app, place.emails['clerk']!);
    const nowhere = await clerk.get('no-such-page').expect(404);
    expect(nowhere.body.detail).toBe('There is no such page.');
    const people = await clerk.get('people').expect(200);
    expect(people.headers['cache-control']).toBe('no-store');
  });

  it('rehearses a change without saving it', async () => {
    const clerk = await Visitor.signIn(server.app, place.emails['clerk']!);
    const rate = { label: 'Shop', per: 'hour', amount: '99.00', from: '2026-11-01', reason: 'Looked at only', primary: true };
    const path = `people/${place.people.hourly}/rates`;
    const seen = await clerk.send('post', `${path}?rehearse=true`, rate).expect(200);
    expect(Object.keys(seen.body)).toEqual(jasmine.arrayContaining(['people', 'unchanged', 'runs']));
    const page = await clerk.get(`people/${place.people.hourly}`).expect(200);
    const { rates } = page.body as { rates: { amount: string }[] };
    expect(rates.some((one) => one.amount.startsWith('99'))).toBeFalse();
  });

  it('sends hardened headers, and says nothing of what it is made with', async () => {
    const { headers } = await supertest(server.app).get('/health').expect(200);
    expect(headers['x-powered-by']).toBeUndefined();
    expect(headers['content-security-policy']).toContain("script-src 'self'");
    expect(headers['x-content-type-options']).toBe('nosniff');
  });
});
