import type { Funding } from '@woodruff/contract';
import { addDays } from '@woodruff/core';
import { select } from '../database/connection';
import { proposals } from '../pay-runs/making/start';
import type { Scope } from '../scope';
import { latestBalance } from './batches';
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
    .map(({ date, what, amount, batchId, owed }) => ({
      date: date < today ? today : date,
      what,
      amount,
      expected: false,
      link: batchId ? `/payments/batches/${batchId}` : owed ? `/payments/payees/${encodeURIComponent(owed)}` : '/payments',
    }));
  const open = await select<{ id: string; payDate: string; net: number }>(
    scope.database,
    `select r.id, r.pay_date as "payDate", coalesce(sum(greatest(x.net, 0)), 0)::bigint as net from pay_runs r join payslips y on y.run_id = r.id and y.included join payslip_results x on x.payslip_id = y.id
     where r.employer_id = :employer and r.state in ('open', 'submitted', 'calculating') and r.pay_date <= :until group by r.id`,
    { employer: scope.employer.id, until },
  );
  for (const { id, payDate, net } of open)
    days.push({ date: payDate, what: 'Net pay of a run in the making', amount: net, expected: true, link: `/pay-runs/${id}` });
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
        what: `Net pay, ${schedule.toLowerCase()}, as the last time`,
        amount: last.net,
        expected: true,
        link: '/today',
      });
  }
  const known = await latestBalance(scope);
  let left = known?.balance ?? null;
  return {
    balance: known?.balance ?? null,
    on: known?.on ?? null,
    days: days
      .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0))
      .map((day) => ({ ...day, left: left === null ? null : (left -= day.amount) })),
  };
}
