import { leavingSchema } from '@woodruff/contract';
import { moveToday } from '../employers/service';
import { changeSetUp, setUpView } from '../employers/set-up';
import { leave, undoLeaving } from '../leaving/leaving';
import { execute } from '../database/connection';
import { testDatabase } from '../testing/database';
import { calculateRun } from '../calculation/calculation';
import { reversePayslip } from '../pay-runs/corrections/corrections';
import { sheetOf } from '../pay-runs/sheet/sheet';
import { setNationalNumber } from '../people/service';
import { addTaxDetails } from '../people/tax/tax-details';
import { adjustBalances } from '../people/history/adjustments';
import { setAgency } from '../standins/agencies/books';
import { readContributions } from '../standins/agencies/AU/contributions';
import { readPayEvent } from '../standins/agencies/AU/pay-event';
import { australianWorks } from '../testing/australian-works';
import { CALM } from '../testing/filing-workplace';
import { refusal } from '../testing/refusal';
import { approveAll } from '../testing/workplace';
import type { Scope } from '../scope';
import { detailsOfMost, scaleOf, scalePdf } from '../tables/scales';
import { fileOf } from './files';
import { copiesGiven, titleOfCopy } from './give';
import { agreeFiling, prepareFiling, sendByFile } from './life';
import { yearReconciled } from './reconciled';
import { outside } from './routes';
import { listOfFilings, viewOf } from './service';
import { yearPlan } from './year-plan';

const EVENT = ['pay-event', '2026-11-26'] as const;

describe('Pay days reported in Australia', () => {
  let works: Awaited<ReturnType<typeof australianWorks>>;
  let scope: Scope;
  const approve = async (run: string) => {
    await approveAll(await works.scope(), run);
    scope = await works.scope();
  };
  const send = async (filing: string, period: string, reason = '') => {
    await prepareFiling(scope, filing, period, { reason });
    await agreeFiling(scope, filing, period, { signer: 'A. Signatory', title: 'Director' });
    await sendByFile(scope, filing, period, { pays: false, consent: '' }, outside);
  };
  const stateOf = async (filing: string, period: string) => (await viewOf(scope, filing, period)).state;

  beforeEach(async () => {
    works = await australianWorks();
    scope = await works.scope();
    await setAgency(scope, CALM);
  });

  it('an event states everybody with the year to date, is accepted, and is never sent twice for one run', async () => {
    await approve(await works.run());
    const { name, content } = await fileOf(scope, ...EVENT);
    expect(name).toBe('pay-event-2026-11-26.xml');
    expect(readPayEvent(content)).toEqual(
      jasmine.objectContaining({ form: 'pay-event', to: '2026-11-26', signed: false, corrects: false }),
    );
    // 38 × 30.00: 1,140.99 at 32.27 per cent less 185.1935; 12 per cent of super.
    for (const part of [
      '<TaxFileNumberId>123456782<',
      '<GrossA>1140.00<',
      '<IncomeTaxPayAsYouGoWithholdingTaxWithheldA>183.00<',
      '<TaxTreatmentC>RTXXXX<',
      '<EmployerContributionsYearToDateA>136.80<',
    ])
      expect(content).toContain(part);
    await send(...EVENT);
    expect(await stateOf(...EVENT)).toBe('accepted');
    expect(await refusal(prepareFiling(scope, ...EVENT, { reason: 'Again' }))).toContain('nothing differs');
  });

  it('the latest event is replaced as a whole, with its totals; of an earlier one what is stated is updated', async () => {
    const first = await works.run();
    await approve(first);
    await send(...EVENT);
    const reverse = async (run: string, index: number) => {
      const { rows } = await sheetOf(scope, run);
      await reversePayslip(scope, rows[index]!.payslipId, 'Was not at work', false);
      scope = await works.scope();
    };
    await reverse(first, 1);
    await send(...EVENT, 'One payslip was reversed');
    expect(await stateOf(...EVENT)).toBe('amended');
    const sentOf = async () => (await fileOf(scope, ...EVENT, (await viewOf(scope, ...EVENT)).filed?.attempt)).content;
    const replaced = await sentOf();
    for (const part of [
      '<ActionC>submit<',
      '<FullFileReplacementI>true<',
      '<InteractionTransactionId>2026-11-26<',
      '<TotalGrossPaymentsWithholdingA>1140.00<',
      '<InteractionRecordCt>2<',
    ])
      expect(replaced).withContext(part).toContain(part);
    expect(readPayEvent(replaced).faults).toEqual([]);
    expect(readPayEvent(replaced.replace('<AmendmentI>true', '<AmendmentI>false')).faults.map(({ code }) => code)).toEqual(['REPLACEMENT']);
    // A week later it is not the latest any more.
    await moveToday(scope, '2026-12-02');
    await approve(await works.run({ from: '2026-11-23', to: '2026-11-29', payDate: '2026-12-03' }));
    await send('pay-event', '2026-12-03');
    await reverse(first, 0);
    await send(...EVENT, 'And the other one');
    const updated = await sentOf();
    expect(updated).toContain('<ActionC>update<');
    expect(updated).not.toContain('FullFileReplacementI');
    expect(updated).not.toContain('TotalGrossPaymentsWithholdingA');
  });

  it('an event is read by the agency so that every damage to it is noticed', async () => {
    await approve(await works.run());
    const { content } = await fileOf(scope, ...EVENT);
    const signed = content.replace(
      '<Payee>',
      '<Declaration><SignatoryIdentifierT>A</SignatoryIdentifierT><StatementAcceptedI>true</StatementAcceptedI></Declaration><Payee>',
    );
    expect(readPayEvent(signed).faults).toEqual([]);
    for (const [part, instead, code] of [
      ['<TaxFileNumberId>123456782', '<TaxFileNumberId>123456789', 'TFN'],
      ['<TaxTreatmentC>RTXXXX', '<TaxTreatmentC>RZXXXX', 'TREATMENT'],
      ['<PaymentBasisC>F', '<PaymentBasisC>Q', 'BASIS'],
      ['<GrossA>1140.00', '<GrossA>-1140.00', 'TO-DATE'],
      ['<GrossA>1140.00', '<GrossA>many', 'AMOUNT'],
      ['<GrossA>1140.00', '<GrossA>100.00', 'WITHHELD'],
      ['<ReportingFinancialY>2027', '<ReportingFinancialY>2026', 'YEAR'],
      ['<OrganisationDetailsOrganisationBranchC>001', '<OrganisationDetailsOrganisationBranchC>1', 'BRANCH'],
      ['<InteractionRecordCt>2', '<InteractionRecordCt>3', 'COUNT'],
      ['<EmploymentPayrollNumberId>2<', '<EmploymentPayrollNumberId>1<', 'TWICE'],
      ['<PostcodeT>7999', '<PostcodeT>', 'ADDRESS'],
      ['<BirthY>1988', '<BirthY>', 'BIRTH'],
      ['<IncomeStreamTypeC>SAW', '<IncomeStreamTypeC>XXX', 'STREAM'],
      ['<EmploymentStartD>2019-05-06', '<EmploymentStartD>', 'START'],
      ['<RemunerationPayrollEventFinalI>false', '<RemunerationPayrollEventFinalI>true', 'FINAL'],
      ['<ActionC>submit', '<ActionC>replace', 'ACTION'],
      ['<StatementAcceptedI>true', '<StatementAcceptedI>no', 'DECLARATION'],
    ] as const) {
      expect(signed).withContext(part).toContain(part);
      expect(readPayEvent(signed.replace(part, instead)).faults.map((fault) => fault.code))
        .withContext(instead)
        .toContain(code);
    }
    expect(readPayEvent('<PAYEVNT>').faults[0]?.code).toBe('XML');
  });

  it('super goes with the pay day; a closed fund sends it back, and it is paid again to another', async () => {
    await approve(await works.run());
    expect((await listOfFilings(scope)).find(({ filing }) => filing === 'super')?.periods.map(({ key, due }) => [key, due])).toEqual([
      ['2026-11-26', '2026-12-07'],
    ]);
    const { content } = await fileOf(scope, 'super', '2026-11-26');
    const damaged = (part: string, instead: string) => readContributions(content.replace(part, instead)).faults.map(({ code }) => code);
    expect(readContributions(content).faults.map(({ code }) => code)).toEqual(['FUND-CLOSED']);
    expect(damaged('136.80', '-136.80')).toContain('AMOUNT');
    expect(damaged('136.80', '0.00')).toContain('NOTHING');
    expect(damaged('51824753556,QWS0100AU', '51824753557,QWS0100AU')).toContain('FUND');
    expect(damaged('QWS0100AU', '')).toContain('SMSF');
    expect(damaged('123456782', '123456789')).toContain('TFN');
    await send('super', '2026-11-26');
    expect(await stateOf('super', '2026-11-26')).toBe('rejected');
    const state = { state: 'TAS', fundChoice: 'chosen', fund: 'QWS0100AU', memberNumber: 'M1' };
    await addTaxDetails(scope, works.people[1], { from: '2026-11-20', facts: state });
    scope = await works.scope();
    await send('super', '2026-11-26');
    expect(await stateOf('super', '2026-11-26')).toBe('accepted');
  });

  it('what was contributed differs once its pay day is another one, and says so', async () => {
    const run = await works.run();
    await approve(run);
    const state = { state: 'TAS', fundChoice: 'default' };
    await addTaxDetails(scope, works.people[1], { from: '2026-11-20', facts: state });
    scope = await works.scope();
    await send('super', '2026-11-26');
    const { rows } = await sheetOf(scope, run);
    await reversePayslip(scope, rows[0]!.payslipId, 'Paid on another day', false);
    scope = await works.scope();
    const found = (await listOfFilings(scope)).find(({ filing }) => filing === 'super')?.periods.find(({ key }) => key === '2026-11-26');
    expect(found?.differs).toBeGreaterThan(0);
    const { filed } = await viewOf(scope, 'super', '2026-11-26');
    expect(filed?.differences.find(({ line }) => line === 'guarantee')).toEqual(jasmine.objectContaining({ filed: 27_360, now: 13_680 }));
  });

  it('a redundancy is taxed by its kind and service, ends in the event with its reason, and is as it was once undone', async () => {
    const leaving = leavingSchema.parse({
      lastDay: '2026-11-20',
      reason: 'The walk closes',
      kind: 'redundant',
      notice: { how: 'none' },
      amounts: [{ item: 'redundancy', amount: '60000.00' }],
      finalPay: { in: 'own-run', payDate: '2026-11-26', taxMethod: 'spread', ordinaryDeductions: false },
    });
    const { runId } = await leave(scope, works.people[0], leaving);
    scope = await works.scope();
    await calculateRun(scope, runId!);
    await approve(runId!);
    const { content } = await fileOf(scope, ...EVENT);
    // 13,598 and 7 × 6,801 are free; 32 per cent of the rest, 1,205.00 (figures of 2026-27 are unconfirmed).
    expect(content).toContain('<CessationTypeC>R</CessationTypeC>');
    const amountOf = (element: string) => new RegExp(`<${element}>([^<]*)<`).exec(content)?.[1];
    const free = 13_598 + 7 * 6801;
    expect(content).toMatch(new RegExp(`<TypeC>D</TypeC>\\s*<PaymentsA>${Math.min(60_000, free)}\\.00`));
    expect(amountOf('SuperannuationTaxableComponentA') ?? '0.00').toBe(free >= 60_000 ? '0.00' : `${60_000 - free}.00`);
    // Where the employer says so, the year of whoever leaves is final with it; of the others it is not.
    expect(content).not.toContain('<RemunerationPayrollEventFinalI>true');
    const { version, facts, ...setUp } = await setUpView(scope);
    await changeSetUp(scope, {
      version,
      name: setUp.name,
      facts: { ...facts, country: { ...facts.country, leaversFinal: true } },
      renamed: { departments: {}, worksites: {}, jobs: {} },
    });
    scope = await works.scope();
    const final = (await fileOf(scope, ...EVENT)).content;
    expect(final.match(/<RemunerationPayrollEventFinalI>true/g)?.length).toBe(1);
    expect(readPayEvent(final).faults.map(({ code }) => code)).toEqual(['DECLARATION']);
    await undoLeaving(scope, works.people[0], 'Stays after all');
    scope = await works.scope();
    const { lines } = await viewOf(scope, ...EVENT);
    expect(lines.find(({ line }) => line === 'lump-sum D')?.amount ?? 0).toBe(0);
    expect(await refusal(leave(scope, works.people[0], { ...leaving, lastDay: '2019-05-05' }))).toContain('before the hire date');
  });

  it('a negative year to date keeps an event from being prepared', async () => {
    await approve(await works.run());
    await adjustBalances(scope, {
      date: '2026-11-25',
      reason: 'Overpaid in the system before',
      entries: [{ person: '1', balance: 'au.gross', amount: '-5000.00' }],
    });
    scope = await works.scope();
    expect(await refusal(prepareFiling(scope, ...EVENT, { reason: '' }))).toContain('less than nothing in the year so far');
  });

  it('a year is reconciled: what was adjusted by hand is told apart from the register, person by person', async () => {
    await approve(await works.run());
    await adjustBalances(scope, {
      date: '2026-11-25',
      reason: 'Paid by the system before',
      entries: [{ person: '1', balance: 'au.gross', amount: '500.00' }],
    });
    scope = await works.scope();
    const { codes, people } = await yearReconciled(scope, '2026-27', 'au.gross');
    expect(codes.find(({ code }) => code === 'au.gross')).toEqual(
      jasmine.objectContaining({ register: 228_000, adjusted: 50_000, ledger: 278_000, unexplained: 0 }),
    );
    expect(codes.every(({ unexplained }) => unexplained === 0)).toBeTrue();
    expect(people.map(({ name, adjusted }) => [name, adjusted])).toEqual([
      ['Adeyemi, Fergus', 50_000],
      ['Nightingale, Bram', 0],
    ]);
    expect(await refusal(yearReconciled(scope, '2026'))).toContain('tax year');
    const { steps, year } = await yearPlan(scope, 'now');
    expect([year, steps.find(({ code }) => code === 'reconciled')?.state]).toEqual(['2026-27', 'later']);
  });

  it('the year is finalised for everybody, and amended once something of it was corrected', async () => {
    const run = await works.run({ from: '2026-06-15', to: '2026-06-21', payDate: '2026-06-25' });
    await approve(run);
    await moveToday(scope, '2027-07-02');
    scope = await works.scope();
    await send('finalisation', '2025-26');
    expect(await stateOf('finalisation', '2025-26')).toBe('accepted');
    const { rows } = await sheetOf(scope, run);
    await reversePayslip(scope, rows[0]!.payslipId, 'Was not at work', false);
    scope = await works.scope();
    const { filed } = await viewOf(scope, 'finalisation', '2025-26');
    expect(filed?.differences.length).toBeGreaterThan(0);
    await send('finalisation', '2025-26', 'The last week was not worked');
    expect(await stateOf('finalisation', '2025-26')).toBe('amended');
    const { content } = await fileOf(scope, 'finalisation', '2025-26');
    expect(content).toContain('<ActionC>update</ActionC>');
    expect(content).toContain('<RemunerationPayrollEventFinalI>true</RemunerationPayrollEventFinalI>');
  });

  it('the year is finalised for some: who lacks something is held back and follows, the others do not wait', async () => {
    await approve(await works.run({ from: '2026-06-15', to: '2026-06-21', payDate: '2026-06-25' }));
    const [fergus, bram] = works.people;
    const prepare = (without: string[], reason = '') => prepareFiling(scope, 'finalisation', '2025-26', { reason, without });
    const finalised = async () =>
      [
        ...(
          await fileOf(scope, 'finalisation', '2025-26', (await viewOf(scope, 'finalisation', '2025-26')).filed?.attempt)
        ).content.matchAll(/<TaxFileNumberId>(\d+)</g),
      ].map(([, number]) => number);
    // The number of one is taken off: they alone are stopped.
    await execute(
      testDatabase(),
      'update people set number_sealed = null, number_last4 = null, number_fingerprint = null where id = :bram',
      { bram },
    );
    expect(await refusal(prepare([fergus]))).toContain('everybody is held back');
    expect(await refusal(prepareFiling(scope, 'activity-statement', '2026-06', { reason: '', without: [fergus] }))).toContain(
      'for everybody at once',
    );
    await prepare([]);
    const agree = async () => {
      await agreeFiling(scope, 'finalisation', '2025-26', { signer: 'A. Signatory', title: 'Director' });
      await sendByFile(scope, 'finalisation', '2025-26', { pays: false, consent: '' }, outside);
    };
    await agree();
    const { events, state } = await viewOf(scope, 'finalisation', '2025-26');
    expect([state, events[0]?.words]).toEqual(['accepted', 'Held back: Nightingale, Bram']);
    expect(await finalised()).toEqual(['123456782']);
    const held = async () => (await yearPlan(scope, '2025-26')).steps.find(({ code }) => code === 'held-finalisation');
    expect((await held())?.how).toBe('Nightingale, Bram still follows.');
    // Still without a number nothing can be amended; with one the second statement follows the first.
    expect(await refusal(prepare([], 'All of them'))).toContain('nothing of those who are not held back differs');
    await setNationalNumber(scope, bram, '876 543 210');
    await prepare([], 'The number has come');
    await agree();
    expect(await finalised()).toEqual(['123456782', '876543210']);
    expect(await held()).toBeUndefined();
    // The statement that follows is the first, and corrects nothing.
    const { attempt, people } = await copiesGiven(scope, 'finalisation', '2025-26');
    expect(people.map(({ name }) => name)).toEqual(['Nightingale, Bram']);
    expect((await titleOfCopy(scope, 'finalisation', '2025-26', attempt ?? 0, bram)).name).toBe('Income statement');
  });

  it('any pay is looked up in the scales of any day, with its working, and printed as a table', async () => {
    const details = JSON.stringify({ state: 'TAS' });
    const asked = { date: '2026-03-12', frequency: 'weekly' as const, details, steady: 'yes' as const };
    const { taxes, before, workings, taxYear } = scaleOf(scope, { ...asked, pay: '1000.00' });
    expect([taxYear, before]).toEqual(['2025-26', 36]);
    expect(taxes.map(({ code, amount }) => [code, amount])).toEqual(jasmine.arrayContaining([['au.paygw', 14_300]]));
    expect(workings['au.paygw']?.steps.some(({ detail }) => detail === '32.27% of the whole less 180.0385')).toBeTrue();
    expect(await detailsOfMost(scope)).toEqual(jasmine.objectContaining({ state: 'TAS' }));
    const pdf = await scalePdf(scope, { ...asked, from: '500.00', to: '1500.00', step: '100.00' });
    expect(pdf.subarray(0, 5).toString()).toBe('%PDF-');
    expect(await refusal(Promise.resolve().then(() => scaleOf(scope, { ...asked, details: '{}', pay: '1000.00' })))).toContain(
      'Tax details are missing',
    );
    expect(await refusal(scalePdf(scope, { ...asked, from: '1.00', to: '9000.00', step: '1.00' }))).toContain('400 are printed at most');
    expect(await refusal(scalePdf(scope, { ...asked, from: '10.00', to: '5.00', step: '1.00' }))).toContain('from a pay to a higher one');
  });
});
