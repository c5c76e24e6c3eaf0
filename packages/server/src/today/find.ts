import type { AnswerOf } from '@woodruff/contract';
import { writtenDate, writtenPeriod } from '@woodruff/core';
import { select } from '../database/connection';
import { listRuns } from '../pay-runs/sheet/sheet';
import type { Scope } from '../scope';

/** People, items and runs whose name, code or dates contain the text. */
export async function find(scope: Scope, text: string): Promise<AnswerOf<'find'>> {
  const wanted = text.trim().toLowerCase();
  if (!wanted) return [];
  const pattern = `%${wanted.replace(/[\\%_]/g, '\\$&')}%`;
  const [people, items, runs] = await Promise.all([
    select<{ id: string; name: string; detail: string }>(
      scope.database,
      `select id, given_name || ' ' || family_name as name, code || case when job <> '' then ', ' || job else '' end as detail from people
       where employer_id = :employer and (lower(given_name || ' ' || family_name) like :pattern or lower(code) like :pattern) order by family_name limit 8`,
      { employer: scope.employer.id, pattern },
    ),
    select<{ id: string; name: string; detail: string }>(
      scope.database,
      `select id, definition->>'name' as name, code as detail from pay_items where employer_id = :employer and (lower(definition->>'name') like :pattern or lower(code) like :pattern) order by 2 limit 5`,
      { employer: scope.employer.id, pattern },
    ),
    listRuns(scope),
  ]);
  return [
    ...people.map((row) => ({ kind: 'person' as const, label: row.name, detail: row.detail, link: `/people/${row.id}` })),
    ...items.map((row) => ({ kind: 'item' as const, label: row.name, detail: row.detail, link: `/pay-items/${row.id}` })),
    ...runs
      .map((run) => ({
        kind: 'run' as const,
        label: `${writtenPeriod(run.from, run.to)}, ${run.schedule}`,
        detail: `paid ${writtenDate(run.payDate)}`,
        link: `/pay-runs/${run.id}`,
      }))
      .filter((run) => `${run.label} ${run.detail}`.toLowerCase().includes(wanted))
      .slice(0, 5),
  ];
}
