import type { ReversalPreview } from '@woodruff/contract';
import { capitalized, counted, packOf, written, writtenDate, yearOf, type Totals } from '@woodruff/core';
import { record } from '../../audit/audit';
import { execute, select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, notFound } from '../../errors';
import { letGo } from '../../one-offs/service';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { calculateOne, openRun } from '../../calculation/calculation';
import { PayRun, Payslip } from '../../calculation/models';
import { postReversals } from '../../ledger/posting';

interface Posted {
  id: string;
  runId: string;
  personId: string;
  name: string;
  state: string;
  payDate: string;
  net: number;
  edits: Payslip['edits'];
}

/** What reversing a posted payslip would touch, before anything is done. */
export async function reversalPreview(scope: Scope, payslipId: string): Promise<ReversalPreview> {
  const posted = await postedPayslip(scope, payslipId);
  const date = scope.employer.today;
  const year = packOf(scope.employer.country).taxYearOf(date).label;
  const sums = await select<Sum>(
    scope.database,
    `select kind, coalesce(sum(amount) filter (where payslip_id = :payslipId), 0)::bigint as here, coalesce(sum(amount) filter (where tax_year = :year), 0)::bigint as year
     from ledger_lines where person_id = :person group by kind`,
    { payslipId, person: posted.personId, year },
  );
  const notes = filingNotes(scope, posted.payDate);
  const [payment] = await select<{ method: string; number: number | null; amount: number }>(
    scope.database,
    'select method, number, amount from net_payments where payslip_id = :payslipId and stopped is null',
    { payslipId },
  );
  if (payment)
    notes.unshift(
      payment.method === 'cheque'
        ? `${capitalized(packFor(scope).words.cheque)} ${payment.number} over ${written(payment.amount)} was made out: stop it, or have it returned.`
        : `${written(payment.amount)} went out by ${payment.method}: it has to come back, or be set off against the replacement.`,
    );
  return {
    name: posted.name,
    payDate: posted.payDate,
    reversalDate: date,
    net: posted.net,
    touches: touchesOf(sums, year),
    notes,
  };
}

/** What reversing all payslips of a run that stand would touch: the employer's sums of the year, payments, returns, statements. */
export async function runReversalPreview(scope: Scope, runId: string): Promise<ReversalPreview> {
  const run = await openRun(scope, runId);
  const date = scope.employer.today;
  const year = packOf(scope.employer.country).taxYearOf(date).label;
  const sums = await select<Sum>(
    scope.database,
    `select l.kind, coalesce(sum(l.amount) filter (where l.run_id = :runId and y.state = 'posted'), 0)::bigint as here, coalesce(sum(l.amount) filter (where l.tax_year = :year), 0)::bigint as year
     from ledger_lines l join payslips y on y.id = l.payslip_id where l.employer_id = :employer group by l.kind`,
    { runId, employer: scope.employer.id, year },
  );
  const payments = await select<{ method: string; payments: number; amount: number }>(
    scope.database,
    `select n.method, count(*)::int as payments, sum(n.amount)::bigint as amount from net_payments n join payslips y on y.id = n.payslip_id
     where n.run_id = :runId and n.stopped is null and y.state = 'posted' group by n.method order by n.method`,
    { runId },
  );
  const [standing] = await select<{ people: number; net: number }>(
    scope.database,
    `select count(*)::int as people, coalesce(sum(x.net), 0)::bigint as net from payslips y join payslip_results x on x.payslip_id = y.id where y.run_id = :runId and y.state = 'posted'`,
    { runId },
  );
  return {
    name: counted(standing?.people ?? 0, 'payslip', 'payslips'),
    payDate: run.payDate,
    reversalDate: date,
    net: standing?.net ?? 0,
    touches: touchesOf(sums, year),
    notes: [
      ...payments.map(({ method, payments: count, amount }) =>
        method === 'cheque'
          ? `${counted(count, packFor(scope).words.cheque, packFor(scope).words.cheques)} over ${written(amount)} in total: stop them, or have them returned.`
          : `${written(amount)} went out ${method === 'cash' ? 'in cash' : `in ${counted(count, 'deposit', 'deposits')}`}: it has to come back, or be set off against the replacement.`,
      ),
      ...filingNotes(scope, run.payDate),
    ],
  };
}

/** Sums of posted lines of a kind: of what would be reversed, and of the year. */
interface Sum {
  kind: string;
  here: number;
  year: number;
}

function touchesOf(sums: readonly Sum[], year: string | number): ReversalPreview['touches'] {
  const touch = (what: string, ...kinds: string[]) => {
    const of = sums.filter((sum) => kinds.includes(sum.kind));
    const before = of.reduce((all, sum) => all + sum.year, 0);
    return { what: `${what} in ${year}`, before, after: before - of.reduce((all, sum) => all + sum.here, 0) };
  };
  return [
    touch('Gross pay', 'earning'),
    touch('Taxes', 'tax'),
    touch('Deductions', 'deduction-before-tax', 'deduction-after-tax'),
    touch("Employer's taxes", 'employer-tax'),
  ];
}

/** Which filings a reversal reaches: it counts on the day of what it takes back, whenever it is posted. */
function filingNotes(scope: Scope, payDate: string): string[] {
  const reached = packFor(scope)
    .filings(scope.employer.facts.country)
    .filter(({ only }) => only === undefined)
    .flatMap((filing) =>
      [yearOf(payDate), yearOf(payDate) + 1]
        .flatMap((year) => filing.periods(year, [payDate]))
        .filter(({ from, to }) => from <= payDate && payDate <= to)
        .map(({ label }) => `${filing.form}, ${label}`),
    );
  return reached.length
    ? [
        `It counts on ${writtenDate(payDate)}, the day of what it takes back: ${reached.join('; ')}. What of them was filed already shows by how much it differs.`,
      ]
    : [];
}

/**
 * Reverses a posted payslip: posts its lines negated, dated today. With a replacement, a correction run with the same
 * entries is opened for the person, to be fixed and approved.
 */
export async function reversePayslip(
  scope: Scope,
  payslipId: string,
  reason: string,
  replace: boolean,
): Promise<{ replacementRun: string | null }> {
  return changing(scope, async (transaction) => {
    const posted = await postedPayslip(scope, payslipId, transaction);
    const run = await PayRun.findByPk(posted.runId, { transaction });
    if (!run) throw notFound('pay run');
    const date = scope.employer.today;
    const corrected = {
      employerId: scope.employer.id,
      scheduleId: run.scheduleId,
      kind: 'correction' as const,
      periodFrom: run.periodFrom,
      periodTo: run.periodTo,
      payDate: date,
      comparedWith: run.id,
    };
    const reversing = await PayRun.create(
      { ...corrected, state: 'approved', approvedBy: scope.user.id, approvedAt: new Date() },
      { transaction },
    );
    const reversal = await Payslip.create(
      { runId: reversing.id, personId: posted.personId, state: 'reversal', reverses: payslipId, edits: { note: reason } },
      { transaction },
    );
    await postReversals(scope, [reversal.id], date, transaction);
    await Payslip.update({ state: 'reversed' }, { where: { id: payslipId }, transaction });
    await record(scope, { action: 'reverse', subject: 'payslip', subjectId: payslipId, what: `Reversed: ${reason}` }, transaction);
    await factsChanged(scope, transaction);
    if (!replace) {
      await letGo(scope, 'y.id = :subject', payslipId, transaction);
      return { replacementRun: null };
    }

    const [{ version } = { version: 0 }] = await select<{ version: number }>(
      scope.database,
      'select facts_version as version from employers where id = :id',
      { id: scope.employer.id },
      transaction,
    );
    const correction = await PayRun.create(
      { ...corrected, state: 'open', lastEditedBy: scope.user.id, factsVersion: version },
      { transaction },
    );
    const replacement = await Payslip.create(
      { runId: correction.id, personId: posted.personId, edits: posted.edits, replaces: payslipId },
      { transaction },
    );
    await execute(
      scope.database,
      'update one_offs set payslip_id = :replacement where payslip_id = :payslipId',
      { replacement: replacement.id, payslipId },
      transaction,
    );
    await calculateOne(scope, correction, replacement.id, transaction);
    await record(
      scope,
      {
        action: 'start',
        subject: 'run',
        subjectId: correction.id,
        what: `Opened a replacement for the payslip of ${posted.name} paid ${writtenDate(posted.payDate)}`,
      },
      transaction,
    );
    return { replacementRun: correction.id };
  });
}

async function postedPayslip(scope: Scope, payslipId: string, transaction?: Transaction): Promise<Posted> {
  const [posted] = await select<Posted & Totals>(
    scope.database,
    `select y.id, y.run_id as "runId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, y.state, r.pay_date as "payDate", x.net, y.edits
     from payslips y join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
     where y.id = :payslipId and r.employer_id = :employer ${transaction ? 'for update of y' : ''}`,
    { payslipId, employer: scope.employer.id },
    transaction,
  );
  if (!posted) throw notFound('payslip');
  if (posted.state === 'reversed') throw conflict('already-reversed', 'This payslip is reversed already.');
  if (posted.state !== 'posted') throw conflict('not-posted', 'Only a posted payslip can be reversed. This one can still be edited.');
  return posted;
}
