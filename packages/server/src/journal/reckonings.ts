import { packOf, writtenDate, type Working } from '@woodruff/core';
import { execute, select, type Transaction } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { accountsOf } from './accounts';
import { enter, PLAIN, type Entry } from './entries';
import { addOwed } from './post-pay';

/**
 * Reckons anew what the employer owes or takes off by itself, for the tax years that posted lines count in: a levy, an
 * allowance, what the state gives back. The difference to what was reckoned before is kept, owed and posted.
 * @param lines condition on ledger lines `l`
 */
export async function reckonFor(scope: Scope, lines: string, values: Record<string, unknown>, transaction: Transaction): Promise<void> {
  if (!packFor(scope).reckonings) return;
  const years = await select<{ day: string }>(
    scope.database,
    `select max(l.counts_on) as day from ledger_lines l where ${lines} group by l.tax_year`,
    values,
    transaction,
  );
  for (const { day } of years) await reckonYear(scope, day, transaction);
}

/** The tax year of a day, by the employer's registrations as they stand. */
export async function reckonYear(scope: Scope, day: string, transaction: Transaction): Promise<void> {
  const pack = packOf(scope.employer.country);
  if (!pack.reckonings) return;
  const { label, from, to } = pack.taxYearOf(day);
  const days = await select<{ payDate: string; sums: Record<string, number> }>(
    scope.database,
    `select day as "payDate", coalesce(json_object_agg(code, amount) filter (where amount is not null), '{}') as sums
     from (select l.counts_on as day, l.code, sum(l.amount) filter (where l.code in (:codes) and r.kind not in ('opening', 'adjustment'))::bigint as amount
           from ledger_lines l join pay_runs r on r.id = l.run_id where l.employer_id = :employer and l.counts_on between :from and :to group by 1, 2) s
     group by day order by day`,
    { employer: scope.employer.id, from, to, codes: [...pack.reckonings.codes] },
    transaction,
  );
  const wanted = pack.reckonings.of({ employer: scope.employer.facts.country, days });
  const known = await select<{ code: string; on: string; period: string; amount: number }>(
    scope.database,
    `select code, on_day as "on", max(period) as period, sum(amount)::bigint as amount from reckonings where employer_id = :employer and tax_year = :label group by 1, 2`,
    { employer: scope.employer.id, label },
    transaction,
  );
  const open = new Map(known.map(({ code, on, ...rest }) => [`${code} ${on}`, { code, on, ...rest }]));
  const added = wanted.flatMap((one) => {
    const before = open.get(`${one.code} ${one.on}`)?.amount ?? 0;
    open.delete(`${one.code} ${one.on}`);
    return one.amount === before ? [] : [{ ...one, amount: one.amount - before }];
  });
  // What was reckoned for a day that no longer has it: a claim taken back, a later pay date of the month.
  for (const { code, on, period, amount } of open.values()) if (amount) added.push({ code, on, period, amount: -amount, workings: {} });
  if (added.length) await post(scope, label, added, transaction);
}

async function post(
  scope: Scope,
  year: string,
  added: readonly { code: string; on: string; period: string; amount: number; workings: object }[],
  transaction: Transaction,
): Promise<void> {
  const labels = packOf(scope.employer.country).reckonings?.labels ?? {};
  await execute(
    scope.database,
    `insert into reckonings (employer_id, tax_year, code, on_day, reckoned_on, period, amount, workings)
     select :employer, :year, r.code, r."on", :today, r.period, r.amount, r.workings from jsonb_to_recordset(cast(:added as jsonb)) as r(code text, "on" date, period text, amount bigint, workings jsonb)`,
    { employer: scope.employer.id, year, today: scope.employer.today, added: JSON.stringify(added) },
    transaction,
  );
  await addOwed(scope, added, transaction);
  const accounts = await accountsOf(scope, transaction);
  const entries = added.map(({ code, on, period, amount }): Entry => {
    const label = labels[code] ?? code;
    const payee = accounts.owedOf(code);
    return {
      on: scope.employer.today,
      kind: 'reckoning',
      source: null,
      words: `${label}, ${period}, with the pay of ${writtenDate(on)}`,
      lines: [
        {
          ...PLAIN,
          account: accounts.find({ side: 'expense', code }, 'employer-tax').account,
          side: 'expense',
          amount,
          words: label,
          codes: [code],
        },
        {
          ...PLAIN,
          account: payee ? accounts.owedTo(payee.owed) : accounts.find({ side: 'liability', code }, 'employer-tax').account,
          side: 'liability',
          amount: -amount,
          words: payee?.payee ?? label,
          owed: payee?.owed ?? '',
          codes: [code],
        },
      ],
    };
  });
  await enter(scope, entries, transaction);
}

/** What was reckoned in a tax year up to a day, by code. */
export async function reckonedUpTo(scope: Scope, year: string, to: string): Promise<Record<string, number>> {
  const rows = await select<{ code: string; amount: number }>(
    scope.database,
    'select code, sum(amount)::bigint as amount from reckonings where employer_id = :employer and tax_year = :year and on_day <= :to group by 1',
    { employer: scope.employer.id, year, to },
  );
  return Object.fromEntries(rows.map(({ code, amount }) => [code, amount]));
}

/** Everything reckoned for days of a range, latest first, with its working. */
export const reckonedWithin = (
  scope: Scope,
  { from, to }: { from: string; to: string },
): Promise<{ code: string; on: string; period: string; amount: number; workings: Record<string, Working> }[]> =>
  select(
    scope.database,
    `select code, on_day as "on", period, amount, workings from reckonings where employer_id = :employer and on_day between :from and :to order by on_day desc, id desc`,
    { employer: scope.employer.id, from, to },
  );

/** Days with which anything was reckoned that has not come to nothing. */
export async function reckonedDays(scope: Scope): Promise<string[]> {
  const rows = await select<{ day: string }>(
    scope.database,
    'select distinct day from (select on_day as day, code from reckonings where employer_id = :employer group by 1, 2 having sum(amount) <> 0) d order by 1',
    { employer: scope.employer.id },
  );
  return rows.map(({ day }) => day);
}
