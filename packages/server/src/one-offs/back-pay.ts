import type { BackPay, ParsedBodyOf } from '@woodruff/contract';
import { backPayOf, Exact, writtenPeriod, type PayslipInput } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { conflict, invalid } from '../errors';
import { loadPeopleFacts, loadRunFacts } from '../payslip-input/facts';
import { hoursByColumn, inputOf } from '../payslip-input/input';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { insert, type NewOneOff } from './service';

interface Paid {
  payslipId: string;
  personId: string;
  name: string;
  runId: string;
  kind: string;
  scheduleId: string;
  periodFrom: string;
  periodTo: string;
  payDate: string;
  input: PayslipInput;
}

/** Back pay for every paid period that reaches the day or later, calculated with what is known now. */
export async function backPay(
  scope: Scope,
  { from, personIds, hours }: ParsedBodyOf<'backPay'>,
  transaction?: Transaction,
): Promise<BackPay> {
  const paid = await select<Paid>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, r.id as "runId", r.kind, r.schedule_id as "scheduleId",
            r.period_from as "periodFrom", r.period_to as "periodTo", r.pay_date as "payDate", x.input
     from payslips y join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
     where r.employer_id = :employer and y.person_id in (:personIds) and y.state = 'posted' and r.kind in ('regular', 'correction') and r.period_to >= :from
     order by p.family_name, p.given_name, p.code, r.pay_date`,
    { employer: scope.employer.id, personIds, from },
    transaction,
  );
  const already = await offeredBefore(scope, personIds, transaction);
  const people = new Map<string, BackPay['people'][number]>();
  for (const runId of new Set(paid.map((row) => row.runId))) {
    const ofRun = paid.filter((row) => row.runId === runId);
    const [run] = ofRun;
    if (!run) continue;
    const facts = await loadRunFacts(scope, run, transaction);
    const loaded = await loadPeopleFacts(
      scope,
      run,
      ofRun.map((row) => row.payslipId),
      facts,
      transaction,
    );
    for (const row of ofRun) {
      const known = loaded.find((one) => one.payslipId === row.payslipId);
      if (!known) continue;
      const late = hours[row.payslipId];
      const now = late ? { ...known, edits: { ...known.edits, hours: { ...known.edits.hours, ...late } } } : known;
      const lines = backPayOf(row.input, inputOf(facts, now), already.get(`${row.personId} ${row.periodFrom} ${row.periodTo}`));
      const person = people.get(row.personId) ?? { personId: row.personId, name: row.name, total: 0, periods: [] };
      people.set(row.personId, person);
      person.total += lines.reduce((sum, line) => sum + line.difference, 0);
      person.periods.push({
        payslipId: row.payslipId,
        payDate: row.payDate,
        from: row.periodFrom,
        to: row.periodTo,
        hours: hoursByColumn(facts, known, known.rates?.find((rate) => rate.primary)?.per === 'hour'),
        lines,
      });
    }
  }
  const all = [...people.values()].map((person) => ({
    ...person,
    periods: person.periods.sort((a, b) => (a.payDate < b.payDate ? -1 : 1)),
  }));
  return { total: all.reduce((sum, person) => sum + person.total, 0), people: all };
}

/** Back pay among the one-offs already, by person and period and the item it is for. */
async function offeredBefore(
  scope: Scope,
  personIds: readonly string[],
  transaction?: Transaction,
): Promise<Map<string, Record<string, number>>> {
  const rows = await select<{ personId: string; from: string; to: string; item: string; amount: number }>(
    scope.database,
    `select person_id as "personId", back->>'from' as "from", back->>'to' as "to", back->>'item' as item, sum(amount * 100)::bigint as amount
     from one_offs where employer_id = :employer and person_id in (:personIds) and back is not null group by 1, 2, 3, 4`,
    { employer: scope.employer.id, personIds },
    transaction,
  );
  const found = new Map<string, Record<string, number>>();
  for (const { personId, from, to, item, amount } of rows) {
    const key = `${personId} ${from} ${to}`;
    found.set(key, { ...found.get(key), [item]: amount });
  }
  return found;
}

/** Puts what is still to be paid among the one-offs: a line for each period and item, which names the period. */
export async function takeBackPay(scope: Scope, body: ParsedBodyOf<'takeBackPay'>): Promise<{ added: number }> {
  return changing(scope, async (transaction) => {
    const offered = await backPay(scope, body, transaction);
    const items = await select<{ id: string; code: string; retired: boolean }>(
      scope.database,
      'select id, code, retired from pay_items where employer_id = :employer',
      { employer: scope.employer.id },
      transaction,
    );
    const byCode = new Map(items.filter((item) => !item.retired).map((item) => [item.code, item.id]));
    if (body.item && !byCode.has(body.item))
      throw invalid('There is no such pay item.', [{ path: 'item', expected: 'an item of this employer' }]);
    const entries: NewOneOff[] = offered.people.flatMap(({ personId, periods }) =>
      periods.flatMap(({ from, to, payDate, lines }) =>
        lines.map((line) => {
          const itemId = byCode.get(body.item ?? line.item);
          if (!itemId) throw conflict('retired', `${line.label} is retired. Choose another item to pay it through.`);
          return {
            personId,
            itemId,
            amount: Exact.minor(line.difference).toDecimal(2),
            note: `Back pay ${writtenPeriod(from, to)}: ${line.label}`,
            takes: body.takes,
            earned: { from, to },
            back: { from, to, payDate, item: line.item },
          };
        }),
      ),
    );
    if (!entries.length) throw conflict('nothing-owed', 'Nothing is owed for these periods any more.');
    await insert(scope, entries, transaction);
    return { added: entries.length };
  });
}
