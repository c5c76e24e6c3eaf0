import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import fc from 'fast-check';
import { execute, select } from '../database/connection';
import { moveToday } from '../employers/service';
import { outbox } from '../mail/service';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { listPayItems } from '../pay-items/service';
import { addPersonItem } from '../people/employment/recurring-items';
import { setNationalNumber } from '../people/service';
import { setAgency } from '../standins/agencies/books';
import { readCorrections } from '../standins/agencies/US/corrected-statements';
import { CALM, numbered, readyToFile } from '../testing/filing-workplace';
import { refusal } from '../testing/refusal';
import type { Workplace } from '../testing/workplace';
import type { Scope } from '../scope';
import { scopeOf } from '../users/service';
import { boxMap, setItemBoxes } from './boxes';
import { copiesPdf } from './copies-print';
import { contentOf } from './events';
import { fileOf } from './files';
import { copiesGiven, formConsent, giveCopies, mailedCopy } from './give';
import { agreeFiling, enterFilingLine, prepareFiling, sendByFile, sendFiling, withdrawFiling } from './life';
import { markCopy } from './marks';
import { outside, settleFilings } from './routes';
import { viewOf } from './service';

const W2 = ['w-2', '2026'] as const;

/** What a PDF says, page by page. */
function pagesOf(pdf: Buffer, password?: string): string[] {
  const folder = mkdtempSync(join(tmpdir(), 'statements-'));
  try {
    const file = join(folder, 'file.pdf');
    writeFileSync(file, pdf);
    const text = execFileSync('pdftotext', ['-layout', ...(password ? ['-upw', password] : []), file, '-'], {
      encoding: 'utf8',
      stdio: 'pipe',
    });
    return text.split('\f').slice(0, -1);
  } finally {
    rmSync(folder, { recursive: true });
  }
}

describe('Year-end statements', () => {
  let place: Workplace;
  let scope: Scope;
  let run: string;
  const view = () => viewOf(scope, ...W2);
  const copyOf = async (personId: string) => (await view()).copies.find((copy) => copy.personId === personId);
  const filed = async (reason = '') => {
    await prepareFiling(scope, ...W2, { reason });
    await agreeFiling(scope, ...W2, { signer: 'A. Signatory', title: 'Owner' });
    await sendByFile(scope, ...W2, { pays: false, consent: '' }, outside);
  };
  const reverseHourly = async () => {
    const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === place.people.hourly);
    await reversePayslip(scope, row?.payslipId ?? '', 'never worked', false);
  };

  beforeEach(async () => {
    place = await readyToFile();
    scope = await place.scope();
    await addPersonItem(scope, place.people.hourly, { itemId: place.items['loan'] ?? '', amount: '12.00', from: '2026-01-01' });
    run = await place.run();
    await place.approve(run);
    scope = await place.scope();
    for (const { one, number } of numbered((await view()).copies)) await setNationalNumber(scope, one.personId, number);
    await moveToday(scope, '2027-01-11');
    scope = await place.scope();
  });
  afterAll(async () => setAgency(scope, CALM));

  describe('are put together', () => {
    it('with each item in its box: what has none is open until somebody says so', async () => {
      const open = async () =>
        (await boxMap(scope, '2026')).filings
          .find(({ filing }) => filing === 'w-2')!
          .items.filter((item) => item.open)
          .map(({ code }) => code);
      const before = await open();
      expect(before).toContain('loan');
      const items = await listPayItems(scope);
      const id = items.find(({ code }) => code === 'loan')!.id;
      await setItemBoxes(scope, { year: '2026', items: [{ id, put: { filing: 'w-2', box: '14', label: 'CLUB' } }] });
      expect(await open()).toEqual(before.filter((code) => code !== 'loan'));
      const stated = (await view()).lines.find(({ line }) => line === '14 CLUB');
      expect(stated?.amount).toBeGreaterThan(0);
      expect((await view()).checks.filter(({ holds }) => !holds)).toEqual([]);
      await setItemBoxes(scope, { year: '2026', items: [{ id, put: { filing: '', box: '', label: '' } }] });
      expect((await view()).lines.some(({ line }) => line === '14 CLUB')).toBeFalse();
      expect(await open()).not.toContain('loan');
    });

    it('in a later year otherwise, and what was there before stays', async () => {
      const id = (await listPayItems(scope)).find(({ code }) => code === 'loan')!.id;
      await setItemBoxes(scope, { year: '2027', items: [{ id, put: { filing: 'w-2', box: '14', label: 'CLUB' } }] });
      expect((await view()).lines.some(({ line }) => line === '14 CLUB')).toBeFalse();
    });

    it('and not in a box that is not meant for the item, or without the words that it wants', async () => {
      const id = (await listPayItems(scope)).find(({ code }) => code === 'loan')!.id;
      const put = (box: string, label = '') => setItemBoxes(scope, { year: '2026', items: [{ id, put: { filing: 'w-2', box, label } }] });
      expect(await refusal(put('12 V'))).toContain('cannot stand in box 12 V');
      expect(await refusal(put('14'))).toContain('wants words');
    });

    it('with boxes marked by hand, which say what was derived when they are let go', async () => {
      const marks = async () => (await copyOf(place.people.hourly))?.marks.map(({ box }) => box);
      const mark = (text: string | null) =>
        markCopy(scope, ...W2, { personId: place.people.hourly, box: '13 statutory', text, reason: 'Commission agent' });
      await mark('X');
      expect(await marks()).toContain('13 statutory');
      await mark(null);
      expect(await marks()).not.toContain('13 statutory');
      expect(await refusal(markCopy(scope, ...W2, { personId: place.people.hourly, box: '1', text: 'X', reason: 'Because' }))).toContain(
        'follows from what was posted',
      );
      expect(
        await refusal(markCopy(scope, ...W2, { personId: place.people.hourly, box: '13 plan', text: 'maybe', reason: 'Because' })),
      ).toContain('marked or not');
    });

    it('with what a third party withheld from sick pay among the totals', async () => {
      await enterFilingLine(scope, ...W2, { line: 'W-3 14', amount: '120.00', reason: 'Statement of the insurer' });
      expect((await view()).lines.find(({ line }) => line === 'W-3 14')?.amount).toBe(12_000);
      const total = (await fileOf(scope, ...W2)).content.split('\r\n').find((line) => line.startsWith('RT'));
      expect(total).toContain('000000000012000');
    });
  });

  describe('are printed', () => {
    it('as drafts at any time, without a number; final with one', async () => {
      const person = place.people.hourly;
      const [draft] = pagesOf(await copiesPdf(scope, ...W2, { person }));
      expect(draft).toContain('Draft');
      expect(draft).not.toContain('Control');
      await prepareFiling(scope, ...W2, { reason: '' });
      const [final] = pagesOf(await copiesPdf(scope, ...W2, { person, attempt: 1 }));
      expect(final).toMatch(/Control \d+/);
      expect(final).not.toContain('Draft');
    });

    it('begin over as often as needed before they go, and the print of before stays as it was', async () => {
      await prepareFiling(scope, ...W2, { reason: '' });
      await withdrawFiling(scope, ...W2, { reason: 'A box is missing' });
      await reverseHourly();
      await prepareFiling(scope, ...W2, { reason: '' });
      const people = async (attempt: number) => (await contentOf(scope, ...W2, attempt))?.copies.map(({ control }) => control);
      expect((await people(1))!.length - (await people(2))!.length).toBe(1);
      expect(await people(2)).toEqual((await people(2))!.map((_, index) => index + 1));
      expect(pagesOf(await copiesPdf(scope, ...W2, { person: place.people.hourly, attempt: 1 })).length).toBe(1);
    });

    it('one, two or four to a page, each saying what it is for', async () => {
      const copies = (each: 1 | 2 | 4) => copiesPdf(scope, ...W2, { person: place.people.hourly, each });
      const numbers = async (each: 1 | 2 | 4) =>
        pagesOf(await copies(each))
          .join()
          .split('Employer number').length - 1;
      expect(await Promise.all(([1, 2, 4] as const).map(numbers))).toEqual([1, 2, 4]);
      const [page] = pagesOf(await copies(4));
      expect(page).toContain('Copy B, with the federal tax return');
      expect(page).toContain('Copy 2, with the local tax return');
    });

    it('of everybody in the order that is asked for', async () => {
      const all = pagesOf(await copiesPdf(scope, ...W2, { order: 'department' }));
      expect(all.length).toBe((await view()).copies.length);
    });
  });

  describe('are given', () => {
    const consent = (personId: string, step: 'asked' | 'given' | 'withdrawn') =>
      formConsent(scope, personId, { step, means: 'on paper, signed' });

    it('only when they are final, electronically only to who agreed, and once', async () => {
      const give = (how: 'inbox' | 'paper', people: string[] = []) => giveCopies(scope, ...W2, { how, people });
      expect(await refusal(give('inbox'))).toContain('is a draft');
      await prepareFiling(scope, ...W2, { reason: '' });
      expect(await give('inbox')).toBe(0);
      expect(await refusal(give('inbox', [place.people.hourly]))).toContain('has not agreed');
      await consent(place.people.hourly, 'given');
      expect(await give('inbox')).toBe(1);
      expect(await give('inbox')).toBe(0);
      expect(await give('paper')).toBe((await view()).copies.length - 1);
      const { attempt, people } = await copiesGiven(scope, ...W2);
      expect(attempt).toBe(1);
      expect(people.every(({ given }) => given.length === 1)).toBeTrue();
    });

    it('on paper again once the consent is withdrawn; what was given stays given', async () => {
      await consent(place.people.hourly, 'given');
      await prepareFiling(scope, ...W2, { reason: '' });
      await giveCopies(scope, ...W2, { how: 'inbox', people: [] });
      await consent(place.people.hourly, 'withdrawn');
      const { people } = await copiesGiven(scope, ...W2);
      const one = people.find(({ personId }) => personId === place.people.hourly)!;
      expect([one.electronic, one.consent?.step, one.given.map(({ how }) => how)]).toEqual([null, 'withdrawn', ['inbox']]);
      expect(await refusal(giveCopies(scope, ...W2, { how: 'mail', people: [place.people.hourly] }))).toContain('has not agreed');
    });

    it('are asked for by letter, and every step of the consent stays on record', async () => {
      await execute(scope.database, `update people set email = 'hourly@example.test' where id = :id returning id`, {
        id: place.people.hourly,
      });
      await consent(place.people.hourly, 'asked');
      await consent(place.people.hourly, 'given');
      const steps = await select<{ step: string; means: string }>(
        scope.database,
        'select step, means from form_consents where person_id = :id order by id',
        {
          id: place.people.hourly,
        },
      );
      expect(steps.map(({ step }) => step)).toEqual(['asked', 'given']);
      expect((await outbox(scope)).some(({ subject }) => subject.includes('electronically?'))).toBeTrue();
    });

    it('by mail under a password that only who gets it knows', async () => {
      await execute(
        scope.database,
        `update people set email = 'hourly@example.test', address = '{"line1": "2 Test Lane", "line2": "", "city": "Corbel Falls", "state": "PA", "postcode": "17999"}' where id = :id returning id`,
        { id: place.people.hourly },
      );
      await consent(place.people.hourly, 'given');
      await prepareFiling(scope, ...W2, { reason: '' });
      expect(await giveCopies(scope, ...W2, { how: 'mail', people: [] })).toBe(1);
      const attachment = (await outbox(scope)).find(({ attachment: one }) => one?.kind === 'statement')?.attachment;
      const pdf = await mailedCopy(scope, attachment?.id ?? '');
      expect(() => pagesOf(pdf)).toThrow();
      const last4 = (await copyOf(place.people.hourly))?.number?.slice(-4);
      expect(pagesOf(pdf, `${last4}17999`)[0]).toContain('Form W-2 for 2026');
    });
  });

  describe('of two employers of one number', () => {
    let other: Scope;
    const registered = (of: Scope, more: Record<string, unknown>) =>
      execute(
        of.database,
        `update employers set facts = jsonb_set(facts, '{country}', facts->'country' || cast(:more as jsonb)) where id = :id returning id`,
        { id: of.employer.id, more: JSON.stringify(more) },
      );
    const agreed = async (of: Scope) => {
      await prepareFiling(of, ...W2, { reason: '' });
      await agreeFiling(of, ...W2, { signer: 'A. Signatory', title: 'Owner' });
    };
    const send = (of: Scope, along?: string) => sendByFile(of, ...W2, { pays: false, consent: '', along }, outside);
    beforeEach(async () => {
      const branch = await readyToFile();
      const branchRun = await branch.run();
      await branch.approve(branchRun);
      const branchScope = await branch.scope();
      for (const { one, number } of numbered((await viewOf(branchScope, ...W2)).copies))
        await setNationalNumber(branchScope, one.personId, number.replace(/^213/, '313'));
      await moveToday(branchScope, '2027-01-11');
      await execute(
        scope.database,
        `insert into memberships (user_id, employer_id, role, accepted_at) values (:user, :employer, 'administrator', now()) returning user_id`,
        { user: scope.user.id, employer: branch.employerId },
      );
      await registered(scope, { establishment: 'MAIN' });
      await registered(branchScope, { federalNumber: scope.employer.facts.country['federalNumber'], establishment: 'SHOP' });
      scope = await place.scope();
      other = await scopeOf(scope.database, scope.user.id, branch.employerId);
    });

    it('go as one file, which the agency takes once and answers to both', async () => {
      await agreed(scope);
      await agreed(other);
      await send(other, scope.employer.id);
      expect((await viewOf(other, ...W2)).state).toBe('queued');
      await send(scope);
      await settleFilings(other);
      expect([(await view()).state, (await viewOf(other, ...W2)).state]).toEqual(['accepted', 'accepted']);
      const [submission] = await select<{ content: Buffer; taken: number }>(
        scope.database,
        `select content, (select count(*) from agency.submissions o where o.taxpayer = s.taxpayer) as taken from agency.submissions s where taxpayer = :number`,
        { number: String(scope.employer.facts.country['federalNumber']).replace('-', '') },
      );
      const records = submission?.content
        .toString()
        .split('\r\n')
        .map((line) => line.slice(0, 2))
        .filter(Boolean);
      expect([submission?.taken, records?.filter((one) => /^R[AEF]$/.test(one))]).toEqual([1, ['RA', 'RE', 'RE', 'RF']]);
      // What each sees and keeps is its own part.
      expect((await fileOf(other, ...W2, 1)).content.split('\r\n').filter((line) => line.startsWith('RE')).length).toBe(1);
    });

    it('are refused as one where their establishments cannot be told apart, and what waits holds its file back from other ways', async () => {
      await registered(other, { establishment: 'MAIN' });
      other = await scopeOf(scope.database, scope.user.id, other.employer.id);
      await agreed(scope);
      await agreed(other);
      await send(other, scope.employer.id);
      expect(await refusal(send(scope))).toContain('establishment numbers');
      expect(await refusal(withdrawFiling(scope, ...W2, { reason: 'Look again' }))).toContain('waits for it');
      expect(await refusal(sendFiling(scope, ...W2, { how: 'paper', reference: '' }))).toContain('waits for it');
      expect((await view()).state).toBe('agreed');
    });

    it('go for themselves where the number is another one, or the other has gone already', async () => {
      await agreed(scope);
      await agreed(other);
      await send(scope);
      expect(await refusal(send(other, scope.employer.id))).toContain('was sent already');
      await registered(other, { federalNumber: '98-1111111' });
      other = await scopeOf(scope.database, scope.user.id, other.employer.id);
      expect(await refusal(send(other, scope.employer.id))).toContain('it takes one number');
      const stranger = await readyToFile();
      expect(await refusal(send(other, stranger.employerId))).toContain('no such employer');
    });
  });

  describe('are corrected after they were filed', () => {
    it('by the difference alone, for whom it concerns, and the agency takes the correction', async () => {
      await filed();
      expect((await view()).state).toBe('accepted');
      await reverseHourly();
      const { filed: before } = await view();
      expect(before?.corrected.map(({ personId }) => personId)).toEqual([place.people.hourly]);
      const wages = before?.corrected[0]?.boxes.find(({ box }) => box === '1');
      expect([wages?.before, wages?.now]).toEqual([200_000 - 5_000, 0]);
      await filed('A payslip was reversed');
      expect((await view()).state).toBe('amended');
      const { content } = await fileOf(scope, ...W2, 2);
      expect(content.split('\r\n').filter((line) => line.startsWith('RCW')).length).toBe(1);
      const [page, ...rest] = pagesOf(await copiesPdf(scope, ...W2, { attempt: 2, corrected: true }));
      expect(rest).toEqual([]);
      expect(page).toContain('Form W-2c for 2026');
      const { attempt, people } = await copiesGiven(scope, ...W2);
      expect([attempt, people.map(({ personId }) => personId)]).toEqual([2, [place.people.hourly]]);
    });

    it('for a number alone, with the one that the agency has', async () => {
      await filed();
      await setNationalNumber(scope, place.people.hourly, '213-45-7777');
      const { filed: before } = await view();
      expect(before?.differences).toEqual([]);
      expect(before?.corrected.map(({ named, boxes }) => [named, boxes.length])).toEqual([[true, 0]]);
      const record = (await fileOf(scope, ...W2)).content.split('\r\n').find((line) => line.startsWith('RCW'));
      expect(record?.slice(3, 21)).toMatch(/^2134560\d\d213457777$/);
      await filed('A wrong number');
      expect((await view()).state).toBe('amended');
      expect((await view()).filed?.corrected).toEqual([]);
    });

    it('but not when nothing differs', async () => {
      await filed();
      expect(await refusal(prepareFiling(scope, ...W2, { reason: 'Once more' }))).toContain('nothing differs');
    });

    it('in a file of which every damage is noticed', async () => {
      await filed();
      await reverseHourly();
      const good = (await fileOf(scope, ...W2)).content;
      expect(readCorrections(good).faults).toEqual([]);
      const lines = good.split('\r\n').slice(0, -1);
      const damaged = (line: number, column: number, to: string) =>
        lines.map((one, at) => (at === line ? one.slice(0, column) + to + one.slice(column + 1) : one)).join('\r\n');
      const first = lines.findIndex((line) => line.startsWith('RCW'));
      // Any figure of the seven amounts that wage taxes hang on, and of their totals.
      fc.assert(
        fc.property(fc.integer({ min: 243, max: 243 + 7 * 22 - 1 }), (column) => {
          const held = lines[first]![column]!;
          const { faults } = readCorrections(damaged(first, column, held === ' ' ? '1' : held === '9' ? '8' : '9'));
          expect(faults.length)
            .withContext(`column ${column + 1}`)
            .toBeGreaterThan(0);
        }),
      );
      for (let line = 0; line < lines.length; line++) {
        expect(readCorrections(lines.filter((_, at) => at !== line).join('\r\n')).faults.length)
          .withContext(`without ${lines[line]!.slice(0, 3)}`)
          .toBeGreaterThan(lines[line]!.startsWith('RCS') ? -1 : 0);
        expect(readCorrections(damaged(line, 0, 'X')).faults.length).toBeGreaterThan(0);
      }
    });
  });
});
