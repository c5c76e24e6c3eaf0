import { writtenDate, writtenDay } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import { accountsOf, type Accounts, type Side } from './accounts';

interface Sum {
  runId: string;
  day: string;
  countsOn?: string;
  kind: string;
  code: string;
  label: string;
  department: string;
  worksite: string;
  payslipId: string | null;
  amount: number;
}

interface Line {
  account: string;
  side: Side;
  amount: number;
  words: string;
  department: string;
  owed: string;
  codes: string[];
  payslipId: string | null;
}

const EXPENSES = ['earning', 'reimbursement', 'employer-tax', 'employer-contribution'];
const LIABILITIES = ['deduction-before-tax', 'deduction-after-tax', 'tax', 'employer-tax', 'employer-contribution'];

/**
 * Posts ledger lines to the journal: cost to its accounts by department, what is owed to that of each payee, net pay to
 * its own. In total for each run, or by payslip where the employer wants it so.
 */
export async function postPay(scope: Scope, lines: string, values: Record<string, unknown>, transaction: Transaction): Promise<void> {
  const byPayslip = scope.employer.facts.journalBy === 'payslip';
  const sums = await select<Sum>(
    scope.database,
    `select l.run_id as "runId", l.pay_date as day, l.counts_on as "countsOn", l.kind, l.code, min(l.label) as label, p.department, p.worksite, ${byPayslip ? 'l.payslip_id' : 'null::uuid'} as "payslipId", sum(l.amount)::bigint as amount
     from ledger_lines l join people p on p.id = l.person_id join pay_runs r on r.id = l.run_id and r.kind not in ('opening', 'adjustment')
     where ${lines} and l.kind in (:kinds) group by l.run_id, l.pay_date, l.counts_on, l.kind, l.code, p.department, p.worksite${byPayslip ? ', l.payslip_id' : ''} having sum(l.amount) <> 0
     order by l.pay_date, l.kind, l.code`,
    { ...values, kinds: [...new Set([...EXPENSES, ...LIABILITIES])] },
    transaction,
  );
  if (!sums.length) return;
  await keepOwed(scope, sums, transaction);
  const accounts = await accountsOf(scope, transaction);
  for (const key of new Set(sums.map(({ runId, day }) => `${runId} ${day}`))) {
    const of = sums.filter(({ runId, day }) => `${runId} ${day}` === key);
    const [first] = of;
    if (!first) continue;
    const made = merged(of.flatMap((sum) => linesOf(sum, accounts)));
    const reversed = of.reduce((all, { kind, amount }) => (kind === 'earning' ? all + amount : all), 0) < 0;
    await enter(
      scope,
      {
        on: first.day,
        kind: 'pay',
        source: first.runId,
        words: `${reversed ? 'Reversed' : 'Pay'} of ${writtenDay(first.day)}`,
        lines: made,
      },
      transaction,
    );
  }
}

/** Adds what is owed to its sums by day, which obligations are made of. */
async function keepOwed(scope: Scope, sums: readonly Sum[], transaction: Transaction): Promise<void> {
  const days = new Map<string, { code: string; on: string; amount: number }>();
  for (const { kind, code, countsOn = '', amount } of sums) {
    if (!LIABILITIES.includes(kind)) continue;
    const known = days.get(`${code} ${countsOn}`);
    if (known) known.amount += amount;
    else days.set(`${code} ${countsOn}`, { code, on: countsOn, amount });
  }
  await execute(
    scope.database,
    `insert into owed_days (employer_id, code, counts_on, amount) select :employer, e.code, e."on", e.amount from jsonb_to_recordset(cast(:days as jsonb)) as e(code text, "on" date, amount bigint)
     on conflict (employer_id, code, counts_on) do update set amount = owed_days.amount + excluded.amount returning code`,
    { employer: scope.employer.id, days: JSON.stringify([...days.values()]) },
    transaction,
  );
}

/** What an open run would post as it is calculated now; of one that is posted, what it has posted. */
export async function previewOf(scope: Scope, runId: string): Promise<Line[]> {
  const sums = await select<Sum>(
    scope.database,
    `select y.run_id as "runId", r.pay_date as day, l.kind, l.code, min(l.label) as label, p.department, p.worksite, null::uuid as "payslipId", sum(l.amount)::bigint as amount
     from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
     cross join lateral jsonb_to_recordset(x.lines) as l(kind text, code text, label text, amount bigint)
     where y.run_id = :runId and y.included and l.kind in (:kinds) group by y.run_id, r.pay_date, l.kind, l.code, p.department, p.worksite having sum(l.amount) <> 0 order by l.kind, l.code`,
    { employer: scope.employer.id, runId, kinds: [...new Set([...EXPENSES, ...LIABILITIES])] },
  );
  const accounts = await accountsOf(scope);
  return merged(sums.flatMap((sum) => linesOf(sum, accounts))).sort((a, b) => b.amount - a.amount);
}

/** Debits are more than nothing, credits less. Net pay takes up what a line leaves. */
function linesOf({ kind, code, label, department, worksite, payslipId, amount }: Sum, accounts: Accounts): Line[] {
  const net = {
    account: accounts.find({ side: 'liability', code: 'net' }, 'net').account,
    side: 'liability' as const,
    words: 'Net pay',
    department: '',
    owed: '',
    codes: [],
    payslipId,
  };
  const made: Line[] = [];
  if (EXPENSES.includes(kind)) {
    const { account } = accounts.find({ side: 'expense', code, department, worksite }, kind);
    made.push({ account, side: 'expense', amount, words: label, department, owed: '', codes: [code], payslipId });
  }
  if (LIABILITIES.includes(kind)) {
    const payee = accounts.owedOf(code);
    const account = payee ? accounts.owedTo(payee.owed) : accounts.find({ side: 'liability', code }, kind).account;
    made.push({
      account,
      side: 'liability',
      amount: -amount,
      words: payee?.payee ?? label,
      department: '',
      owed: payee?.owed ?? '',
      codes: [code],
      payslipId,
    });
  }
  if (kind === 'earning' || kind === 'reimbursement') made.push({ ...net, amount: -amount });
  if (kind === 'tax' || kind.startsWith('deduction')) made.push({ ...net, amount });
  return made;
}

/** Lines of one account, department and payee as one. */
function merged(lines: readonly Line[]): Line[] {
  const by = new Map<string, Line>();
  for (const line of lines) {
    const key = [line.account, line.side, line.words, line.department, line.owed, line.payslipId].join('\n');
    const known = by.get(key);
    if (!known) by.set(key, { ...line, codes: [...line.codes] });
    else {
      known.amount += line.amount;
      for (const code of line.codes) if (!known.codes.includes(code)) known.codes.push(code);
    }
  }
  return [...by.values()].filter(({ amount }) => amount !== 0);
}

interface Entry {
  on: string;
  kind: 'pay' | 'payment' | 'return' | 'remittance' | 'undone';
  source: string | null;
  words: string;
  lines: readonly Line[];
}

async function enter(scope: Scope, { on, kind, source, words, lines }: Entry, transaction: Transaction): Promise<number> {
  const [entry] = (await execute(
    scope.database,
    'insert into journal_entries (employer_id, on_day, kind, source_id, words) values (:employer, :on, :kind, :source, :words) returning id',
    { employer: scope.employer.id, on, kind, source, words },
    transaction,
  )) as { id: number }[];
  if (!entry) throw new Error('no journal entry was made');
  if (lines.length)
    await execute(
      scope.database,
      `insert into journal_lines (entry_id, account, side, amount, words, department, owed, codes, payslip_id)
       select :entry, e.account, e.side, e.amount, e.words, e.department, e.owed, e.codes, e."payslipId" from jsonb_to_recordset(cast(:lines as jsonb)) as e(account text, side text, amount bigint, words text, department text, owed text, codes jsonb, "payslipId" uuid)`,
      { entry: entry.id, lines: JSON.stringify(lines) },
      transaction,
    );
  return entry.id;
}

interface Moved {
  id: number;
  on: string;
  step: string;
  purpose: string;
  owed: string | null;
  payee: string;
  amount: number;
  batchId: string;
}

/** Payments that were booked, cleared or came back since: from net pay owed, or from what a payee is owed, to the bank and back. */
export async function postPayments(scope: Scope, transaction: Transaction): Promise<void> {
  const moved = await select<Moved>(
    scope.database,
    `select e.id, e.on_day as "on", e.step, t.purpose, m.owed, coalesce(m.payee, '') as payee, t.amount, t.batch_id as "batchId"
     from transfer_events e join transfers t on t.id = e.transfer_id and t.employer_id = :employer and t.method <> 'set-off' left join remittances m on m.id = t.remittance_id
     where e.step in ('booked', 'cleared', 'returned') and t.amount > 0
       and e.id > coalesce((select j.event_id from journal_payments j join journal_entries x on x.id = j.entry_id and x.employer_id = :employer order by j.event_id desc limit 1), 0)
       and (e.step <> 'returned' or exists (select 1 from transfer_events b where b.transfer_id = t.id and b.step = 'booked')) order by e.id`,
    { employer: scope.employer.id },
    transaction,
  );
  if (!moved.length) return;
  const accounts = await accountsOf(scope, transaction);
  const bank = accounts.find({ side: 'bank', code: '' }, 'bank').account;
  const keys = [...new Set(moved.map(({ batchId, on, step }) => [batchId, on, step === 'returned' ? 'return' : 'payment'].join(' ')))];
  for (const key of keys) {
    const some = moved.filter(({ batchId, on, step }) => [batchId, on, step === 'returned' ? 'return' : 'payment'].join(' ') === key);
    const [first] = some;
    if (!first) continue;
    const back = first.step === 'returned' ? -1 : 1;
    const lines = merged(
      some.flatMap(({ owed, payee, amount }) => {
        const { account, words } = owed
          ? { account: accounts.owedTo(owed), words: payee }
          : { account: accounts.find({ side: 'liability', code: 'net' }, 'net').account, words: 'Net pay' };
        const line = { department: '', codes: [], payslipId: null };
        return [
          { ...line, account, side: 'liability' as const, amount: back * amount, words, owed: owed ?? '' },
          { ...line, account: bank, side: 'bank' as const, amount: -back * amount, words: back > 0 ? 'Paid' : 'Came back', owed: '' },
        ];
      }),
    );
    const entry = await enter(
      scope,
      {
        on: first.on,
        kind: back > 0 ? 'payment' : 'return',
        source: first.batchId,
        words: `${back > 0 ? 'Payments' : 'Came back'} of ${writtenDate(first.on)}`,
        lines,
      },
      transaction,
    );
    await execute(
      scope.database,
      `insert into journal_payments (event_id, entry_id) select cast(e.value as bigint), :entry from jsonb_array_elements_text(cast(:events as jsonb)) e`,
      { entry, events: JSON.stringify(some.map(({ id }) => id)) },
      transaction,
    );
  }
}

/** What was paid to a payee outside the batches: recorded, or through its own service; or taken back. */
export async function postRemittance(
  scope: Scope,
  { id, owed, payee, amount, on, undone }: { id: string; owed: string; payee: string; amount: number; on: string; undone?: true },
  transaction: Transaction,
): Promise<void> {
  const accounts = await accountsOf(scope, transaction);
  const line = { department: '', codes: [], payslipId: null };
  const sign = undone ? -1 : 1;
  await enter(
    scope,
    {
      on,
      kind: undone ? 'undone' : 'remittance',
      source: id,
      words: `${undone ? 'Taken back: to' : 'To'} ${payee}`,
      lines: [
        { ...line, account: accounts.owedTo(owed), side: 'liability', amount: sign * amount, words: payee, owed },
        {
          ...line,
          account: accounts.find({ side: 'bank', code: '' }, 'bank').account,
          side: 'bank',
          amount: -sign * amount,
          words: 'Paid',
          owed: '',
        },
      ],
    },
    transaction,
  );
}
