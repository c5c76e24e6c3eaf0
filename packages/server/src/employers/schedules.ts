import type { AnswerOf, ParsedBodyOf } from '@woodruff/contract';
import { addDays, dateOf, extraPayDates, movedToBusinessDay, periodsPaidWithin, writtenDate, type PaySchedule } from '@woodruff/core';
import { isDeepStrictEqual } from 'node:util';
import { UniqueConstraintError } from 'sequelize';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { conflict, invalid, notFound } from '../errors';
import { changing } from '../users/changing';
import { ownPaying } from './paying-accounts';
import { holidaysOf, type Scope } from '../scope';
import { factsChanged } from './facts-version';

/** Periods and pay dates of a year, with what is unusual. */
export function payDates(scope: Scope, { year, ...schedule }: ParsedBodyOf<'payDates'>): AnswerOf<'payDates'> {
  const holiday = holidaysOf(scope);
  const periods = periodsPaidWithin(schedule, dateOf(year, 1, 1), dateOf(year, 12, 31), holiday);
  const extra = extraPayDates(schedule, periods.length);
  return periods.map((period, index) => {
    const planned = addDays(period.to, schedule.payDateOffset);
    const notes: string[] = [];
    if (planned !== movedToBusinessDay(planned, schedule.move, () => false) || planned !== period.payDate)
      notes.push(`moved from ${writtenDate(planned)}, ${holiday(planned) ? 'a holiday' : 'no business day'}`);
    if (extra > 0 && index === periods.length - 1)
      notes.push(`pay date ${periods.length} of the year, ${extra === 1 ? 'one' : extra} more than usual`);
    return { from: period.from, to: period.to, payDate: period.payDate, note: notes.join('; ') };
  });
}

export async function addSchedule(scope: Scope, body: ParsedBodyOf<'addSchedule'>): Promise<{ id: string }> {
  try {
    return await changing(scope, async (transaction) => {
      const [row] = (await execute(
        scope.database,
        'insert into pay_schedules (employer_id, name, frequency, anchor, pay_date_offset, move, time_cut_off, paying_account_id) values (:employer, :name, :frequency, :anchor, :payDateOffset, :move, :timeCutOff, :paying) returning id',
        { employer: scope.employer.id, ...body, timeCutOff: body.timeCutOff ?? null, paying: await ownPaying(scope, body.payingAccountId) },
        transaction,
      )) as { id: string }[];
      if (!row) throw new Error('no schedule was made');
      await record(
        scope,
        { action: 'add-schedule', subject: 'employer', subjectId: scope.employer.id, what: `Added the schedule ${body.name}`, after: body },
        transaction,
      );
      await factsChanged(scope, transaction);
      return row;
    });
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw sameName(body.name);
    throw error;
  }
}

/** A schedule's dates stay once a run was started: what was paid has its periods. Its name can always change. */
export async function changeSchedule(scope: Scope, id: string, body: ParsedBodyOf<'changeSchedule'>): Promise<Record<string, never>> {
  try {
    return await changing(scope, async (transaction) => {
      const [before] = await select<PaySchedule & { name: string; runs: number }>(
        scope.database,
        `select name, frequency, anchor, pay_date_offset as "payDateOffset", move, (select count(*) from pay_runs r where r.schedule_id = s.id) as runs
         from pay_schedules s where s.id = :id and s.employer_id = :employer for update of s`,
        { id, employer: scope.employer.id },
        transaction,
      );
      if (!before) throw notFound('pay schedule');
      const { runs, name: _name, ...dates } = before;
      const { name: _newName, timeCutOff, payingAccountId, ...wanted } = body;
      if (runs && !isDeepStrictEqual({ ...dates }, { ...wanted }))
        throw conflict(
          'schedule-used',
          `${runs === 1 ? 'One run has' : `${runs} runs have`} used this schedule, so its dates stay. Add another schedule and move people to it from a date on.`,
        );
      await execute(
        scope.database,
        'update pay_schedules set name = :name, frequency = :frequency, anchor = :anchor, pay_date_offset = :payDateOffset, move = :move, time_cut_off = :timeCutOff, paying_account_id = :paying where id = :id',
        { id, ...body, timeCutOff: timeCutOff ?? null, paying: await ownPaying(scope, payingAccountId) },
        transaction,
      );
      await record(
        scope,
        {
          action: 'change-schedule',
          subject: 'employer',
          subjectId: scope.employer.id,
          what: `Changed the schedule ${body.name}`,
          before,
          after: body,
        },
        transaction,
      );
      await factsChanged(scope, transaction);
      return {};
    });
  } catch (error) {
    if (error instanceof UniqueConstraintError) throw sameName(body.name);
    throw error;
  }
}

const sameName = (name: string) =>
  invalid(`There is already a schedule called ${name}.`, [{ path: 'name', expected: 'a name not used yet' }]);
