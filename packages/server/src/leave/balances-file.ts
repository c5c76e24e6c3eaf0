import type { LeaveBalancesRead, ParsedBodyOf } from '@woodruff/contract';
import { Exact, leaveCode, typedNumber } from '@woodruff/core';
import { select } from '../database/connection';
import { invalid } from '../errors';
import { adjustBalances } from '../people/history/adjustments';
import { readTable } from '../files/table';
import { changing } from '../users/changing';
import type { Scope } from '../scope';

const HEADINGS = {
  person: ['person', 'code', 'employee', 'employee id', 'employee number'],
  plan: ['plan', 'leave plan'],
  hours: ['balance_hours', 'balance', 'hours'],
} as const;
type Column = keyof typeof HEADINGS;

/** Somebody's balance in a plan as it is on file. */
interface Member {
  code: string;
  name: string;
  plan: string;
  planName: string;
  balance: number;
}

interface ReadFile extends LeaveBalancesRead {
  entries: { person: string; balance: string; amount: string }[];
}

/** What a file of balances would change, or what is wrong with its cells; nothing is saved. */
export async function checkLeaveBalances(scope: Scope, body: ParsedBodyOf<'checkLeaveBalances'>): Promise<LeaveBalancesRead> {
  const { entries: _entries, ...read } = await readFile(scope, body);
  return read;
}

/** Posts what differs from the balances on file, as adjustments without payment: all or none. */
export async function importLeaveBalances(scope: Scope, body: ParsedBodyOf<'importLeaveBalances'>): Promise<LeaveBalancesRead> {
  return changing(scope, async () => {
    const { entries, ...read } = await readFile(scope, body);
    if (read.problemCount)
      throw invalid(
        `${read.problemCount === 1 ? 'One cell was' : `${read.problemCount} cells were`} not taken, so nothing was posted. Fix the file.`,
        read.problems.map(({ row, column, remedy }) => ({ path: `row ${row}, ${column}`, expected: remedy })),
      );
    if (entries.length)
      await adjustBalances(scope, { date: body.date, reason: `Balances from the file ${body.name}`.slice(0, 300), entries });
    return read;
  });
}

async function readFile(scope: Scope, file: ParsedBodyOf<'checkLeaveBalances'>): Promise<ReadFile> {
  const table = await readTable(file);
  const headings = table.headings.map((heading) => heading.toLowerCase());
  const at = (column: Column): number => headings.findIndex((heading) => (HEADINGS[column] as readonly string[]).includes(heading));
  const columns = { person: at('person'), plan: at('plan'), hours: at('hours') };
  if (Object.values(columns).some((index) => index < 0))
    throw invalid('The first row must name the columns person, plan and balance_hours.');
  const members = await membersOf(scope);
  const codes = new Set(members.map((member) => member.code.toLowerCase()));
  const read: ReadFile = { problems: [], problemCount: 0, changed: 0, unchanged: 0, changes: [], entries: [] };
  const seen = new Set<string>();
  for (const { number: row, cells } of table.rows) {
    const cell = (column: Column): string => cells[columns[column]] ?? '';
    const fault = (column: Column, remedy: string) => {
      read.problemCount += 1;
      if (read.problems.length < 200)
        read.problems.push({ row, column: table.headings[columns[column]] ?? column, value: cell(column), remedy });
    };
    const [person, plan] = [cell('person').toLowerCase(), cell('plan').toLowerCase()];
    const member = members.find((one) => one.code.toLowerCase() === person && [one.plan, one.planName.toLowerCase()].includes(plan));
    const hours = typedNumber(cell('hours'));
    if (!codes.has(person)) fault('person', 'the code of somebody who is in a leave plan');
    else if (!member) fault('plan', 'a plan that this person is in; put them into it first');
    if (!/^-?\d{1,7}(\.\d{1,2})?$/.test(hours)) fault('hours', 'hours such as 76.50, the balance on the day');
    else if (member) take(read, member, Exact.of(hours), seen, () => fault('plan', 'each person once in a plan'));
  }
  return read;
}

function take(read: ReadFile, { code, name, plan, planName, balance }: Member, wanted: Exact, seen: Set<string>, twice: () => void): void {
  const key = `${code} ${plan}`;
  if (seen.has(key)) return twice();
  seen.add(key);
  const difference = wanted.minus(Exact.minor(balance));
  if (difference.isZero()) {
    read.unchanged += 1;
    return;
  }
  read.changed += 1;
  read.entries.push({ person: code, balance: `leave:${plan}`, amount: difference.toDecimal(2) });
  if (read.changes.length < 100) read.changes.push({ name, plan: planName, before: balance, after: wanted.toMinor() });
}

/** Everybody who is in a plan, with what is left in it. */
const membersOf = (scope: Scope): Promise<Member[]> =>
  select<Member>(
    scope.database,
    `select p.code, p.family_name || ', ' || p.given_name as name, l.code as plan,
            coalesce((select t.terms->>'name' from leave_terms t where t.plan_id = l.id order by t.from_date desc limit 1), l.code) as "planName",
            coalesce((select sum(b.amount) from balances b where b.person_id = p.id and b.code like replace(:codes, 'PLAN', l.code)), 0)::bigint as balance
     from (select distinct person_id, plan_id from leave_members) m join people p on p.id = m.person_id and p.employer_id = :employer join leave_plans l on l.id = m.plan_id`,
    { employer: scope.employer.id, codes: leaveCode('PLAN', 'earned').replace(/earned$/, '%') },
  );
