import { endpoints, type EndpointName } from '@woodruff/contract';
import { select } from '../database/connection';
import { balancesOutOfStep } from '../ledger/posting';
import { testDatabase } from '../testing/database';
import { stateOf } from '../testing/state';
import { PERIOD, testApp, Visitor, Workplace } from '../testing/workplace';

interface Act {
  name: EndpointName;
  path?: Record<string, string>;
  body: object;
}
/** A workplace with a run: what both acts aim at. */
interface Scene {
  place: Workplace;
  run: string;
  payslip: { id: string; version: number };
  version: number;
}
type Acts = Record<string, (scene: Scene) => Act>;

const base64 = (text: string): string => Buffer.from(text).toString('base64');

/** What can be done about a run that is open, each by somebody of its own. */
const OPEN: Acts = {
  approve: ({ run, version }) => ({ name: 'approve', path: { id: run }, body: { version } }),
  calculate: ({ run }) => ({ name: 'calculateRun', path: { id: run }, body: {} }),
  edit: ({ run, payslip: { id, version } }) => ({
    name: 'changePayslip',
    path: { id: run, payslip: id },
    body: { version, edits: { hours: { overtime: '2.00' } } },
  }),
  rebuild: ({ run, payslip: { id } }) => ({ name: 'rebuild', path: { id: run }, body: { payslip: id } }),
  'hours from a file': ({ run }) => ({ name: 'importHours', path: { id: run }, body: { csv: 'code,item,hours\nX1,ordinary,30.00\n' } }),
  'one-off': () => ({ name: 'addOneOffs', body: { entries: [{ person: 'H1', item: 'bonus', amount: '50.00', takes: { by: 'next' } }] } }),
  rate: ({ place }) => ({
    name: 'addRate',
    path: { id: place.people.hourly },
    body: { label: 'Pay', per: 'hour', amount: '31.00', from: PERIOD.from, primary: true, reason: 'Raise' },
  }),
  payment: ({ place }) => ({
    name: 'setPayment',
    path: { id: place.people.hourly },
    body: { method: 'deposit', bank: '031000503', account: '987654321' },
  }),
  submit: ({ run, version }) => ({ name: 'submitRun', path: { id: run }, body: { version } }),
  delete: ({ run }) => ({ name: 'deleteRun', path: { id: run }, body: {} }),
  leaver: ({ place }) => ({
    name: 'leave',
    path: { id: place.people.seasonal },
    body: {
      lastDay: '2026-12-31',
      reason: 'Moves away',
      notice: { how: 'none' },
      amounts: [],
      paysLeave: true,
      finalPay: { in: 'next-run' },
    },
  }),
};
const OPEN_PAIRS: [string, string][] = [
  ...Object.keys(OPEN)
    .filter((name) => name !== 'approve')
    .map((name): [string, string] => ['approve', name]),
  ['calculate', 'edit'],
  ['calculate', 'rate'],
  ['edit', 'rebuild'],
  ['edit', 'delete'],
  ['hours from a file', 'submit'],
];

/** What can be done about what was paid. */
const PAID: Acts = {
  'reverse run': ({ run }) => ({ name: 'reverseRun', path: { id: run }, body: { reason: 'All wrong', replace: false } }),
  reverse: ({ payslip: { id } }) => ({ name: 'reverse', path: { id }, body: { reason: 'Never worked', replace: false } }),
  'pay again': ({ payslip: { id } }) => ({ name: 'payAgain', path: { id }, body: { method: 'cheque', reason: 'Lost in the mail' } }),
  withdraw: ({ run }) => ({ name: 'withdrawRun', path: { id: run }, body: { reason: 'Hours were wrong' } }),
  recover: ({ place }) => ({
    name: 'addRecovery',
    path: { id: place.people.hourly },
    body: { itemId: place.items['ordinary'], total: '100.00', perPayslip: '50.00', reason: 'Paid too much' },
  }),
  deliver: ({ run }) => ({ name: 'deliverRun', path: { id: run }, body: {} }),
  'earlier pay': () => ({
    name: 'importOpenings',
    body: {
      name: 'earlier.csv',
      content: base64('Code,Paid until,ordinary,Social security,Medicare\nH1,2026-03-31,26000.00,1612.00,377.00\n'),
      acceptDifferences: true,
    },
  }),
};
const PAID_PAIRS: [string, string][] = [
  ['reverse', 'pay again'],
  ['reverse', 'withdraw'],
  ['reverse', 'recover'],
  ['reverse run', 'pay again'],
  ['reverse run', 'withdraw'],
  ['withdraw', 'pay again'],
  ['deliver', 'reverse'],
  ['deliver', 'withdraw'],
  ['earlier pay', 'reverse run'],
];

/** Two different things done to the same run at the same moment end as one of them after the other, in one of the two orders. */
describe('Rivals at once', () => {
  let server: Awaited<ReturnType<typeof testApp>>;

  beforeAll(async () => {
    server = await testApp();
    // Calculations are asked for: a queue that works beside them would make two states differ by its hour.
    await server.jobs.stop();
  }, 60_000);
  afterAll(() => server.stop());

  async function scene(paid: boolean): Promise<Scene & { office: Visitor }> {
    const place = await Workplace.make();
    const run = await place.run();
    if (paid) await place.approve(run);
    else await place.acceptPoints(run);
    const [found] = await select<{ id: string; version: number; run: number }>(
      testDatabase(),
      'select y.id, y.version, r.version as run from payslips y join pay_runs r on r.id = y.run_id where y.run_id = :run and y.person_id = :person',
      { run, person: place.people.hourly },
    );
    if (!found) throw new Error('the scene has no payslip');
    return {
      place,
      run,
      payslip: found,
      version: found.run,
      office: await Visitor.signIn(server.app, place.emails['administrator'] ?? ''),
    };
  }

  async function send({ office, place }: Scene & { office: Visitor }, { name, path = {}, body }: Act): Promise<number> {
    const endpoint = endpoints[name];
    const address = `/api${endpoint.path.replace(/:(\w+)/g, (_all, part: string) => (part === 'employer' ? place.employerId : (path[part] ?? '')))}`;
    const response = await office.send(endpoint.method as 'post', address, body, { 'idempotency-key': `${name}-${place.employerId}` });
    return response.status;
  }

  const pair = (acts: Acts, first: string, second: string, paid: boolean) =>
    it(`${first} and ${second}`, async () => {
      const end = async (order: [string, string], together: boolean) => {
        const one = await scene(paid);
        const wanted = order.map((name) => acts[name]?.(one) as Act);
        const statuses: Record<string, number> = {};
        if (together)
          await Promise.all(wanted.map((act, index) => send(one, act).then((status) => (statuses[order[index] ?? ''] = status))));
        else for (const [index, act] of wanted.entries()) statuses[order[index] ?? ''] = await send(one, act);
        expect(await balancesOutOfStep(await one.place.scope())).toEqual([]);
        return { statuses, state: await stateOf(one.place) };
      };
      const together = await end([first, second], true);
      const forwards = await end([first, second], false);
      const matches = (other: typeof together) => JSON.stringify(sorted(other)) === JSON.stringify(sorted(together));
      expect(Object.values(forwards.statuses)[0]).withContext(JSON.stringify(forwards.statuses)).toBe(200);
      if (matches(forwards)) return;
      expect(sorted(together)).toEqual(sorted(await end([second, first], false)));
    });

  for (const [first, second] of OPEN_PAIRS) pair(OPEN, first, second, false);
  for (const [first, second] of PAID_PAIRS) pair(PAID, first, second, true);
});

const sorted = ({ statuses, state }: { statuses: Record<string, number>; state: object }) => ({
  statuses: Object.entries(statuses).sort(([a], [b]) => (a < b ? -1 : 1)),
  state,
});
