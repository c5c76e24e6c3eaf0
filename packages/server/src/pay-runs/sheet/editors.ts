import { select } from '../../database/connection';
import type { Scope } from '../../scope';
import type { PayRun } from '../../calculation/models';

/** What is done to a run without changing what it pays. */
const NO_EDITS = ['send-back', 'deliver', 'withdraw', 'approve'];

/** Whether the user started, submitted or edited anything of a run: its payslips, its points, or one-offs that it takes. */
export async function edited(scope: Scope, run: Pick<PayRun, 'id' | 'lastEditedBy' | 'submittedBy'>): Promise<boolean> {
  if ([run.lastEditedBy, run.submittedBy].includes(scope.user.id)) return true;
  const [found] = await select<{ one: number }>(
    scope.database,
    `select 1 as one from audit_entries a where a.employer_id = :employer and a.user_id = :user and a.action not in (:none)
       and (a.subject_id = :run or a.subject_id in (select id from payslips where run_id = :run))
     union all
     select 1 from one_offs o join payslips y on y.id = o.payslip_id where y.run_id = :run and o.user_id = :user limit 1`,
    { employer: scope.employer.id, user: scope.user.id, run: run.id, none: NO_EDITS },
  );
  return !!found;
}
