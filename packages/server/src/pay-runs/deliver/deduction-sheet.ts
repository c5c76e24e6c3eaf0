import type { ParsedQueryOf } from '@woodruff/contract';
import { decimalOf, writtenDate } from '@woodruff/core';
import { select } from '../../database/connection';
import { LEFT, RIGHT, SECOND_INK, Sheet } from '../../documents/sheet';
import { notFound } from '../../errors';
import { packFor, type Scope } from '../../scope';

interface Row {
  personId: string;
  name: string;
  code: string;
  payDate: string;
  frequency: string;
  sums: Record<string, number>;
}

/** The record of deductions of a tax year, of one person or of everybody: a sheet each, by pay date with the year so far. */
export async function deductionSheets(scope: Scope, { year, person }: ParsedQueryOf<'deductionSheets'>): Promise<Buffer> {
  const pack = packFor(scope);
  const record = pack.deductionSheet;
  if (!record) throw notFound('record of deductions');
  const label = year ?? pack.taxYearOf(scope.employer.today).label;
  const rows = await select<Row>(
    scope.database,
    `select p.id as "personId", p.given_name || ' ' || p.family_name as name, p.code, l.day as "payDate", s.frequency, l.sums
     from (select person_id, day, min(schedule) as schedule, json_object_agg(code, amount) as sums
           from (select l.person_id, l.counts_on as day, l.code, min(r.schedule_id::text) as schedule, sum(l.amount)::bigint as amount from ledger_lines l join pay_runs r on r.id = l.run_id
                 where l.employer_id = :employer and l.tax_year = :label ${person ? 'and l.person_id = :person' : ''} group by 1, 2, 3) d group by 1, 2) l
     join people p on p.id = l.person_id left join pay_schedules s on s.id = l.schedule::uuid order by p.family_name, p.given_name, p.code, l.day`,
    { employer: scope.employer.id, label, person: person ?? null },
  );
  if (!rows.length) throw notFound('pay in this tax year');
  const people = new Map<string, Row[]>();
  for (const row of rows) people.set(row.personId, [...(people.get(row.personId) ?? []), row]);
  const sheet = new Sheet(`${record.name}, ${label}`, pack.paper);
  for (const own of people.values()) {
    const [first] = own;
    sheet.page().title(`${record.name}, ${label}`, scope.employer.name);
    sheet.text(`${first?.name ?? ''}, ${first?.code ?? ''}`, { color: SECOND_INK });
    for (const part of record.parts) {
      sheet.heading(part.title);
      const width = (RIGHT - LEFT - 120) / part.columns.length;
      const at = (index: number) => LEFT + 120 + width * (index + 1);
      const cell = (text: string, index: number) => ({ text, at: at(index), width: width - 4, right: true as const });
      sheet.small([{ text: 'Paid', at: LEFT, width: 120 }, ...part.columns.map((column, index) => cell(column.label, index))]);
      const totals = part.columns.map(() => 0);
      for (const row of own) {
        const now = part.columns.map(({ codes }) =>
          Object.entries(row.sums).reduce((sum, [code, amount]) => (codes.test(code) ? sum + amount : sum), 0),
        );
        now.forEach((amount, index) => (totals[index] = (totals[index] ?? 0) + amount));
        sheet.line(
          [
            { text: `${writtenDate(row.payDate)}, ${record.period(row.payDate, row.frequency)}`, at: LEFT, width: 120 },
            ...part.columns.map(({ toDate }, index) => cell(decimalOf((toDate ? totals[index] : now[index]) ?? 0), index)),
          ],
          { size: 8, height: 12 },
        );
      }
      sheet.rule();
      sheet.line(
        [{ text: 'Year', at: LEFT, width: 120 }, ...part.columns.map((_column, index) => cell(decimalOf(totals[index] ?? 0), index))],
        { size: 8, height: 14, style: 'bold' },
      );
    }
  }
  return sheet.finish(`As posted until ${writtenDate(scope.employer.today)}. ${record.source.publication}`);
}
