import type { AnswerOf, OpeningBalances, ParsedBodyOf } from '@woodruff/contract';
import {
  computePayslip,
  decimalOf,
  Exact,
  quarterOf,
  writtenDate,
  yearOf,
  type PayItem,
  type Payslip,
  type PayslipInput,
} from '@woodruff/core';
import { record } from '../audit/audit';
import { copyInto } from '../database/copy';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid } from '../errors';
import { PayRun, Payslip as StoredPayslip } from '../pay-runs/models';
import { postPayslip, postReversal } from '../pay-runs/posting';
import { RESULT_COLUMNS, resultRow, summaryOf } from '../pay-runs/result';
import { packFor, type Scope } from '../users/scope';
import { inputOn, ordinary } from './ordinary-input';

const REASON = 'As paid by the earlier system';
/** A quarter's taxes are sums of payslips that were each rounded: so far they may lie from the rate. */
const ROUNDINGS = Exact.of('0.10');
const ROUNDINGS_BELOW = Exact.of('-0.10');

/** What was paid by an earlier system and is on file, and what can be entered. */
export async function openingBalances(scope: Scope, id: string): Promise<OpeningBalances> {
  const { items, taxes } = await enterable(scope, id);
  const rows = await select<{ payslipId: string; paidUntil: string; code: string; amount: number }>(
    scope.database,
    `select y.id as "payslipId", r.pay_date as "paidUntil", l.code, sum(l.amount)::bigint as amount
     from payslips y join pay_runs r on r.id = y.run_id and r.kind = 'opening' and r.employer_id = :employer join ledger_lines l on l.payslip_id = y.id
     where y.person_id = :id and y.state = 'posted' group by 1, 2, 3 order by 2, 3`,
    { id, employer: scope.employer.id },
  );
  const entries = new Map<string, OpeningBalances['entered'][number]>();
  for (const { payslipId, paidUntil, code, amount } of rows) {
    const entry = entries.get(paidUntil) ?? { paidUntil, payslipId, amounts: {} };
    entry.amounts[code] = amount;
    entries.set(paidUntil, entry);
  }
  return { items: items.map(({ code, name, kind }) => ({ code, name, kind })), taxes, entered: [...entries.values()] };
}

/** What the amounts make of the person's sums, with what does not tie out; nothing is saved. */
export async function checkOpening(scope: Scope, id: string, body: ParsedBodyOf<'checkOpening'>): Promise<AnswerOf<'checkOpening'>> {
  const { payslip } = await worked(scope, id, body);
  return viewOf(payslip, body.amounts);
}

/**
 * Posts what an earlier system paid up to a day as lines of their own kind. Entered again for the same day, the
 * earlier entry is reversed first: nothing posted is overwritten.
 */
export async function postOpening(scope: Scope, id: string, body: ParsedBodyOf<'postOpening'>): Promise<Record<string, never>> {
  const { checks } = await checkOpening(scope, id, body);
  if (checks.length && !body.acceptDifferences)
    throw conflict(
      'does-not-tie-out',
      `It does not tie out: ${checks[0] ?? ''} Correct the amounts, or accept them as the earlier system paid them.`,
    );
  return scope.database.transaction(async (transaction) => {
    const run = await openingRun(scope, id, body.paidUntil, transaction);
    const earlier = await StoredPayslip.findOne({
      where: { runId: run.id, personId: id, state: 'posted' },
      transaction,
      lock: transaction.LOCK.UPDATE,
    });
    if (earlier) {
      const reversal = await StoredPayslip.create(
        { runId: run.id, personId: id, state: 'reversal', reverses: earlier.id, edits: { note: 'Opening balances entered again' } },
        { transaction },
      );
      await postReversal(scope, earlier.id, reversal.id, body.paidUntil, transaction);
      await earlier.update({ state: 'reversed' }, { transaction });
    }
    // Worked out within the transaction, after the reversal: ceilings of the year count from what is posted now.
    const { payslip, input } = await worked(scope, id, body, transaction);
    const made = await StoredPayslip.create({ runId: run.id, personId: id, edits: {} }, { transaction });
    await copyInto(transaction, 'payslip_results', RESULT_COLUMNS, [
      resultRow(made.id, run.id, { ...payslip, problems: [] }, summaryOf(input, {}, payslip), JSON.stringify(input)),
    ]);
    await postPayslip(scope, { ...run.get(), payDate: body.paidUntil }, made.id, transaction);
    await record(
      scope,
      {
        action: 'opening',
        subject: 'person',
        subjectId: id,
        what: `Paid by an earlier system until ${writtenDate(body.paidUntil)}: gross ${decimalOf(payslip.totals.gross)}, net ${decimalOf(payslip.totals.net)}${checks.length ? ', accepted though it does not tie out' : ''}`,
        after: body.amounts,
      },
      transaction,
    );
    await factsChanged(scope, transaction);
    return {};
  });
}

/** The payslip that the engine makes of the amounts: items as paid once, every tax as it was withheld. */
async function worked(
  scope: Scope,
  id: string,
  body: ParsedBodyOf<'checkOpening'>,
  transaction?: Transaction,
): Promise<{ payslip: Payslip; input: PayslipInput }> {
  if (body.paidUntil > scope.employer.today)
    throw invalid('What an earlier system paid lies in the past. Give the last pay date that it covers.', [
      { path: 'paidUntil', expected: 'a date up to today' },
    ]);
  const { items, taxes, input } = await enterable(scope, id, body.paidUntil, transaction);
  const known = new Set([...items.map((item) => item.code), ...taxes.map((tax) => tax.code)]);
  const unknown = Object.keys(body.amounts).find((code) => !known.has(code));
  if (unknown)
    throw invalid(`“${unknown}” is no pay item or tax of this person.`, [{ path: `amounts.${unknown}`, expected: 'an item or a tax' }]);
  const whole: PayslipInput = {
    ...input,
    hours: [],
    items: [],
    oneOffs: items.flatMap((item) => {
      const amount = body.amounts[item.code];
      return amount === undefined || Exact.of(amount).isZero() ? [] : [{ id: item.code, item: asPaid(item, scope), amount }];
    }),
    overrides: taxes.map((tax) => ({ tax: tax.code, amount: body.amounts[tax.code] ?? '0', reason: REASON })),
    leftOut: [],
  };
  const payslip = computePayslip(whole, { workings: true });
  const stop = payslip.problems.find((problem) => problem.weight === 'stop');
  if (stop) throw invalid(stop.sentence);
  return { payslip, input: whole };
}

/** What was paid is not limited again, and what an order took is taken as it was. */
const asPaid = ({ limits: _limits, when: _when, ...item }: PayItem, scope: Scope): PayItem =>
  packFor(scope).treatments[item.treatment]?.taken === 'order' ? { ...item, treatment: 'after-tax' } : item;

async function enterable(scope: Scope, id: string, paidUntil = scope.employer.today, transaction?: Transaction) {
  const on = await inputOn(scope, id, paidUntil, transaction);
  if (!on) throw invalid('Opening balances need a pay schedule. Enter it among the facts first.');
  const { input, items } = on;
  if (!on.hasTax)
    throw invalid(`There were no tax details in force on ${writtenDate(paidUntil)}. Enter them from that day or earlier first.`);
  // The taxes that can have been withheld are those that an ordinary payslip of this person would have.
  const any = items.find((item) => item.kind === 'earning');
  if (!any) throw invalid('There is no pay item for pay yet. Add one first.');
  const usual = computePayslip(ordinary(input, any));
  const stop = usual.problems.find((problem) => problem.weight === 'stop');
  if (stop) throw invalid(stop.sentence);
  const taxes = usual.lines.filter((line) => line.kind === 'tax').map(({ code, label }) => ({ code, label }));
  return { items, taxes, input };
}

function viewOf(payslip: Payslip, amounts: Record<string, string>): AnswerOf<'checkOpening'> {
  const capped = Object.entries(amounts).flatMap(([code, amount]) => {
    const line = payslip.lines.find((candidate) => candidate.id === `once:${code}`);
    return line && !Exact.minor(line.amount).equals(Exact.of(amount))
      ? [`${line.label} was ${amount}, and no more than ${decimalOf(line.amount)} is allowed by the year's limit or covered by the pay.`]
      : [];
  });
  const rates = payslip.lines
    .filter((line) => line.kind === 'tax')
    .flatMap((line) => {
      const workedOut = payslip.workings[`${line.code}:worked-out`];
      // Only taxes that are a plain rate of pay can be compared over a quarter.
      if (!workedOut || !['us.oasdi', 'us.medicare'].includes(line.code)) return [];
      const gap = Exact.minor(line.amount).minus(Exact.of(workedOut.amount));
      return gap.isAbove(ROUNDINGS) || gap.isBelow(ROUNDINGS_BELOW)
        ? [`${line.label} was ${decimalOf(line.amount)}, and the rate on the pay entered gives ${workedOut.amount}.`]
        : [];
    });
  return {
    totals: payslip.totals,
    bases: payslip.lines.filter((line) => line.kind === 'base').map(({ code, label, amount }) => ({ code, label, amount })),
    employerTaxes: payslip.lines.filter((line) => line.kind === 'employer-tax').map(({ code, label, amount }) => ({ code, label, amount })),
    checks: [...capped, ...rates],
  };
}
/** One run for all people whose earlier pay ends on the same day. */
async function openingRun(scope: Scope, personId: string, paidUntil: string, transaction: Transaction): Promise<PayRun> {
  await execute(scope.database, 'select 1 from employers where id = :id for update', { id: scope.employer.id }, transaction);
  const found = await PayRun.findOne({ where: { employerId: scope.employer.id, kind: 'opening', payDate: paidUntil }, transaction });
  if (found) return found;
  const [person] = await select<{ scheduleId: string }>(
    scope.database,
    'select schedule_id as "scheduleId" from people where id = :personId',
    { personId },
    transaction,
  );
  const from = `${yearOf(paidUntil)}-${String(quarterOf(paidUntil) * 3 - 2).padStart(2, '0')}-01`;
  return PayRun.create(
    {
      employerId: scope.employer.id,
      scheduleId: person?.scheduleId ?? '',
      kind: 'opening',
      periodFrom: from,
      periodTo: paidUntil,
      payDate: paidUntil,
      state: 'approved',
      approvedBy: scope.user.id,
      approvedAt: new Date(),
    },
    { transaction },
  );
}
