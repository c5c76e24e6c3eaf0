import type { Correction, ParsedBodyOf } from '@woodruff/contract';
import { attemptFor, counted, filedAttempt, minorOf, writtenDate, type FilingStep } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute } from '../database/connection';
import { conflict, invalid, notFound, Refusal } from '../errors';
import { changing } from '../users/changing';
import { packFor, type Scope } from '../scope';
import { may } from '../users/permissions';
import { scopeOf } from '../users/service';
import { contentOf, eventsOf, type Content } from './events';
import { balanceOf, consentWords, fileId, makeFile, waitAlong, wholeFile } from './files';
import { filingOf, madeNow, type Found } from './make';
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
  found: Found,
  { step, words, content }: { step: FilingStep; words: string; content?: Content },
): Promise<void> {
  const { filing, period } = found;
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
export async function prepareFiling(
  scope: Scope,
  code: string,
  key: string,
  { reason, without = [] }: ParsedBodyOf<'prepareFiling'>,
): Promise<void> {
  const found = filingOf(scope, code, key);
  const { filing, period } = found;
  const title = `${filing.form}, ${period.label}`;
  const refuse = (sentence: string) => new Refusal(422, 'filing-not-ready', `${title} cannot be prepared: ${sentence}`);
  await changing(scope, async () => {
    if (scope.employer.today <= period.to && !period.ahead) throw refuse(`its period ends on ${writtenDate(period.to)}.`);
    const made = await madeNow(scope, found);
    if (!made.employer.number) throw refuse("the employer's number is missing. Enter it with the registrations.");
    const broken = made.checks.filter((check) => !check.holds && check.weight !== 'look');
    if (broken[0]) throw refuse(`${counted(broken.length, 'check does', 'checks do')} not hold, first: ${broken[0].sentence}.`);
    const some = filing.copies?.some ?? false;
    if (without.length && !some) throw refuse('it is filed for everybody at once.');
    const stops = some ? [] : made.copies.flatMap((copy) => copy.checks.filter((check) => check.weight === 'stop'));
    if (stops[0]) throw refuse(`${counted(stops.length, 'thing is', 'things are')} to be fixed, first: ${stops[0].sentence}`);
    let corrected: Correction[] | undefined;
    const filed = filedAttempt(await eventsOf(scope, filing.code, period.key));
    const before = filed === undefined || !some ? undefined : await contentOf(scope, filing.code, period.key, filed);
    const { copies: stated, held } = heldBack(made.copies, some ? without : null, before?.copies ?? []);
    if (held.length && !stated.length) throw refuse('everybody is held back.');
    if (filed !== undefined) {
      const view = await viewOf(scope, code, key);
      if (!view.filed?.differences.length && !view.filed?.corrected.length) throw refuse('nothing differs from what was filed.');
      const until = filing.amendUntil?.(period);
      if (until && scope.employer.today > until)
        throw refuse(`what was filed could be corrected until ${writtenDate(until)} only: the period of limitation is over.`);
      if (!reason) throw refuse('say why it differs from what was filed.');
      const isHeld = new Set(held.map(({ personId }) => personId));
      corrected = view.filed.corrected.filter(({ personId }) => !isHeld.has(personId));
      if (!corrected.length && !view.filed.differences.length)
        throw refuse('nothing of those who are not held back differs from what was filed.');
      if (before)
        corrected = corrected.map((one) =>
          before.copies.some(({ personId }) => personId === one.personId) ? one : { ...one, first: true },
        );
    }
    // From here on a statement has its number: drafts have none.
    const copies = stated.map((copy, index) => ({ ...copy, control: index + 1 }));
    const words = [reason, heldWords(held)].filter(Boolean).join('. ');
    await take(scope, found, { step: 'prepared', words, content: { ...made, copies, ...(corrected ? { corrected } : {}) } });
  });
}

/**
 * Who is stated now, and who is held back: by choice, or since something is to be fixed about them. What was filed of
 * somebody before stays as it was filed.
 * @param without held back by choice; null where nobody can be
 */
function heldBack(
  made: Content['copies'],
  without: readonly string[] | null,
  before: Content['copies'],
): { copies: Content['copies']; held: Content['copies'] } {
  if (without === null) return { copies: made, held: [] };
  const held = made.filter(({ personId, checks }) => without.includes(personId) || checks.some(({ weight }) => weight === 'stop'));
  const copies = made.flatMap((copy) => (held.includes(copy) ? (before.find(({ personId }) => personId === copy.personId) ?? []) : [copy]));
  return { copies, held };
}

const heldWords = (held: Content['copies']): string =>
  held.length
    ? `Held back: ${held
        .slice(0, 10)
        .map(({ name }) => name)
        .join('; ')}${held.length > 10 ? ` and ${held.length - 10} more` : ''}`
    : '';

export async function withdrawFiling(scope: Scope, code: string, key: string, { reason }: ParsedBodyOf<'withdrawFiling'>): Promise<void> {
  const found = filingOf(scope, code, key);
  await changing(scope, async () => {
    await refuseWhileOthersWait(scope, found);
    await take(scope, found, { step: 'withdrawn', words: reason });
  });
}

/** What others go along with leaves by file: they would wait for ever. */
async function refuseWhileOthersWait(scope: Scope, found: Found): Promise<void> {
  const { filing, period } = found;
  const attempt = attemptFor('sent', await eventsOf(scope, filing.code, period.key));
  const others = attempt === undefined ? [] : await waitAlong(scope, fileId(scope, found, attempt));
  if (others.length)
    throw conflict(
      'others-go-along',
      `${filing.form}, ${period.label} of ${others.join(', ')} was sent to go along with this one and waits for it. Send this one by file.`,
    );
}

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
  const found = filingOf(scope, code, key);
  return changing(scope, async () => {
    await refuseWhileOthersWait(scope, found);
    await take(scope, found, { step: 'sent', words });
    if (found.filing.unanswered) await take(scope, found, { step: 'accepted', words: 'Handed over to the people: nobody answers' });
  });
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
  body: Pick<ParsedBodyOf<'sendFiling'>, 'pays' | 'consent'> & { along?: string | undefined },
  outside: Outside,
): Promise<void> {
  const found = filingOf(scope, code, key);
  await changing(scope, async (transaction) => {
    const balance = await balanceOf(scope, found);
    const left = balance.reduce((sum, one) => sum + one.left, 0);
    const consents = consentWords(body, left);
    const leader = body.along ? await leaderOf(scope, found, body.along) : null;
    await makeFile(scope, found, { consents, goesWith: leader?.file ?? null }, transaction);
    if (!leader) await joinable(scope, found);
    const how = leader ? `Sent in one file with that of ${leader.name}` : 'Sent by file';
    await take(scope, found, { step: 'sent', words: [how, consents].filter(Boolean).join('. ') });
    if (consents)
      await outside.pay(
        scope,
        balance.map(({ owed, due }) => ({ owed, due })),
        `${found.filing.form}, ${found.period.label}`,
      );
  });
  await outside.settle(scope);
}

/** The file of another employer of the same number that this one goes along with: the same filing, agreed to and not sent yet. */
async function leaderOf(scope: Scope, { filing, period }: Found, employer: string): Promise<{ file: string; name: string }> {
  const title = `${filing.form}, ${period.label}`;
  const other = await scopeOf(scope.database, scope.user.id, employer);
  if (!may(other.role, 'approve', other.rights)) throw notFound('employer');
  const found = filingOf(other, filing.code, period.key);
  const numbers = [scope, other].map((one) => packFor(one).employerNumber(one.employer.facts.country));
  if (!found.filing.file?.join || employer === scope.employer.id || numbers[0] !== numbers[1])
    throw invalid(
      `${title} of ${other.employer.name} is no file that this one can go along with: it takes one number, and a file that holds several.`,
      [{ path: 'along', expected: 'an employer of the same number' }],
    );
  const attempt = attemptFor('sent', await eventsOf(other, filing.code, period.key));
  // It does not leave between the look at it and the place beside it.
  if (attempt !== undefined) await holdFile(scope, fileId(other, found, attempt));
  if (attempt === undefined || attemptFor('sent', await eventsOf(other, filing.code, period.key)) !== attempt)
    throw conflict(
      'leader-not-waiting',
      `${title} of ${other.employer.name} is not agreed to, or was sent already: nothing can go along with it.`,
    );
  return { file: fileId(other, found, attempt), name: other.employer.name };
}

const holdFile = (scope: Scope, file: string): Promise<unknown> =>
  execute(scope.database, 'select pg_advisory_xact_lock(hashtextextended(:file, 7))', { file });

/** Refuses a file whose parts cannot be told apart, before anything is sent. */
async function joinable(scope: Scope, found: Found): Promise<void> {
  const attempt = attemptFor('sent', await eventsOf(scope, found.filing.code, found.period.key));
  if (attempt === undefined || !found.filing.file?.join) return;
  const file = fileId(scope, found, attempt);
  await holdFile(scope, file);
  try {
    await wholeFile(scope, found, file);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Refusal(422, 'does-not-fit', `They cannot go as one file: ${error.message}. Enter them with the registrations.`);
  }
}

export function answerFiling(scope: Scope, code: string, key: string, body: ParsedBodyOf<'answerFiling'>): Promise<void> {
  const { answer, reference, reasons } = body;
  const words = [reference && `Number ${reference}`, reasons].filter(Boolean).join('. ');
  return take(scope, filingOf(scope, code, key), { step: answer, words });
}
