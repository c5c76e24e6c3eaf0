import { execute, type Transaction } from '../../database/connection';
import type { Scope } from '../../scope';
import { theVault } from '../../vault/vault';
import type { Wanted } from './wanted';

/** Writes a portion of people with a statement for each table. */
export async function savePortion(scope: Scope, people: Wanted[], file: string, transaction: Transaction): Promise<void> {
  const { database, employer, user } = scope;
  const put = (sql: string, rows: unknown[]) =>
    rows.length
      ? execute(database, sql, { rows: JSON.stringify(rows), employer: employer.id, user: user.id, today: employer.today }, transaction)
      : undefined;
  await put(
    `insert into people (id, employer_id, code, given_name, family_name, born, email, hired, "left", left_reason, department, worksite, job, kind, schedule_id, standard_hours, address, payment, number_fingerprint, number_last4)
     select r.id, :employer, r.code, r.given_name, r.family_name, r.born, r.email, r.hired, r."left", r.left_reason, r.department, r.worksite, r.job, r.kind, r.schedule_id, r.standard_hours, r.address, r.payment, r.number_fingerprint, r.number_last4
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, code text, given_name text, family_name text, born date, email text, hired date, "left" date, left_reason text, department text, worksite text, job text, kind text,
       schedule_id uuid, standard_hours numeric, address jsonb, payment jsonb, number_fingerprint text, number_last4 text)
     on conflict (id) do update set given_name = excluded.given_name, family_name = excluded.family_name, born = excluded.born, email = excluded.email, hired = excluded.hired, "left" = excluded."left",
       left_reason = excluded.left_reason, department = excluded.department, worksite = excluded.worksite, job = excluded.job, kind = excluded.kind, schedule_id = excluded.schedule_id,
       standard_hours = excluded.standard_hours, address = excluded.address, payment = excluded.payment, number_fingerprint = excluded.number_fingerprint, number_last4 = excluded.number_last4, version = people.version + 1`,
    people.map(({ person }) => person),
  );
  await put(
    `update people p set number_sealed = coalesce(decode(r.number, 'base64'), p.number_sealed), account_sealed = coalesce(decode(r.account, 'base64'), p.account_sealed)
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, number text, account text) where p.id = r.id`,
    people
      .filter(({ cells, numbers }) => cells['nationalNumber'] ?? numbers)
      .map(({ id, cells, numbers }) => ({
        id,
        number: cells['nationalNumber'] ? theVault().seal(cells['nationalNumber'], `number:${id}`).toString('base64') : null,
        account: numbers ? theVault().seal(JSON.stringify(numbers), `account:${id}`).toString('base64') : null,
      })),
  );
  await put(
    `insert into pay_rates (id, person_id, series, label, per, amount, from_date, is_primary, reason)
     select r.id, r.person_id, r.series, r.label, r.per, r.amount, r.from_date, r.is_primary, 'Imported' from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, series text, label text, per text, amount numeric, from_date date, is_primary boolean)
     on conflict (id) do update set amount = excluded.amount, per = excluded.per, label = excluded.label`,
    people.flatMap(({ rates }) => rates),
  );
  await put(
    `insert into tax_details (id, person_id, from_date, facts) select r.id, r.person_id, r.from_date, r.facts from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, from_date date, facts jsonb)
     on conflict (person_id, from_date) do update set facts = excluded.facts`,
    people.flatMap(({ tax }) => (tax ? [tax] : [])),
  );
  const ended = people.flatMap(({ ended }) => ended.map((id) => ({ id })));
  await put(
    `delete from person_items where from_date >= :today and id in (select r.id from jsonb_to_recordset(:rows::jsonb) as r(id uuid))`,
    ended,
  );
  await put(
    `update person_items set to_date = :today::date - 1, version = version + 1 where id in (select r.id from jsonb_to_recordset(:rows::jsonb) as r(id uuid))`,
    ended,
  );
  await put(
    `insert into person_items (id, person_id, item_id, amount, percent, from_date) select r.id, r.person_id, r.item_id, r.amount, r.percent, r.from_date
     from jsonb_to_recordset(:rows::jsonb) as r(id uuid, person_id uuid, item_id uuid, amount numeric, percent numeric, from_date date)`,
    people.flatMap(({ items }) => items),
  );
  // A new account is recorded as it is when it is typed: the review of the next run asks about it.
  await put(
    `insert into audit_entries (employer_id, user_id, business_date, action, subject, subject_id, what, before)
     select :employer, :user, :today, r.action, 'person', r.id, r.what, r.before from jsonb_to_recordset(:rows::jsonb) as r(id uuid, action text, what text, before jsonb)`,
    people.flatMap(({ id, isNew, changes, row, paidTo, replaced }) => [
      ...(paidTo ? [{ id, action: 'payment', what: `${paidTo}, from ${file}, row ${row}`, before: null }] : []),
      { id, action: 'import', what: `${isNew ? 'Added' : `Changed ${changes.join('; ')}`} from ${file}, row ${row}`, before: replaced },
    ]),
  );
}
