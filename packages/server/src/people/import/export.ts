import type { CountryPack } from '@woodruff/core';
import { select } from '../../database/connection';
import { packFor, type Scope } from '../../scope';
import { choicesOf, columnsOf, type Column } from './columns';
import { csvOf, workbookOf } from '../../files/write';

interface Exported {
  facts: Record<string, string | null>;
  address: Record<string, string> | null;
  last4: string | null;
  payment: { bank?: string; last4?: string } | null;
  rates: { series: string; label: string; per: string; amount: string; from: string }[] | null;
  tax: { from: string; facts: Record<string, unknown> } | null;
  items: Record<string, string> | null;
}

/** Everybody with what the import reads; protected numbers are masked, and a masked number changes nothing when imported again. */
async function rowsOf(scope: Scope): Promise<{ columns: Column[]; rows: string[][] }> {
  const choices = await choicesOf(scope);
  const columns = columnsOf(scope, choices);
  const people = await select<Exported>(
    scope.database,
    `select json_build_object('code', p.code, 'givenName', p.given_name, 'familyName', p.family_name, 'born', p.born, 'email', p.email, 'hired', p.hired, 'left', p."left", 'leftReason', p.left_reason,
              'department', p.department, 'worksite', p.worksite, 'job', p.job, 'kind', p.kind, 'schedule', s.name, 'standardHours', trim_scale(p.standard_hours)::text) as facts,
            p.address, p.number_last4 as last4, p.payment,
            (select json_agg(json_build_object('series', r.series, 'label', r.label, 'per', r.per, 'amount', trim_scale(r.amount)::text, 'from', r.from_date))
             from (select distinct on (series) * from pay_rates where person_id = p.id and from_date <= :today order by series, from_date desc) r) as rates,
            (select json_build_object('from', t.from_date, 'facts', t.facts) from tax_details t where t.person_id = p.id and t.from_date <= :today order by t.from_date desc limit 1) as tax,
            (select json_object_agg(i.code, coalesce(trim_scale(pi.percent)::text, pi.amount::text, 'yes')) from person_items pi join pay_items i on i.id = pi.item_id
             where pi.person_id = p.id and pi.from_date <= :today and (pi.to_date is null or pi.to_date >= :today)) as items
     from people p left join pay_schedules s on s.id = p.schedule_id where p.employer_id = :employer order by p.family_name, p.given_name, p.code`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  return { columns, rows: people.map((person) => columns.map((column) => cellOf(packFor(scope), person, column.key))) };
}

function cellOf(pack: CountryPack, person: Exported, key: string): string {
  const rate = person.rates?.find((candidate) => candidate.series === 'primary');
  const second = person.rates?.find((candidate) => candidate.series === '2');
  if (key.startsWith('item:')) return person.items?.[key.slice('item:'.length)] ?? '';
  if (key.startsWith('tax:')) {
    const value = key
      .slice('tax:'.length)
      .split('.')
      .reduce<unknown>(
        (here, part) => (here && typeof here === 'object' ? (here as Record<string, unknown>)[part] : undefined),
        person.tax?.facts,
      );
    return value === undefined || value === null ? '' : value === true ? 'yes' : value === false ? 'no' : `${value as string | number}`;
  }
  const special: Record<string, string | undefined> = {
    line1: person.address?.['line1'],
    city: person.address?.['city'],
    state: person.address?.['state'],
    postcode: person.address?.['postcode'],
    nationalNumber: person.last4 ? pack.person.number.masked(person.last4) : '',
    routing: person.payment?.bank,
    account: person.payment?.last4 ? `••••${person.payment.last4}` : '',
    rate: rate?.amount,
    ratePer: rate?.per,
    rateLabel: rate?.label,
    rateFrom: rate?.from,
    secondRate: second?.amount,
    secondRateLabel: second?.label,
    taxFrom: person.tax?.from,
  };
  return (key in special ? special[key] : person.facts[key]) ?? '';
}

export async function peopleCsv(scope: Scope): Promise<string> {
  const { columns, rows } = await rowsOf(scope);
  return csvOf([columns.map((column) => column.label), ...rows], { bom: true });
}

export async function peopleXlsx(scope: Scope): Promise<Buffer> {
  const { columns, rows } = await rowsOf(scope);
  return workbookOf({
    name: 'People',
    frozen: { columns: 3, rows: 1 },
    bold: [1],
    rows: [columns.map((column) => column.label), ...rows],
    widths: columns.map(() => 16),
  });
}
