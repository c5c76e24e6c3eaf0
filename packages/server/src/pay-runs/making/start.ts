import type { ParsedBodyOf, Proposal } from '@woodruff/contract';
import { addDays, isBusinessDay, nextPeriod, periodOf, writtenDate, writtenPeriod } from '@woodruff/core';
import { UniqueConstraintError } from 'sequelize';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { conflict, invalid } from '../../errors';
import { letGo, takeWaiting } from '../../one-offs/service';
import { changing } from '../../users/changing';
import { holidaysOf, packFor, type Scope } from '../../scope';
import { openRun } from '../../calculation/calculation';
import { PayRun } from '../../calculation/models';
import { schedulesOf } from '../../employers/schedules-on-file';
import { mustBeOpen } from '../../calculation/calculation';
import { readyPeople } from './ready';

/** The next period of each schedule that has no run yet and somebody to pay. */
export async function proposals(scope: Scope): Promise<Proposal[]> {
  const holiday = holidaysOf(scope);
  const proposed: Proposal[] = [];
  for (const schedule of await schedulesOf(scope)) {
    const [last] = await select<{ to: string }>(
      scope.database,
      `select max(period_to) as "to" from pay_runs where schedule_id = :id and kind = 'regular' and state <> 'withdrawn'`,
      { id: schedule.id },
    );
    const [first] = last?.to
      ? []
      : await select<{ hired: string | null }>(scope.database, 'select min(hired) as hired from people where schedule_id = :id', {
          id: schedule.id,
        });
    const firstDay = first?.hired && first.hired > scope.employer.today ? first.hired : scope.employer.today;
    let period = last?.to
      ? nextPeriod(schedule, { from: last.to, to: last.to, payDate: last.to }, holiday)
      : periodOf(schedule, firstDay, holiday);
    const due = async () => (await readyPeople(scope, schedule.id, period.from, period.to)).in;
    let people = await due();
    // A period in which nobody was employed has no run, and does not stand in the way of those after it.
    while (!people.length && period.to < scope.employer.today) {
      period = nextPeriod(schedule, period, holiday);
      people = await due();
    }
    let approveBy = addDays(period.payDate, -1);
    while (!isBusinessDay(approveBy, holiday)) approveBy = addDays(approveBy, -1);
    if (people.length) proposed.push({ scheduleId: schedule.id, schedule: schedule.name, ...period, people: people.length, approveBy });
  }
  return proposed.sort((a, b) => (a.payDate < b.payDate ? -1 : 1));
}

/** Begins the run of a period; everyone due and ready is in it. Working it out is left to the job. */
export async function startRun(scope: Scope, body: ParsedBodyOf<'startRun'>): Promise<{ id: string }> {
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === body.scheduleId);
  if (!schedule) throw invalid('There is no such pay schedule.', [{ path: 'scheduleId', expected: 'one of the pay schedules' }]);
  const pack = packFor(scope);
  const period = periodOf(schedule, body.from, holidaysOf(scope));
  if (period.from !== body.from || period.to !== body.to)
    throw invalid(
      `${writtenPeriod(body.from, body.to)} is no period of this schedule; the nearest is ${writtenPeriod(period.from, period.to)}.`,
      [{ path: 'from', expected: period.from }],
    );
  pack.assertTables(body.payDate);
  const ready = await readyPeople(scope, body.scheduleId, body.from, body.to);
  if (!ready.in.length) throw invalid('Nobody on this schedule can be paid for the period. Complete the people first.');
  const [compared] = await select<{ id: string }>(
    scope.database,
    `select id from pay_runs where schedule_id = :scheduleId and kind = 'regular' and state = 'approved' and period_to < :from order by period_to desc limit 1`,
    { scheduleId: body.scheduleId, from: body.from },
  );
  try {
    return await changing(scope, async (transaction) => {
      const run = await PayRun.create(
        {
          employerId: scope.employer.id,
          scheduleId: body.scheduleId,
          kind: 'regular',
          periodFrom: body.from,
          periodTo: body.to,
          payDate: body.payDate,
          state: 'calculating',
          comparedWith: compared?.id ?? null,
          lastEditedBy: scope.user.id,
        },
        { transaction },
      );
      await addPayslips(scope, run.id, ready.in, transaction);
      await takeWaiting(scope, run.id, transaction);
      await record(
        scope,
        {
          action: 'start',
          subject: 'run',
          subjectId: run.id,
          what: `Started the run for ${writtenPeriod(body.from, body.to)}, ${ready.in.length} people`,
        },
        transaction,
      );
      return { id: run.id };
    });
  } catch (error) {
    if (error instanceof UniqueConstraintError)
      throw conflict('run-exists', `There is a run for ${writtenPeriod(body.from, body.to)} already. Open it from the list of pay runs.`);
    throw error;
  }
}

/** One statement for any number of people. */
async function addPayslips(scope: Scope, runId: string, people: readonly string[], transaction: Transaction): Promise<void> {
  if (!people.length) return;
  await execute(
    scope.database,
    'insert into payslips (run_id, person_id) select :runId, unnest(array[:people]::uuid[])',
    { runId, people },
    transaction,
  );
}

/** Takes into an open run those who have become ready since it was started. */
export async function takeInReadyPeople(scope: Scope, runId: string): Promise<number> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if ((run.state !== 'open' && run.state !== 'calculating') || run.kind !== 'regular') return 0;
    const { in: added } = await readyPeople(scope, run.scheduleId, run.periodFrom, run.periodTo, runId);
    await addPayslips(scope, runId, added, transaction);
    await takeWaiting(scope, runId, transaction);
    return added.length;
  });
}

/** What time its payslips take their hours from waits for the next run of the period, or is discarded too. */
export async function deleteRun(scope: Scope, runId: string, time: 'keep' | 'discard' = 'keep'): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const run = await openRun(scope, runId, transaction);
    if (run.state === 'approved') throw conflict('approved', 'This run is approved and posted. Reverse its payslips instead.');
    mustBeOpen(run);
    await letGo(scope, 'y.run_id = :subject', runId, transaction);
    if (time === 'discard') await discardTime(scope, run, transaction);
    await execute(scope.database, 'delete from payslip_results where run_id = :runId', { runId }, transaction);
    await execute(scope.database, 'delete from payslips where run_id = :runId', { runId }, transaction);
    await run.destroy({ transaction });
    await record(
      scope,
      {
        action: 'delete',
        subject: 'run',
        subjectId: runId,
        what: `Deleted the run for ${writtenPeriod(run.periodFrom, run.periodTo)} before approval`,
      },
      transaction,
    );
    return {};
  });
}

/** The timesheets of the run's period and people go; those of a locked period do not. */
async function discardTime(scope: Scope, run: PayRun, transaction: Transaction): Promise<void> {
  const [locked] = await select<{ one: number }>(
    scope.database,
    'select 1 as one from time_locks where schedule_id = :schedule and period_from = :from',
    { schedule: run.scheduleId, from: run.periodFrom },
    transaction,
  );
  if (locked) throw conflict('time-locked', 'The time of this period is locked. Unlock it first, or keep it.');
  const gone = (await execute(
    scope.database,
    `delete from timesheets s using payslips y where y.run_id = :runId and y.person_id = s.person_id and s.period_from = :from returning s.person_id as id`,
    { runId: run.id, from: run.periodFrom },
    transaction,
  )) as { id: string }[];
  await record(
    scope,
    gone.map(({ id }) => ({
      action: 'time',
      subject: 'person',
      subjectId: id,
      what: `Time of the period from ${writtenDate(run.periodFrom)} discarded with the draft of its run`,
    })),
    transaction,
  );
}
