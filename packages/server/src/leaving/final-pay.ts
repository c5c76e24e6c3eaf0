import type { AnswerOf, ParsedBodyOf, ParsedQueryOf } from '@woodruff/contract';
import {
  addDays,
  CannotCompute,
  computePayslip,
  Exact,
  noticePay,
  Paper,
  payDatesInYear,
  writtenDay,
  writtenPeriod,
  yearOf,
  type Figure,
  type PayslipInput,
  type Rate,
} from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { invalid } from '../errors';
import { openRun } from '../calculation/calculation';
import { loadPeopleFacts, loadRunFacts } from '../payslip-input/facts';
import { inputOf } from '../payslip-input/input';
import { lookedAt } from '../users/changing';
import { holidaysOf, packFor, type Scope } from '../scope';
import { leave, regularPayOf, storedOf, undoLeaving } from './leaving';
import { schedulesOf } from '../employers/schedules-on-file';
import { personOf } from '../people/person';

/** What notice from the day after the last one comes to, at the rate of the last day. */
export async function noticePayOf(
  scope: Scope,
  id: string,
  { lastDay, until }: ParsedQueryOf<'noticePay'>,
): Promise<AnswerOf<'noticePay'>> {
  const person = await personOf(scope, id);
  if (until <= lastDay)
    throw invalid('Notice that is not worked goes beyond the last day. Enter until when.', [
      { path: 'until', expected: 'a day after the last day' },
    ]);
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === person.scheduleId);
  if (!schedule) throw invalid('A pay schedule is missing. Enter it among the details first.');
  const rate = await rateOn(scope, id, lastDay);
  const paper = new Paper(true);
  const dates = payDatesInYear(schedule, yearOf(lastDay), holidaysOf(scope));
  try {
    const figure = noticePay(rate, person.standardHours ?? undefined, dates, { from: addDays(lastDay, 1), to: until }, paper);
    return { amount: figure.amount.toDecimal(2), workings: paper.workings };
  } catch (error) {
    if (error instanceof CannotCompute) throw invalid(error.message);
    throw error;
  }
}

/** Hours and pay dates are spread over the weeks of a year. */
const WEEKS_IN_YEAR = 52;

/** What the law of the country wants paid, by kind of leaving, at the rate of the last day. */
export async function owedOnLeaving(
  scope: Scope,
  id: string,
  { lastDay, kind }: ParsedQueryOf<'owedOnLeaving'>,
): Promise<AnswerOf<'owedOnLeaving'>> {
  const { leaving } = packFor(scope);
  const person = await personOf(scope, id);
  if (!person.hired || person.hired > lastDay || (!leaving.owed && !leaving.leastNotice))
    return { notice: null, payments: [], workings: {} };
  const paper = new Paper(true);
  const week = await weekOfPay(scope, id, lastDay, paper);
  const facts = {
    kind,
    hired: person.hired,
    lastDay,
    ...(person.born ? { born: person.born } : {}),
    ...(week ? { week } : {}),
    employer: scope.employer.facts.country,
  };
  const payments = leaving.owed?.(facts, paper) ?? [];
  const items = await select<{ code: string; treatment: string }>(
    scope.database,
    `select code, definition->>'treatment' as treatment from pay_items where employer_id = :employer and not retired and definition->>'kind' = 'earning' and definition->'method'->>'by' = 'amount' order by code`,
    { employer: scope.employer.id },
  );
  return {
    notice: leaving.leastNotice?.(facts).sentence ?? null,
    payments: payments.map(({ label, treatment, sentence, figure }) => ({
      label,
      sentence,
      amount: figure ? figure.amount.toDecimal(2) : null,
      key: figure?.key ?? null,
      item: items.find((one) => one.treatment === treatment)?.code ?? null,
    })),
    workings: paper.workings,
  };
}

async function weekOfPay(scope: Scope, id: string, lastDay: string, paper: Paper): Promise<Figure | undefined> {
  const person = await personOf(scope, id);
  const schedule = (await schedulesOf(scope)).find((candidate) => candidate.id === person.scheduleId);
  const rate = await rateOn(scope, id, lastDay);
  if (!rate || !schedule || (rate.per === 'hour' && !person.standardHours)) return undefined;
  const dates = Exact.whole(payDatesInYear(schedule, yearOf(lastDay), holidaysOf(scope)));
  const reckoning = paper.reckon('week', 'Pay of a week').start(rate.label, Exact.of(rate.amount));
  if (rate.per === 'hour') reckoning.times('Standard hours of a pay period', Exact.of(person.standardHours ?? '0'));
  if (rate.per !== 'year') reckoning.times('Pay dates in the year', dates);
  return reckoning.over('Weeks of a year', Exact.whole(WEEKS_IN_YEAR)).done();
}

const rateOn = (scope: Scope, id: string, day: string): Promise<Rate | undefined> =>
  select<Rate>(
    scope.database,
    `select series as id, label, per, trim_scale(amount)::text as amount from pay_rates where person_id = :id and is_primary and from_date <= :day order by from_date desc limit 1`,
    { id, day },
  ).then(([rate]) => rate);

/**
 * The payslip that would pay somebody who leaves: the leaving is really entered, its payslip calculated, and all of it
 * taken back. With the regular run it is that of the period which holds the last day, started or not; null when that is paid.
 */
export async function finalPay(scope: Scope, id: string, body: ParsedBodyOf<'leave'>): Promise<AnswerOf<'finalPay'>> {
  return lookedAt(scope, async (transaction) => {
    if (await storedOf(scope, id, transaction)) await undoLeaving(scope, id, 'entered otherwise');
    const { runId } = await leave(scope, id, body);
    const found = runId ? await inputInRun(scope, id, runId, transaction) : await inputWithRegularPay(scope, id, body, transaction);
    if (!found) return null;
    const payslip = computePayslip(found.input, { workings: true });
    const shown = new Set(['earning', 'reimbursement', 'benefit-in-kind', 'deduction-before-tax', 'tax', 'deduction-after-tax']);
    return {
      payDate: found.input.pay.date,
      with: found.words,
      lines: payslip.lines.filter((line) => shown.has(line.kind)).map(({ id, kind, label, amount }) => ({ id, kind, label, amount })),
      gross: payslip.totals.gross,
      net: payslip.totals.net,
      problems: [...payslip.problems.map(({ weight, sentence }) => ({ weight, sentence })), ...tooLate(scope, body, found.input)],
      workings: payslip.workings,
    };
  });
}

/** The pay date is later than the law of the place wants final pay to be there. */
function tooLate(
  scope: Scope,
  { kind, lastDay }: ParsedBodyOf<'leave'>,
  { pay, tax }: PayslipInput,
): { weight: 'look'; sentence: string }[] {
  const due = packFor(scope).leaving.finalPayBy(kind ?? '', lastDay, tax as Record<string, unknown>);
  if (!due || pay.date <= due.by) return [];
  const sentence = `The law wants final pay ${due.words}, by ${writtenDay(due.by)} (${due.source.publication}). Pay it in a run of its own on an earlier day.`;
  return [{ weight: 'look', sentence }];
}

interface Found {
  input: PayslipInput;
  words: string;
}

async function inputInRun(scope: Scope, personId: string, runId: string, transaction: Transaction): Promise<Found> {
  const run = await openRun(scope, runId, transaction);
  const [payslip] = await select<{ id: string }>(
    scope.database,
    'select id from payslips where run_id = :runId and person_id = :personId',
    { runId, personId },
    transaction,
  );
  const facts = await loadRunFacts(scope, run, transaction);
  const [person] = await loadPeopleFacts(scope, run, payslip ? [payslip.id] : { people: [personId] }, facts, transaction);
  if (!person) throw new Error(`nobody is paid in the run ${runId}`);
  return { input: inputOf(facts, person), words: run.name || writtenPeriod(run.periodFrom, run.periodTo) };
}

/** In the run of the period that is begun, else in one as it would be; what is paid beside the hours waits for it. */
async function inputWithRegularPay(
  scope: Scope,
  personId: string,
  { lastDay, amounts }: ParsedBodyOf<'leave'>,
  transaction: Transaction,
): Promise<Found | null> {
  const person = await personOf(scope, personId, transaction);
  const pay = await regularPayOf(scope, person, lastDay, transaction);
  if (!pay) throw invalid('Final pay needs a pay schedule. Enter it among the details first.');
  const { period, begun } = pay;
  if (begun?.state === 'approved') return null;
  const words = `the regular pay of ${writtenPeriod(period.from, period.to)}`;
  if (begun) return { ...(await inputInRun(scope, personId, begun.id, transaction)), words };
  const run = {
    kind: 'regular',
    scheduleId: person.scheduleId ?? '',
    periodFrom: period.from,
    periodTo: period.to,
    payDate: period.payDate,
  };
  const facts = await loadRunFacts(scope, run, transaction);
  const [known] = await loadPeopleFacts(scope, run, { people: [personId] }, facts, transaction);
  if (!known) throw new Error(`there is no person ${personId}`);
  const taken = amounts.map(({ item, amount, note }, index) => ({ id: `final-${index}`, item, amount, ...(note ? { note } : {}) }));
  return { input: inputOf(facts, { ...known, taken }), words };
}
