import { addEmployer, addPayItem, addUser, execute, scopeOf, type Database, type Scope } from '@woodruff/server';
import { payItemSchema } from '@woodruff/contract';
import employer from '../demo/quillmere/employer.json';
import items from '../demo/quillmere/pay-items.json';

export const PASSWORD = 'bench-only-1';

/** An employer with so many generated people: hourly, two rates, health premium, deferral with match, dues. */
export async function company(database: Database, people: number): Promise<{ scope: Scope; scheduleId: string; email: string }> {
  const { id, schedules } = await addEmployer(database, {
    name: `Company of ${people}`,
    country: 'US',
    today: '2026-01-02',
    demo: true,
    facts: employer.facts as Parameters<typeof addEmployer>[1]['facts'],
    schedules: [{ name: 'Fortnightly', frequency: 'fortnightly', anchor: '2025-12-21', payDateOffset: 6, move: 'previous' }],
  });
  const email = `clerk-${id}@bench.example`;
  const user = await addUser(email, 'Clerk', PASSWORD, { [id]: 'clerk' });
  const scope = await scopeOf(database, user, id);
  for (const item of items.items) await addPayItem(scope, payItemSchema.parse(item));
  const scheduleId = schedules['Fortnightly'] ?? '';
  const values = { id, scheduleId, people };
  await execute(
    database,
    `insert into people (employer_id, code, given_name, family_name, born, hired, schedule_id, standard_hours, department)
     select :id, 'B' || n, 'Person', lpad(n::text, 5, '0'), date '1970-01-01' + (n * 37 % 12000), '2025-01-01', :scheduleId, 80, 'Shop' from generate_series(1, :people) n`,
    values,
  );
  const each = 'from people p where p.employer_id = :id';
  await execute(
    database,
    `insert into pay_rates (person_id, series, label, per, amount, from_date, is_primary) select p.id, 'primary', 'Shop', 'hour', 20 + substr(p.code, 2)::int % 30, '2025-01-01', true ${each}`,
    values,
  );
  await execute(
    database,
    `insert into pay_rates (person_id, series, label, per, amount, from_date, is_primary) select p.id, '2', 'Store', 'hour', 18.75, '2025-01-01', false ${each}`,
    values,
  );
  const tax = (state: string) =>
    JSON.stringify({
      federal: { certificate: '2020', status: 'single', dependents: '2200' },
      residentState: state,
      workState: state,
      ...(state === 'PA' ? { residentLocality: '990101', workLocality: '990101' } : { virginia: { exemptions: 2 } }),
    });
  await execute(
    database,
    `insert into tax_details (person_id, from_date, facts) select p.id, '2025-01-01', case when substr(p.code, 2)::int % 3 = 0 then :va::jsonb else :pa::jsonb end ${each}`,
    { ...values, pa: tax('PA'), va: tax('VA') },
  );
  for (const [code, column, value] of [
    ['health', 'amount', 49.5],
    ['deferral', 'percent', 5],
    ['dues', 'amount', 18.5],
    ['match', 'amount', null],
    ['health-employer', 'amount', 165.5],
    ['workers-comp', 'percent', 4.1],
  ] as const) {
    await execute(
      database,
      `insert into person_items (person_id, item_id, ${column}, from_date) select p.id, i.id, :value, '2025-01-01' ${each.replace('where', 'join pay_items i on i.employer_id = p.employer_id and i.code = :code where')}`,
      { ...values, code, value },
    );
  }
  await execute(database, 'analyze');
  return { scope, scheduleId, email };
}
