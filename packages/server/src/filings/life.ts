import type { ParsedBodyOf } from '@woodruff/contract';
import { attemptFor, counted, filedAttempt, minorOf, writtenDate, type Filing, type FilingPeriod, type FilingStep } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute } from '../database/connection';
import { conflict, invalid, Refusal } from '../errors';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { eventsOf, type Content } from './events';
import { filingOf, madeNow, viewOf } from './service';

const REFUSED: Record<FilingStep, string> = {
  prepared: 'was prepared already, or is on its way',
  withdrawn: 'is not waiting to be sent',
  agreed: 'is not waiting to be agreed to',
  sent: 'is not agreed to, or was sent already',
  received: 'was not sent, or is answered already',
  accepted: 'was not sent, or is answered already',
  rejected: 'was not sent, or is answered already',
};

/** Takes a step, once: what may follow is decided on what has happened until now. */
async function take(
  scope: Scope,
  { filing, period }: { filing: Filing; period: FilingPeriod },
  { step, words, content }: { step: FilingStep; words: string; content?: Content },
): Promise<void> {
  await changing(scope, async (transaction) => {
    const attempt = attemptFor(step, await eventsOf(scope, filing.code, period.key));
    const title = `${filing.form}, ${period.label}`;
    if (attempt === undefined) throw conflict('filing-elsewhere', `${title} ${REFUSED[step]}. Look at where it stands.`);
    await execute(
      scope.database,
      `insert into filing_events (employer_id, filing, period, attempt, step, on_day, user_id, words, content)
       values (:employer, :filing, :period, :attempt, :step, :today, :user, :words, cast(:content as jsonb)) returning id`,
      {
        employer: scope.employer.id,
        filing: filing.code,
        period: period.key,
        attempt,
        step,
        today: scope.employer.today,
        user: scope.user.id,
        words,
        content: content ? JSON.stringify(content) : null,
      },
      transaction,
    );
    const what = `${title}: ${step}${words ? `. ${words}` : ''}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
  });
}

/** Enters a line that the ledger does not hold. What was entered before stays on record. */
export async function enterFilingLine(scope: Scope, code: string, key: string, body: ParsedBodyOf<'enterFilingLine'>): Promise<void> {
  const { filing, period } = filingOf(scope, code, key);
  const line = filing.enters?.find((one) => one.line === body.line);
  if (!line)
    throw invalid(`Line ${body.line} of ${filing.form} comes from the ledger. Correct the payslips behind it.`, [
      { path: 'line', expected: (filing.enters ?? []).map((one) => one.line).join(' or ') || 'none: nothing is entered on this filing' },
    ]);
  await changing(scope, async (transaction) => {
    const last = await eventsOf(scope, code, key);
    if (['prepared', 'agreed'].includes(last.at(-1)?.step ?? ''))
      throw conflict('filing-prepared', `${filing.form}, ${period.label} is prepared. Take it back first, then enter the line.`);
    await execute(
      scope.database,
      `insert into filing_entries (employer_id, filing, period, line, amount, reason, user_id) values (:employer, :filing, :period, :line, :amount, :reason, :user) returning id`,
      {
        employer: scope.employer.id,
        filing: code,
        period: key,
        line: body.line,
        amount: minorOf(body.amount),
        reason: body.reason,
        user: scope.user.id,
      },
      transaction,
    );
    const what = `${filing.form}, ${period.label}, line ${body.line}: ${body.amount}. ${body.reason}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
  });
}

/** Keeps a filing as the ledger makes it now. Refused while its period runs, and where something is wrong with it. */
export async function prepareFiling(scope: Scope, code: string, key: string, { reason }: ParsedBodyOf<'prepareFiling'>): Promise<void> {
  const found = filingOf(scope, code, key);
  const { filing, period } = found;
  const title = `${filing.form}, ${period.label}`;
  const refuse = (sentence: string) => new Refusal(422, 'filing-not-ready', `${title} cannot be prepared: ${sentence}`);
  await changing(scope, async () => {
    if (scope.employer.today <= period.to) throw refuse(`its period ends on ${writtenDate(period.to)}.`);
    const made = await madeNow(scope, found);
    if (!made.employer.number) throw refuse("the employer's number is missing. Enter it with the registrations.");
    const broken = made.checks.filter((check) => !check.holds);
    if (broken[0]) throw refuse(`${counted(broken.length, 'check does', 'checks do')} not hold, first: ${broken[0].sentence}.`);
    const stops = made.copies.flatMap((copy) => copy.checks.filter((check) => check.weight === 'stop'));
    if (stops[0]) throw refuse(`${counted(stops.length, 'thing is', 'things are')} to be fixed, first: ${stops[0].sentence}`);
    const filed = filedAttempt(await eventsOf(scope, filing.code, period.key));
    if (filed !== undefined) {
      const view = await viewOf(scope, code, key);
      if (!view.filed?.differences.length) throw refuse('nothing differs from what was filed.');
      if (!reason) throw refuse('say why it differs from what was filed.');
    }
    await take(scope, found, { step: 'prepared', words: reason, content: made });
  });
}

export const withdrawFiling = (scope: Scope, code: string, key: string, { reason }: ParsedBodyOf<'withdrawFiling'>): Promise<void> =>
  take(scope, filingOf(scope, code, key), { step: 'withdrawn', words: reason });

/** The statement is kept with the name of whoever agreed to it. */
export function agreeFiling(scope: Scope, code: string, key: string, { signer, title }: ParsedBodyOf<'agreeFiling'>): Promise<void> {
  const found = filingOf(scope, code, key);
  const words = `Signed by ${[signer, title].filter(Boolean).join(', ')}: “${found.filing.statement}”`;
  return take(scope, found, { step: 'agreed', words });
}

const WAYS = { paper: 'on paper', portal: "through the agency's own site", agent: 'through an agent' };

export function sendFiling(scope: Scope, code: string, key: string, { how, reference }: ParsedBodyOf<'sendFiling'>): Promise<void> {
  const words = `Sent ${WAYS[how]}${reference ? `, number ${reference}` : ''}`;
  return take(scope, filingOf(scope, code, key), { step: 'sent', words });
}

export function answerFiling(scope: Scope, code: string, key: string, body: ParsedBodyOf<'answerFiling'>): Promise<void> {
  const { answer, reference, reasons } = body;
  const words = [reference && `Number ${reference}`, reasons].filter(Boolean).join('. ');
  return take(scope, filingOf(scope, code, key), { step: answer, words });
}
