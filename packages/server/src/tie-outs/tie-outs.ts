import type { TieOuts } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { execute, select, type Database, type Transaction } from '../database/connection';
import { balancesOutOfStep } from '../ledger/posting';
import { obligationsOf, owedBy } from '../remittances/owed';
import { accrueWhenDue } from '../journal/accruals';
import { packFor, type Scope } from '../scope';
import { scopeOf } from '../users/service';

type Pair = TieOuts[number];

/** Of what differs so much is named. */
const NAMED = 20;

const pair = (code: string, one: Pair['one'], other: Pair['other'], differences: Pair['differences']): Pair => ({
  code,
  one,
  other,
  agrees: one.amount === other.amount && differences.length === 0,
  differences: [...differences].sort((a, b) => Math.abs(b.amount) - Math.abs(a.amount)).slice(0, NAMED),
});

/** What the ledger has of one code in one run, minor units. */
interface LedgerSum {
  runId: string;
  taxYear: string;
  kind: string;
  code: string;
  amount: number;
}

const PAID_TO_PEOPLE = ['earning', 'reimbursement'];
const WITHHELD = ['tax', 'deduction-before-tax', 'deduction-after-tax'];
const OWED_BESIDE = ['employer-tax', 'employer-contribution'];

/** The ledger added up once, for every pair that wants it: it is by far the longest table. */
const sumsOfLedger = (rows: Rows): Promise<LedgerSum[]> =>
  rows<LedgerSum>(
    `select run_id as "runId", tax_year as "taxYear", kind, code, sum(amount)::bigint as amount from ledger_lines where employer_id = :employer group by 1, 2, 3, 4`,
  );

/** By run, what its lines come to, each taken with the sign of its kind. */
function byRun(ledger: readonly LedgerSum[], sign: (kind: string) => number): Map<string, number> {
  const sums = new Map<string, number>();
  for (const { runId, kind, amount } of ledger) {
    const taken = sign(kind);
    if (taken) sums.set(runId, (sums.get(runId) ?? 0) + taken * amount);
  }
  return sums;
}

/** All pairs that must agree, each with what of them does not. From one tax year on; the years before were compared when they ran. */
export async function tieOutsOf(scope: Scope): Promise<TieOuts> {
  const { from } = packFor(scope).taxYearOf(scope.employer.today);
  const values = { employer: scope.employer.id, from };
  const rows = <T extends object>(sql: string) => select<T>(scope.database, sql, values);
  const ledger = await sumsOfLedger(rows);
  return [
    await registerAndLedger(rows, ledger),
    await netAndPayments(rows),
    await paymentsAndTransfers(rows),
    await obligationsAndLiabilities(scope, rows, ledger),
    await journalAndLedger(rows, ledger),
    await bankAndPayments(rows),
    await paidAndObligations(scope, rows),
    await yearAndSums(scope, ledger),
  ];
}

type Rows = <T extends object>(sql: string) => Promise<T[]>;

/** What the payslips say, and what is in the ledger: by run. */
async function registerAndLedger(rows: Rows, ledger: readonly LedgerSum[]): Promise<Pair> {
  const net = byRun(ledger, (kind) => (PAID_TO_PEOPLE.includes(kind) ? 1 : WITHHELD.includes(kind) ? -1 : 0));
  const found = await rows<{ id: string; payDate: string; register: number }>(
    `select r.id, r.pay_date as "payDate", coalesce(x.net, 0)::bigint as register
     from pay_runs r
     left join (select y.run_id, sum(case when y.state = 'reversal' then -x.net else x.net end) as net from payslips y join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id) where y.state <> 'draft' group by y.run_id) x on x.run_id = r.id
     where r.employer_id = :employer and r.pay_date >= :from and r.kind not in ('opening', 'adjustment')`,
  );
  const runs = found.map((run) => ({ ...run, ledger: net.get(run.id) ?? 0 }));
  const sum = (key: 'register' | 'ledger') => runs.reduce((all, run) => all + run[key], 0);
  return pair(
    'register-ledger',
    { what: 'Net pay by the register', amount: sum('register') },
    { what: 'Net pay by the ledger', amount: sum('ledger') },
    runs
      .filter(({ register, ledger }) => register !== ledger)
      .map(({ id, payDate, register, ledger }) => ({
        what: `Run of ${writtenDate(payDate)}`,
        amount: register - ledger,
        link: `/pay-runs/${id}`,
      })),
  );
}

/** Every posted payslip that pays something has one payment that stands. */
async function netAndPayments(rows: Rows): Promise<Pair> {
  const found = await rows<{ name: string; runId: string; net: number; paid: number }>(
    `select p.given_name || ' ' || p.family_name as name, y.run_id as "runId", greatest(x.net, 0)::bigint as net, coalesce(sum(n.amount), 0)::bigint as paid
     from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.pay_date >= :from and r.kind in ('regular', 'special', 'correction') join payslip_results x on x.payslip_id = y.id
     join people p on p.id = y.person_id left join net_payments n on n.payslip_id = y.id and n.stopped is null where y.state = 'posted' group by y.id, p.given_name, p.family_name, x.net`,
  );
  const sum = (key: 'net' | 'paid') => found.reduce((all, one) => all + one[key], 0);
  return pair(
    'net-payments',
    { what: 'Net pay of payslips that stand', amount: sum('net') },
    { what: 'Payments made out for it', amount: sum('paid') },
    found
      .filter(({ net, paid }) => net !== paid)
      .map(({ name, runId, net, paid }) => ({ what: name, amount: net - paid, link: `/pay-runs/${runId}` })),
  );
}

/** What was gathered of a payment is the whole of it; what was reversed after it was sent has to come back. */
async function paymentsAndTransfers(rows: Rows): Promise<Pair> {
  const found = await rows<{ name: string; personId: string; amount: number; live: number; stands: boolean; replaced: boolean }>(
    `select p.given_name || ' ' || p.family_name as name, p.id as "personId", n.amount, n.stopped is null and y.state = 'posted' as stands,
            exists (select 1 from payslips o where o.replaces = y.id) as replaced,
            coalesce(sum(t.amount) filter (where not exists (select 1 from transfers o where o.replaces = t.id) and not exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('stopped', 'dropped', 'refused', 'returned'))), 0)::bigint
              + coalesce(sum(t.amount) filter (where not exists (select 1 from transfers o where o.replaces = t.id) and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('stopped', 'refused', 'returned')) and n.stopped is null and y.state = 'posted'), 0)::bigint as live
     from net_payments n join payslips y on y.id = n.payslip_id join pay_runs r on r.id = n.run_id and r.pay_date >= :from join people p on p.id = y.person_id join transfers t on t.net_payment_id = n.id
     where n.employer_id = :employer group by n.id, p.id, p.given_name, p.family_name, y.state, y.id`,
  );
  // Of a payslip that another replaces, what was paid is set off against that one.
  const counted = found.filter(({ stands, replaced }) => stands || !replaced);
  const wanted = ({ amount, stands }: (typeof found)[number]) => (stands ? amount : 0);
  return pair(
    'payments-transfers',
    { what: 'Payments that were gathered', amount: counted.reduce((all, one) => all + wanted(one), 0) },
    { what: 'What went out, or is open of them', amount: counted.reduce((all, { live }) => all + live, 0) },
    counted
      .filter((one) => wanted(one) !== one.live)
      .map((one) => ({
        what: one.stands ? one.name : `${one.name}: paid, and reversed since`,
        amount: wanted(one) - one.live,
        link: `/people/${one.personId}`,
      })),
  );
}

/** Everything withheld or owed has a payee, and is owed to it in full. */
async function obligationsAndLiabilities(scope: Scope, rows: Rows, ledger: readonly LedgerSum[]): Promise<Pair> {
  const payees = await owedBy(scope);
  const known = new Map(payees.flatMap(({ code, codes }) => codes.map((one) => [one, code] as const)));
  const before = new Set(
    (await rows<{ id: string }>(`select id from pay_runs where employer_id = :employer and kind in ('opening', 'adjustment')`)).map(
      ({ id }) => id,
    ),
  );
  const differing = await rows<{ code: string; amount: number }>(
    `select code, sum(amount)::bigint as amount from (select code, amount from tax_differences where employer_id = :employer
     union all select code, amount from reckonings where employer_id = :employer) d group by 1`,
  );
  const sums = new Map(differing.map(({ code, amount }) => [code, amount]));
  for (const { runId, kind, code, amount } of ledger)
    if (!before.has(runId) && (WITHHELD.includes(kind) || OWED_BESIDE.includes(kind))) sums.set(code, (sums.get(code) ?? 0) + amount);
  const lines = [...sums].map(([code, amount]) => ({ code, amount }));
  const owed = await obligationsOf(scope);
  const byPayee = new Map<string, number>();
  for (const { owed: code, amount } of owed) byPayee.set(code, (byPayee.get(code) ?? 0) + amount);
  const withheld = new Map<string, number>();
  for (const { code, amount } of lines) {
    const payee = known.get(code);
    if (payee && payees.find((one) => one.code === payee)?.due) withheld.set(payee, (withheld.get(payee) ?? 0) + amount);
  }
  const differences = [...withheld]
    .filter(([code, amount]) => amount !== (byPayee.get(code) ?? 0))
    .map(([code, amount]) => ({
      what: payees.find((one) => one.code === code)?.payee ?? code,
      amount: amount - (byPayee.get(code) ?? 0),
      link: `/payments/payees/${encodeURIComponent(code)}`,
    }));
  const nobodys = lines.filter(({ code, amount }) => amount !== 0 && !payees.find((one) => one.code === known.get(code))?.due);
  return pair(
    'obligations-liabilities',
    { what: 'Withheld and owed, by the ledger and what was entered beside it', amount: lines.reduce((all, { amount }) => all + amount, 0) },
    { what: 'Owed to payees, by their days', amount: [...byPayee.values()].reduce((all, amount) => all + amount, 0) },
    [
      ...differences,
      ...(await labelled(scope, nobodys)).map(({ label, amount }) => ({
        what: `${label}: owed to nobody that is named`,
        amount,
        link: '/pay-items',
      })),
    ],
  );
}

/** Sums by code with the words that their lines were posted with. */
async function labelled<T extends { code: string }>(scope: Scope, sums: readonly T[]): Promise<(T & { label: string })[]> {
  if (!sums.length) return [];
  const labels = await select<{ code: string; label: string }>(
    scope.database,
    'select code, min(label) as label from ledger_lines where employer_id = :employer and code in (:codes) group by code',
    { employer: scope.employer.id, codes: sums.map(({ code }) => code) },
  );
  return sums.map((sum) => ({ ...sum, label: labels.find(({ code }) => code === sum.code)?.label ?? sum.code }));
}

/** Cost and net pay of the journal are those of the ledger, by run. */
async function journalAndLedger(rows: Rows, ledger: readonly LedgerSum[]): Promise<Pair> {
  const cost = byRun(ledger, (kind) => (PAID_TO_PEOPLE.includes(kind) || OWED_BESIDE.includes(kind) ? 1 : 0));
  const found = await rows<{ id: string; payDate: string; journal: number }>(
    `select r.id, r.pay_date as "payDate", coalesce(j.debit, 0)::bigint as journal
     from pay_runs r left join (select coalesce(n.run_id, e.source_id) as run_id, sum(n.amount) filter (where n.side = 'expense') as debit from journal_entries e join journal_lines n on n.entry_id = e.id where e.employer_id = :employer and e.kind = 'pay' group by 1) j on j.run_id = r.id
     where r.employer_id = :employer and r.pay_date >= :from and r.kind not in ('opening', 'adjustment')
       and coalesce(r.approved_at, now()) >= (select min(at) from journal_entries where employer_id = :employer)`,
  );
  const runs = found.map((run) => ({ ...run, ledger: cost.get(run.id) ?? 0 }));
  const sum = (key: 'journal' | 'ledger') => runs.reduce((all, run) => all + run[key], 0);
  return pair(
    'journal-ledger',
    { what: 'Cost by the journal', amount: sum('journal') },
    { what: 'Cost by the ledger', amount: sum('ledger') },
    runs
      .filter((run) => run.journal !== run.ledger)
      .map((run) => ({ what: `Run of ${writtenDate(run.payDate)}`, amount: run.journal - run.ledger, link: `/pay-runs/${run.id}` })),
  );
}

/** What the bank says left is what was sent; each line of a statement is one of our payments. */
async function bankAndPayments(rows: Rows): Promise<Pair> {
  const lines = await rows<{ on: string; reference: string; amount: number; ours: number }>(
    `select s.on_day as "on", s.reference, s.amount, coalesce(case when s.code = '' then -t.amount when s.amount = 0 then 0 else t.amount end, 0)::bigint as ours
     from statement_lines s left join transfers t on t.id = s.transfer_id where s.employer_id = :employer and s.on_day >= :from`,
  );
  const [moved] = await rows<{ amount: number }>(
    `select coalesce(sum(case when e.step = 'booked' then -t.amount else t.amount end), 0)::bigint as amount from transfer_events e join transfers t on t.id = e.transfer_id
     where t.employer_id = :employer and t.method = 'file' and e.step in ('booked', 'returned') and e.on_day >= :from and (e.step = 'booked' or exists (select 1 from transfer_events b where b.transfer_id = t.id and b.step = 'booked'))`,
  );
  return pair(
    'bank-payments',
    { what: 'Moved by the bank’s statements', amount: lines.reduce((all, { amount }) => all + amount, 0) },
    { what: 'Payments by file, booked and returned', amount: moved?.amount ?? 0 },
    lines
      .filter(({ amount, ours }) => amount !== ours)
      .map(({ on, reference, amount, ours }) => ({
        what: `${writtenDate(on)}, ${reference || 'no reference'}`,
        amount: amount - ours,
        link: '/payments/bank',
      })),
  );
}

/** What was paid to payees is what their obligations count as paid. */
async function paidAndObligations(scope: Scope, rows: Rows): Promise<Pair> {
  const paid = await rows<{ owed: string; payee: string; amount: number }>(
    `select m.owed, min(m.payee) as payee, sum(m.amount - coalesce((select sum(t.amount) from transfers t where t.remittance_id = m.id and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped'))), 0))::bigint as amount
     from remittances m where m.employer_id = :employer and m.undone is null group by m.owed`,
  );
  const counted = new Map<string, number>();
  for (const { owed, paid: amount } of await obligationsOf(scope)) counted.set(owed, (counted.get(owed) ?? 0) + amount);
  return pair(
    'paid-obligations',
    { what: 'Paid to payees', amount: paid.reduce((all, { amount }) => all + amount, 0) },
    { what: 'Counted as paid of what is owed', amount: [...counted.values()].reduce((all, amount) => all + amount, 0) },
    paid
      .filter(({ owed, amount }) => amount !== (counted.get(owed) ?? 0))
      .map(({ owed, payee, amount }) => ({
        what: payee,
        amount: amount - (counted.get(owed) ?? 0),
        link: `/payments/payees/${encodeURIComponent(owed)}`,
      })),
  );
}

/** Sums kept by person and year are those of the ledger. */
async function yearAndSums(scope: Scope, ledger: readonly LedgerSum[]): Promise<Pair> {
  const year = packFor(scope).taxYearOf(scope.employer.today).label;
  const wrong = (await balancesOutOfStep(scope, year)) as { person: string; code: string; balance: number | null; ledger: number | null }[];
  const sum = ledger.filter(({ taxYear }) => taxYear === year).reduce((all, { amount }) => all + amount, 0);
  const off = wrong.reduce((all, { balance, ledger }) => all + (balance ?? 0) - (ledger ?? 0), 0);
  return pair(
    'year-sums',
    { what: `Sums by person of ${year}`, amount: sum + off },
    { what: 'Lines of the ledger', amount: sum },
    wrong.map(({ person, code, balance, ledger }) => ({ what: code, amount: (balance ?? 0) - (ledger ?? 0), link: `/people/${person}` })),
  );
}

/** Looks at all pairs and keeps whether they agree, for Today. */
export async function checkTieOuts(scope: Scope): Promise<TieOuts> {
  const pairs = await tieOutsOf(scope);
  await execute(
    scope.database,
    `insert into tie_outs (employer_id, code, agrees, difference, checked_on)
     select :employer, e.code, e.agrees, e.difference, :today from jsonb_to_recordset(cast(:rows as jsonb)) as e(code text, agrees boolean, difference bigint)
     on conflict (employer_id, code) do update set agrees = excluded.agrees, difference = excluded.difference, checked_on = excluded.checked_on, checked_at = now() returning code`,
    {
      employer: scope.employer.id,
      today: scope.employer.today,
      rows: JSON.stringify(pairs.map(({ code, agrees, one, other }) => ({ code, agrees, difference: one.amount - other.amount }))),
    },
  );
  return pairs;
}

/** Looks at every employer's books that were not looked at on their business day, and accrues a month that is over; told hourly, it is once a day. */
export async function checkEverybody(database: Database): Promise<void> {
  const waiting = await select<{ employerId: string; userId: string }>(
    database,
    `select e.id as "employerId", (select m.user_id from memberships m where m.employer_id = e.id and m.role <> 'employee' order by m.user_id limit 1) as "userId" from employers e
     where not e.being_played and exists (select 1 from pay_runs r where r.employer_id = e.id and r.state = 'approved') and not exists (select 1 from tie_outs t where t.employer_id = e.id and t.checked_on >= today_of(e))`,
  );
  for (const { employerId, userId } of waiting) {
    if (!userId) continue;
    const scope = await scopeOf(database, userId, employerId);
    await accrueWhenDue(scope);
    await checkTieOuts(scope);
  }
}

/** Pairs as sentences name them. */
export const PAIRS: Record<string, string> = {
  'register-ledger': 'register and ledger',
  'net-payments': 'net pay and payments',
  'payments-transfers': 'payments and what went out',
  'obligations-liabilities': 'what is owed and what was withheld',
  'journal-ledger': 'journal and ledger',
  'bank-payments': 'bank and payments',
  'paid-obligations': 'what was paid and what was owed',
  'year-sums': 'sums of the year and ledger',
};

/** Something was posted: the pairs are to be looked at again before anybody relies on them. */
export const lookAgain = (scope: Scope, transaction: Transaction): Promise<unknown> =>
  execute(
    scope.database,
    `update tie_outs set checked_on = '-infinity' where employer_id = :employer and checked_on <> '-infinity' returning code`,
    { employer: scope.employer.id },
    transaction,
  );

/** Pairs that do not agree, in words; compared anew where something was posted since. */
export async function untiedNow(scope: Scope): Promise<{ code: string; what: string; difference: number }[]> {
  const [fresh] = await select<{ code: string }>(
    scope.database,
    `select code from tie_outs where employer_id = :employer group by code having min(checked_on) >= :today limit 1`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  if (!fresh) await checkTieOuts(scope);
  return (await outOfTie(scope)).map(({ code, difference }) => ({ code, what: PAIRS[code] ?? code, difference }));
}

/** Pairs that did not agree when they were last looked at. */
export const outOfTie = (scope: Scope): Promise<{ code: string; difference: number }[]> =>
  select(scope.database, 'select code, difference from tie_outs where employer_id = :employer and not agrees order by code', {
    employer: scope.employer.id,
  });
