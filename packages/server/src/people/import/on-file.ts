import { select } from '../../database/connection';
import type { Scope } from '../../scope';
import { sealedNumbers, type Payment } from '../payment/accounts';

/** A person as the tables have them, read and written whole. */
export interface PersonRow {
  id: string;
  code: string;
  given_name: string;
  family_name: string;
  born: string | null;
  email: string | null;
  hired: string | null;
  left: string | null;
  left_reason: string | null;
  department: string;
  worksite: string;
  job: string;
  kind: string;
  schedule_id: string | null;
  standard_hours: string | null;
  address: Record<string, string>;
  number_fingerprint: string | null;
  number_last4: string | null;
  payment: Payment | null;
}

export interface RateRow {
  id: string;
  person_id: string;
  series: string;
  label: string;
  per: string;
  amount: string;
  from_date: string;
  is_primary: boolean;
}

export interface OnFile {
  person: PersonRow;
  /** Account numbers by the id of their account. */
  numbers: Record<string, string>;
  rates: RateRow[] | null;
  tax: { from_date: string; facts: Record<string, unknown> } | null;
  items: { id: string; item_id: string; amount: string | null; percent: string | null; from_date: string }[] | null;
}

export async function everybodyOnFile(scope: Scope): Promise<OnFile[]> {
  const rows = await select<{
    person: PersonRow;
    sealed: Buffer | null;
    rates: RateRow[] | null;
    tax: OnFile['tax'];
    items: OnFile['items'];
  }>(
    scope.database,
    `select json_build_object('id', p.id, 'code', p.code, 'given_name', p.given_name, 'family_name', p.family_name, 'born', p.born, 'email', p.email, 'hired', p.hired, 'left', p."left",
              'left_reason', p.left_reason, 'department', p.department, 'worksite', p.worksite, 'job', p.job, 'kind', p.kind, 'schedule_id', p.schedule_id,
              'standard_hours', p.standard_hours::text, 'address', p.address, 'number_fingerprint', p.number_fingerprint, 'number_last4', p.number_last4, 'payment', p.payment) as person,
            p.account_sealed as sealed,
            (select json_agg(json_build_object('id', r.id, 'series', r.series, 'per', r.per, 'amount', r.amount::text, 'from_date', r.from_date)) from pay_rates r where r.person_id = p.id) as rates,
            (select json_build_object('from_date', t.from_date, 'facts', t.facts) from tax_details t where t.person_id = p.id order by t.from_date desc limit 1) as tax,
            (select json_agg(json_build_object('id', pi.id, 'item_id', pi.item_id, 'amount', pi.amount::text, 'percent', pi.percent::text, 'from_date', pi.from_date))
             from person_items pi where pi.person_id = p.id and (pi.to_date is null or pi.to_date >= :today)) as items
     from people p where p.employer_id = :employer`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return rows.map(({ sealed, ...row }) => ({ ...row, numbers: sealedNumbers(sealed, row.person.id) }));
}
