import { execute, select, type Transaction } from '../database/connection';
import type { Scope } from '../scope';
import type { Side } from './accounts';

/** A line of an entry. Debits are more than nothing, credits less; minor units. */
export interface Line {
  account: string;
  side: Side;
  amount: number;
  words: string;
  department: string;
  owed: string;
  codes: string[];
  payslipId: string | null;
  runId: string | null;
}

export interface Entry {
  on: string;
  kind: 'pay' | 'payment' | 'return' | 'remittance' | 'undone' | 'accrual' | 'accrual-back' | 'leave' | 'difference' | 'reckoning';
  source: string | null;
  words: string;
  lines: readonly Line[];
}

/** What every line has unless it says otherwise. */
export const PLAIN = { department: '', owed: '', codes: [], payslipId: null, runId: null };

/** Lines of one account, department and payee as one; what comes to nothing is left out. */
export function merged(lines: readonly Line[]): Line[] {
  const by = new Map<string, Line>();
  for (const line of lines) {
    const key = [line.account, line.side, line.words, line.department, line.owed, line.payslipId, line.runId].join('\n');
    const known = by.get(key);
    if (!known) by.set(key, { ...line, codes: [...line.codes] });
    else {
      known.amount += line.amount;
      for (const code of line.codes) if (!known.codes.includes(code)) known.codes.push(code);
    }
  }
  return [...by.values()].filter(({ amount }) => amount !== 0);
}

/** Enters entries in their order; the database refuses one that does not balance. */
export async function enter(scope: Scope, entries: readonly Entry[], transaction: Transaction): Promise<number[]> {
  if (!entries.length) return [];
  const ids = (
    await select<{ id: number }>(
      scope.database,
      `select nextval(pg_get_serial_sequence('journal_entries', 'id'))::bigint as id from generate_series(1, :count)`,
      { count: entries.length },
      transaction,
    )
  ).map(({ id }) => id);
  await execute(
    scope.database,
    `insert into journal_entries (id, employer_id, on_day, kind, source_id, words) overriding system value
     select e.id, :employer, e."on", e.kind, e.source, e.words from jsonb_to_recordset(cast(:entries as jsonb)) as e(id bigint, "on" date, kind text, source uuid, words text)`,
    {
      employer: scope.employer.id,
      entries: JSON.stringify(entries.map(({ lines: _lines, ...entry }, index) => ({ ...entry, id: ids[index] }))),
    },
    transaction,
  );
  await addLines(
    scope,
    entries.flatMap(({ lines }, index) => lines.map((line) => ({ ...line, entry: ids[index] as number }))),
    transaction,
  );
  return ids;
}

/** Adds lines to entries, those of each in balance. */
export async function addLines(scope: Scope, lines: readonly (Line & { entry: number })[], transaction: Transaction): Promise<void> {
  if (!lines.length) return;
  await execute(
    scope.database,
    `insert into journal_lines (entry_id, account, side, amount, words, department, owed, codes, payslip_id, run_id)
     select e.entry, e.account, e.side, e.amount, e.words, e.department, e.owed, e.codes, e."payslipId", e."runId"
     from jsonb_to_recordset(cast(:lines as jsonb)) as e(entry bigint, account text, side text, amount bigint, words text, department text, owed text, codes jsonb, "payslipId" uuid, "runId" uuid)`,
    { lines: JSON.stringify(lines) },
    transaction,
  );
}
