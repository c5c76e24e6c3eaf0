import type { ItemMoves, ParsedBodyOf } from '@woodruff/contract';
import { countedFor, decimalOf, statedBases, type Base, type PayItem } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict } from '../errors';
import { filingsOf } from './make';
import { postAdjustments } from '../people/history/adjustments';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { itemOf } from '../pay-items/service';

type Counted = Pick<PayItem, 'treatment' | 'countsInstead'>;

/** What payslips posted of an item in a tax year, by the treatment that it had on them; of contractors nothing is stated by treatment. */
const POSTED = `
  select l.person_id as "personId", p.family_name || ', ' || p.given_name as name, i.item->>'treatment' as treatment, i.item->'countsInstead' as "countsInstead", sum(l.amount)::bigint as amount
  from (select person_id, payslip_id, sum(amount) as amount from ledger_lines where employer_id = :employer and tax_year = :year and code = :code group by 1, 2 having sum(amount) <> 0) l
  join people p on p.id = l.person_id and p.kind <> 'contractor'
  join payslips y on y.id = l.payslip_id
  join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)
  cross join lateral (select coalesce(
    jsonb_path_query_first(cast(x.input as jsonb), '$.*[*].item ? (@.code == $code)', jsonb_build_object('code', cast(:code as text))),
    jsonb_path_query_first(cast(x.input as jsonb), '$.*[*] ? (@.code == $code && exists (@.treatment))', jsonb_build_object('code', cast(:code as text)))) as item) i
  where i.item is not null
  group by 1, 2, 3, 4 order by 2, 1`;

interface Posted extends Counted {
  personId: string;
  name: string;
  amount: number;
}

/** What a treatment would move, of what was posted this tax year; moved before is taken into account. */
export const itemMoves = async (scope: Scope, id: string, counted: Counted): Promise<ItemMoves> =>
  toMove(scope, await itemOf(scope, id), counted);

async function toMove(scope: Scope, item: { id: string; code: string }, counted: Counted, transaction?: Transaction): Promise<ItemMoves> {
  const pack = packFor(scope);
  const { label: year } = pack.taxYearOf(scope.employer.today);
  const places = pack.placesOf(scope.employer.facts.country);
  const stated = statedBases(pack, filingsOf(scope), places);
  const posted = await select<Posted>(scope.database, POSTED, { employer: scope.employer.id, year, code: item.code }, transaction);
  const moved = await select<{ personId: string; base: string; amount: number }>(
    scope.database,
    'select person_id as "personId", base, sum(amount)::bigint as amount from item_moves where item_id = :id and tax_year = :year group by 1, 2',
    { id: item.id, year },
    transaction,
  );
  const people = new Map<string, { name: string; posted: number; by: Map<string, number> }>();
  const stay = new Set<string>();
  for (const { personId, name, amount, ...then } of posted) {
    const person = people.get(personId) ?? { name, posted: 0, by: new Map<string, number>() };
    people.set(personId, person);
    person.posted += amount;
    const differs = (base: string): number => countedFor(pack, counted, base, places) - countedFor(pack, then, base, places);
    const whole = [counted, then].map(({ treatment }) => pack.treatments[treatment]).find((one) => one?.statedByPayslip);
    if (whole && counted.treatment !== then.treatment) {
      stay.add(whole.label);
      continue;
    }
    for (const { label, bases } of stated.workedOut) if (bases.some(differs)) stay.add(label);
    for (const { code } of stated.posted) person.by.set(code, (person.by.get(code) ?? 0) + differs(code) * amount);
  }
  for (const { personId, base, amount } of moved) {
    const by = people.get(personId)?.by;
    by?.set(base, (by.get(base) ?? 0) - amount);
  }
  const differing = stated.posted.filter(({ code }) => [...people.values()].some(({ by }) => by.get(code)));
  return {
    year,
    bases: differing.map(({ code, label }: Base) => ({ code, label })),
    people: [...people].flatMap(([personId, { name, posted: sum, by }]) => {
      const sums = differing.map(({ code }) => by.get(code) ?? 0);
      return sums.some((amount) => amount !== 0) ? [{ personId, name, posted: sum, sums }] : [];
    }),
    stay: [...stay].sort(),
  };
}

/** Items whose treatment was changed, and of which something is still to be moved. */
export async function astray(scope: Scope): Promise<Set<string>> {
  const changed = await select<{ id: string; code: string; definition: PayItem }>(
    scope.database,
    `select i.id, i.code, i.definition from pay_items i where i.employer_id = :employer and exists (select 1 from audit_entries a where a.subject_id = i.id and a.action = 'change'
       and (a.before->>'treatment' is distinct from a.after->>'treatment' or a.before->'countsInstead' is distinct from a.after->'countsInstead'))`,
    { employer: scope.employer.id },
  );
  const found = new Set<string>();
  for (const item of changed) if ((await toMove(scope, item, item.definition)).people.length) found.add(item.id);
  return found;
}

/** Posts what is still to be moved, as adjustments without payment; taxes stay as they were withheld. */
export function moveItem(scope: Scope, id: string, { reason }: ParsedBodyOf<'moveItem'>): Promise<{ people: number }> {
  return changing(scope, async (transaction) => {
    const item = await itemOf(scope, id, transaction);
    const { year, bases, people } = await toMove(scope, item, item.definition, transaction);
    if (!people.length)
      throw conflict(
        'nothing-to-move',
        `What was posted of ${item.definition.name} in ${year} stands where it counts: nothing is to be moved.`,
      );
    const before = await select<{ personId: string; base: string; amount: number }>(
      scope.database,
      `select person_id as "personId", code as base, amount from balances where tax_year = :year and person_id in (:ids) and code in (:codes)`,
      { year, ids: people.map(({ personId }) => personId), codes: bases.map(({ code }) => code) },
      transaction,
    );
    const worked = people.map(({ personId, name, sums }) => {
      const moves = bases.flatMap(({ code, label }, index) => {
        const amount = sums[index] ?? 0;
        return amount ? [{ code, label, amount }] : [];
      });
      return {
        personId,
        name,
        adjustments: moves.map(({ code, label, amount }) => ({
          code,
          label: `${label}, moved with ${item.definition.name}`,
          kind: 'base' as const,
          amount: decimalOf(amount),
          reason,
        })),
        changes: moves.map(({ code, label, amount }) => {
          const was = before.find((one) => one.personId === personId && one.base === code)?.amount ?? 0;
          return { name, label, unit: 'money' as const, before: was, after: was + amount };
        }),
      };
    });
    const runId = await postAdjustments(scope, { date: scope.employer.today, reason }, worked, transaction);
    await execute(
      scope.database,
      `insert into item_moves (run_id, item_id, person_id, tax_year, base, amount) select :runId, :id, m."personId", :year, m.base, m.amount from jsonb_to_recordset(cast(:moves as jsonb)) as m("personId" uuid, base text, amount bigint)`,
      {
        runId,
        id,
        year,
        moves: JSON.stringify(
          people
            .flatMap(({ personId, sums }) => bases.map(({ code }, index) => ({ personId, base: code, amount: sums[index] ?? 0 })))
            .filter(({ amount }) => amount !== 0),
        ),
      },
      transaction,
    );
    await record(
      scope,
      {
        action: 'move',
        subject: 'pay-item',
        subjectId: id,
        what: `What was posted in ${year} moved to where it counts now, of ${people.length === 1 ? 'one person' : `${people.length} people`}: ${reason}`,
      },
      transaction,
    );
    return { people: people.length };
  });
}
