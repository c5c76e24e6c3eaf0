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
  type CountryPack,
} from '@woodruff/core';
import { record } from '../../audit/audit';
import { copyInto } from '../../database/copy';
import { execute, select, type Transaction } from '../../database/connection';
import { factsChanged } from '../../employers/facts-version';
import { conflict, invalid, notFound } from '../../errors';
import { PayRun, Payslip as StoredPayslip } from '../../calculation/models';
import { postPayslips, postReversals } from '../../ledger/posting';
import { RESULT_COLUMNS, resultRow, summaryOf } from '../../calculation/result';
import { changing } from '../../users/changing';
import { packFor, type Scope } from '../../scope';
import { inputsOn, ordinary, type InputOn } from '../../payslip-input/ordinary-input';

const REASON = 'As paid by the earlier system';
/** A quarter's taxes are sums of payslips that were each rounded: so far they may lie from the rate. */
const ROUNDINGS = Exact.of('0.10');
const ROUNDINGS_BELOW = Exact.of('-0.10');

/** What was paid by an earlier system and is on file, and what can be entered. */
export async function openingBalances(scope: Scope, id: string): Promise<OpeningBalances> {
  const { items, taxes } = orRefused((await enterable(scope, [id], scope.employer.today)).get(id));
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

/** What one person was paid, up to a day; amounts by the code of the item or tax. */
export interface OpeningEntry {
  personId: string;
  paidUntil: string;
  amounts: Record<string, string>;
}

/** What the amounts make of the person's sums, with what does not tie out; nothing is saved. */
export async function checkOpening(scope: Scope, id: string, body: ParsedBodyOf<'checkOpening'>): Promise<AnswerOf<'checkOpening'>> {
  const [result] = await worked(scope, [{ personId: id, ...body }]);
  return viewOf(packFor(scope), orRefused(result?.outcome).payslip, body.amounts);
}

/**
 * Posts what an earlier system paid up to a day as lines of their own kind. Entered again for the same day, the
 * earlier entry is reversed first: nothing posted is overwritten.
 */
export async function postOpening(scope: Scope, id: string, body: ParsedBodyOf<'postOpening'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const [posted] = await postEntries(scope, [{ personId: id, ...body }], transaction);
    if (posted?.fault) throw invalid(posted.fault);
    if (posted?.checks.length && !body.acceptDifferences)
      throw conflict(
        'does-not-tie-out',
        `It does not tie out: ${posted.checks[0] ?? ''} Correct the amounts, or accept them as the earlier system paid them.`,
      );
    return {};
  });
}

/** Posts entries of one day; those of earlier days are to be posted before, for ceilings of the year count from them. */
export async function postEntries(
  scope: Scope,
  entries: readonly OpeningEntry[],
  transaction: Transaction,
): Promise<{ personId: string; checks: string[]; fault?: string }[]> {
  const [first] = entries;
  if (!first) return [];
  const { paidUntil } = first;
  const personIds = entries.map((entry) => entry.personId);
  const run = await openingRun(scope, first.personId, paidUntil, transaction);
  const earlier = await StoredPayslip.findAll({
    where: { runId: run.id, personId: personIds, state: 'posted' },
    transaction,
    lock: transaction.LOCK.UPDATE,
  });
  const reversals = await StoredPayslip.bulkCreate(
    earlier.map((payslip) => ({
      runId: run.id,
      personId: payslip.personId,
      state: 'reversal' as const,
      reverses: payslip.id,
      edits: { note: 'Opening balances entered again' },
    })),
    { transaction },
  );
  if (reversals.length) {
    await postReversals(
      scope,
      reversals.map(({ id }) => id),
      paidUntil,
      transaction,
    );
    await StoredPayslip.update({ state: 'reversed' }, { where: { id: earlier.map(({ id }) => id) }, transaction });
  }
  // Worked out within the transaction, after the reversals: ceilings of the year count from what is posted now.
  const outcomes = await worked(scope, entries, transaction);
  const results = outcomes.flatMap(({ entry, outcome }) => (typeof outcome === 'string' ? [] : [{ entry, ...outcome }]));
  const faults = outcomes.flatMap(({ entry, outcome }) =>
    typeof outcome === 'string' ? [{ personId: entry.personId, checks: [], fault: outcome }] : [],
  );
  if (!results.length) return faults;
  const made = await StoredPayslip.bulkCreate(
    results.map(({ entry }) => ({ runId: run.id, personId: entry.personId, edits: {} })),
    { transaction },
  );
  await copyInto(
    transaction,
    'payslip_results',
    RESULT_COLUMNS,
    results.map(({ payslip, input }, index) =>
      resultRow(made[index]?.id ?? '', run.id, { ...payslip, problems: [] }, summaryOf(input, {}, payslip), JSON.stringify(input)),
    ),
  );
  await postPayslips(
    scope,
    { payDate: paidUntil },
    made.map(({ id }) => id),
    transaction,
  );
  const checked = results.map(({ entry, payslip }) => ({ entry, payslip, checks: viewOf(packFor(scope), payslip, entry.amounts).checks }));
  await record(
    scope,
    checked.map(({ entry, payslip, checks }) => ({
      action: 'opening',
      subject: 'person',
      subjectId: entry.personId,
      what: `Paid by an earlier system until ${writtenDate(paidUntil)}: gross ${decimalOf(payslip.totals.gross)}, net ${decimalOf(payslip.totals.net)}${checks.length ? ', accepted though it does not tie out' : ''}`,
      after: entry.amounts,
    })),
    transaction,
  );
  await factsChanged(scope, transaction);
  return [...checked.map(({ entry, checks }) => ({ personId: entry.personId, checks })), ...faults];
}

/** The payslips that the engine makes of entries of one day: items as paid once, every tax as it was withheld. */
async function worked(
  scope: Scope,
  entries: readonly OpeningEntry[],
  transaction?: Transaction,
): Promise<{ entry: OpeningEntry; outcome: Worked | string }[]> {
  const paidUntil = entries[0]?.paidUntil ?? '';
  if (paidUntil > scope.employer.today)
    throw invalid('What an earlier system paid lies in the past. Give the last pay date that it covers.', [
      { path: 'paidUntil', expected: 'a date up to today' },
    ]);
  const known = await enterable(
    scope,
    entries.map((entry) => entry.personId),
    paidUntil,
    transaction,
  );
  return entries.map((entry) => {
    const of = known.get(entry.personId) ?? 'There is no such person.';
    return { entry, outcome: typeof of === 'string' ? of : asPaidBefore(scope, entry, of) };
  });
}

interface Worked {
  payslip: Payslip;
  input: PayslipInput;
}

/** What was found, or a refusal with the sentence that says why not. */
function orRefused<T extends object>(found: T | string | undefined): T {
  if (found === undefined) throw notFound('person');
  if (typeof found === 'string') throw invalid(found);
  return found;
}

interface Enterable {
  items: PayItem[];
  taxes: { code: string; label: string }[];
  input: PayslipInput;
}

function asPaidBefore(scope: Scope, { amounts }: OpeningEntry, { items, taxes, input }: Enterable): Worked | string {
  const known = new Set([...items.map((item) => item.code), ...taxes.map((tax) => tax.code)]);
  const unknown = Object.keys(amounts).find((code) => !known.has(code));
  if (unknown) return `“${unknown}” is no pay item or tax of ${input.person.name}.`;
  const whole: PayslipInput = {
    ...input,
    hours: [],
    items: [],
    oneOffs: items.flatMap((item) => {
      const amount = amounts[item.code];
      return amount === undefined || Exact.of(amount).isZero() ? [] : [{ id: item.code, item: asPaid(item, scope), amount }];
    }),
    overrides: taxes.map((tax) => ({ tax: tax.code, amount: amounts[tax.code] ?? '0', reason: REASON })),
    leftOut: [],
  };
  const payslip = computePayslip(whole, { workings: true });
  const stop = payslip.problems.find((problem) => problem.weight === 'stop');
  return stop ? stop.sentence : { payslip, input: whole };
}

/** What was paid is not limited again, and what an order took is taken as it was. */
const asPaid = ({ limits: _limits, when: _when, ...item }: PayItem, scope: Scope): PayItem =>
  packFor(scope).treatments[item.treatment]?.taken === 'order' ? { ...item, treatment: 'after-tax' } : item;

/** What can be entered of people: the employer's items, and the taxes that an ordinary payslip of each would have. */
async function enterable(
  scope: Scope,
  personIds: readonly string[],
  paidUntil: string,
  transaction?: Transaction,
): Promise<Map<string, Enterable | string>> {
  const found = new Map<string, Enterable | string>();
  for (const [id, on] of await inputsOn(scope, personIds, paidUntil, transaction)) found.set(id, enterableOf(on, paidUntil));
  return found;
}

function enterableOf(on: InputOn | null, paidUntil: string): Enterable | string {
  if (!on) return 'Opening balances need a pay schedule. Enter it among the details first.';
  const { input, items } = on;
  if (!on.hasTax && !on.input.person.contractor)
    return `There were no tax details in force on ${writtenDate(paidUntil)}. Enter them from that day or earlier first.`;
  const any = items.find((item) => item.kind === 'earning');
  if (!any) return 'There is no pay item for pay yet. Add one first.';
  const usual = computePayslip(ordinary(input, any));
  const stop = usual.problems.find((problem) => problem.weight === 'stop');
  return (
    stop?.sentence ?? { items, input, taxes: usual.lines.filter((line) => line.kind === 'tax').map(({ code, label }) => ({ code, label })) }
  );
}

/** Items and taxes that can be entered of any of the people. */
export async function enterableCodes(
  scope: Scope,
  personIds: readonly string[],
): Promise<{ items: { code: string; name: string }[]; taxes: { code: string; label: string }[] }> {
  const items = new Map<string, string>();
  const taxes = new Map<string, string>();
  for (const of of personIds.length ? (await enterable(scope, personIds, scope.employer.today)).values() : []) {
    if (typeof of === 'string') continue;
    for (const { code, name } of of.items) items.set(code, name);
    for (const { code, label } of of.taxes) taxes.set(code, label);
  }
  return {
    items: [...items].map(([code, name]) => ({ code, name })),
    taxes: [...taxes].map(([code, label]) => ({ code, label })),
  };
}

function viewOf({ plainRates }: CountryPack, payslip: Payslip, amounts: Record<string, string>): AnswerOf<'checkOpening'> {
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
      if (!workedOut || !plainRates.includes(line.code)) return [];
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
