import type { ParsedBodyOf, Recovery } from '@woodruff/contract';
import { decimalOf, minorOf } from '@woodruff/core';
import { record } from '../../audit/audit';
import { execute, select } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, notFound } from '../../errors';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { personOf } from '../person';

/** What is recovered from a person, with the payslips that took something back. */
export async function recoveriesOf(scope: Scope, id: string): Promise<Recovery[]> {
  await personOf(scope, id);
  return select<Recovery>(
    scope.database,
    `select v.id, i.definition->>'name' as item, v.total, v.per_payslip as "perPayslip", v.reason, v.ended, u.name as by,
            coalesce((select sum(l.amount) from ledger_lines l where l.person_id = :id and l.code = 'recovered:' || v.id), 0)::bigint as recovered,
            coalesce((select json_agg(json_build_object('payslipId', l.payslip_id, 'payDate', l.pay_date, 'amount', l.amount, 'state', y.state) order by l.id desc)
              from ledger_lines l join payslips y on y.id = l.payslip_id where l.person_id = :id and l.code = 'recovered:' || v.id), '[]') as taken
     from recoveries v join pay_items i on i.id = v.item_id join users u on u.id = v.user_id where v.person_id = :id order by v.entered_at desc`,
    { id },
  );
}

export async function addRecovery(scope: Scope, id: string, body: ParsedBodyOf<'addRecovery'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    const person = await personOf(scope, id, transaction);
    const [item] = await select<{ name: string; kind: string }>(
      scope.database,
      `select definition->>'name' as name, definition->>'kind' as kind from pay_items where id = :item and employer_id = :employer and not retired`,
      { item: body.itemId, employer: scope.employer.id },
      transaction,
    );
    if (item?.kind !== 'earning')
      throw invalid('Pay is recovered through the earning that it was paid by. Choose it.', [{ path: 'itemId', expected: 'an earning' }]);
    const [total, perPayslip] = [minorOf(body.total), minorOf(body.perPayslip)];
    if (total <= 0 || perPayslip <= 0)
      throw invalid('Nothing is recovered by an amount of nothing.', [{ path: 'total', expected: 'more than zero' }]);
    const [paid] = await select<{ amount: number | null }>(
      scope.database,
      `select coalesce(sum(l.amount), 0)::bigint as amount from ledger_lines l join pay_items i on i.code = l.code and i.employer_id = l.employer_id where l.person_id = :id and i.id = :item and l.tax_year = :year`,
      { id, item: body.itemId, year: packFor(scope).taxYearOf(scope.employer.today).label },
      transaction,
    );
    const [claimed] = await select<{ amount: number }>(
      scope.database,
      `select coalesce(sum(v.total - coalesce((select sum(l.amount) from ledger_lines l where l.person_id = v.person_id and l.code = 'recovered:' || v.id), 0)), 0)::bigint as amount
       from recoveries v where v.person_id = :id and v.item_id = :item and v.ended is null`,
      { id, item: body.itemId },
      transaction,
    );
    const free = (paid?.amount ?? 0) - (claimed?.amount ?? 0);
    if ((paid?.amount ?? 0) >= total && free < total)
      throw invalid(
        `${decimalOf(claimed?.amount ?? 0)} of ${item.name} is being recovered from ${person.givenName} ${person.familyName} already. At most ${decimalOf(Math.max(0, free))} more can be; or end the other recovery first.`,
        [{ path: 'total', expected: `at most ${decimalOf(Math.max(0, free))}` }],
      );
    if ((paid?.amount ?? 0) < total)
      throw invalid(
        `${item.name} paid to ${person.givenName} ${person.familyName} this year is ${decimalOf(paid?.amount ?? 0)}, less than ${body.total}. What was overpaid in an earlier year is repaid with the tax on it, not taken off wages of this one.`,
        [{ path: 'total', expected: 'at most what was paid this year' }],
      );
    const [made] = (await execute(
      scope.database,
      'insert into recoveries (employer_id, person_id, item_id, total, per_payslip, reason, user_id) values (:employer, :id, :item, :total, :perPayslip, :reason, :user) returning id',
      { employer: scope.employer.id, id, item: body.itemId, total, perPayslip, reason: body.reason, user: scope.user.id },
      transaction,
    )) as { id: string }[];
    await record(
      scope,
      {
        action: 'add-recovery',
        subject: 'person',
        subjectId: id,
        what: `${item.name}: ${body.total} paid too much is recovered, ${body.perPayslip} a payslip. ${body.reason}`,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return { id: made?.id ?? '' };
  });
}

export async function endRecovery(scope: Scope, id: string, recovery: string, reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const [ended] = (await execute(
      scope.database,
      'update recoveries set ended = :reason where id = :recovery and person_id = :id and employer_id = :employer and ended is null returning total',
      { recovery, id, employer: scope.employer.id, reason },
      transaction,
    )) as { total: number }[];
    if (!ended) {
      const known = (await recoveriesOf(scope, id)).find((one) => one.id === recovery);
      if (!known) throw notFound('recovery');
      throw conflict('ended', 'This recovery has ended already.');
    }
    await record(
      scope,
      { action: 'end-recovery', subject: 'person', subjectId: id, what: `Recovery of ${decimalOf(ended.total)} ended: ${reason}` },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}
