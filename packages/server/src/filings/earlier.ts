import type { FilingView } from '@woodruff/contract';
import { written, writtenMonth, type EarlierPay, type Filing, type FilingCheck, type FilingFacts, type FilingPeriod } from '@woodruff/core';
import { select } from '../database/connection';
import { owedBy } from '../remittances/owed';
import type { Scope } from '../scope';

/** What an earlier system paid in a period, entered as sums, with the deposits recorded of it. */
export async function earlierPay(scope: Scope, { code }: Pick<Filing, 'code'>, { from, to }: FilingPeriod): Promise<EarlierPay> {
  const days = await select<EarlierPay['days'][number]>(
    scope.database,
    `select payday as "payDate", json_object_agg(code, amount) as sums from
       (select l.counts_on as payday, l.code, sum(l.amount)::bigint as amount from pay_runs r join ledger_lines l on l.run_id = r.id
        where r.employer_id = :employer and r.kind = 'opening' and l.counts_on between :from and :to group by 1, 2 having sum(l.amount) <> 0) q group by payday order by payday`,
    { employer: scope.employer.id, from, to },
  );
  const deposits = (await depositsOf(scope, code, from, to)).filter(({ undone }) => undone === null);
  return { days, deposits: deposits.map(({ on, amount }) => ({ on, amount })) };
}

const depositsOf = (scope: Scope, filing: string, from: string, to: string): Promise<NonNullable<FilingView['earlier']>['deposits']> =>
  select(
    scope.database,
    `select d.id, d.counts_on as "on", d.paid_on as "paidOn", d.amount, d.reference, u.name as who, d.undone from earlier_deposits d join users u on u.id = d.user_id
     where d.employer_id = :employer and d.filing = :filing and d.counts_on between :from and :to order by d.counts_on, d.at`,
    { employer: scope.employer.id, filing, from, to },
  );

/** Ledger codes that a filing is paid by. */
export const codesOwed = async (scope: Scope, filing: string): Promise<string[]> =>
  (await owedBy(scope)).filter((one) => one.filing === filing).flatMap(({ codes }) => codes);

/** Both sides by month: what was entered of the earlier system's pay, and what was deposited of it; null where everything was paid here. */
export async function earlierView(scope: Scope, filing: Filing, period: FilingPeriod): Promise<FilingView['earlier']> {
  const codes = await codesOwed(scope, filing.code);
  const pay = await earlierPay(scope, filing, period);
  const deposits = await depositsOf(scope, filing.code, period.from, period.to);
  if (!codes.length || !(pay.days.length || deposits.length)) return null;
  const months = new Map<string, { entered: number; deposited: number }>();
  const of = (date: string) => {
    const month = date.slice(0, 7);
    const row = months.get(month) ?? { entered: 0, deposited: 0 };
    months.set(month, row);
    return row;
  };
  for (const { payDate, sums } of pay.days) of(payDate).entered += codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0);
  for (const { on, amount } of pay.deposits) of(on).deposited += amount;
  return {
    through: pay.days.at(-1)?.payDate ?? period.from,
    months: [...months].sort(([a], [b]) => (a < b ? -1 : 1)).map(([month, row]) => ({ month: writtenMonth(`${month}-01`), ...row })),
    deposits,
  };
}

/** Whether what was deposited before this system is what was entered of its pay; that it is not stops nothing. */
export async function earlierChecks(scope: Scope, filing: Filing, { earlier }: FilingFacts): Promise<FilingCheck[]> {
  const last = earlier.days.at(-1);
  if (!last || !earlier.deposits.length) return [];
  const codes = await codesOwed(scope, filing.code);
  const entered = earlier.days.reduce((all, { sums }) => all + codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0), 0);
  const deposited = earlier.deposits.reduce((sum, { amount }) => sum + amount, 0);
  const sentence = `Deposits recorded of pay before this system ${written(deposited)} equal what was entered of it ${written(entered)}`;
  return [{ sentence, holds: entered === deposited, weight: 'look' }];
}
