import type { Adjusted, AnswerOf, ParsedBodyOf } from '@woodruff/contract';
import { computePayslip, decimalOf, Exact, leaveCode, packOf, writtenDate, type Adjustment } from '@woodruff/core';
import { record } from '../../audit/audit';
import { copyInto } from '../../database/copy';
import { select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { invalid } from '../../errors';
import { inputsOn } from '../../payslip-input/ordinary-input';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { PayRun, Payslip } from '../../calculation/models';
import { postPayslips } from '../../ledger/posting';
import { RESULT_COLUMNS, resultRow, summaryOf } from '../../calculation/result';
import { personOf } from '../person';

type Adjustable = AnswerOf<'adjustable'>[number];

/** Balances that can be changed without payment: leave, sums of items, and pay counted for a tax. Taxes withheld are not: they are paid. */
export async function adjustable(scope: Scope, id: string): Promise<Adjustable[]> {
  await personOf(scope, id);
  return (await adjustableOf(scope, [id], scope.employer.today)).get(id) ?? [];
}

async function adjustableOf(
  scope: Scope,
  ids: readonly string[],
  date: string,
  transaction?: Transaction,
): Promise<Map<string, Adjustable[]>> {
  const year = packOf(scope.employer.country).taxYearOf(date).label;
  const rows = await select<{ personId: string; code: string; label: string; unit: 'hours' | 'money'; year: number; inAll: number }>(
    scope.database,
    `select m.person_id as "personId", 'leave:' || l.code as code,
            coalesce((select t.terms->>'name' from leave_terms t where t.plan_id = l.id order by t.from_date desc limit 1), l.code) as label, 'hours' as unit,
            coalesce((select sum(b.amount) from balances b where b.person_id = m.person_id and b.tax_year = :year and b.code like 'leave:' || l.code || ':%'), 0)::bigint as year,
            coalesce((select sum(b.amount) from balances b where b.person_id = m.person_id and b.code like 'leave:' || l.code || ':%'), 0)::bigint as "inAll"
     from (select distinct person_id, plan_id from leave_members where person_id in (:ids)) m join leave_plans l on l.id = m.plan_id and l.employer_id = :employer
     union all
     select p.id, i.code, i.definition->>'name', 'money',
            coalesce((select b.amount from balances b where b.person_id = p.id and b.tax_year = :year and b.code = i.code), 0)::bigint,
            coalesce((select sum(b.amount) from balances b where b.person_id = p.id and b.code = i.code), 0)::bigint
     from people p join pay_items i on i.employer_id = p.employer_id
     where p.id in (:ids) and p.employer_id = :employer and (exists (select 1 from balances b where b.person_id = p.id and b.code = i.code) or exists (select 1 from person_items h where h.person_id = p.id and h.item_id = i.id))
     order by 4, 3`,
    { ids, employer: scope.employer.id, year },
    transaction,
  );
  const bases = await select<{ personId: string; code: string; year: number; inAll: number }>(
    scope.database,
    `select person_id as "personId", code, coalesce(sum(amount) filter (where tax_year = :year), 0)::bigint as year, sum(amount)::bigint as "inAll" from balances where person_id in (:ids) group by 1, 2 order by 2`,
    { ids, year },
    transaction,
  );
  const labels = new Map(packFor(scope).bases.map((base) => [base.code, base.label]));
  const found = new Map<string, Adjustable[]>();
  const add = (personId: string, entry: Adjustable) => found.set(personId, [...(found.get(personId) ?? []), entry]);
  for (const { personId, ...row } of rows) add(personId, row);
  for (const { personId, code, year: inYear, inAll } of bases) {
    const label = labels.get(code);
    if (label) add(personId, { code, label, unit: 'money', year: inYear, inAll });
  }
  return found;
}

/** Balances of somebody that change, and by how much. */
export interface Worked {
  personId: string;
  name: string;
  adjustments: Adjustment[];
  changes: Adjusted['changes'];
}

/** What would be posted; nothing is. */
export async function checkAdjustment(scope: Scope, body: ParsedBodyOf<'checkAdjustment'>): Promise<Adjusted> {
  const worked = await workedOut(scope, body);
  return { posted: 0, changes: worked.flatMap((one) => one.changes).slice(0, 100) };
}

/** Posts the changes as lines of their own, in a run that pays nobody anything. */
export async function adjustBalances(scope: Scope, body: ParsedBodyOf<'adjustBalances'>): Promise<Adjusted> {
  return changing(scope, async (transaction) => {
    const worked = await workedOut(scope, body, transaction);
    await postAdjustments(scope, body, worked, transaction);
    return { posted: worked.length, changes: worked.flatMap((one) => one.changes).slice(0, 100) };
  });
}

/** Gives the run that carries the lines. */
export async function postAdjustments(
  scope: Scope,
  { date, reason }: { date: string; reason: string },
  worked: readonly Worked[],
  transaction: Transaction,
): Promise<string> {
  const inputs = await inputsOn(
    scope,
    worked.map((one) => one.personId),
    date,
    transaction,
  );
  const [schedule] = await select<{ id: string }>(
    scope.database,
    'select schedule_id as id from people where id = :id',
    { id: worked[0]?.personId },
    transaction,
  );
  const run = await PayRun.create(
    {
      employerId: scope.employer.id,
      scheduleId: schedule?.id ?? '',
      kind: 'adjustment',
      name: reason.slice(0, 80),
      periodFrom: date,
      periodTo: date,
      payDate: date,
      state: 'approved',
      comparedWith: null,
      approvedBy: scope.user.id,
      approvedAt: new Date(),
      lastEditedBy: scope.user.id,
    },
    { transaction },
  );
  const made = await Payslip.bulkCreate(
    worked.map(({ personId }) => ({ runId: run.id, personId, edits: { note: reason } })),
    { transaction },
  );
  await copyInto(
    transaction,
    'payslip_results',
    RESULT_COLUMNS,
    worked.map(({ personId, name, adjustments }, index) => {
      const on = inputs.get(personId);
      if (!on) throw invalid(`${name} has no pay schedule. Enter it among the details first.`);
      const input = { ...on.input, hours: [], items: [], oneOffs: [], overrides: [], adjustments };
      const payslip = computePayslip(input);
      return resultRow(made[index]?.id ?? '', run.id, payslip, summaryOf(input, {}, payslip), JSON.stringify(input));
    }),
  );
  await postPayslips(
    scope,
    { payDate: date },
    made.map(({ id }) => id),
    transaction,
  );
  await record(
    scope,
    worked.map(({ personId, changes }) => ({
      action: 'adjust',
      subject: 'person',
      subjectId: personId,
      what: `Adjusted without payment: ${changes.map(({ label, before, after }) => `${label} ${decimalOf(after)} instead of ${decimalOf(before)}`).join('; ')}. ${reason}`,
    })),
    transaction,
  );
  await factsChanged(scope, transaction);
  return run.id;
}

async function workedOut(scope: Scope, body: ParsedBodyOf<'adjustBalances'>, transaction?: Transaction): Promise<Worked[]> {
  if (body.date > scope.employer.today)
    throw invalid('A balance is adjusted as of today or an earlier day.', [{ path: 'date', expected: 'a date up to today' }]);
  packFor(scope).assertTables(body.date);
  const people = await select<{ id: string; code: string; name: string }>(
    scope.database,
    `select id, code, given_name || ' ' || family_name as name from people where employer_id = :employer and (id::text in (:asked) or code in (:asked))`,
    { employer: scope.employer.id, asked: body.entries.map((entry) => entry.person) },
    transaction,
  );
  const byKey = new Map(people.flatMap((person) => [[person.id, person] as const, [person.code, person] as const]));
  const known = people.length
    ? await adjustableOf(
        scope,
        people.map(({ id }) => id),
        body.date,
        transaction,
      )
    : new Map<string, Adjustable[]>();
  const worked = new Map<string, Worked>();
  body.entries.forEach((entry, index) => {
    const fault = (sentence: string, field: string, expected: string) =>
      invalid(`Line ${index + 1}: ${sentence}`, [{ path: `entries.${index}.${field}`, expected }]);
    const person = byKey.get(entry.person);
    if (!person) throw fault(`there is nobody with the code “${entry.person}”.`, 'person', 'the code of a person');
    const balance = known.get(person.id)?.find((one) => one.code === entry.balance);
    if (!balance)
      throw fault(
        `${person.name} has no balance “${entry.balance}” that can be adjusted.`,
        'balance',
        'a leave plan, an item, or pay counted for a tax',
      );
    const amount = Exact.of(entry.amount);
    if (amount.isZero()) throw fault('an adjustment of nothing changes nothing.', 'amount', 'an amount that is not zero');
    const one = worked.get(person.id) ?? { personId: person.id, name: person.name, adjustments: [], changes: [] };
    const plan = balance.code.startsWith('leave:') ? balance.code.slice(6) : null;
    one.adjustments.push({
      code: plan ? leaveCode(plan, 'adjusted') : balance.code,
      label: `${balance.label}, adjusted`,
      kind: plan ? 'leave' : 'base',
      amount: entry.amount,
      reason: body.reason,
    });
    const before = plan ? balance.inAll : balance.year;
    one.changes.push({
      name: person.name,
      label: plan ? balance.label : `${balance.label}, in the year of ${writtenDate(body.date)}`,
      unit: balance.unit,
      before,
      after: before + amount.toMinor(),
    });
    worked.set(person.id, one);
  });
  return [...worked.values()];
}
