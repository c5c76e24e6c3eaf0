import { select } from '../../database/connection';
import { addRecovery, endRecovery, recoveriesOf } from '../../people/history/recoveries';
import { refund, refundableOf } from '../../one-offs/refunds';
import { setPayment } from '../../people/payment/payment';
import { refusal } from '../../testing/refusal';
import { Workplace } from '../../testing/workplace';
import type { Scope } from '../../scope';
import { reversalPreview, reversePayslip } from './corrections';
import { changePayslip } from '../sheet/edits';
import { destinationOf, netPaymentOf, payAgain } from '../posting/net-payments';
import { payslipView } from '../sheet/payslips';
import { balancesOutOfStep } from '../../ledger/posting';
import { sheetOf } from '../sheet/sheet';
import { startSpecialRun } from '../making/special';
import { calculateRun } from '../../calculation/calculation';

let place: Workplace;
let scope: Scope;
const NEXT = { from: '2026-11-22', to: '2026-12-05', payDate: '2026-12-11' };
const AFTER = { from: '2026-12-06', to: '2026-12-19', payDate: '2026-12-24' };
const payslipOf = async (run: string, person: string) => {
  const row = (await sheetOf(scope, run)).rows.find((one) => one.personId === person);
  return payslipView(scope, row?.payslipId ?? '');
};

beforeEach(async () => {
  place = await Workplace.make();
  scope = await place.scope();
});

describe('Net pay paid', () => {
  const ACCOUNTS = {
    method: 'deposit' as const,
    accounts: [
      { bank: '021000021', account: '111122223333', kind: 'checking' as const, by: 'remainder' as const },
      { bank: '021000021', account: '444455556666', kind: 'savings' as const, by: 'amount' as const, value: '100' },
    ],
  };

  it('goes out with the approval: cheques numbered, deposits split over the accounts', async () => {
    await setPayment(scope, place.people.hourly, ACCOUNTS);
    const run = await place.run();
    const hourly = await payslipOf(run, place.people.hourly);
    expect((await netPaymentOf(scope, hourly.id)).made).toEqual([]);
    await place.approve(run);
    const [deposit] = (await netPaymentOf(scope, hourly.id)).made;
    expect(deposit?.parts).toEqual([
      { label: 'checking account ending 3333', amount: hourly.totals.net - 10_000 },
      { label: 'savings account ending 6666', amount: 10_000 },
    ]);
    const cheque = (await netPaymentOf(scope, (await payslipOf(run, place.people.salaried)).id)).made[0];
    // The first by name that has no account on file.
    expect([cheque?.method, cheque?.number]).toEqual(['cheque', 1001]);
  });

  it('is paid otherwise this once: by cash, or without one of the accounts', async () => {
    await setPayment(scope, place.people.hourly, ACCOUNTS);
    const run = await place.run();
    const { id, version, totals } = await payslipOf(run, place.people.hourly);
    const { accounts } = await netPaymentOf(scope, id);
    await changePayslip(scope, run, id, { version, edits: { payment: { without: [accounts[0]?.id ?? ''] } } });
    expect((await netPaymentOf(scope, id)).parts).toEqual([{ label: 'savings account ending 6666', amount: totals.net }]);
    await changePayslip(scope, run, id, { version: version + 1, edits: { payment: { method: 'cash' } } });
    await place.approve(run);
    expect((await netPaymentOf(scope, id)).made[0]?.method).toBe('cash');
    const next = await place.run(NEXT);
    expect((await netPaymentOf(scope, (await payslipOf(next, place.people.hourly)).id)).method).toBe('deposit');
  });

  it('is paid again without a new calculation when a cheque is lost', async () => {
    const run = await place.run();
    const { id, totals } = await payslipOf(run, place.people.salaried);
    expect(await refusal(payAgain(scope, id, { method: 'cheque', reason: 'Lost' }))).toContain('Only what is posted');
    await place.approve(run);
    expect((await reversalPreview(scope, id)).notes[0]).toContain('Check 1002');
    const { made } = await payAgain(scope, id, { method: 'cheque', reason: 'Lost in the post' });
    expect(made.map((one) => [one.number, one.amount, one.stopped])).toEqual([
      [1003, totals.net, null],
      [1002, totals.net, 'Lost in the post'],
    ]);
    expect(await refusal(payAgain(scope, id, { method: 'deposit', reason: 'Lost again' }))).toContain('no account on file');
    expect((await payslipOf(run, place.people.salaried)).state).toBe('posted');
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('a payment keeps where it goes as it stood when it was made, sealed, whatever changes at the person', async () => {
    const place = await Workplace.make();
    let scope = await place.scope();
    const account = (number: string, by: 'amount' | 'remainder') => ({
      bank: '031000503',
      account: number,
      by,
      kind: 'checking' as const,
      ...(by === 'amount' ? { value: '100.00' } : {}),
    });
    await setPayment(scope, place.people.salaried, {
      method: 'deposit',
      accounts: [account('11112222', 'amount'), account('33334444', 'remainder')],
    });
    const run = await place.run();
    await place.approve(run);
    scope = await place.scope();
    await setPayment(scope, place.people.salaried, { method: 'deposit', bank: '031000503', account: '99990000' });
    const [payment] = await select<{ id: string; amount: number; kept: string }>(
      scope.database,
      `select n.id, n.amount, encode(n.destination_sealed, 'escape') as kept from net_payments n join payslips y on y.id = n.payslip_id where y.person_id = :id`,
      { id: place.people.salaried },
    );
    expect(payment?.kept).not.toContain('1111');
    const kept = await destinationOf(scope, payment?.id ?? '');
    expect(kept.map(({ bank, account: number }) => [bank, number])).toEqual([
      ['031000503', '11112222'],
      ['031000503', '33334444'],
    ]);
    expect(kept.map(({ amount }) => amount)).toEqual([10_000, (payment?.amount ?? 0) - 10_000]);
    const other = await (await Workplace.make()).scope();
    expect(await refusal(destinationOf(other, payment?.id ?? ''))).toContain('no such payment');
  });
});

describe('Pay that was paid too much', () => {
  const bonus = async (amount: string) => {
    const { id } = await startSpecialRun(scope, {
      scheduleId: place.scheduleId,
      name: 'Bonus',
      payDate: '2026-11-20',
      rules: { items: [], ordinaryDeductions: false, taxMethod: 'flat', takesWaiting: false },
      people: [{ personId: place.people.salaried, amounts: [{ item: 'bonus', amount }] }],
    });
    await calculateRun(scope, id);
    await place.approve(id);
  };
  const recover = (total: string, perPayslip: string) =>
    addRecovery(scope, place.people.salaried, { itemId: place.items['bonus'] ?? '', total, perPayslip, reason: 'Paid twice' });
  const taken = async (run: string) =>
    (await payslipOf(run, place.people.salaried)).lines.find((line) => line.id.startsWith('recover:'))?.amount;

  it('is recovered from one regular payslip after another until it is back, and a reversal owes it again', async () => {
    await bonus('500');
    await recover('250', '150');
    const first = await place.run();
    expect(await taken(first)).toBe(-15_000);
    await place.approve(first);
    const second = await place.run(NEXT);
    expect(await taken(second)).toBe(-10_000);
    await place.approve(second);
    expect((await recoveriesOf(scope, place.people.salaried))[0]?.recovered).toBe(25_000);
    expect(await taken(await place.run(AFTER))).toBeUndefined();
    await reversePayslip(scope, (await payslipOf(second, place.people.salaried)).id, 'Wrong period', false);
    expect((await recoveriesOf(scope, place.people.salaried))[0]?.recovered).toBe(15_000);
    expect(await balancesOutOfStep(scope)).toEqual([]);
  });

  it('is no more than was paid this year, and ends earlier with a reason', async () => {
    await bonus('500');
    expect(await refusal(recover('600', '100'))).toContain('paid to Sol Salaried this year is 500.00');
    const { id } = await recover('500', '100');
    await endRecovery(scope, place.people.salaried, id, 'Forgiven by the owner');
    expect(await refusal(endRecovery(scope, place.people.salaried, id, 'Again'))).toContain('ended already');
    expect(await taken(await place.run())).toBeUndefined();
  });
});

describe('A deduction given back', () => {
  const health = () => place.items['health'] ?? '';
  const back = (amount: string) => refund(scope, place.people.hourly, { itemId: health(), amount, reason: 'Opted out in October' });

  it('comes off the next payslip’s deduction, within what was taken this year', async () => {
    expect(await refundableOf(scope, place.people.hourly)).toEqual([]);
    await place.approve(await place.run());
    expect((await refundableOf(scope, place.people.hourly)).map((one) => [one.code, one.taken[0]?.amount])).toEqual([['health', 5_000]]);
    expect(await refusal(back('50.01'))).toContain('At most 50.00');
    await back('30');
    expect(await refusal(back('20.01'))).toContain('30.00 of it is given back already');
    const next = await payslipOf(await place.run(NEXT), place.people.hourly);
    // Its treatment goes backwards too: 50.00 less 30.00 before tax.
    expect(next.lines.filter((line) => line.code === 'health').map((line) => [line.kind, line.amount])).toEqual([
      ['deduction-before-tax', 5_000],
      ['deduction-before-tax', -3_000],
    ]);
  });
});
