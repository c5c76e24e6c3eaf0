import type { AnswerOf, Recorded } from '@woodruff/contract';
import { execute, select, type Database, type Transaction } from '../database/connection';
import type { Scope } from '../scope';

/** One entry of the audit trail: who did what to which subject, in words, with before and after. */
export interface AuditEntry {
  action: string;
  subject: 'person' | 'pay-item' | 'run' | 'payslip' | 'employer' | 'user';
  subjectId?: string;
  what: string;
  before?: unknown;
  after?: unknown;
}

/** Adds an entry, or several in their order, in the transaction of what it records. Secrets are never given to it. */
export async function record(scope: Scope, entries: AuditEntry | readonly AuditEntry[], transaction: Transaction): Promise<void> {
  await execute(
    scope.database,
    `insert into audit_entries (employer_id, user_id, business_date, action, subject, subject_id, what, before, after)
     select :employer, :user, :today, e.action, e.subject, e."subjectId", e.what, e.before, e.after
     from rows from (jsonb_to_recordset(cast(:entries as jsonb)) as (action text, subject text, "subjectId" uuid, what text, before jsonb, after jsonb))
       with ordinality as e order by e.ordinality`,
    { employer: scope.employer.id, user: scope.user.id, today: scope.employer.today, entries: JSON.stringify([entries].flat()) },
    transaction,
  );
}

/** The latest entries about one subject, newest first. */
export const historyOf = (database: Database, subjectId: string): Promise<Recorded[]> =>
  select(
    database,
    `select to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, a.business_date as "on", coalesce(u.name, 'Woodruff') as who, a.what
     from audit_entries a left join users u on u.id = a.user_id where a.subject_id = :subjectId order by a.id desc limit 50`,
    { subjectId },
  );

export const latest = (scope: Scope): Promise<AnswerOf<'audit'>> =>
  select(
    scope.database,
    `select to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, coalesce(u.name, 'Woodruff') as who, a.action, a.subject, a.what
     from audit_entries a left join users u on u.id = a.user_id where a.employer_id = :employer order by a.id desc limit 200`,
    { employer: scope.employer.id },
  );
