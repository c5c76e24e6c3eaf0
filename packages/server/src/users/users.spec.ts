import supertest from 'supertest';
import { testApp, Visitor, Workplace } from '../testing/workplace';
import { may } from './permissions';

describe('Signing in', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  beforeAll(async () => {
    server = await testApp();
    place = await Workplace.make();
  }, 60_000);
  afterAll(() => server.stop());

  it('gives a session with the employers the user may see', async () => {
    const visitor = await Visitor.signIn(server.app, place.emails['clerk']!);
    expect(visitor.session.employers.map((employer) => employer.role)).toEqual(['clerk']);
    await visitor.get('/api/session').expect(200);
  });

  it('says the same for an unknown address and a wrong password', async () => {
    const wrong = await supertest(server.app).post('/api/session').send({ email: place.emails['clerk'], password: 'no' }).expect(401);
    const unknown = await supertest(server.app).post('/api/session').send({ email: 'nobody@example.test', password: 'no' }).expect(401);
    expect(unknown.body).toEqual(wrong.body);
    expect(wrong.headers['content-type']).toContain('application/problem+json');
  });

  it('is needed: without a session there is nothing to see', async () => {
    const response = await supertest(server.app).get(`/api/employers/${place.employerId}/people`).expect(401);
    expect(response.body.code).toBe('signed-out');
  });

  it('refuses a change without the session’s token', async () => {
    const visitor = await Visitor.signIn(server.app, place.emails['clerk']!);
    const response = await visitor.withoutToken('people', { code: 'N', givenName: 'N', familyName: 'N' }).expect(403);
    expect(response.body.code).toBe('csrf');
  });

  it('answers another employer’s id as one that does not exist', async () => {
    const other = await Workplace.make();
    const visitor = await Visitor.signIn(server.app, place.emails['administrator']!);
    await visitor.get(`/api/employers/${other.employerId}/people`).expect(404);
    await visitor.get(`people/${other.people.hourly}`).expect(404);
    const run = await other.run();
    await visitor.get(`pay-runs/${run}`).expect(404);
    await visitor.get('people/not-an-id').expect(404);
  });

  it('ends with signing out', async () => {
    const visitor = await Visitor.signIn(server.app, place.emails['clerk']!);
    await visitor.send('delete', '/api/session').expect(200);
    await visitor.get('people').expect(401);
  });

  it('lets a viewer read and change nothing; an approver approve and prepare nothing', async () => {
    const viewer = await Visitor.signIn(server.app, place.emails['viewer']!);
    await viewer.get('people').expect(200);
    const refused = await viewer.send('post', 'people', { code: 'N', givenName: 'N', familyName: 'N' }).expect(403);
    expect(refused.body.detail).toContain('viewer may not change pay');
    expect([may('approver', 'approve'), may('approver', 'prepare'), may('viewer', 'approve'), may('clerk', 'administer')]).toEqual([
      true,
      false,
      false,
      false,
    ]);
  });

  it('describes every endpoint in the OpenAPI document', async () => {
    const response = await supertest(server.app).get('/openapi.json').expect(200);
    expect(response.body.openapi).toBe('3.1.0');
    expect(response.body.paths['/api/employers/{employer}/pay-runs/{id}/approve'].post.operationId).toBe('approve');
  });

  it('reports health', async () => {
    await supertest(server.app).get('/health').expect(200, { state: 'well' });
  });
});
