import supertest from 'supertest';
import { calculateRun } from '../calculation/calculation';
import { balancesOutOfStep } from '../ledger/posting';
import { runView, sheetOf } from '../pay-runs/sheet/sheet';
import { startSpecialRun } from '../pay-runs/making/special';
import { addRate } from '../people/employment/rates';
import { addTaxDetails } from '../people/tax/tax-details';
import { select } from '../database/connection';
import { testDatabase } from '../testing/database';
import { PENNSYLVANIA, testApp, Visitor, Workplace } from '../testing/workplace';

/** Changes that want the same thing at the same moment: what is paid, and to whom, is as if one had come after the other. */
describe('Two who act at once', () => {
  let server: Awaited<ReturnType<typeof testApp>>;
  let place: Workplace;
  let office: Visitor;

  beforeAll(async () => {
    server = await testApp();
  }, 60_000);
  afterAll(() => server.stop());
  beforeEach(async () => {
    place = await Workplace.make();
    office = await Visitor.signIn(server.app, place.emails['administrator'] ?? '');
  });
  afterEach(async () => expect(await balancesOutOfStep(await place.scope())).toEqual([]));

  const status = async (request: ReturnType<Visitor['send']>) => (await request).status;
  const sumOf = async (code: string, person: string) =>
    (
      await select<{ amount: number }>(
        testDatabase(),
        'select coalesce(sum(amount), 0)::bigint as amount from ledger_lines where person_id = :person and code = :code',
        { person, code },
      )
    )[0]?.amount;
  const bonusRun = async (amount: string): Promise<string> => {
    const scope = await place.scope();
    const { id } = await startSpecialRun(scope, {
      scheduleId: place.scheduleId,
      name: `Bonus of ${amount}`,
      payDate: '2026-12-04',
      rules: { items: [], ordinaryDeductions: false, taxMethod: 'flat', takesWaiting: false },
      people: [{ personId: place.people.salaried, amounts: [{ item: 'bonus', amount }] }],
    });
    await calculateRun(scope, id);
    return id;
  };
  const approve = async (id: string) =>
    office.send(
      'post',
      `pay-runs/${id}/approve`,
      { version: (await runView(await place.scope(), id)).version },
      { 'idempotency-key': `k-${id}` },
    );

  it('approve two runs that hold the same person: the second is calculated again with what the first paid', async () => {
    const runs = [await bonusRun('180000.00'), await bonusRun('180000.00')];
    const answers = await Promise.all(runs.map((id) => approve(id)));
    expect(answers.map((answer) => answer.status).sort()).toEqual([200, 409]);
    const refused = answers.findIndex((answer) => answer.status === 409);
    expect((answers[refused]?.body as { detail: string }).detail).toContain('changed after this run');
    const second = runs[refused] ?? '';
    await calculateRun(await place.scope(), second);
    await approve(second).then((answer) => expect(answer.status).toBe(200));
    // 6.2% of the wage base of 2026, 184,500, once.
    expect(await sumOf('us.oasdi', place.people.salaried)).toBe(1_143_900);
  });

  it('calculate a run while somebody has become ready: they are in it once', async () => {
    const id = await place.run();
    const scope = await place.scope();
    await addRate(scope, place.people.unfinished, {
      label: 'Pay',
      per: 'hour',
      amount: '20.00',
      from: '2026-01-01',
      primary: true,
      reason: '',
    });
    await addTaxDetails(scope, place.people.unfinished, { from: '2026-01-01', facts: PENNSYLVANIA });
    const answers = await Promise.all(Array.from({ length: 6 }, () => status(office.send('post', `pay-runs/${id}/calculate`))));
    expect(answers.every((one) => one === 200)).toBeTrue();
    const rows = await select<{ payslips: number }>(
      testDatabase(),
      'select count(*)::int as payslips from payslips where run_id = :id group by person_id',
      { id },
    );
    expect(rows.map((row) => row.payslips)).toEqual([1, 1, 1, 1]);
  });

  it('edit twelve payslips of a run: others go on meanwhile, and every entry is kept', async () => {
    const id = await place.run();
    const { rows } = await sheetOf(await place.scope(), id);
    const edits = Array.from({ length: 12 }, (_none, index) => {
      const row = rows[index % rows.length];
      return status(
        office.send('patch', `pay-runs/${id}/payslips/${row?.payslipId}`, { version: row?.version, edits: { note: `Edit ${index}` } }),
      );
    });
    const began = Date.now();
    await supertest(server.app).get('/health').expect(200);
    const health = Date.now() - began;
    const answers = await Promise.all(edits);
    expect(answers.filter((one) => one === 200).length).toBe(rows.length);
    expect(answers.every((one) => one === 200 || one === 409)).toBeTrue();
    expect(health).toBeLessThan(5000);
  });

  it('reverse a run and one of its payslips: each payslip is reversed once', async () => {
    const id = await place.run();
    await place.approve(id);
    const { rows } = await sheetOf(await place.scope(), id);
    const body = { reason: 'Paid to the wrong people', replace: false };
    const answers = await Promise.all([
      status(office.send('post', `pay-runs/${id}/reversal`, body)),
      ...rows.map((row) => status(office.send('post', `payslips/${row.payslipId}/reversal`, body))),
    ]);
    expect(answers.every((one) => one === 200 || one === 409))
      .withContext(answers.join())
      .toBeTrue();
    const [left] = await select<{ net: number; reversals: number }>(
      testDatabase(),
      `select coalesce(sum(amount), 0)::bigint as net, (select count(*)::int from payslips y join pay_runs r on r.id = y.run_id where r.employer_id = :employer and y.state = 'reversal') as reversals
       from ledger_lines where employer_id = :employer`,
      { employer: place.employerId },
    );
    expect(left).toEqual({ net: 0, reversals: rows.length });
  });

  it('recover a whole year’s pay three times: once', async () => {
    const id = await place.run();
    await place.approve(id);
    const body = { itemId: place.items['salary'], total: '2500.00', perPayslip: '100.00', reason: 'Paid by mistake' };
    const path = `people/${place.people.salaried}/recoveries`;
    const answers = [];
    for (let turn = 0; turn < 3; turn++) answers.push(await office.send('post', path, body));
    expect(answers.map((answer) => answer.status)).toEqual([200, 422, 422]);
    expect((answers[1]?.body as { detail: string }).detail).toContain('being recovered');
  });

  it('use a right that is taken away at the same moment: what is done after it is refused', async () => {
    const clerk = await Visitor.signIn(server.app, place.emails['clerk'] ?? '');
    const member = clerk.session.user.id;
    const taken = status(office.send('put', `members/${member}`, { role: 'viewer' }));
    const added = await Promise.all(
      Array.from({ length: 6 }, (_none, index) => clerk.send('post', 'people', { code: `R${index}`, givenName: 'R', familyName: 'R' })),
    );
    expect(await taken).toBe(200);
    const people = await select<{ people: number }>(
      testDatabase(),
      `select count(*)::int as people from people where employer_id = :id and code like 'R%'`,
      { id: place.employerId },
    );
    expect(people[0]?.people).toBe(added.filter((one) => one.status === 200).length);
    expect((await clerk.send('post', 'people', { code: 'R9', givenName: 'R', familyName: 'R' })).status).toBe(403);
  });

  it('the database itself refuses a second entry in a run, and a second payment that stands', async () => {
    const id = await place.run();
    const insert = select(testDatabase(), 'insert into payslips (run_id, person_id) values (:id, :person) returning id', {
      id,
      person: place.people.hourly,
    });
    await expectAsync(insert).toBeRejected();
    await place.approve(id);
    const again = select(
      testDatabase(),
      `insert into net_payments (employer_id, run_id, payslip_id, amount, method, user_id) select employer_id, run_id, payslip_id, amount, 'cash', user_id from net_payments where run_id = :id limit 1 returning id`,
      { id },
    );
    await expectAsync(again).toBeRejected();
    for (const table of ['ledger_lines', 'audit_entries', 'payslip_results'])
      await expectAsync(select(testDatabase(), `truncate ${table} cascade`))
        .withContext(table)
        .toBeRejectedWithError(/append-only|is posted/);
  });
});
