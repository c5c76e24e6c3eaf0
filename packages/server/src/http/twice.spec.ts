import { endpoints, type Endpoint, type EndpointName } from '@woodruff/contract';
import { hash } from '@node-rs/argon2';
import { select } from '../database/connection';
import { balancesOutOfStep } from '../ledger/posting';
import { testDatabase } from '../testing/database';
import { EVERY_CHANGE, NOT_OF_AN_EMPLOYER, OF_ANOTHER_COUNTRY, type Sent } from '../testing/every-change';
import { stateOf } from '../testing/state';
import { testApp, Visitor, Workplace } from '../testing/workplace';

const TABLE = endpoints as Record<EndpointName, Endpoint>;
const TIMES = 3;

/** One workplace with who changes things there. */
interface Desk {
  place: Workplace;
  office: Visitor;
  employee: Visitor;
}

describe('Every change sent several times at once', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let inTurn: Desk;
  let atOnce: Desk;

  const desk = async (): Promise<Desk> => {
    const place = await Workplace.make();
    const email = `own-${place.employerId}@example.test`;
    await select(
      testDatabase(),
      `with u as (insert into users (email, name, password_hash) values (:email, 'Hana Hourly', :hash) returning id)
       insert into memberships (user_id, employer_id, role, person_id) select id, :employer, 'employee', :person from u returning user_id`,
      { email, hash: await hash('a good password'), employer: place.employerId, person: place.people.hourly },
    );
    return {
      place,
      office: await Visitor.signIn(server.app, place.emails['administrator'] ?? ''),
      employee: await Visitor.signIn(server.app, email),
    };
  };

  beforeAll(async () => {
    server = await testApp();
    // Calculations are the cases' own: a queue that works beside them would make two states differ by its hour.
    await server.jobs.stop();
    inTurn = await desk();
    atOnce = await desk();
  }, 60_000);
  afterAll(() => server.stop());

  const send = async (name: EndpointName, { office, employee, place }: Desk, { path = {}, body, headers, as }: Sent) => {
    const endpoint = TABLE[name];
    const address = `/api${endpoint.path.replace(/:(\w+)/g, (_all, part: string) => (part === 'employer' ? place.employerId : (path[part] ?? '')))}`;
    const response = await (as === 'employee' ? employee : office).send(endpoint.method as 'post', address, body ?? {}, headers ?? {});
    return { status: response.status, detail: (response.body as { detail?: string }).detail ?? '' };
  };

  it('has a case for each that saves something', () => {
    const saving = (Object.keys(TABLE) as EndpointName[]).filter((name) => TABLE[name].method !== 'get' && !TABLE[name].looks);
    const covered = new Set<EndpointName>([...EVERY_CHANGE.map(([name]) => name), ...NOT_OF_AN_EMPLOYER, ...OF_ANOTHER_COUNTRY]);
    expect(saving.filter((name) => !covered.has(name))).toEqual([]);
  });

  for (const [name, sent] of EVERY_CHANGE)
    it(`${name} ends as one after the other`, async () => {
      const first = await sent(inTurn.place);
      const answers = [];
      for (let turn = 0; turn < TIMES; turn++) answers.push(await send(name, inTurn, first));
      const same = await sent(atOnce.place);
      const together = await Promise.all(Array.from({ length: TIMES }, () => send(name, atOnce, same)));
      const statuses = (all: { status: number }[]) => all.map(({ status }) => status).sort();
      expect(answers[0]?.status)
        .withContext(answers[0]?.detail ?? '')
        .toBe(200);
      expect(statuses(together))
        .withContext(together.map(({ detail }) => detail).join(' | '))
        .toEqual(statuses(answers));
      expect(await stateOf(atOnce.place)).toEqual(await stateOf(inTurn.place));
      for (const { place } of [inTurn, atOnce]) expect(await balancesOutOfStep(await place.scope())).toEqual([]);
    });
});
