import type { LateCharges } from '@woodruff/contract';
import type { LateFacts } from '@woodruff/core';
import { select } from '../database/connection';
import { notFound } from '../errors';
import type { Scope } from '../scope';
import { obligationsOf, owedBy, type Obligation, type OwedTo } from './owed';

/** What being late with a payee costs beside what is owed, for every obligation of which something was not there on its day. */
export async function lateChargesOf(scope: Scope, code: string): Promise<LateCharges> {
  const owed = (await owedBy(scope)).find((one) => one.code === code);
  if (!owed) throw notFound('payee');
  const { today } = scope.employer;
  if (!owed.late) return [];
  const paid = await select<{ due: string; on: string; amount: number }>(
    scope.database,
    `select m.due, m.on_day as "on", (m.amount - coalesce((select sum(t.amount) from transfers t where t.remittance_id = m.id
       and exists (select 1 from transfer_events e where e.transfer_id = t.id and e.step in ('returned', 'refused', 'stopped', 'dropped'))), 0))::bigint as amount
     from remittances m where m.employer_id = :employer and m.owed = :code and m.undone is null order by m.on_day, m.at`,
    { employer: scope.employer.id, code },
  );
  const found: LateCharges = [];
  let before = '1900-01-01';
  for (const obligation of await obligationsOf(scope, code)) {
    const late = lateParts(
      obligation,
      paid.filter(({ due }) => due === obligation.due),
      today,
    );
    if (late.length) {
      const { due, upTo, what } = obligation;
      const { lines, workings, note } = owed.late({ due, upTo, today, late, people: await peopleOf(scope, owed, before, upTo) });
      found.push({
        due,
        what,
        lines: [...lines],
        workings: { ...workings },
        note,
        total: lines.reduce((sum, { amount }) => sum + amount, 0),
        open: obligation.left,
      });
    }
    before = obligation.upTo;
  }
  return found.reverse();
}

/** Of an obligation what came after its day, in the order in which it was paid, and what is not there yet. */
export function lateParts(
  { due, amount, credit, left }: Pick<Obligation, 'due' | 'amount' | 'credit' | 'left'>,
  paid: readonly { on: string; amount: number }[],
  today: string,
): LateFacts['late'][number][] {
  if (due >= today) return [];
  const inTime = credit + paid.reduce((sum, one) => (one.on <= due ? sum + one.amount : sum), 0);
  let missing = amount - inTime;
  const parts: LateFacts['late'][number][] = [];
  for (const { on, amount: given } of paid) {
    const part = on > due ? Math.min(given, missing) : 0;
    if (part > 0) parts.push({ amount: part, on });
    missing -= Math.max(0, part);
  }
  return left > 0 ? [...parts, { amount: left, on: null }] : parts;
}

async function peopleOf(scope: Scope, { codes }: OwedTo, after: string, upTo: string): Promise<number> {
  const [row] = await select<{ people: number }>(
    scope.database,
    `select count(*)::int as people from (select person_id from ledger_lines where employer_id = :employer and code in (:codes) and counts_on > :after and counts_on <= :upTo group by person_id having sum(amount) <> 0) p`,
    { employer: scope.employer.id, codes: [...codes], after, upTo },
  );
  return row?.people ?? 0;
}
