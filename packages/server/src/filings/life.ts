import type { Correction, ParsedBodyOf } from '@woodruff/contract';
import { attemptFor, counted, filedAttempt, minorOf, writtenDate, type Filing, type FilingPeriod, type FilingStep } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute } from '../database/connection';
import { conflict, invalid, Refusal } from '../errors';
import { changing } from '../users/changing';
import type { Scope } from '../scope';
import { eventsOf, type Content } from './events';
import { balanceOf, consentWords, makeFile } from './files';
import { filingOf, madeNow } from './make';
import { viewOf } from './service';

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
  const may = [...(filing.enters ?? []).map(({ line }) => line), ...(filing.overrides ?? [])];
  if (!may.includes(body.line))
    throw invalid(
      `Line ${body.line} of ${filing.form} follows from other lines; the form leaves no room in it. Enter one of those, or correct the payslips behind it.`,
      [{ path: 'line', expected: may.join(', ') || 'none: nothing is entered on this filing' }],
    );
  const unit = (await madeNow(scope, { filing, period })).lines.find(({ line }) => line === body.line)?.unit ?? 'money';
  const amount = body.amount === null ? null : unit === 'money' ? minorOf(body.amount) : Number(body.amount);
  if (amount !== null && !Number.isInteger(amount))
    throw invalid(`Line ${body.line} is a count.`, [{ path: 'amount', expected: 'a whole number' }]);
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
        amount,
        reason: body.reason,
        user: scope.user.id,
      },
      transaction,
    );
    const what = `${filing.form}, ${period.label}, line ${body.line}: ${body.amount ?? 'as computed again'}. ${body.reason}`;
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
    const broken = made.checks.filter((check) => !check.holds && check.weight !== 'look');
    if (broken[0]) throw refuse(`${counted(broken.length, 'check does', 'checks do')} not hold, first: ${broken[0].sentence}.`);
    const stops = made.copies.flatMap((copy) => copy.checks.filter((check) => check.weight === 'stop'));
    if (stops[0]) throw refuse(`${counted(stops.length, 'thing is', 'things are')} to be fixed, first: ${stops[0].sentence}`);
    let corrected: Correction[] | undefined;
    const filed = filedAttempt(await eventsOf(scope, filing.code, period.key));
    if (filed !== undefined) {
      const view = await viewOf(scope, code, key);
      if (!view.filed?.differences.length && !view.filed?.corrected.length) throw refuse('nothing differs from what was filed.');
      const until = filing.amendUntil?.(period);
      if (until && scope.employer.today > until)
        throw refuse(`what was filed could be corrected until ${writtenDate(until)} only: the period of limitation is over.`);
      if (!reason) throw refuse('say why it differs from what was filed.');
      corrected = view.filed.corrected;
    }
    // From here on a statement has its number: drafts have none.
    const copies = made.copies.map((copy, index) => ({ ...copy, control: index + 1 }));
    await take(scope, found, { step: 'prepared', words: reason, content: { ...made, copies, ...(corrected ? { corrected } : {}) } });
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

/** Records that what was agreed to went to the agency in another way than by file. */
export function sendFiling(
  scope: Scope,
  code: string,
  key: string,
  { how, reference }: { how: keyof typeof WAYS; reference: string },
): Promise<void> {
  const words = `Sent ${WAYS[how]}${reference ? `, number ${reference}` : ''}`;
  return take(scope, filingOf(scope, code, key), { step: 'sent', words });
}

/** What filing by file sets off beyond this room. */
export interface Outside {
  pay(scope: Scope, owed: { owed: string; due: string }[], reference: string): Promise<unknown>;
  settle(scope: Scope): Promise<unknown>;
}

/** Makes the file of what was agreed to and lets it go to the agency, with what is left to pay where somebody consents to it. */
export async function sendByFile(
  scope: Scope,
  code: string,
  key: string,
  body: Pick<ParsedBodyOf<'sendFiling'>, 'pays' | 'consent'>,
  outside: Outside,
): Promise<void> {
  const found = filingOf(scope, code, key);
  await changing(scope, async (transaction) => {
    const balance = await balanceOf(scope, found);
    const left = balance.reduce((sum, one) => sum + one.left, 0);
    const consents = consentWords(body, left);
    await makeFile(scope, found, consents, transaction);
    await take(scope, found, { step: 'sent', words: ['Sent by file', consents].filter(Boolean).join('. ') });
    if (consents)
      await outside.pay(
        scope,
        balance.map(({ owed, due }) => ({ owed, due })),
        `${found.filing.form}, ${found.period.label}`,
      );
  });
  await outside.settle(scope);
}

export function answerFiling(scope: Scope, code: string, key: string, body: ParsedBodyOf<'answerFiling'>): Promise<void> {
  const { answer, reference, reasons } = body;
  const words = [reference && `Number ${reference}`, reasons].filter(Boolean).join('. ');
  return take(scope, filingOf(scope, code, key), { step: answer, words });
}
