import type { Funding } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { select } from '../database/connection';
import { schedulesOf } from '../employers/schedules-on-file';
import { proposals } from '../pay-runs/making/start';
import type { Scope } from '../scope';
import { ladderOf } from './ladder';

/** So many days ahead. */
const AHEAD = 30;

/** What must be in the account when: what waits, what is owed, and what runs to come will pay, as their schedule's last one did. */
export async function fundingOf(scope: Scope): Promise<Funding> {
  const { today } = scope.employer;
  const until = addDays(today, AHEAD);
  const ladder = await ladderOf(scope);
  const days: Omit<Funding['days'][number], 'left'>[] = ladder.rungs
    .filter(({ state, date, late }) => ['to-prepare', 'to-send', 'due', 'sent'].includes(state) && (late || date <= until))
    .map(({ date, what, amount, batchId, owed, payingAccountId }) => ({
      date: date < today ? today : date,
      payingAccountId,
      what,
      amount,
      expected: false,
      link: batchId ? `/payments/batches/${batchId}` : owed ? `/payments/payees/${encodeURIComponent(owed)}` : '/payments',
    }));
  const open = await select<{ id: string; payDate: string; paying: string | null; net: number }>(
    scope.database,
    `select r.id, r.pay_date as "payDate", ps.paying_account_id as paying, coalesce(sum(greatest(x.net, 0)), 0)::bigint as net from pay_runs r left join pay_schedules ps on ps.id = r.schedule_id join payslips y on y.run_id = r.id and y.included join payslip_results x on x.payslip_id = y.id
     where r.employer_id = :employer and r.state in ('open', 'submitted', 'calculating') and r.pay_date <= :until group by r.id, ps.paying_account_id`,
    { employer: scope.employer.id, until },
  );
  for (const { id, payDate, paying, net } of open)
    days.push({
      date: payDate,
      payingAccountId: paying,
      what: 'Net pay of a run in the making',
      amount: net,
      expected: true,
      link: `/pay-runs/${id}`,
    });
  const schedules = new Map((await schedulesOf(scope)).map(({ id, payingAccountId }) => [id, payingAccountId]));
  for (const { scheduleId, schedule, payDate } of await proposals(scope)) {
    if (payDate > until) continue;
    const [last] = await select<{ net: number }>(
      scope.database,
      `select (totals->>'net')::bigint as net from pay_runs where employer_id = :employer and schedule_id = :scheduleId and kind = 'regular' and state = 'approved' order by pay_date desc limit 1`,
      { employer: scope.employer.id, scheduleId },
    );
    if (last?.net)
      days.push({
        date: payDate,
        payingAccountId: schedules.get(scheduleId) ?? null,
        what: `Net pay, ${schedule.toLowerCase()}, as the last time`,
        amount: last.net,
        expected: true,
        link: '/today',
      });
  }
  const left = new Map(ladder.accounts.map(({ id, balance }) => [id, balance]));
  return {
    until,
    accounts: ladder.accounts,
    days: days
      .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0))
      .map((day) => {
        const before = left.get(day.payingAccountId) ?? null;
        const after = before === null ? null : before - day.amount;
        left.set(day.payingAccountId, after);
        return { ...day, left: after };
      }),
  };
}
