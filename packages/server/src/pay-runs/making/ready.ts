import { writtenDate } from '@woodruff/core';
import { select } from '../../database/connection';
import { missingFacts } from '../../people/missing';
import { packFor, type Scope } from '../../scope';

/** People of a schedule for a period: who can be paid, and who not and why. */
export async function readyPeople(
  scope: Scope,
  scheduleId: string,
  from: string,
  to: string,
  /** A run whose people are not asked about. */
  besides?: string,
): Promise<{ in: string[]; notIn: { personId: string; name: string; why: string }[] }> {
  const rows = await select<{
    id: string;
    name: string;
    kind: string;
    hired: string | null;
    left: string | null;
    absence: { from: string; to?: string | null; reason: string } | null;
    scheduleId: string | null;
    hasRate: boolean;
    tax: unknown;
  }>(
    scope.database,
    `select p.id, p.given_name || ' ' || p.family_name as name, p.kind, p.hired, p."left", p.absence, p.schedule_id as "scheduleId",
            exists (select 1 from pay_rates r where r.person_id = p.id and r.from_date <= :to) as "hasRate",
            (select t.facts from tax_details t where t.person_id = p.id and t.from_date <= :to order by t.from_date desc limit 1) as tax
     from people p where p.employer_id = :employer and (p.schedule_id = :scheduleId or p.schedule_id is null) and (p."left" is null or p."left" >= :from)
       ${besides ? 'and not exists (select 1 from payslips y where y.run_id = :besides and y.person_id = p.id)' : ''}`,
    { employer: scope.employer.id, scheduleId, from, to, besides },
  );
  const pack = packFor(scope);
  const ready: { in: string[]; notIn: { personId: string; name: string; why: string }[] } = { in: [], notIn: [] };
  for (const row of rows) {
    const missing = missingFacts({ ...row, hasNumber: true, hasPayment: true }, pack).filter((fact) => fact.keepsFromPay);
    if (missing.length) ready.notIn.push({ personId: row.id, name: row.name, why: missing.map((fact) => fact.sentence).join('; ') });
    else if (row.hired && row.hired > to) ready.notIn.push({ personId: row.id, name: row.name, why: `Begins on ${row.hired}` });
    else if (row.absence && row.absence.from <= from && (!row.absence.to || row.absence.to >= to))
      ready.notIn.push({
        personId: row.id,
        name: row.name,
        why: `On leave of absence since ${writtenDate(row.absence.from)}: ${row.absence.reason}`,
      });
    else ready.in.push(row.id);
  }
  return ready;
}
