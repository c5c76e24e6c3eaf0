import { Exact, shareOut, writtenDate, writtenDay } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import { accountsOf, remembering, type Accounts } from './accounts';
import { addLines, enter, merged, type Line } from './entries';
import { keepPlaces, PLACES_OF_RUN, type CostPlace, type Spread } from './places';

/** Ledger lines of one kind, code and place together, of a run or of one payslip. */
interface Sum extends CostPlace {
  runId: string;
  /** The run that was posted first; another one where this takes it back. */
  ofRun: string;
  day: string;
  countsOn?: string;
  kind: string;
  code: string;
  label: string;
  name: string;
  spread: Spread | null;
  payslipId: string | null;
  amount: number;
}

const EXPENSES = ['earning', 'reimbursement', 'employer-tax', 'employer-contribution'];
export const LIABILITIES = ['deduction-before-tax', 'deduction-after-tax', 'tax', 'employer-tax', 'employer-contribution'];
const POSTED = [...new Set([...EXPENSES, ...LIABILITIES])];

/**
 * Posts ledger lines to the journal: cost to its accounts by place, what is owed to that of each payee, net pay to its own.
 * By run, by pay date or by payslip, as the employer wants it from now on. What takes a payslip back goes to the accounts
 * and places that it was posted to.
 */
export async function postPay(scope: Scope, lines: string, values: Record<string, unknown>, transaction: Transaction): Promise<void> {
  const { journalBy } = scope.employer.facts;
  await keepPlaces(scope, lines, values, transaction);
  const sums = await select<Sum>(
    scope.database,
    `with posted as (
       select l.run_id, coalesce(o.run_id, l.run_id) as of_run, l.pay_date, l.counts_on, l.kind, l.code, l.label, l.amount, coalesce(o.id, y.id) as place_id, l.payslip_id, y.person_id
       from ledger_lines l join payslips y on y.id = l.payslip_id left join payslips o on o.id = y.reverses join pay_runs r on r.id = l.run_id and r.kind not in ('opening', 'adjustment')
       where ${lines} and l.kind in (:kinds)
     )
     select l.run_id as "runId", l.of_run as "ofRun", l.pay_date as day, l.counts_on as "countsOn", l.kind, l.code, min(l.label) as label, min(p.given_name || ' ' || p.family_name) as name,
            coalesce(c.department, p.department) as department, coalesce(c.worksite, p.worksite) as worksite, coalesce(c.job, p.job) as job, coalesce(c.pay_group, '') as "group", c.spread,
            case when :each or c.spread is not null then l.payslip_id end as "payslipId", sum(l.amount)::bigint as amount
     from posted l join people p on p.id = l.person_id left join payslip_places c on c.payslip_id = l.place_id
     group by l.run_id, l.of_run, l.pay_date, l.counts_on, l.kind, l.code, 9, 10, 11, 12, 13, 14 having sum(l.amount) <> 0 order by l.pay_date, l.kind, l.code`,
    { ...values, kinds: POSTED, each: journalBy === 'payslip' },
    transaction,
  );
  if (!sums.length) return;
  await keepOwed(scope, sums, transaction);
  const accounts = await accountsOf(scope, transaction);
  for (const runId of new Set(sums.map((sum) => sum.runId))) {
    const of = sums.filter((sum) => sum.runId === runId);
    const made = await mappedLines(scope, of, accounts, transaction);
    const [first] = of;
    if (!first) continue;
    const reversed = of.reduce((all, { kind, amount }) => (kind === 'earning' ? all + amount : all), 0) < 0;
    await enterPay(scope, { runId, day: first.day, title: reversed ? 'Reversed' : 'Pay', lines: made }, transaction);
  }
}

type Made = Line & { name: string };

/** Lines of sums, posted where the run that they belong to was posted; of a run that is new, that is kept. */
async function mappedLines(scope: Scope, sums: readonly Sum[], accounts: Accounts, transaction: Transaction): Promise<Made[]> {
  const made: Made[] = [];
  for (const ofRun of new Set(sums.map((sum) => sum.ofRun))) {
    const kept = await select<{ key: string; account: string }>(
      scope.database,
      'select key, account from journal_maps where run_id = :ofRun',
      { ofRun },
      transaction,
    );
    const mapped = remembering(accounts, new Map(kept.map(({ key, account }) => [key, account])));
    for (const sum of sums.filter((one) => one.ofRun === ofRun))
      made.push(...linesOf(sum, mapped).map((line) => ({ ...line, name: sum.name })));
    const found = [...mapped.found].map(([key, account]) => ({ key, account }));
    if (found.length)
      await execute(
        scope.database,
        `insert into journal_maps (run_id, key, account) select :ofRun, e.key, e.account from jsonb_to_recordset(cast(:found as jsonb)) as e(key text, account text) on conflict do nothing returning key`,
        { ofRun, found: JSON.stringify(found) },
        transaction,
      );
  }
  return made;
}

async function enterPay(
  scope: Scope,
  { runId, day, title, lines }: { runId: string; day: string; title: string; lines: Made[] },
  transaction: Transaction,
): Promise<void> {
  const { journalBy } = scope.employer.facts;
  const head = { on: day, kind: 'pay' as const, source: runId };
  if (journalBy === 'payslip') {
    const by = new Map<string, Made[]>();
    for (const line of lines) by.set(line.payslipId ?? '', [...(by.get(line.payslipId ?? '') ?? []), line]);
    await enter(
      scope,
      [...by.values()].map((some) => ({ ...head, words: `${title} of ${writtenDate(day)}, ${some[0]?.name ?? ''}`, lines: merged(some) })),
      transaction,
    );
    return;
  }
  // Of a spread payslip it was asked by itself; in the sum it is nobody's.
  const made = merged(lines.map(({ name: _name, ...line }) => ({ ...line, payslipId: null })));
  const entry = { ...head, words: `${title} of ${writtenDay(day)}`, lines: made };
  if (journalBy === 'run') return void (await enter(scope, [entry], transaction));
  const [known] = await select<{ id: number }>(
    scope.database,
    `select id from journal_entries where employer_id = :employer and on_day = :day and kind = 'pay' and source_id is null`,
    { employer: scope.employer.id, day },
    transaction,
  );
  if (!known) await enter(scope, [{ ...entry, source: null }], transaction);
  // An entry whose day has passed may be in the books already: what comes later is an entry of its own.
  else if (day < scope.employer.today) await enter(scope, [entry], transaction);
  else
    await addLines(
      scope,
      made.map((line) => ({ ...line, entry: known.id })),
      transaction,
    );
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
  await addOwed(scope, [...days.values()], transaction);
}

/** Adds to what is owed by code and day. */
export async function addOwed(
  scope: Scope,
  days: readonly { code: string; on: string; amount: number }[],
  transaction: Transaction,
): Promise<void> {
  await execute(
    scope.database,
    `insert into owed_days (employer_id, code, counts_on, amount) select :employer, e.code, e."on", e.amount from jsonb_to_recordset(cast(:days as jsonb)) as e(code text, "on" date, amount bigint)
     on conflict (employer_id, code, counts_on) do update set amount = owed_days.amount + excluded.amount returning code`,
    { employer: scope.employer.id, days: JSON.stringify(days) },
    transaction,
  );
}

/** What an open run would post as it is calculated now; of one that is posted, what it has posted. */
export async function previewOf(scope: Scope, runId: string): Promise<Line[]> {
  const sums = await select<Sum>(
    scope.database,
    `with places as (${PLACES_OF_RUN})
     select y.run_id as "runId", y.run_id as "ofRun", r.pay_date as day, l.kind, l.code, min(l.label) as label, '' as name, c.department, c.worksite, c.job, c.pay_group as "group", c.spread, case when c.spread is not null then y.id end as "payslipId", sum(l.amount)::bigint as amount
     from places c join payslips y on y.id = c.payslip_id join pay_runs r on r.id = y.run_id and r.employer_id = :employer join payslip_results x on x.payslip_id = y.id
     cross join lateral jsonb_to_recordset(x.lines) as l(kind text, code text, label text, amount bigint)
     where y.included and l.kind in (:kinds) group by y.run_id, r.pay_date, l.kind, l.code, 8, 9, 10, 11, 12, 13 having sum(l.amount) <> 0 order by l.kind, l.code`,
    { employer: scope.employer.id, runId, kinds: POSTED },
  );
  const accounts = await accountsOf(scope);
  return merged(sums.flatMap((sum) => linesOf(sum, accounts)).map((line) => ({ ...line, runId: null, payslipId: null }))).sort(
    (a, b) => b.amount - a.amount,
  );
}

/** Lines of a sum. Net pay takes up what a line leaves. */
function linesOf(
  { runId, kind, code, label, spread, payslipId, amount, ...place }: Sum,
  accounts: Pick<Accounts, 'find' | 'owedTo' | 'owedOf'>,
): Line[] {
  const plain = { department: '', owed: '', codes: [] as string[], payslipId, runId };
  const net = {
    ...plain,
    account: accounts.find({ side: 'liability', code: 'net' }, 'net').account,
    side: 'liability' as const,
    words: 'Net pay',
  };
  const made: Line[] = [];
  if (EXPENSES.includes(kind))
    for (const part of partsOf(amount, place, spread)) {
      const { account } = accounts.find({ side: 'expense', code, ...part.place }, kind);
      made.push({
        ...plain,
        account,
        side: 'expense',
        amount: part.amount,
        words: label,
        department: part.place.department,
        codes: [code],
      });
    }
  if (LIABILITIES.includes(kind)) {
    const payee = accounts.owedOf(code);
    const account = payee ? accounts.owedTo(payee.owed) : accounts.find({ side: 'liability', code }, kind).account;
    made.push({
      ...plain,
      account,
      side: 'liability',
      amount: -amount,
      words: payee?.payee ?? label,
      owed: payee?.owed ?? '',
      codes: [code],
    });
  }
  if (kind === 'earning' || kind === 'reimbursement') made.push({ ...net, amount: -amount });
  if (kind === 'tax' || kind.startsWith('deduction')) made.push({ ...net, amount });
  return made;
}

/** An amount by the places that it is spread over, without losing a cent. */
function partsOf(
  amount: number,
  own: CostPlace & { [key: string]: unknown },
  spread: Spread | null,
): { place: CostPlace; amount: number }[] {
  const { department, worksite, job, group } = own;
  if (!spread) return [{ place: { department, worksite, job, group }, amount }];
  const shares = shareOut(
    Math.abs(amount),
    spread.map(({ weight }) => Exact.of(weight)),
  );
  return spread.map(({ weight: _weight, ...place }, index) => ({
    place: { ...place, group },
    amount: Math.sign(amount) * (shares[index] ?? 0),
  }));
}
