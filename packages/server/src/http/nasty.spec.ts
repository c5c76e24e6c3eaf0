import fc from 'fast-check';
import { z } from 'zod';
import { endpoints, type Endpoint, type EndpointName } from '@woodruff/contract';
import { EVERY_CHANGE } from '../testing/every-change';
import { testApp, Visitor, Workplace } from '../testing/workplace';

const TABLE = endpoints as Record<EndpointName, Endpoint>;
/** What an answer may take of the processor, in milliseconds: how busy the machine is with other work does not count. */
const SLOWEST = 2000;

/** Values that have brought programs down: each may be refused, none may be answered by an error of the server. */
const NASTY: unknown[] = [
  null,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\ud800',
  'x\udfff',
  '\u202e',
  '\ufeff',
  'ﷺ'.repeat(200),
  '💥',
  'x'.repeat(5000),
  "'; drop table people; --",
  '%',
  '_',
  '\\',
  '${7*7}',
  '=1+1',
  '0000-01-01',
  '0001-01-01',
  '1899-12-31',
  '2200-01-01',
  '9999-12-31',
  '2026-02-30',
  '2026-13-01',
  '2025-02-29',
  '2026-11-27',
  '2026-13',
  '0000-00',
  '10000',
  '999999999.99',
  '99999999.999999',
  '-0',
  '-0.00',
  '1e5',
  'NaN',
  'Infinity',
  '0x10',
  '1,5',
  '٣',
  '00000000.000001',
  0,
  -1,
  1.5,
  1e308,
  -1e308,
  2_147_483_648,
  Number.MAX_SAFE_INTEGER,
  true,
  false,
  [],
  {},
  [[]],
  [null],
  { __proto__: { polluted: true } },
  { constructor: 1 },
  'constructor',
  '__proto__',
  '00000000-0000-0000-0000-000000000000',
  'not-an-id',
  'us.fit',
  'PA',
  '17999',
];
const nasty = fc.constantFrom(...NASTY);

type Schema = Record<string, unknown> & {
  properties?: Record<string, Schema>;
  items?: Schema;
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  enum?: unknown[];
  const?: unknown;
  type?: string | string[];
  $ref?: string;
};

/** Values of a schema, a leaf now and then replaced by something nasty; `seen` are values that a valid request had in this place. */
function valuesOf(schema: Schema, seen: unknown, depth = 0): fc.Arbitrary<unknown> {
  const good = goodOf(schema, seen, depth);
  return fc.oneof({ weight: depth === 0 ? 30 : 5, arbitrary: good }, { weight: 1, arbitrary: nasty });
}

function goodOf(schema: Schema, seen: unknown, depth: number): fc.Arbitrary<unknown> {
  if (depth > 6) return fc.constant(seen ?? null);
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum) return fc.constantFrom(...schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices?.length) return fc.oneof(...choices.map((choice) => valuesOf(choice, seen, depth + 1)));
  if (schema.properties || schema.type === 'object') {
    const known = (typeof seen === 'object' && seen !== null ? seen : {}) as Record<string, unknown>;
    const parts = Object.fromEntries(
      Object.entries(schema.properties ?? {}).map(([key, part]) => [key, valuesOf(part, known[key], depth + 1)]),
    );
    if (!Object.keys(parts).length)
      return fc.oneof(
        fc.constant(known),
        fc.dictionary(fc.constantFrom('a', '__proto__', 'us.fit', 'x'.repeat(300)), nasty, { maxKeys: 3 }),
      );
    return fc.record(parts, {
      requiredKeys: fc.sample(fc.boolean(), 1)[0] ? Object.keys(parts) : Object.keys(known).filter((key) => key in parts),
    });
  }
  if (schema.type === 'array' || schema.items) {
    const [first] = Array.isArray(seen) ? (seen as unknown[]) : [];
    return fc.array(valuesOf(schema.items ?? {}, first, depth + 1), { maxLength: 3 });
  }
  if (seen !== undefined) return fc.constant(seen);
  if (schema.type === 'integer' || schema.type === 'number') return fc.integer({ min: -5, max: 400 });
  if (schema.type === 'boolean') return fc.boolean();
  return fc.constantFrom('1', '12.50', '2026-11-09', 'Text', '07:30');
}

/** A valid body in which one leaf, anywhere, is something nasty: what is only wrong there goes as deep as it can. */
function mutated(body: unknown): fc.Arbitrary<unknown> {
  const places: (string | number)[][] = [];
  const look = (value: unknown, path: (string | number)[]) => {
    if (typeof value !== 'object' || value === null) return;
    for (const [key, part] of Object.entries(value)) {
      places.push([...path, key]);
      look(part, [...path, key]);
    }
  };
  look(body, []);
  if (!places.length) return nasty;
  return fc.tuple(fc.constantFrom(...places), nasty).map(([path, value]) => {
    const copy = structuredClone(body) as Record<string, unknown>;
    const last = path[path.length - 1] ?? '';
    const at = path.slice(0, -1).reduce<Record<string, unknown>>((here, key) => here[key] as Record<string, unknown>, copy);
    at[last] = value;
    return copy;
  });
}

const jsonOf = (schema: z.ZodType): Schema => z.toJSONSchema(schema, { io: 'input', unrepresentable: 'any', reused: 'inline' }) as Schema;

describe('No input stops the house', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let office: Visitor;
  const turns = Number(process.env['NASTY_TURNS'] ?? 12);

  beforeAll(async () => {
    server = await testApp();
    await server.jobs.stop();
    place = await Workplace.make();
    office = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
  }, 60_000);
  afterAll(() => server.stop());

  const tried = async (name: string, what: unknown, request: ReturnType<Visitor['send']>) => {
    const before = process.cpuUsage();
    const response = await request;
    const text = response.text ?? '';
    const { user, system } = process.cpuUsage(before);
    const took = (user + system) / 1000;
    const told = `${name} ${JSON.stringify(what)?.slice(0, 600)} → ${response.status} ${text.slice(0, 200)}`;
    expect(response.status).withContext(told).toBeLessThan(500);
    expect(took)
      .withContext(`${Math.round(took)} ms: ${told}`)
      .toBeLessThan(SLOWEST);
    expect(text)
      .withContext(told)
      .not.toMatch(/\bat .*\.[jt]s:\d|\bSequelize|syntax error|violates|\bpg_|node_modules/);
  };

  const cases = new Map(EVERY_CHANGE);
  const names = [...EVERY_CHANGE.map(([name]) => name), ...(Object.keys(TABLE) as EndpointName[]).filter((name) => !cases.has(name))];
  for (const name of names.filter((one) => one !== 'signOut' && TABLE[one].path.includes(':employer')))
    it(`${name} answers whatever it is sent`, async () => {
      const { method, path, body, query } = TABLE[name];
      // What came before may have been changed by what was accepted of it; then ids that belong to nothing do.
      const sent = await Promise.resolve(cases.get(name)?.(place)).catch(() => undefined);
      const ids: Record<string, string> = { employer: place.employerId, year: '2026', code: '17999', ...sent?.path };
      const where = (replaced: Record<string, string>) =>
        `/api${path.replace(/:(\w+)/g, (_all, part: string) => replaced[part] ?? place.people.hourly)}`;
      const bodies = body
        ? [
            ...fc.sample(valuesOf(jsonOf(body), sent?.body), turns / 2),
            ...(sent?.body ? fc.sample(mutated(sent.body), turns * 2) : []),
            sent?.body ?? {},
          ]
        : [{}];
      for (const one of bodies) {
        const as = typeof one === 'object' && one !== null ? one : {};
        await tried(name, one, office.send(method as 'post', where(ids), as, { 'idempotency-key': 'k', ...sent?.headers }));
      }
      if (query)
        for (const one of fc.sample(valuesOf(jsonOf(query), {}), turns)) {
          const text = new URLSearchParams(
            Object.entries(one ?? {}).map(([key, value]): [string, string] => [key, String(value)]),
          ).toString();
          await tried(name, text, method === 'get' ? office.get(`${where(ids)}?${text}`) : office.send(method, `${where(ids)}?${text}`));
        }
      for (const part of Object.keys(ids).filter((one) => path.includes(`:${one}`) && one !== 'employer'))
        for (const value of ['not-an-id', '%00', '..%2f..', '0000', '99999', encodeURIComponent('\u202e')]) {
          const address = where({ ...ids, [part]: value });
          await tried(name, address, method === 'get' ? office.get(address) : office.send(method, address));
        }
    }, 120_000);

  it('bodies that are no bodies are refused', async () => {
    const raw = (type: string, text: string | Buffer) => office.raw('post', 'people', type, text);
    for (const [type, text, status] of [
      ['application/json; charset=no-such-charset', '{}', 415],
      ['application/json', '{"a":', 400],
      ['application/json', `${'['.repeat(50_000)}${']'.repeat(50_000)}`, 422],
      ['text/plain', 'code=1', 422],
      ['application/json', '"only a text"', 400],
    ] as const)
      await raw(type, text).then((response) =>
        expect(response.status)
          .withContext(`${type} ${String(text).slice(0, 20)}`)
          .toBe(status),
      );
    const large = await office.send('post', 'people', { code: 'x'.repeat(3_000_000) });
    expect([large.status, (large.body as { code: string }).code]).toEqual([413, 'too-large']);
  });

  it('bodies are read only when it is known who sends them', async () => {
    const stranger = await Visitor.signIn(server.app, (await Workplace.make()).emails['viewer'] ?? '');
    const large = { name: 'x.csv', content: 'x'.repeat(3_000_000) };
    const response = await stranger.send('post', `/api/employers/${place.employerId}/people/import`, large);
    expect(response.status).toBe(404);
    const own = await stranger.send('post', 'people/import', large);
    expect(own.status).toBe(403);
  });
});
