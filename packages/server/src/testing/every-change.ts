import { payItemSchema, type EndpointName } from '@woodruff/contract';
import { select } from '../database/connection';
import { postOpening } from '../people/history/opening';
import { prepareFiling } from '../filings/life';
import { prepareBatch } from '../payments/batches';
import { obligationsOf } from '../remittances/owed';
import { hold } from '../http/held';
import { changePayItem, itemOf } from '../pay-items/service';
import { openPoints } from '../pay-runs/sheet/points';
import { calculateRun, openRun } from '../calculation/calculation';
import { testDatabase } from './database';
import { PENNSYLVANIA, PERIOD, type Workplace } from './workplace';

/** What a change is sent with: parts of the path below the employer, and the body. */
export interface Sent {
  path?: Record<string, string>;
  body?: object;
  headers?: Record<string, string>;
  as?: 'employee';
}

/** What goes before a case where a request alone does not lead to it. */
type Case = (place: Workplace) => Promise<Sent> | Sent;

const base64 = (text: string): string => Buffer.from(text).toString('base64');
const PIXEL = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

/** The id (or another column) of the latest row that a condition on a table of the employer's people or runs finds. */
async function found(sql: string, replacements: Record<string, unknown>): Promise<string> {
  const [row] = await select<{ value: string }>(testDatabase(), sql, replacements);
  if (!row) throw new Error(`nothing found by ${sql}`);
  return String(row.value);
}
const latestOf = (table: string, personId: string, order = 'ctid'): Promise<string> =>
  found(`select id as value from ${table} where person_id = :personId order by ${order} desc limit 1`, { personId });
const ofEmployer = (table: string, place: Workplace, where: string): Promise<string> =>
  found(`select id as value from ${table} where employer_id = :id and ${where} limit 1`, { id: place.employerId });
const run = (place: Workplace, where: string): Promise<string> => ofEmployer('pay_runs', place, where);
const versionOf = (table: string, id: string): Promise<number> =>
  found(`select version as value from ${table} where id = :id`, { id }).then(Number);
const payslip = (runId: string, personId: string): Promise<string> =>
  found('select id as value from payslips where run_id = :runId and person_id = :personId', { runId, personId });
const taxOf = (place: Workplace): Promise<string> =>
  found(
    `select code as value from ledger_lines where employer_id = :id and kind = 'employer-tax' and counts_on between '2026-11-01' and '2026-11-30' order by code limit 1`,
    {
      id: place.employerId,
    },
  );
const regular = `kind = 'regular' and period_from = '${PERIOD.from}'`;

/** A change of bank details that the clerk asked for. */
async function held(place: Workplace): Promise<string> {
  const scope = await place.scope('clerk');
  const secondPersonFor = ['bank' as const];
  const wanting = { ...scope, employer: { ...scope.employer, facts: { ...scope.employer.facts, secondPersonFor } } };
  const call = {
    endpoint: 'setPayment' as const,
    path: { id: place.people.salaried },
    body: { method: 'deposit', bank: '031000503', account: '555566667777' },
  };
  return (await hold(wanting, 'bank', call, 'How a person is paid', () => Promise.resolve())).held;
}

const TERMS = {
  name: 'Vacation',
  item: 'vacation',
  payOutItem: 'bonus',
  earns: { by: 'period', steps: [{ fromMonths: 0, hours: '4' }] },
  yearBegins: '01-01',
};
const item = (code: string, more: object = {}) =>
  payItemSchema.parse({ code, name: code, kind: 'earning', treatment: 'wages', method: { by: 'amount' }, order: 90, ...more });
/** A payment by cheque that waits for a batch, or to which something happened. */
async function transfer(place: Workplace, { remittance, step }: { remittance?: true; step?: string }): Promise<string> {
  const scope = await place.scope();
  const [made] = await select<{ id: string }>(
    testDatabase(),
    `insert into transfers (employer_id, net_payment_id, remittance_id, method, purpose, amount, payee, user_id)
     values (:id, case when :remittance then null else gen_random_uuid() end, case when :remittance then gen_random_uuid() end, 'cheque', 'payee', 100, 'A Payee', :user) returning id`,
    { id: place.employerId, remittance: remittance ?? false, user: scope.user.id },
  );
  if (step && made)
    await select(
      testDatabase(),
      `insert into transfer_events (transfer_id, step, on_day, told) values (:id, :step, '2026-11-23', '{"bank": "031000040", "account": "1"}') returning id`,
      { id: made.id, step },
    );
  return made?.id ?? '';
}
const STATEMENT = `<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.08"><BkToCstmrStmt><Stmt><Id>S1</Id><Acct><Id><Othr><Id>123456789</Id></Othr></Id><Svcr><FinInstnId><ClrSysMmbId><MmbId>031000503</MmbId></ClrSysMmbId></FinInstnId></Svcr></Acct><Ntry><NtryRef>E1</NtryRef><Amt Ccy="USD">0.00</Amt><CdtDbtInd>DBIT</CdtDbtInd><BookgDt><Dt>2026-11-23</Dt></BookgDt></Ntry></Stmt></BkToCstmrStmt></Document>`;
const THIRD_QUARTER = { filing: '941', period: '2026-Q3' };
const leaving = {
  lastDay: '2026-12-31',
  reason: 'Moves away',
  notice: { how: 'none' },
  amounts: [],
  paysLeave: true,
  finalPay: { in: 'next-run' },
};
const periodOf = (place: Workplace) => ({ scheduleId: place.scheduleId, from: PERIOD.from });
const newcomer = (code: string) => ({ code, givenName: 'Nell', familyName: 'Newcomer', hired: '2026-01-01' });

/** Endpoints that change nothing of an employer, or nothing that two could want at once. */
export const NOT_OF_AN_EMPLOYER: readonly EndpointName[] = [
  'signIn',
  'signOut',
  'addEmployer',
  'changePassword',
  'endSessions',
  'beginSecondFactor',
  'confirmSecondFactor',
  'removeSecondFactor',
  'beginPasskey',
  'addPasskey',
  'removePasskey',
  'askReset',
  'useLink',
];

/** What no country of the workplace below has; their own spec brings them together. */
export const OF_ANOTHER_COUNTRY: readonly EndpointName[] = [
  'addLawLeave',
  'endLawLeave',
  'undoLawLeave',
  'addSavingsScheme',
  'changeSavingsScheme',
  'recordEnrolment',
  'undoEnrolment',
  'chooseRound',
  'applyNotices',
  'changeGenerally',
];

/**
 * A case for every endpoint that saves something, in an order in which each has what it needs: set-up, an open run, an
 * approved one, corrections. The same case brings two workplaces from the same state to the same state.
 */
export const EVERY_CHANGE: readonly [EndpointName, Case][] = [
  // Set-up
  [
    'changeSetUp',
    async (place) => {
      const scope = await place.scope('administrator');
      const version = await versionOf('employers', place.employerId).catch(() => scope.employer.factsVersion);
      const { facts } = scope.employer;
      return { body: { version, name: 'Test works again', facts: { ...facts, departments: ['Shop', 'Office'] } } };
    },
  ],
  ['setBank', () => ({ body: { name: 'A bank', routing: '031000503', account: '123456789' } })],
  ['setLogo', () => ({ body: { content: PIXEL } })],
  ['addSchedule', () => ({ body: { name: 'Monthly', frequency: 'monthly', anchor: '2026-01-31', payDateOffset: 0, move: 'previous' } })],
  [
    'changeSchedule',
    async (place) => ({
      path: { id: await ofEmployer('pay_schedules', place, `name = 'Monthly'`) },
      body: { name: 'Monthly', frequency: 'monthly', anchor: '2026-01-31', payDateOffset: -1, move: 'previous' },
    }),
  ],
  ['addMember', (place) => ({ body: { email: `new-${place.employerId}@example.test`, name: 'New Here', role: 'viewer' } })],
  [
    'changeMember',
    async (place) => ({
      path: { id: await found('select id as value from users where email = :email', { email: `new-${place.employerId}@example.test` }) },
      body: { role: 'approver' },
    }),
  ],
  [
    'forgetSecondFactor',
    async (place) => ({
      path: { id: await found('select id as value from users where email = :email', { email: `new-${place.employerId}@example.test` }) },
    }),
  ],
  ['addPayItem', () => ({ body: item('vacation', { name: 'Vacation pay', method: { by: 'hours', multiple: '1' } }) })],
  [
    'changePayItem',
    async (place) => {
      const id = place.items['bonus'] ?? '';
      return {
        path: { id },
        body: { version: await versionOf('pay_items', id), item: item('bonus', { name: 'Year’s bonus', treatment: 'supplemental' }) },
      };
    },
  ],
  [
    'changeHolders',
    (place) => ({
      path: { id: place.items['loan'] ?? '' },
      body: {
        from: '2026-01-01',
        entries: [
          { personId: place.people.hourly, amount: '20.00' },
          { personId: place.people.salaried, amount: '20.00' },
        ],
      },
    }),
  ],
  ['retirePayItem', (place) => ({ path: { id: place.items['van'] ?? '' }, body: { endForAll: true } })],
  ['bringBackPayItem', (place) => ({ path: { id: place.items['van'] ?? '' } })],
  [
    'takeReadyItems',
    async (place) => {
      const [code] = (
        await select<{ code: string }>(testDatabase(), 'select code from pay_items where employer_id = :id', { id: place.employerId })
      ).map((row) => row.code);
      return { body: { codes: code === 'holiday' ? ['commission'] : ['holiday'] } };
    },
  ],
  ['addPerson', () => ({ body: newcomer('N1') })],
  [
    'importPeople',
    () => ({ body: { name: 'people.csv', content: base64('Code,Given name,Family name,Hired\nI1,Ida,Imported,2026-01-05\n') } }),
  ],
  [
    'changePerson',
    async (place) => {
      const id = place.people.unfinished;
      const version = await versionOf('people', id);
      return {
        path: { id },
        body: {
          version,
          facts: {
            code: 'U1',
            givenName: 'Una',
            familyName: 'Unfinished',
            department: 'Shop',
            email: `una-${place.employerId}@example.test`,
          },
          from: '2026-12-20',
          reason: 'Moves',
        },
      };
    },
  ],
  [
    'withdrawChange',
    async (place) => ({ path: { id: place.people.unfinished, change: await latestOf('dated_changes', place.people.unfinished) } }),
  ],
  [
    'addRate',
    (place) => ({ path: { id: place.people.seasonal }, body: { label: 'Pay', per: 'hour', amount: '17.50', from: '2026-12-06' } }),
  ],
  [
    'correctRate',
    async (place) => ({
      path: { id: place.people.seasonal, rate: await latestOf('pay_rates', place.people.seasonal, 'from_date') },
      body: { label: 'Pay', per: 'hour', amount: '17.75', from: '2026-12-06' },
    }),
  ],
  [
    'withdrawRate',
    async (place) => ({ path: { id: place.people.seasonal, rate: await latestOf('pay_rates', place.people.seasonal, 'from_date') } }),
  ],
  [
    'addTaxDetails',
    (place) => ({
      path: { id: place.people.salaried },
      body: { from: '2026-06-01', facts: { ...PENNSYLVANIA, federal: { certificate: '2020', status: 'married-jointly' } } },
    }),
  ],
  [
    'correctTaxDetails',
    async (place) => ({
      path: { id: place.people.salaried, details: await latestOf('tax_details', place.people.salaried, 'from_date') },
      body: { from: '2026-06-01', facts: PENNSYLVANIA },
    }),
  ],
  [
    'addStandingTax',
    (place) => ({
      path: { id: place.people.salaried },
      body: { tax: 'us.fit', instead: 'amount', value: '100.00', reason: 'A letter says so', from: '2026-12-01' },
    }),
  ],
  [
    'changeStandingTax',
    async (place) => ({
      path: { id: place.people.salaried, entry: await latestOf('standing_taxes', place.people.salaried) },
      body: { tax: 'us.fit', instead: 'amount', value: '90.00', reason: 'A letter says so', from: '2026-12-01' },
    }),
  ],
  [
    'addPersonItem',
    (place) => ({ path: { id: place.people.seasonal }, body: { itemId: place.items['health'], amount: '10.00', from: '2026-01-01' } }),
  ],
  [
    'changePersonItem',
    async (place) => {
      const entry = await latestOf('person_items', place.people.seasonal);
      return {
        path: { id: place.people.seasonal, item: entry },
        body: { itemId: place.items['health'], amount: '12.00', from: '2026-01-01', version: await versionOf('person_items', entry) },
      };
    },
  ],
  ['setPayment', (place) => ({ path: { id: place.people.hourly }, body: { method: 'deposit', bank: '031000503', account: '987654321' } })],
  [
    'trialDeposit',
    async (place) => ({
      path: { id: place.people.hourly },
      body: {
        account: await found(`select payment->'accounts'->0->>'id' as value from people where id = :id`, { id: place.people.hourly }),
        state: 'asked',
      },
    }),
  ],
  ['addPosition', (place) => ({ path: { id: place.people.salaried }, body: { job: 'Packer', from: '2026-11-01' } })],
  [
    'changePosition',
    async (place) => ({
      path: { id: place.people.salaried, position: await latestOf('person_positions', place.people.salaried) },
      body: { job: 'Packer', from: '2026-11-01', to: '2026-11-30' },
    }),
  ],
  [
    'removePosition',
    async (place) => ({ path: { id: place.people.salaried, position: await latestOf('person_positions', place.people.salaried) } }),
  ],
  ['addNote', (place) => ({ path: { id: place.people.hourly }, body: { date: '2026-11-20', text: 'Spoke about leave' } })],
  ['setDocument', (place) => ({ path: { id: place.people.hourly }, body: { name: 'Passport', expires: '2027-01-01' } })],
  [
    'removeDocument',
    async (place) => ({ path: { id: place.people.hourly, document: await latestOf('person_documents', place.people.hourly) } }),
  ],
  ['setNationalNumber', (place) => ({ path: { id: place.people.hourly }, body: { nationalNumber: '123-45-6789' } })],
  ['reveal', (place) => ({ path: { id: place.people.hourly }, body: { what: 'national-number' } })],
  ['addGroup', () => ({ body: { name: 'Furnace', defaults: { department: 'Shop' } } })],
  [
    'changeGroup',
    async (place) => ({
      path: { id: await ofEmployer('pay_groups', place, `name = 'Furnace'`) },
      body: { name: 'Furnace', defaults: { department: 'Office' }, from: '2026-11-23', version: 1 },
    }),
  ],
  [
    'moveToGroup',
    async (place) => ({
      path: { id: await ofEmployer('pay_groups', place, `name = 'Furnace'`) },
      body: { personIds: [place.people.salaried], from: '2026-11-23' },
    }),
  ],
  [
    'removeGroup',
    async (place) => {
      await select(testDatabase(), `insert into pay_groups (employer_id, name, defaults) values (:id, 'Empty', '{}') returning id`, {
        id: place.employerId,
      });
      return { path: { id: await ofEmployer('pay_groups', place, `name = 'Empty'`) } };
    },
  ],
  ['addLeavePlan', () => ({ body: { code: 'vacation', from: '2026-01-01', terms: TERMS } })],
  [
    'changeLeavePlan',
    async (place) => ({
      path: { id: await ofEmployer('leave_plans', place, `code = 'vacation'`) },
      body: { from: '2026-07-01', terms: { ...TERMS, name: 'Holiday' } },
    }),
  ],
  [
    'setLeaveMembers',
    async (place) => ({
      path: { id: await ofEmployer('leave_plans', place, `code = 'vacation'`) },
      body: { personIds: [place.people.hourly, place.people.salaried], from: '2026-01-01' },
    }),
  ],
  [
    'removeLeavePlan',
    async (place) => {
      await select(
        testDatabase(),
        `with l as (insert into leave_plans (employer_id, code) values (:id, 'unused') returning id) insert into leave_terms (plan_id, from_date, terms) select id, '2026-01-01', :terms from l returning plan_id`,
        {
          id: place.employerId,
          terms: JSON.stringify(TERMS),
        },
      );
      return { path: { id: await ofEmployer('leave_plans', place, `code = 'unused'`) } };
    },
  ],
  [
    'importLeaveBalances',
    () => ({ body: { name: 'balances.csv', content: base64('person,plan,balance_hours\nH1,vacation,100.00\n'), date: '2026-11-01' } }),
  ],
  [
    'askLeave',
    async (place) => ({
      body: {
        personId: place.people.hourly,
        planId: await ofEmployer('leave_plans', place, `code = 'vacation'`),
        from: '2026-11-09',
        to: '2026-11-09',
      },
    }),
  ],
  [
    'decideLeave',
    async (place) => ({ path: { id: await latestOf('leave_requests', place.people.hourly) }, body: { state: 'approved', version: 1 } }),
  ],
  [
    'importOpenings',
    () => ({
      body: {
        name: 'earlier.csv',
        content: base64(
          'Code,Paid until,ordinary,Federal income tax,Social security,Medicare,Pennsylvania income tax\nH1,2026-03-31,26000.00,2610.00,1612.00,377.00,798.20\n',
        ),
        acceptDifferences: true,
      },
    }),
  ],
  [
    'postOpening',
    (place) => ({
      path: { id: place.people.salaried },
      body: {
        paidUntil: '2026-03-31',
        amounts: { salary: '16250.00', 'us.oasdi': '1007.50', 'us.medicare': '235.63' },
        acceptDifferences: true,
      },
    }),
  ],
  [
    'invite',
    async (place) => {
      const id = place.people.unfinished;
      await select(testDatabase(), 'update people set email = :email where id = :id returning id', {
        id,
        email: `una-${place.employerId}@example.test`,
      });
      return { path: { id } };
    },
  ],
  ['endInvitation', (place) => ({ path: { id: place.people.unfinished } })],
  ['confirmHeld', async (place) => ({ path: { id: await held(place) }, body: {} })],
  ['declineHeld', async (place) => ({ path: { id: await held(place) }, body: { reason: 'Not this time' } })],
  // Time and the period
  ['simulatePunches', (place) => ({ body: periodOf(place) })],
  ['punch', () => ({ body: { code: 'H1', kind: 'in', at: '2026-11-20T18:00' } })],
  ['takeFromClock', (place) => ({ body: periodOf(place) })],
  [
    'saveTime',
    async (place) => {
      const version = await versionOf('timesheets', await latestOf('timesheets', place.people.seasonal));
      return {
        body: { ...periodOf(place), sheets: [{ personId: place.people.seasonal, version, lines: [{ date: '2026-11-10', hours: '8' }] }] },
      };
    },
  ],
  ['importTime', (place) => ({ body: { ...periodOf(place), name: 'time.csv', content: base64('code,date,hours\nX1,2026-11-11,6.00\n') } })],
  ['setTimeState', (place) => ({ body: { ...periodOf(place), personIds: [place.people.seasonal], state: 'approved', comment: '' } })],
  ['startRun', (place) => ({ body: { scheduleId: place.scheduleId, ...PERIOD } })],
  [
    'lockTime',
    async (place) => {
      await select(testDatabase(), `update timesheets set state = 'approved' where employer_id = :id returning id`, {
        id: place.employerId,
      });
      return { body: periodOf(place) };
    },
  ],
  ['unlockTime', (place) => ({ body: { ...periodOf(place), reason: 'A day is missing' } })],
  ['addOneOffs', () => ({ body: { entries: [{ person: 'H1', item: 'bonus', amount: '50.00', takes: { by: 'next' } }] } })],
  [
    'changeOneOff',
    async (place) => ({
      path: { id: await latestOf('one_offs', place.people.hourly, 'number') },
      body: { amount: '60.00', takes: { by: 'next' } },
    }),
  ],
  ['putOneOffBack', async (place) => ({ path: { id: await latestOf('one_offs', place.people.hourly, 'number') } })],
  ['removeOneOff', async (place) => ({ path: { id: await latestOf('one_offs', place.people.hourly, 'number') } })],
  ['calculateRun', async (place) => ({ path: { id: await run(place, regular) }, body: {} })],
  [
    'changePayslip',
    async (place) => {
      const id = await run(place, regular);
      await calculateRun(await place.scope(), id);
      const of = await payslip(id, place.people.hourly);
      return { path: { id, payslip: of }, body: { version: await versionOf('payslips', of), edits: { hours: { overtime: '3.00' } } } };
    },
  ],
  ['importHours', async (place) => ({ path: { id: await run(place, regular) }, body: { csv: 'code,item,hours\nX1,ordinary,30.00\n' } })],
  [
    'rebuild',
    async (place) => {
      const id = await run(place, regular);
      await calculateRun(await place.scope(), id);
      return { path: { id }, body: { payslip: await payslip(id, place.people.seasonal) } };
    },
  ],
  [
    'startSpecialRun',
    (place) => ({
      body: {
        scheduleId: place.scheduleId,
        name: 'Bonus',
        payDate: '2026-12-04',
        rules: { items: ['bonus'], taxMethod: 'flat' },
        people: [{ personId: place.people.salaried, amounts: [{ item: 'bonus', amount: '500.00' }] }],
      },
    }),
  ],
  ['deleteRun', async (place) => ({ path: { id: await run(place, `kind = 'special'`) } })],
  [
    'acceptPoints',
    async (place) => {
      const id = await run(place, regular);
      const scope = await place.scope();
      await calculateRun(scope, id);
      const points = await openPoints(scope, await openRun(scope, id));
      return {
        path: { id },
        body: { reason: 'Looked at it', keys: points.filter((point) => point.weight === 'look').map((point) => point.key) },
      };
    },
  ],
  [
    'submitRun',
    async (place) => {
      const id = await run(place, regular);
      return { path: { id }, body: { version: await versionOf('pay_runs', id) } };
    },
  ],
  ['sendBackRun', async (place) => ({ path: { id: await run(place, regular) }, body: { comment: 'Look at the hours' } })],
  [
    'approve',
    async (place) => {
      const id = await run(place, regular);
      return { path: { id }, body: { version: await versionOf('pay_runs', id) }, headers: { 'idempotency-key': `once-${id}` } };
    },
  ],
  [
    'withdrawRun',
    async (place) => ({ path: { id: await run(place, `${regular} and state = 'approved'`) }, body: { reason: 'Hours were wrong' } }),
  ],
  // Corrections of what was paid
  [
    'deliverRun',
    async (place) => {
      const scope = await place.scope();
      const id = await run(place, `${regular} and state in ('open', 'calculating')`);
      await calculateRun(scope, id);
      await place.approve(id);
      return { path: { id }, body: {} };
    },
  ],
  [
    'refund',
    (place) => ({ path: { id: place.people.hourly }, body: { itemId: place.items['health'], amount: '50.00', reason: 'Left the plan' } }),
  ],
  [
    'addRecovery',
    (place) => ({
      path: { id: place.people.salaried },
      body: { itemId: place.items['salary'], total: '10000.00', perPayslip: '100.00', reason: 'Paid too much' },
    }),
  ],
  [
    'endRecovery',
    async (place) => ({
      path: { id: place.people.salaried, recovery: await latestOf('recoveries', place.people.salaried) },
      body: { reason: 'Settled otherwise' },
    }),
  ],
  [
    'adjustBalances',
    () => ({
      body: { date: '2026-11-20', reason: 'Counted again', entries: [{ person: 'H1', balance: 'leave:vacation', amount: '8.00' }] },
    }),
  ],
  [
    'payAgain',
    async (place) => ({
      path: { id: await payslip(await run(place, `${regular} and state = 'approved'`), place.people.salaried) },
      body: { method: 'cheque', reason: 'Lost in the mail' },
    }),
  ],
  // Money out
  ['setAccountRule', () => ({ body: { side: 'expense', code: 'bonus', account: '6020' } })],
  ['bankOpening', () => ({ body: { amount: 5_000_000 } })],
  ['bankCutOff', () => ({ body: { at: '23:59' } })],
  ['setJournal', () => ({ body: { by: 'pay-date', accruals: 'month', leaveOwed: true } })],
  ['accrue', () => ({ body: { end: '2026-10-31' } })],
  ['enterTaxTotal', async (place) => ({ body: { code: await taxOf(place), month: '2026-11', total: '99.00', reason: 'By the notice' } })],
  ['bankAccount', () => ({ body: { bank: '031000040', account: '998877', state: 'closed' } })],
  [
    'prepareBatch',
    async (place) => {
      await transfer(place, { remittance: true });
      return { body: { kind: 'remittance', payDate: '2026-12-01' } };
    },
  ],
  ['dropBatch', async (place) => ({ path: { id: await ofEmployer('payment_batches', place, 'dropped_at is null') }, body: {} })],
  [
    'releaseBatch',
    async (place) => {
      const { id } = await prepareBatch(await place.scope(), { kind: 'remittance', payDate: '2026-12-01' });
      return { path: { id }, body: { version: 1 } };
    },
  ],
  [
    'settleByHand',
    async (place) => ({ path: { id: await ofEmployer('transfers', place, 'batch_id is not null') }, body: { step: 'cleared' } }),
  ],
  [
    'payReturned',
    async (place) => ({ path: { id: await transfer(place, { step: 'returned' }) }, body: { way: 'cheque', reason: 'It came back' } }),
  ],
  [
    'holdReturned',
    async (place) => ({ path: { id: await transfer(place, { step: 'returned' }) }, body: { reason: 'Wait for an answer' } }),
  ],
  ['answerNotice', async (place) => ({ path: { id: await transfer(place, { step: 'notice' }) }, body: { take: false } })],
  ['exchange', () => ({ body: {} })],
  ['takeStatement', () => ({ body: { content: STATEMENT } })],
  ['changePayee', () => ({ body: { owed: 'us.deposit', version: 1, method: 'agency', address: {} } })],
  [
    'remit',
    async (place) => {
      const owed = (await obligationsOf(await place.scope(), 'us.deposit')).find(({ left }) => left > 0);
      return { body: { payments: [{ owed: 'us.deposit', due: owed?.due, method: 'elsewhere', reference: 'R-1' }] } };
    },
  ],
  [
    'addReceipt',
    async (place) => ({
      path: { id: await ofEmployer('remittances', place, 'undone is null') },
      body: { name: 'receipt.png', content: PIXEL },
    }),
  ],
  [
    'undoRemittance',
    async (place) => ({ path: { id: await ofEmployer('remittances', place, 'undone is null') }, body: { reason: 'Entered twice' } }),
  ],
  [
    'takeBackPay',
    async (place) => {
      await select(testDatabase(), `update pay_rates set amount = 26 where person_id = :id returning id`, { id: place.people.hourly });
      return { body: { from: '2026-11-01', personIds: [place.people.hourly], takes: { by: 'next' } } };
    },
  ],
  [
    'reverse',
    async (place) => ({
      path: { id: await payslip(await run(place, `${regular} and state = 'approved'`), place.people.seasonal) },
      body: { reason: 'Never worked', replace: true },
    }),
  ],
  [
    'reverseRun',
    async (place) => ({
      path: { id: await run(place, `${regular} and state = 'approved'`) },
      body: { reason: 'All wrong', replace: true },
    }),
  ],
  ['leave', (place) => ({ path: { id: place.people.seasonal }, body: leaving })],
  ['changeLeaving', (place) => ({ path: { id: place.people.seasonal }, body: { ...leaving, lastDay: '2026-12-30' } })],
  ['undoLeaving', (place) => ({ path: { id: place.people.seasonal }, body: { reason: 'Stays after all' } })],
  [
    'answerTimeChange',
    async (place) => {
      await select(
        testDatabase(),
        `insert into time_changes (employer_id, person_id, on_date, hours, reason) values (:id, :person, '2026-11-22', 4, 'Worked on Sunday') returning id`,
        { id: place.employerId, person: place.people.hourly },
      );
      return { path: { id: await latestOf('time_changes', place.people.hourly) }, body: { accept: true } };
    },
  ],
  // To agencies
  ['enterFilingLine', () => ({ path: THIRD_QUARTER, body: { line: '8', amount: '-0.02', reason: 'Notice of the insurer' } })],
  [
    'recordEarlierDeposit',
    async (place) => {
      // What ties out by the rates, so that the quarter can be filed after it.
      const amounts = { salary: '1000.00', 'us.fit': '100.00', 'us.oasdi': '62.00', 'us.medicare': '14.50' };
      const entry = { paidUntil: '2026-09-30', amounts, acceptDifferences: true };
      await postOpening(await place.scope(), place.people.salaried, entry);
      return { path: THIRD_QUARTER, body: { on: '2026-07-10', paidOn: '2026-07-15', amount: '250.00', reference: 'D-1' } };
    },
  ],
  [
    'undoEarlierDeposit',
    async (place) => {
      const [row] = await select<{ id: string }>(
        testDatabase(),
        `insert into earlier_deposits (employer_id, filing, counts_on, paid_on, amount, reference, user_id) select :id, '941', '2026-07-10', '2026-07-15', 25000, 'D-2', id from users limit 1 returning id`,
        { id: place.employerId },
      );
      return { path: { id: row?.id ?? '' }, body: { reason: 'It was of another quarter' } };
    },
  ],
  ['prepareFiling', () => ({ path: THIRD_QUARTER, body: {} })],
  ['withdrawFiling', () => ({ path: THIRD_QUARTER, body: { reason: 'Look again' } })],
  [
    'agreeFiling',
    async (place) => {
      await prepareFiling(await place.scope(), '941', '2026-Q3', { reason: '' });
      return { path: THIRD_QUARTER, body: { signer: 'A. Signatory', title: 'Owner' } };
    },
  ],
  ['sendFiling', () => ({ path: THIRD_QUARTER, body: { how: 'portal', reference: 'R-1' } })],
  ['answerFiling', () => ({ path: THIRD_QUARTER, body: { answer: 'accepted' } })],
  [
    'markCopy',
    (place) => ({
      path: { filing: 'w-2', period: '2026' },
      body: { personId: place.people.hourly, box: '13 plan', text: 'X', reason: 'In the plan since June' },
    }),
  ],
  [
    'giveCopies',
    async (place) => {
      await select(
        testDatabase(),
        `insert into filing_events (employer_id, filing, period, attempt, step, on_day, user_id, content) values (:id, 'w-2', '2025', 1, 'prepared', '2026-01-10', null, cast(:content as jsonb)) returning id`,
        { id: place.employerId, content: JSON.stringify({ copies: [{ personId: place.people.hourly, name: 'Hourly', control: 1 }] }) },
      );
      return { path: { filing: 'w-2', period: '2025' }, body: { how: 'paper' } };
    },
  ],
  [
    'setItemBoxes',
    async (place) => ({
      body: { year: '2026', items: [{ id: await ofEmployer('pay_items', place, `code = 'loan'`), put: { filing: '', box: '' } }] },
    }),
  ],
  ['sayYearStep', () => ({ path: { year: '2026', step: 'turn-2026-12-01' }, body: { done: true, note: 'Mailed' } })],
  ['formConsent', (place) => ({ path: { id: place.people.hourly }, body: { step: 'asked', means: 'by letter' } })],
  [
    'proposeTables',
    () => ({
      body: {
        format: 'woodruff.parameters/1',
        title: 'A rate of 2031',
        entries: [{ code: 'us.oasdi.rate', from: '2031-01-01', value: '6.2', publication: 'A publication', confirmed: false }],
      },
    }),
  ],
  [
    'decideTables',
    async () => ({
      path: { id: await found(`select id as value from table_files where approved is null order by proposed_at desc limit 1`, {}) },
      body: { approve: false },
    }),
  ],
  ['setAgency', () => ({ body: { answersAfter: 0, doubles: false, loses: false, knownAs: '' } })],
  ['askAgencies', () => ({ body: {} })],
  // The employee's own
  ['setElectronicForms', () => ({ as: 'employee', body: { electronic: true } })],
  [
    'askOwnLeave',
    async (place) => ({
      as: 'employee',
      body: { planId: await ofEmployer('leave_plans', place, `code = 'vacation'`), from: '2026-12-14', to: '2026-12-14' },
    }),
  ],
  ['askTimeChange', () => ({ as: 'employee', body: { date: '2026-11-20', hours: '7.00', reason: 'Forgot to punch' } })],
  ['withdrawTimeChange', async (place) => ({ as: 'employee', path: { id: await latestOf('time_changes', place.people.hourly) } })],
  ['moveToday', () => ({ body: { date: '2026-11-24' } })],
  [
    'moveItem',
    async (place) => {
      // Pay that was taxed is said not to be, when it has been paid: what was stated of it can be moved.
      const id = place.items['salary'] ?? '';
      const scope = await place.scope('administrator');
      const { version, definition } = await itemOf(scope, id);
      await changePayItem(scope, id, { version, item: payItemSchema.parse({ ...definition, countsInstead: { 'us.fit.wages': 0 } }) });
      return { path: { id }, body: { reason: 'Was not taxed' } };
    },
  ],
];
