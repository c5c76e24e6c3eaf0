import { addDays, decimalOf } from '@woodruff/core';
import {
  agenciesOf,
  batchView,
  changePayee,
  chequesOf,
  enterTaxTotal,
  exchangeWithBank,
  holidaysOf,
  obligationsOf,
  payReturned,
  prepareBatch,
  releaseBatch,
  remit,
  setAccountRule,
  setBankAccount,
  setJournal,
  setOpening,
  setPayment,
  settleByHand,
  StandInBank,
  taxGridOf,
  transfersWhere,
  type Scope,
} from '@woodruff/server';
import peopleFile from './quillmere/people.json';
import yearFile from './quillmere/year.json';

interface MoneyFile {
  /** What the account began with. */
  opening: string;
  payees: { payee: string; method: 'file' | 'cheque'; bank?: string; account?: string }[];
  /** What is left unpaid at the end, so that something is late. */
  leaves: { payee: string; from: string };
  /** Accounts that send a deposit back; paid again where another account is named. */
  closed: { payDate: string; person: string; account?: string }[];
  /** Where the journal is posted beside the employer's own accounts. */
  accounts: { side: 'expense' | 'liability'; code: string; account: string }[];
  /** What notices said of a tax of the employer, beside the computed. */
  differences: { code: string; month: string; more: number; reason: string }[];
  /** Cheques that are stopped; paid again by another where it says so. */
  stopped: { payDate: string; person: string; on: string; reason: string; again?: boolean }[];
}

const money = yearFile.money as MoneyFile;
const ADDRESS = { line1: '', line2: '', city: '', state: '', postcode: '' };

/** The account at the bank, and where payees are paid. */
export async function setUpMoney(scope: Scope): Promise<void> {
  await setOpening(scope, Math.round(Number(money.opening) * 100));
  for (const { payee, method, bank = '', account = '' } of money.payees)
    await changePayee(scope, { owed: `payee:${payee}`, version: 1, method, bank, account, address: ADDRESS });
  for (const rule of money.accounts) await setAccountRule(scope, { department: '', worksite: '', job: '', group: '', ...rule });
  await setJournal(scope, { by: 'run', accruals: 'month', leaveOwed: true });
}

const accountOf = (person: string): { bank: string; account: string } => {
  const payment = peopleFile.people.find(({ code }) => code === person)?.payment as { bank: string; account: string };
  return { bank: payment.bank, account: payment.account };
};

/** Sends what an approved run pays: gathered by the clerk, released by the approver. */
export async function sendPay(clerk: Scope, releaser: Scope, payDate: string): Promise<void> {
  for (const { person } of money.closed.filter((one) => one.payDate === payDate))
    await setBankAccount(clerk, { ...accountOf(person), name: '', state: 'closed', newBank: '', newAccount: '' });
  await sendBatch(clerk, releaser, 'pay', payDate);
}

export async function sendBatch(clerk: Scope, releaser: Scope, kind: 'pay' | 'again' | 'remittance', payDate: string): Promise<void> {
  const { id } = await prepareBatch(clerk, { kind, payDate });
  await releaseBatch(releaser, id, { version: (await batchView(releaser, id)).version, balanced: true });
  await exchangeWithBank(clerk, new StandInBank(clerk.database, holidaysOf(clerk)));
}

/** What came by a notice of an agency after the year was played. */
export async function enterNotices(scope: Scope): Promise<void> {
  for (const { code, month, more, reason } of money.differences) {
    const grid = await taxGridOf(scope, Number(month.slice(0, 4)));
    const cell = grid.rows.find((row) => row.code === code)?.months[Number(month.slice(5)) - 1];
    if (!cell) throw new Error(`${code} has nothing in ${month}`);
    await enterTaxTotal(scope, { code, month, total: decimalOf(cell.total + more), reason });
  }
}

/** What the bank tells until today, and what follows: returned deposits corrected and paid again, cheques cleared or stopped. */
export async function settle(clerk: Scope, releaser: Scope, codes: ReadonlyMap<string, string>): Promise<void> {
  const { today } = clerk.employer;
  await exchangeWithBank(clerk, new StandInBank(clerk.database, holidaysOf(clerk)));
  const back = await transfersWhere(
    clerk,
    `t.method = 'file' and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step = 'returned')`,
    {},
  );
  let again = false;
  for (const transfer of back.filter(({ state }) => state === 'returned')) {
    const found = money.closed.find(({ person }) => codes.get(person) === transfer.personId);
    if (!found?.account || !transfer.personId) continue;
    await setPayment(clerk, transfer.personId, { method: 'deposit', bank: accountOf(found.person).bank, account: found.account });
    await payReturned(clerk, transfer.id, { way: 'account', reason: 'New account by signed form' });
    again = true;
  }
  const { cheques } = await chequesOf(clerk, { state: 'out' });
  for (const cheque of cheques) {
    const stop = money.stopped.find(({ payDate, person }) => payDate === cheque.payDate && codes.get(person) === cheque.personId);
    if (stop && stop.on <= today) {
      await settleByHand(clerk, cheque.id, 'stopped', stop.reason);
      // The last of them waits for the next batch.
      if (stop.again) await payReturned(clerk, cheque.id, { way: 'cheque', reason: 'Printed anew' });
    } else if (!stop && cheque.date && addDays(cheque.date, 10) <= today) await settleByHand(clerk, cheque.id, 'cleared', '');
  }
  if (again) await sendBatch(clerk, releaser, 'again', addDays(today, 1));
}

/** Pays what falls due before the next day on which anything happens. */
export async function payOwed(clerk: Scope, releaser: Scope, until: string): Promise<void> {
  const method = new Map(money.payees.map(({ payee, method: one }) => [payee, one]));
  const due = (await obligationsOf(clerk)).filter(
    ({ left, due: date, payee }) => left > 0 && date < until && !(payee === money.leaves.payee && date >= money.leaves.from),
  );
  if (!due.length) return;
  const payments = due.map(({ owed, due: date, payee }) => ({
    owed,
    due: date,
    method: owed.startsWith('payee:') ? (method.get(payee) ?? ('cheque' as const)) : ('agency' as const),
    reference: '',
  }));
  await remit(clerk, { payments }, agenciesOf(clerk));
  if (payments.some((payment) => payment.method !== 'agency')) await sendBatch(clerk, releaser, 'remittance', clerk.employer.today);
}
