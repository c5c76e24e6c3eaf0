import type { AnswerOf } from '@woodruff/contract';
import { execute, select, type Database, type Transaction } from '../database/connection';
import type { Scope } from '../users/scope';

/** One entry of the audit trail: who did what to which subject, in words, with before and after. */
export interface AuditEntry {
  action: string;
  subject: 'person' | 'pay-item' | 'run' | 'payslip' | 'employer' | 'user';
  subjectId?: string;
  what: string;
  before?: unknown;
  after?: unknown;
}

/** Adds an entry in the transaction of what it records. Secrets are never given to it. */
export async function record(scope: Scope, entry: AuditEntry, transaction: Transaction): Promise<void> {
  await execute(
    scope.database,
    `insert into audit_entries (employer_id, user_id, action, subject, subject_id, what, before, after)
     values (:employer, :user, :action, :subject, :subjectId, :what, :before, :after)`,
    {
      employer: scope.employer.id,
      user: scope.user.id,
      action: entry.action,
      subject: entry.subject,
      subjectId: entry.subjectId ?? null,
      what: entry.what,
      before: entry.before === undefined ? null : JSON.stringify(entry.before),
      after: entry.after === undefined ? null : JSON.stringify(entry.after),
    },
    transaction,
  );
}

/** The latest entries about one subject, newest first. */
export const historyOf = (database: Database, subjectId: string): Promise<{ at: string; who: string; what: string }[]> =>
  select(
    database,
    `select to_char(a.at, 'YYYY-MM-DD"T"HH24:MI:SS') as at, coalesce(u.name, 'Woodruff') as who, a.what
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
