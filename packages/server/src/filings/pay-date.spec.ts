import { createHash } from 'node:crypto';
import { setBank } from '../employers/paying-accounts';
import { prepareBatch, batchView } from '../payments/batches';
import { releaseBatch } from '../payments/release';
import { transfersWhere } from '../payments/transfers';
import { setPayment } from '../people/payment/payment';
import { moveToday } from '../employers/service';
import { setAgency } from '../standins/agencies/books';
import { readPayment } from '../standins/agencies/GB/full-payment';
import { britishWorks } from '../testing/british-works';
import { CALM } from '../testing/filing-workplace';
import { openRun } from '../calculation/calculation';
import { openPoints } from '../pay-runs/sheet/points';
import { marked } from '../testing/marked';
import { refusal } from '../testing/refusal';
import { approveAll } from '../testing/workplace';
import type { Scope } from '../scope';
import { dueBetween } from './due';
import { fileOf } from './files';
import { agreeFiling, prepareFiling, sendByFile } from './life';
import { outside } from './routes';
import { listOfFilings, viewOf } from './service';

const FPS = ['fps', '2026-11-30'] as const;

describe('A submission with every pay date', () => {
  let works: Awaited<ReturnType<typeof britishWorks>>;
  let scope: Scope;
  const approve = async () => {
    const run = await works.run();
    scope = await works.scope();
    await approveAll(scope, run);
    scope = await works.scope();
  };
  const send = async (reason = '') => {
    await prepareFiling(scope, ...FPS, { reason });
    await agreeFiling(scope, ...FPS, { signer: 'A. Signatory', title: 'Owner' });
    await sendByFile(scope, ...FPS, { pays: false, consent: '' }, outside);
  };

  beforeEach(async () => {
    works = await britishWorks();
    scope = await works.scope();
    await setAgency(scope, CALM);
  });

  it('is there once something is posted for the day, can be sent before it, and is accepted', async () => {
    expect((await listOfFilings(scope)).filter(({ filing }) => filing === 'fps').flatMap(({ periods }) => periods)).toEqual([]);
    await approve();
    const listed = (await listOfFilings(scope)).find(({ filing }) => filing === 'fps');
    expect(listed?.periods.map(({ key, state, due }) => [key, state, due])).toEqual([['2026-11-30', 'due', '2026-11-30']]);
    expect((await dueBetween(scope, '2026-11-25', '2026-11-30')).some(({ what }) => what.startsWith('Full payment submission'))).toBeTrue();
    const { lines, checks, complete } = await viewOf(scope, ...FPS);
    // Month 8, with nothing before: 36,000.00 and 48,000.00 a year by the month.
    expect([complete, checks.filter(({ holds }) => !holds)]).toEqual([true, []]);
    expect(lines.find(({ line }) => line === 'pay')?.amount).toBe(700_000);
    expect(lines.find(({ line }) => line === 'employee')?.amount).toBe(15_616 + 23_616);
    await send();
    expect((await viewOf(scope, ...FPS)).state).toBe('accepted');
    expect(await refusal(prepareFiling(scope, ...FPS, { reason: 'Again' }))).toContain('nothing differs');
  });

  it('states everybody with the payment, the year so far and the contributions of the letter', async () => {
    await approve();
    const { name, content } = await fileOf(scope, ...FPS);
    expect(name).toBe('fps-2026-11-30.xml');
    const read = readPayment(content);
    expect(read.faults).toEqual([]);
    expect([read.to, read.signed, read.corrects]).toEqual(['2026-11-30', false, false]);
    expect(content).toContain('<NINO>AB123456C</NINO>');
    expect(content).toContain('<StartDec>B</StartDec>');
    expect(content).toContain('<TaxCode>S1257L</TaxCode>');
    // 4,000.00 less 32,745.00 ÷ 12 or 33,795.00 ÷ 12 by the year: 9 per cent of 1,183.75, down to a pound.
    expect(content).toContain('<StudentLoanRecovered PlanType="04">106.00</StudentLoanRecovered>');
    expect(content).toContain('<AtLELYTD>559.00</AtLELYTD>');
  });

  it('is read by the agency so that every damage to it is noticed', async () => {
    await approve();
    const { content } = await fileOf(scope, ...FPS);
    const damages: [string | RegExp, string, string][] = [
      ['<NINO>AB', '<NINO>BG', 'NINO'],
      ['<TaxCode>S1257L', '<TaxCode>S1257Q', 'TAX-CODE'],
      ['<NIletter>A', '<NIletter>G', 'LETTER'],
      [/<PmtDate>[^<]*/, '<PmtDate>2026-12-01', 'DATE'],
      ['<RelatedTaxYear>26-27', '<RelatedTaxYear>25-26', 'YEAR'],
      ['<AORef>123PA', '<AORef>123XA', 'AO-REF'],
      ['<PayId>2<', '<PayId>1<', 'TWICE'],
      [/<AtLELYTD>[^<]*/, '<AtLELYTD>9000.00', 'BANDS'],
      [/<EmpeeContribnsYTD>[^<]*/, '<EmpeeContribnsYTD>1.00', 'CONTRIBUTIONS'],
      [/<TaxDeductedOrRefunded>[^<]*/, '<TaxDeductedOrRefunded>2900.00', 'LIMIT'],
      [/<TaxablePay>[^<]*/, '<TaxablePay>x', 'AMOUNT'],
      [/(<IRheader>.*?Type="TaxOfficeReference">)/, '$1X', 'KEYS'],
      ['HMRC-PAYE-RTI-FPS', 'HMRC-PAYE-RTI-EPS', 'CLASS'],
      ['<Fore>Rhian</Fore>', '<Fore/>', 'NAME'],
    ];
    for (const [what, instead, code] of damages) {
      const damaged = content.replace(what, instead);
      expect(damaged).withContext(code).not.toBe(content);
      expect(readPayment(marked(damaged)).faults.map((fault) => fault.code))
        .withContext(code)
        .toContain(code);
    }
    // What was changed after it was marked is no longer what was sent.
    expect(readPayment(content.replace('<Fore>Rhian', '<Fore>Rhiam')).faults.map(({ code }) => code)).toEqual(['IRMARK']);
    expect(readPayment(content.slice(0, 400)).faults.map(({ code }) => code)).toEqual(['XML']);
  });

  it('carries of who is paid by the clearing the hash by which the agency finds the credit', async () => {
    works = await britishWorks({ country: { serviceUser: '123456' } });
    scope = await works.scope();
    await setBank(scope, { name: 'Bank of Aberquill', routing: '401234', account: '87654321' });
    await setPayment(scope, works.people[0], { method: 'deposit', bank: '309912', account: '44102200' });
    await approve();
    expect((await fileOf(scope, ...FPS)).content).not.toContain('BacsHashCode');
    const { id } = await prepareBatch(scope, { kind: 'pay', payDate: '2026-11-30' });
    await releaseBatch(scope, id, { version: (await batchView(scope, id)).version, balanced: true });
    const [credit] = await transfersWhere(scope, `t.batch_id = :id and t.method = 'file'`, { id });
    const text = `401234309912${String(credit!.amount).padStart(11, '0')}/${credit!.reference.slice(-3)}`;
    const hash = createHash('sha256').update(text).digest('hex');
    expect((await fileOf(await works.scope(), ...FPS)).content).toContain(`<BacsHashCode>${hash}</BacsHashCode>`);
  });

  it('of a pay date before one that was reported is asked about in its run', async () => {
    works = await britishWorks({ hired: '2026-10-01' });
    scope = await works.scope();
    await approve();
    await send();
    const earlier = await works.run({ from: '2026-10-01', to: '2026-10-31', payDate: '2026-10-30' });
    scope = await works.scope();
    const points = (await openPoints(scope, await openRun(scope, earlier))).filter(({ key }) => key.startsWith('reported-later'));
    expect(points.map(({ sentence, weight }) => [sentence.slice(0, 45), weight])).toEqual([
      ['The pay of 30 Nov 2026 was reported already: ', 'look'],
    ]);
  });

  it('of a year that is closed says why it comes late, and a correction states the year as it stands', async () => {
    await approve();
    await send();
    await moveToday(scope, '2026-12-28');
    scope = await works.scope();
    const december = await works.run({ from: '2026-12-01', to: '2026-12-31', payDate: '2026-12-31' });
    await approveAll(await works.scope(), december);
    await moveToday(await works.scope(), '2027-04-26');
    scope = await works.scope();
    const first = await fileOf(scope, 'fps', '2026-12-31');
    // Not signed yet, it does not know when it comes.
    expect(first.content).not.toContain('<LateReason>');
    await prepareFiling(scope, 'fps', '2026-12-31', { reason: '' });
    await agreeFiling(scope, 'fps', '2026-12-31', { signer: 'A. Signatory', title: 'Owner' });
    await sendByFile(scope, 'fps', '2026-12-31', { pays: false, consent: '' }, outside);
    const view = await viewOf(scope, 'fps', '2026-12-31');
    expect(view.state).toBe('accepted');
    const sent = (await fileOf(scope, 'fps', '2026-12-31', 1)).content;
    expect(sent).toContain('<LateReason>H</LateReason>');
    expect(readPayment(marked(sent.replaceAll('<LateReason>H</LateReason>', ''))).faults.map(({ code }) => code)).toEqual(['CLOSED']);
  });

  it('says what is missing before the first one, and is not to be had of a day without pay', async () => {
    await approve();
    expect((await viewOf(scope, ...FPS)).file?.wants).toEqual([]);
    const empty = await viewOf(scope, 'fps', '2026-10-30');
    expect(empty.lines.find(({ line }) => line === 'people')?.amount).toBe(0);
    expect(await refusal(prepareFiling(scope, 'fps', '2026-10-30', { reason: '' }))).toContain('Nobody is paid on the day');
    expect(await refusal(viewOf(scope, 'fps', '2026-Q3'))).toContain('no such filing');
  });
});
