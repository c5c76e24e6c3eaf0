import type { ParsedBodyOf, TaxGrid } from '@woodruff/contract';
import { addDays, addMonths, minorOf, placeOfCode, written, writtenMonth } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { conflict, invalid } from '../errors';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { accountsOf } from './accounts';
import { enter, PLAIN } from './entries';
import { addOwed } from './post-pay';
import { reckonedWithin } from './reckonings';

/** Taxes of the employer by month and year to date, each with what was entered beside the computed. */
export async function taxGridOf(scope: Scope, year: number): Promise<TaxGrid> {
  const values = { employer: scope.employer.id, from: `${year}-01-01`, to: `${year}-12-31` };
  const posted = await select<{ code: string; label: string; month: number; amount: number }>(
    scope.database,
    `select l.code, min(l.label) as label, extract(month from l.counts_on)::int as month, sum(l.amount)::bigint as amount from ledger_lines l
     where l.employer_id = :employer and l.kind = 'employer-tax' and l.counts_on between :from and :to group by l.code, 3 order by 2, 1`,
    values,
  );
  const labelsOf = packFor(scope).reckonings?.labels ?? {};
  const reckoned = (await reckonedWithin(scope, values)).map((one) => ({ ...one, label: labelsOf[one.code] ?? one.code }));
  const computed = [...posted, ...reckoned.map(({ on, ...one }) => ({ ...one, month: Number(on.slice(5, 7)) }))];
  const entered = await select<TaxGrid['entered'][number]>(
    scope.database,
    `select d.code, extract(month from d.month)::int as month, d.amount, d.reason, u.name as who, d.entered_on as "on"
     from tax_differences d join users u on u.id = d.user_id where d.employer_id = :employer and d.month between :from and :to order by d.id`,
    values,
  );
  const labels = new Map(computed.map(({ code, label }) => [code, label]));
  const codes = [...new Set([...computed, ...entered].map(({ code }) => code))];
  return {
    year,
    rows: codes.map((code) => {
      const months = Array.from({ length: 12 }, (_, index) => {
        const amount = computed.filter((one) => one.code === code && one.month === index + 1).reduce((sum, one) => sum + one.amount, 0);
        const difference = entered.filter((one) => one.code === code && one.month === index + 1).reduce((sum, one) => sum + one.amount, 0);
        return { computed: amount, difference, total: amount + difference };
      });
      return {
        code,
        label: labels.get(code) ?? code,
        place: placeOfCode(code).split('-').pop() ?? '',
        months,
        total: months.reduce((sum, { total }) => sum + total, 0),
      };
    }),
    entered,
    reckoned,
  };
}

/**
 * Says what a tax of the employer comes to in a month, beside what was computed: the difference is kept with its reason,
 * owed to the payee and posted to the journal. What was computed stays as it is.
 */
export async function enterTaxTotal(
  scope: Scope,
  { code, month, total: wanted, reason }: ParsedBodyOf<'enterTaxTotal'>,
): Promise<{ difference: number }> {
  const total = minorOf(wanted);
  if (total < 0) throw invalid('A tax of a month is not less than nothing.', [{ path: 'total', expected: 'an amount' }]);
  const first = `${month}-01`;
  if (first > scope.employer.today)
    throw invalid(`${writtenMonth(first)} is still to come.`, [{ path: 'month', expected: 'this month or an earlier one' }]);
  return changing(scope, async (transaction) => {
    const grid = await taxGridOf(scope, Number(month.slice(0, 4)));
    const row = grid.rows.find((one) => one.code === code);
    const known = row?.months[Number(month.slice(5, 7)) - 1];
    if (!row || !known)
      throw invalid('No such tax of the employer was computed in the year.', [{ path: 'code', expected: 'a tax of the list' }]);
    const difference = total - known.total;
    if (!difference) throw conflict('no-difference', `${row.label} of ${writtenMonth(first)} is ${written(total)} already.`);
    const end = addDays(addMonths(first, 1), -1);
    const on = end < scope.employer.today ? end : scope.employer.today;
    await execute(
      scope.database,
      'insert into tax_differences (employer_id, code, month, on_day, entered_on, amount, reason, user_id) values (:employer, :code, :first, :on, :today, :difference, :reason, :user) returning id',
      { employer: scope.employer.id, code, first, on, today: scope.employer.today, difference, reason, user: scope.user.id },
      transaction,
    );
    await addOwed(scope, [{ code, on, amount: difference }], transaction);
    const accounts = await accountsOf(scope, transaction);
    const payee = accounts.owedOf(code);
    await enter(
      scope,
      [
        {
          on: scope.employer.today,
          kind: 'difference',
          source: null,
          words: `${row.label}, ${writtenMonth(first)}: ${reason}`,
          lines: [
            {
              ...PLAIN,
              account: accounts.find({ side: 'expense', code }, 'employer-tax').account,
              side: 'expense',
              amount: difference,
              words: row.label,
              codes: [code],
            },
            {
              ...PLAIN,
              account: payee ? accounts.owedTo(payee.owed) : accounts.find({ side: 'liability', code }, 'employer-tax').account,
              side: 'liability',
              amount: -difference,
              words: payee?.payee ?? row.label,
              owed: payee?.owed ?? '',
              codes: [code],
            },
          ],
        },
      ],
      transaction,
    );
    await record(
      scope,
      {
        action: 'tax-difference',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `${row.label}, ${writtenMonth(first)}: ${written(total)} in place of ${written(known.total)}: ${reason}`,
      },
      transaction,
    );
    return { difference };
  });
}
