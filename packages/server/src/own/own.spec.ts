import { outbox } from '../mail/service';
import { testApp, Visitor, Workplace } from '../testing/workplace';
import { changePerson, personPage } from '../people/service';
import { linkTo } from '../testing/link';
import { refusal } from '../testing/refusal';
import { useLink } from '../users/links';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { Membership, User } from '../users/models';
import { scopeOf } from '../users/service';
import { testDatabase } from '../testing/database';
import type { Scope } from '../scope';
import { endInvitation, invitationOf, invite, ownPayslip, ownView, setElectronicForms } from './service';

describe('An employee’s own view', () => {
  let place: Workplace;
  let scope: Scope;
  const withEmail = async (id: string, email: string) => {
    const { version, facts } = await personPage(scope, id);
    await changePerson(scope, id, { version, facts: { ...facts, email }, from: null, reason: '' });
  };
  const address = () => `hana-${place.employerId}@example.test`;
  const PASSWORD = 'marble teapot lantern fog';
  const accept = async (email = address()) => useLink(testDatabase(), await linkTo(email), PASSWORD);
  const own = async (): Promise<Scope> => {
    const user = await User.findOne({ where: { email: address() } });
    return scopeOf(testDatabase(), user?.id ?? '', place.employerId);
  };

  beforeEach(async () => {
    place = await Workplace.make();
    scope = await place.scope();
    await withEmail(place.people.hourly, address());
  });

  it('is opened by an invitation to the address on file', async () => {
    expect(await refusal(invite(scope, place.people.salaried))).toContain('no e-mail address');
    expect((await invitationOf(scope, place.people.hourly)).invited).toBeFalse();
    await invite(scope, place.people.hourly);
    expect((await invitationOf(scope, place.people.hourly)).invited).toBeTrue();
    const [letter] = await outbox(scope);
    expect([letter?.to, letter?.attachment]).toEqual([address(), null]);
    // The letter is the addressee's: the office sees that it went.
    expect(letter?.body).toBeNull();
    expect(await linkTo(address())).not.toBe('');
    await withEmail(place.people.salaried, place.emails['clerk'] ?? '');
    expect(await refusal(invite(scope, place.people.salaried))).toContain('with another right');
  });

  it('changes no password of somebody who signs in at another employer too', async () => {
    const other = await Workplace.make();
    const clerkThere = other.emails['clerk'] ?? '';
    await withEmail(place.people.hourly, clerkThere);
    const before = await User.findOne({ where: { email: clerkThere } });
    await invite(scope, place.people.hourly);
    await invite(scope, place.people.hourly);
    expect((await User.findOne({ where: { email: clerkThere } }))?.passwordHash).toBe(before?.passwordHash ?? '');
    await accept(clerkThere);
    expect((await User.findOne({ where: { email: clerkThere } }))?.passwordHash).toBe(before?.passwordHash ?? '');
  });

  it('shows what was paid to them with its workings, and nothing of a draft or of anybody else', async () => {
    await invite(scope, place.people.hourly);
    await accept();
    const run = await place.run();
    const { rows } = await sheetOf(scope, run);
    const of = (person: string) => rows.find((row) => row.personId === person)?.payslipId ?? '';
    expect((await ownView(await own())).payslips).toEqual([]);
    expect(await refusal(ownPayslip(await own(), of(place.people.hourly)))).toContain('no such payslip');
    await place.approve(run);
    const view = await ownView(await own());
    expect(view.payslips.map((one) => [one.payDate, one.gross])).toEqual([['2026-11-27', 200_000]]);
    expect(view.yearToDate.net).toBe(view.payslips[0]?.net ?? 0);
    const payslip = await ownPayslip(await own(), of(place.people.hourly));
    expect(payslip.workings['us.oasdi']?.amount).toBe('120.90');
    expect(payslip.history).toEqual([]);
    expect(await refusal(ownPayslip(await own(), of(place.people.salaried)))).toContain('no such payslip');
  });

  it('keeps the choice of electronic forms with its day', async () => {
    await invite(scope, place.people.hourly);
    await accept();
    await setElectronicForms(await own(), true);
    expect((await ownView(await own())).electronicForms).toBe('2026-11-23');
    await setElectronicForms(await own(), false);
    expect((await ownView(await own())).electronicForms).toBeNull();
  });

  it('gives no right to anything else, and is for the invited only', async () => {
    await invite(scope, place.people.hourly);
    await accept();
    const running = await testApp();
    const { app } = running;
    try {
      const visitor = await Visitor.signIn(app, address(), PASSWORD);
      await visitor.get('own').expect(200);
      for (const path of ['people', 'today', 'pay-runs', 'leave', `people/${place.people.hourly}`, 'set-up', 'one-offs', 'outbox', 'audit'])
        await visitor.get(path).expect(403);
      await visitor.send('post', '/api/employers', { name: 'Mine', country: 'US' }).expect(403);
      const clerk = await Visitor.signIn(app, place.emails['clerk'] ?? '');
      await clerk.get('own').expect(403);
    } finally {
      await running.stop();
    }
    expect(await Membership.count({ where: { personId: place.people.hourly } })).toBe(1);
  });

  it('ends with the address: who is invited there next accepts anew, and an old link is worth nothing', async () => {
    await invite(scope, place.people.hourly);
    const first = await linkTo(address());
    await invite(scope, place.people.hourly);
    expect(await refusal(useLink(testDatabase(), first, PASSWORD))).toContain('used already');
    await accept();
    const employee = await own();
    await withEmail(place.people.hourly, `other-${place.employerId}@example.test`);
    expect(await refusal(scopeOf(testDatabase(), employee.user.id, place.employerId))).toContain('no such employer');
    expect((await invitationOf(scope, place.people.hourly)).invited).toBeFalse();
    await invite(scope, place.people.hourly);
    await accept(`other-${place.employerId}@example.test`);
    expect(await invitationOf(scope, place.people.hourly)).toEqual(jasmine.objectContaining({ invited: true, accepted: true }));
    await endInvitation(scope, place.people.hourly);
    expect((await invitationOf(scope, place.people.hourly)).invited).toBeFalse();
  });
});
