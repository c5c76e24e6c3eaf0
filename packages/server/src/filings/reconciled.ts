import type { YearReconciled } from '@woodruff/contract';
import { MONEY_KINDS } from '../calculation/result';
import { select } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { yearCalled } from './tax-years';

/** Payslips that count in a tax year, each with the one whose lines it has; a reversal takes them off. */
const SLIPS = `slips as (
  select y.id, y.person_id, coalesce(y.reverses, y.id) as of, case when y.state = 'reversal' then -1 else 1 end as sign
  from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.kind in ('regular', 'special', 'correction')
  where y.state <> 'draft' and exists (select 1 from ledger_lines l where l.payslip_id = y.id and l.tax_year = :year))`;

/** Both sides by code and person: lines of the payslips as they were stored, and lines of the ledger by where they came from. */
const SIDES = `sides as (
  select s.person_id, line->>'code' as code, line->>'label' as label, line->>'kind' as kind, s.sign * (line->>'amount')::bigint as register, 0 as opening, 0 as adjusted, 0 as ledger
  from slips s join payslip_results x on x.payslip_id = s.of cross join lateral jsonb_array_elements(x.lines) line
  union all
  select l.person_id, l.code, l.label, l.kind, 0, case when r.kind = 'opening' then l.amount else 0 end, case when r.kind = 'adjustment' then l.amount else 0 end, l.amount
  from ledger_lines l join pay_runs r on r.id = l.run_id where l.employer_id = :employer and l.tax_year = :year)`;

const SUMS = `sum(register)::bigint as register, sum(opening)::bigint as opening, sum(adjusted)::bigint as adjusted, sum(ledger)::bigint as ledger,
  (sum(ledger) - sum(register) - sum(opening) - sum(adjusted))::bigint as unexplained`;

/** In the order of a payslip: money first, then what is carried for it. */
const ORDER: readonly string[] = [...MONEY_KINDS, 'base', 'carried', 'leave'];

/**
 * The register by pay item beside the ledger of a tax year. Both are kept: the payslips as they were paid, and the lines that
 * statements are made from; what differs was carried in or changed by hand, or is a fault.
 */
export async function yearReconciled(scope: Scope, called: string, code?: string): Promise<YearReconciled> {
  const { label: year } = yearCalled(packFor(scope), called);
  const values = { employer: scope.employer.id, year, code };
  const codes = await select<YearReconciled['codes'][number]>(
    scope.database,
    `with ${SLIPS}, ${SIDES} select code, min(label) as label, min(kind) as kind, ${SUMS} from sides group by code having bool_or(register <> 0 or ledger <> 0)`,
    values,
  );
  const people =
    code === undefined
      ? []
      : await select<YearReconciled['people'][number]>(
          scope.database,
          `with ${SLIPS}, ${SIDES} select s.person_id as "personId", p.family_name || ', ' || p.given_name as name, ${SUMS}
           from sides s join people p on p.id = s.person_id where s.code = :code group by 1, 2 order by 2, 1`,
          values,
        );
  return { year, codes: codes.sort((a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || (a.label < b.label ? -1 : 1)), people };
}

/** How many codes of a tax year differ by what nothing explains. */
export async function unexplainedOf(scope: Scope, year: string): Promise<number> {
  const [row] = await select<{ differing: number }>(
    scope.database,
    `with ${SLIPS}, ${SIDES} select count(*)::int as differing from (select code, ${SUMS} from sides group by code) s where unexplained <> 0`,
    { employer: scope.employer.id, year },
  );
  return row?.differing ?? 0;
}
