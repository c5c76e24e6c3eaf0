import type { Edits, ParsedBodyOf } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { randomUUID } from 'node:crypto';
import { record } from '../../audit/audit';
import { execute, select } from '../../database/connection';
import { invalid } from '../../errors';
import { takeWaiting } from '../../one-offs/service';
import { packFor, type Scope } from '../../scope';
import { PayRun } from '../../calculation/models';
import { schedulesOf } from '../../employers/schedules-on-file';
import { readyPeople } from './ready';

/**
 * Begins a run beside the regular ones: chosen people of a schedule are paid what is entered for them, with chosen
 * recurring items. Its dates may overlap a regular run's. Working it out is left to the job.
 */
export async function startSpecialRun(scope: Scope, body: ParsedBodyOf<'startSpecialRun'>): Promise<{ id: string }> {
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === body.scheduleId);
  if (!schedule) throw invalid('There is no such pay schedule.', [{ path: 'scheduleId', expected: 'one of the pay schedules' }]);
  packFor(scope).assertTables(body.payDate);
  const { methods } = packFor(scope).paidBeside;
  const { taxMethod } = body.rules;
  if (taxMethod !== undefined && !methods.some(({ code }) => code === taxMethod))
    throw invalid('Tax is not calculated this way here.', [
      { path: 'rules.taxMethod', expected: methods.map(({ code }) => code).join(' or ') },
    ]);
  await checkItems(scope, [...body.rules.items, ...body.people.flatMap((person) => person.amounts.map(({ item }) => item))]);
  const ready = await readyPeople(scope, body.scheduleId, body.payDate, body.payDate);
  const wrong = body.people.find((person) => !ready.in.includes(person.personId));
  if (wrong) {
    const why = ready.notIn.find((person) => person.personId === wrong.personId);
    throw invalid(
      why ? `${why.name} cannot be in this run: ${why.why}.` : `Somebody chosen is not paid by the schedule ${schedule.name}, or has left.`,
      [{ path: 'people', expected: 'people of the schedule who can be paid' }],
    );
  }
  return scope.database.transaction(async (transaction) => {
    const run = await PayRun.create(
      {
        employerId: scope.employer.id,
        scheduleId: body.scheduleId,
        kind: 'special',
        name: body.name,
        rules: body.rules,
        periodFrom: body.payDate,
        periodTo: body.payDate,
        payDate: body.payDate,
        state: 'calculating',
        comparedWith: null,
        lastEditedBy: scope.user.id,
      },
      { transaction },
    );
    const rows = body.people.map(({ personId, amounts }) => {
      const oneOffs = amounts.map((amount) => ({ id: randomUUID(), ...amount }));
      return { personId, edits: (oneOffs.length ? { oneOffs } : {}) satisfies Edits };
    });
    await execute(
      scope.database,
      `insert into payslips (run_id, person_id, edits) select :runId, e."personId", e.edits from jsonb_to_recordset(cast(:rows as jsonb)) as e("personId" uuid, edits jsonb)`,
      { runId: run.id, rows: JSON.stringify(rows) },
      transaction,
    );
    await takeWaiting(scope, run.id, transaction);
    await record(
      scope,
      {
        action: 'start',
        subject: 'run',
        subjectId: run.id,
        what: `Started the special run ${body.name}, paid ${writtenDate(body.payDate)}, ${body.people.length} people`,
        after: body.rules,
      },
      transaction,
    );
    return { id: run.id };
  });
}

async function checkItems(scope: Scope, codes: readonly string[]): Promise<void> {
  const known = new Set(
    (
      await select<{ code: string }>(scope.database, 'select code from pay_items where employer_id = :employer and not retired', {
        employer: scope.employer.id,
      })
    ).map((row) => row.code),
  );
  const unknown = codes.find((code) => !known.has(code));
  if (unknown) throw invalid(`There is no pay item “${unknown}”.`, [{ path: 'items', expected: 'items of this employer' }]);
}
