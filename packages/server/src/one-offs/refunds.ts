import type { ParsedBodyOf, Refundable } from '@woodruff/contract';
import { decimalOf, minorOf } from '@woodruff/core';
import { select } from '../database/connection';
import { invalid } from '../errors';
import { insert } from './service';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { personOf } from '../people/person';

/** Deductions of the year by payslip, and what of them was given back or waits to be. */
export async function refundableOf(scope: Scope, id: string): Promise<Refundable> {
  await personOf(scope, id);
  const year = packFor(scope).taxYearOf(scope.employer.today).label;
  return select<Refundable[number]>(
    scope.database,
    `select i.id as "itemId", i.code, i.definition->>'name' as name,
            (select json_agg(json_build_object('payslipId', t.payslip_id, 'payDate', t.pay_date, 'amount', t.amount) order by t.pay_date desc)
             from (select l.payslip_id, l.pay_date, sum(l.amount)::bigint as amount from ledger_lines l join payslips y on y.id = l.payslip_id and y.state = 'posted'
                   where l.person_id = :id and l.code = i.code and l.tax_year = :year and l.kind in ('deduction-before-tax', 'deduction-after-tax') and l.amount > 0 group by 1, 2) t) as taken,
            (coalesce((select -sum(l.amount) from ledger_lines l join payslips y on y.id = l.payslip_id and y.state = 'posted' where l.person_id = :id and l.code = i.code and l.tax_year = :year and l.kind in ('deduction-before-tax', 'deduction-after-tax') and l.amount < 0), 0)
             + coalesce((select -sum(o.amount * 100) from one_offs o left join payslips y on y.id = o.payslip_id where o.person_id = :id and o.item_id = i.id and o.amount < 0 and (y.id is null or y.state = 'draft')), 0))::bigint as refunded
     from pay_items i where i.employer_id = :employer and i.definition->>'kind' = 'deduction'
       and exists (select 1 from ledger_lines l where l.person_id = :id and l.code = i.code and l.tax_year = :year and l.kind in ('deduction-before-tax', 'deduction-after-tax'))
     order by 3`,
    { id, employer: scope.employer.id, year },
  ).then((rows) => rows.map((row) => ({ ...row, taken: row.taken ?? [] })));
}

/** Gives back what was taken too much: a negative deduction with the next run, within what was taken this year. */
export async function refund(scope: Scope, id: string, body: ParsedBodyOf<'refund'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const of = (await refundableOf(scope, id)).find((one) => one.itemId === body.itemId);
    if (!of)
      throw invalid('Nothing was taken through this deduction this year.', [{ path: 'itemId', expected: 'a deduction of this year' }]);
    const taken = of.taken.reduce((sum, one) => sum + one.amount, 0);
    const amount = minorOf(body.amount);
    if (amount <= 0 || amount > taken - of.refunded)
      throw invalid(
        `${of.name} took ${decimalOf(taken)} this year${of.refunded ? `, and ${decimalOf(of.refunded)} of it is given back already` : ''}. At most ${decimalOf(taken - of.refunded)} can be refunded.`,
        [{ path: 'amount', expected: `at most ${decimalOf(taken - of.refunded)}` }],
      );
    await insert(
      scope,
      [
        {
          personId: id,
          itemId: body.itemId,
          amount: decimalOf(-amount),
          note: `Refund: ${body.reason}`,
          takes: { by: 'next' },
          refunds: true,
          back: null,
        },
      ],
      transaction,
    );
    return {};
  });
}
