import type { PersonLeave } from '@woodruff/contract';
import { leaveCode, usableFrom } from '@woodruff/core';
import { select } from '../database/connection';
import type { Scope } from '../scope';
import { AHEAD } from './balances';
import { termsOn } from '../payslip-input/leave-terms';
import { requestsOf } from './requests';
import { personOf } from '../people/person';

/** A person's plans with every movement, and all requests. */
export async function personLeave(scope: Scope, id: string): Promise<PersonLeave> {
  const person = await personOf(scope, id);
  const plans = await select<{ memberId: string; planId: string; code: string; from: string; to: string | null; ahead: number }>(
    scope.database,
    `select m.id as "memberId", m.plan_id as "planId", l.code, m.from_date as "from", m.to_date as "to", ${AHEAD.replace('__PERSON__', 'm.person_id')} as ahead
     from leave_members m join leave_plans l on l.id = m.plan_id and l.employer_id = :employer where m.person_id = :id order by l.code, m.from_date`,
    { id, employer: scope.employer.id },
  );
  const lines = await select<{
    code: string;
    on: string;
    label: string;
    amount: number;
    runId: string;
    payslipId: string;
    figure: string;
    what: string;
  }>(
    scope.database,
    `select l.code, case when r.kind = 'adjustment' then r.pay_date else r.period_to end as "on", l.label, l.amount, l.run_id as "runId", coalesce(y.reverses, y.id) as "payslipId",
            case when r.kind = 'adjustment' then 'adjusted:0' else l.code end as figure,
            case when y.state = 'reversal' then 'reversal' when r.kind = 'adjustment' then coalesce(y.edits->>'note', '') else '' end as what
     from ledger_lines l join pay_runs r on r.id = l.run_id join payslips y on y.id = l.payslip_id where l.person_id = :id and l.employer_id = :employer and l.kind = 'leave' order by 2, l.id`,
    { id, employer: scope.employer.id },
  );
  const terms = await termsOn(scope, scope.employer.today);
  return {
    plans: plans.map((member) => {
      const plan = terms.get(member.planId);
      let balance = 0;
      const movements = lines
        .filter((line) => line.code.startsWith(leaveCode(member.code, 'earned').replace(/earned$/, '')))
        .map(({ code: _code, ...line }) => ({ ...line, balance: (balance += line.amount) }));
      return {
        ...member,
        plan: plan?.name ?? member.code,
        unpaid: plan?.item === undefined,
        balance,
        usableFrom: plan ? usableFrom(plan, person.hired ?? undefined) : null,
        movements: movements.reverse(),
      };
    }),
    requests: (await requestsOf(scope, { person: id })).reverse(),
  };
}
