import type { Delivery, Outbox, ParsedBodyOf } from '@woodruff/contract';
import { writtenDay } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Database } from '../database/connection';
import { conflict, invalid } from '../errors';
import { openRun } from '../calculation/calculation';
import { runTitle, runView } from '../pay-runs/sheet/sheet';
import { changing } from '../users/changing';
import type { Scope } from '../scope';

/** How many messages the stand-in takes at once. */
const AT_ONCE = 200;

/** Who of a run gets the payslip by mail, who needs paper, and what was sent already. */
export async function deliveryOf(scope: Scope, runId: string): Promise<Delivery> {
  await openRun(scope, runId);
  const rows = await select<{ payslipId: string; name: string; email: string | null; queued: boolean; delivered: boolean }>(
    scope.database,
    `select y.id as "payslipId", p.given_name || ' ' || p.family_name as name, p.email, b.id is not null as queued, b.delivered_at is not null as delivered
     from payslips y join people p on p.id = y.person_id left join outbox b on b.payslip_id = y.id where y.run_id = :runId and y.state in ('posted', 'reversed') order by p.family_name`,
    { runId },
  );
  const reports = await select<Delivery['reports'][number]>(
    scope.database,
    `select to_address as "to", kind as report, to_char(delivered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "deliveredAt" from outbox where run_id = :runId and kind in ('register', 'summary') order by 1, 2`,
    { runId },
  );
  const members = await select<Delivery['members'][number]>(
    scope.database,
    `select u.name, u.email from memberships m join users u on u.id = m.user_id where m.employer_id = :employer and m.role <> 'employee' order by u.name`,
    { employer: scope.employer.id, user: scope.user.id, demo: scope.employer.demo && scope.role === 'administrator' },
  );
  return {
    ready: rows.filter((row) => row.email && !row.queued).length,
    waiting: rows.filter((row) => row.queued && !row.delivered).length,
    sent: rows.filter((row) => row.delivered).length,
    paper: rows.filter((row) => !row.email).map(({ payslipId, name }) => ({ payslipId, name })),
    reports,
    members,
  };
}

/** Writes the messages of an approved run; each once, however often this is asked. Sending them is the job's. */
export async function deliverRun(scope: Scope, runId: string, { reports: wanted }: ParsedBodyOf<'deliverRun'>): Promise<void> {
  const run = await runView(scope, runId);
  if (run.state !== 'approved') throw conflict('not-approved', 'Payslips are sent when the run is approved.');
  const { members } = await deliveryOf(scope, runId);
  const stranger = wanted.find(({ to }) => !members.some((member) => member.email === to));
  if (stranger)
    throw invalid(`${stranger.to} does not work here. Reports go to people who do.`, [
      { path: 'reports', expected: 'people who work here' },
    ]);
  await changing(scope, async (transaction) => {
    const paid = writtenDay(run.payDate);
    const written = await execute(
      scope.database,
      `insert into outbox (employer_id, run_id, payslip_id, kind, to_address, to_name, subject, body)
       select :employer, y.run_id, y.id, 'payslip', p.email, p.given_name || ' ' || p.family_name, :subject, :body
       from payslips y join people p on p.id = y.person_id where y.run_id = :runId and y.state = 'posted' and coalesce(p.email, '') <> '' order by p.family_name
       on conflict do nothing returning id`,
      {
        employer: scope.employer.id,
        runId,
        subject: `Payslip of ${paid}`,
        body: `Your payslip of ${paid} from ${scope.employer.name} is attached.`,
      },
      transaction,
    );
    let reports = 0;
    for (const { to, report } of wanted)
      reports += (
        await execute(
          scope.database,
          `insert into outbox (employer_id, run_id, kind, to_address, to_name, subject, body) values (:employer, :runId, :report, :to, :name, :subject, :body) on conflict do nothing returning id`,
          {
            employer: scope.employer.id,
            runId,
            to,
            report,
            name: members.find((member) => member.email === to)?.name ?? to,
            subject: `${report === 'register' ? 'Register' : 'Summary'}, ${runTitle(run)}`,
            body: `The ${report} of the run paid ${paid} is attached.`,
          },
          transaction,
        )
      ).length;
    if (written.length || reports)
      await record(
        scope,
        {
          action: 'deliver',
          subject: 'run',
          subjectId: runId,
          what: `Sent ${written.length} payslips${reports ? ` and ${reports} reports` : ''}`,
        },
        transaction,
      );
  });
}

/**
 * Sends what waits, a portion at a time, each in a transaction of its own: cut off at any moment, what was sent is
 * marked as sent and the rest goes at the next start.
 */
export async function sendWaiting(database: Database): Promise<number> {
  let sent = 0;
  for (;;) {
    const portion = await execute(
      database,
      `update outbox set delivered_at = now() where id in (select id from outbox where delivered_at is null order by queued_at limit ${AT_ONCE} for update skip locked) returning id`,
    );
    sent += portion.length;
    if (portion.length < AT_ONCE) return sent;
  }
}

export const outbox = (scope: Scope): Promise<Outbox> =>
  select(
    scope.database,
    `select b.id, b.to_address as "to", b.to_name as name, b.subject,
            case when b.kind not in ('invitation', 'reset') or b.to_address = u.email or :demo then b.body end as body,
            case b.kind when 'statement' then json_build_object('label', 'Statement, PDF under a password', 'kind', 'statement', 'id', b.copy_given_id) when 'filing' then null when 'consent' then null when 'payslip' then json_build_object('label', 'Payslip, PDF', 'kind', 'payslip', 'id', b.payslip_id) when 'invitation' then null when 'reset' then null
              when 'summary' then json_build_object('label', 'Summary, PDF', 'kind', 'summary', 'id', b.run_id) else json_build_object('label', 'Register, XLSX', 'kind', 'register', 'id', b.run_id) end as attachment,
            to_char(b.queued_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "queuedAt", to_char(b.delivered_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "deliveredAt"
     from outbox b join users u on u.id = :user where b.employer_id = :employer order by b.queued_at desc, b.to_name limit 500`,
    { employer: scope.employer.id, user: scope.user.id, demo: scope.employer.demo && scope.role === 'administrator' },
  );
