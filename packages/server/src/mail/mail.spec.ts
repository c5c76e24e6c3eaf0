import { changePerson, personPage } from '../people/service';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { summaryPdf } from '../pay-runs/review/summary';
import { refusal } from '../testing/refusal';
import { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { deliverRun, deliveryOf, outbox, sendWaiting } from './service';

describe('Delivery by mail', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const withEmail = async (id: string, email: string) => {
    const { version, facts } = await personPage(scope, id);
    await changePerson(scope, id, { version, facts: { ...facts, email }, from: null, reason: '' });
  };
  const clerk = () => place.emails['clerk'] ?? '';

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    await withEmail(place.people.hourly, 'hana@example.test');
    run = await place.run();
  });

  it('waits for approval', async () => {
    expect(await refusal(deliverRun(scope, run, { reports: [] }))).toContain('when the run is approved');
    expect(await outbox(scope)).toEqual([]);
  });

  it('tells who gets the payslip by mail and who needs paper', async () => {
    await place.approve(run);
    const delivery = await deliveryOf(scope, run);
    const paid = (await sheetOf(scope, run)).rows.filter((row) => row.included).length;
    expect([delivery.ready, delivery.sent, delivery.paper.length]).toEqual([1, 0, paid - 1]);
    expect(delivery.members.map((member) => member.email)).toContain(clerk());
  });

  it('writes each payslip once, however often it is asked for, and sends it once', async () => {
    await place.approve(run);
    await deliverRun(scope, run, { reports: [] });
    await deliverRun(scope, run, { reports: [] });
    const [letter, ...others] = await outbox(scope);
    expect(others).toEqual([]);
    expect([letter?.to, letter?.attachment?.kind, letter?.deliveredAt]).toEqual(['hana@example.test', 'payslip', null]);
    await Promise.all([sendWaiting(scope.database), sendWaiting(scope.database)]);
    await deliverRun(scope, run, { reports: [] });
    await sendWaiting(scope.database);
    const after = await outbox(scope);
    expect(after.length).toBe(1);
    expect(after[0]?.deliveredAt).not.toBeNull();
    const { sent, ready, waiting } = await deliveryOf(scope, run);
    expect([sent, ready, waiting]).toEqual([1, 0, 0]);
  });

  it('sends who got an address later theirs, and nobody theirs again', async () => {
    await place.approve(run);
    await deliverRun(scope, run, { reports: [] });
    await withEmail(place.people.salaried, 'sol@example.test');
    expect((await deliveryOf(scope, run)).ready).toBe(1);
    await deliverRun(scope, run, { reports: [] });
    expect((await outbox(scope)).map((letter) => letter.to).sort()).toEqual(['hana@example.test', 'sol@example.test']);
  });

  it('sends the register to people who work here, once each, and to no stranger', async () => {
    await place.approve(run);
    expect(await refusal(deliverRun(scope, run, { reports: [{ to: 'stranger@example.test', report: 'register' }] }))).toContain(
      'does not work here',
    );
    expect(await outbox(scope)).toEqual([]);
    await deliverRun(scope, run, { reports: [{ to: clerk(), report: 'register' }] });
    await deliverRun(scope, run, { reports: [{ to: clerk(), report: 'register' }] });
    const registers = (await outbox(scope)).filter((letter) => letter.attachment?.kind === 'register');
    expect(registers.map((letter) => [letter.to, letter.attachment?.id])).toEqual([[clerk(), run]]);
    expect((await deliveryOf(scope, run)).reports.map((report) => report.to)).toEqual([clerk()]);
  });

  it('sends the summary beside the register, as a page to read', async () => {
    await place.approve(run);
    const both = [
      { to: clerk(), report: 'register' as const },
      { to: clerk(), report: 'summary' as const },
    ];
    await deliverRun(scope, run, { reports: both });
    await deliverRun(scope, run, { reports: both });
    expect((await outbox(scope)).flatMap(({ attachment }) => (attachment?.kind === 'payslip' ? [] : [attachment?.label]))).toEqual(
      jasmine.arrayWithExactContents(['Register, XLSX', 'Summary, PDF']),
    );
    expect((await summaryPdf(scope, run)).subarray(0, 5).toString()).toBe('%PDF-');
  });

  it('shows one employer nothing of another’s', async () => {
    await place.approve(run);
    await deliverRun(scope, run, { reports: [] });
    const other = await (await Workplace.make()).scope();
    expect(await outbox(other)).toEqual([]);
    expect(await refusal(deliveryOf(other, run))).toContain('no such');
  });
});
