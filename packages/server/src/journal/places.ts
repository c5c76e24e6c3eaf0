import { execute, type Transaction } from '../database/connection';
import type { Scope } from '../scope';

/** Where cost belongs: the work's department, worksite, position and group. */
export interface CostPlace {
  department: string;
  worksite: string;
  job: string;
  group: string;
}

/** A share of a payslip's cost that belongs elsewhere: by hours where time is kept, by shares of positions where it is not. */
export type Spread = (Omit<CostPlace, 'group'> & { weight: string })[];

/**
 * Where the cost of payslips belongs: spread over the places of approved time, by its hours; else over the positions that
 * have a share of the cost; else all to the person's own.
 * @param which payslips, as a condition on `y`
 */
const placesOf = (which: string): string => `with chosen as (
    select y.id, y.person_id, coalesce(r.period_from, r.pay_date) as period_from, coalesce(r.period_to, r.pay_date) as period_to
    from payslips y join pay_runs r on r.id = y.run_id where y.reverses is null and ${which}
  ), worked as (
    select y.id, coalesce(nullif(s.department, ''), p.department) as department, coalesce(nullif(e.place, ''), nullif(s.worksite, ''), p.worksite) as worksite, coalesce(s.job, p.job) as job, sum(e.hours) as weight
    from chosen y join people p on p.id = y.person_id join timesheets t on t.person_id = y.person_id and t.period_from = y.period_from and t.state = 'approved' join time_entries e on e.timesheet_id = t.id and e.hours > 0
    left join person_positions s on s.person_id = y.person_id and s.rate_series = e.rate and e.on_date >= s.from_date and (s.to_date is null or e.on_date <= s.to_date)
    group by 1, 2, 3, 4
  ), shared as (
    select y.id, coalesce(nullif(s.department, ''), p.department) as department, coalesce(nullif(s.worksite, ''), p.worksite) as worksite, s.job, s.share as weight
    from chosen y join people p on p.id = y.person_id join person_positions s on s.person_id = y.person_id and s.share is not null and s.from_date <= y.period_to and (s.to_date is null or s.to_date >= y.period_to)
    where not exists (select 1 from worked w where w.id = y.id)
  ), parts as (
    select * from worked
    union all select * from shared
    union all select s.id, p.department, p.worksite, p.job, 100 - sum(s.weight) from shared s join chosen y on y.id = s.id join people p on p.id = y.person_id group by s.id, p.department, p.worksite, p.job having sum(s.weight) < 100
  ), spread as (
    select id, count(*) as places, min(department) as department, min(worksite) as worksite, min(job) as job,
           jsonb_agg(jsonb_build_object('department', department, 'worksite', worksite, 'job', job, 'weight', weight::text) order by weight desc, department, worksite, job) as parts
    from parts group by id
  )
  select y.id as payslip_id, case when s.places = 1 then s.department else p.department end as department, case when s.places = 1 then s.worksite else p.worksite end as worksite,
         case when s.places = 1 then s.job else p.job end as job, coalesce(g.name, '') as pay_group, case when s.places > 1 then s.parts end as spread
  from chosen y join people p on p.id = y.person_id left join pay_groups g on g.id = p.group_id left join spread s on s.id = y.id`;

/** Of drafts: where their cost would go, were they posted now. */
export const PLACES_OF_RUN = placesOf('y.run_id = :runId');

/**
 * Keeps where the cost of payslips goes as they are posted; a reversal takes it back from there.
 * @param lines which ledger lines were posted, as a condition on `l`
 */
export async function keepPlaces(scope: Scope, lines: string, values: Record<string, unknown>, transaction: Transaction): Promise<void> {
  await execute(
    scope.database,
    `insert into payslip_places (payslip_id, department, worksite, job, pay_group, spread)
     ${placesOf(`y.id in (select l.payslip_id from ledger_lines l where ${lines})`)}
     on conflict (payslip_id) do nothing returning payslip_id`,
    values,
    transaction,
  );
}
