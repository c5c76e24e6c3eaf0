import type { PaySchedule } from '@woodruff/core';
import { select } from '../database/connection';
import type { Scope } from '../scope';

/** A pay schedule as it is on file. */
export interface ScheduleRow extends PaySchedule {
  id: string;
  name: string;
  timeCutOff: number | null;
  /** From which its runs are paid; null for the employer's first account. */
  payingAccountId: string | null;
}

export const schedulesOf = (scope: Scope): Promise<ScheduleRow[]> =>
  select(
    scope.database,
    'select id, name, frequency, anchor, pay_date_offset as "payDateOffset", move, time_cut_off as "timeCutOff", paying_account_id as "payingAccountId" from pay_schedules where employer_id = :employer order by name',
    { employer: scope.employer.id },
  );
