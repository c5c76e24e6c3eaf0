import type { ParsedBodyOf } from '@woodruff/contract';
import { attemptFor, filedAttempt, type Named } from '@woodruff/core';
import { createHash } from 'node:crypto';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { conflict, invalid, notFound, Refusal } from '../errors';
import { obligationsOf } from '../remittances/owed';
import type { Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import type { Agency, AgencyAnswer } from './agency';
import { contentOf, correctedSince, eventsOf, type Content } from './events';
import { senderOf } from './sender';
import { filingOf, madeNow, type Found } from './make';

/** The contents of the file that a filing goes by: of an attempt as it was handed in, else as it would be now, unsigned. */
export async function fileOf(scope: Scope, code: string, key: string, attempt?: number): Promise<{ name: string; content: string }> {
  const found = filingOf(scope, code, key);
  if (attempt !== undefined) {
    const [row] = await select<{ id: string; name: string; sealed: Buffer | null }>(
      scope.database,
      'select id, name, content_sealed as sealed from filing_files where employer_id = :employer and filing = :code and period = :key and attempt = :attempt',
      { employer: scope.employer.id, code, key, attempt },
    );
    if (!row?.sealed) throw notFound('file');
    return { name: row.name, content: theVault().open(row.sealed, `filing:${row.id}`) };
  }
  const [now, filed] = [await madeNow(scope, found), filedAttempt(await eventsOf(scope, code, key))];
  const before = filed === undefined ? undefined : await contentOf(scope, code, key, filed);
  return written(scope, found, before && found.filing.copies ? { ...now, corrected: correctedSince(before, now) } : now);
}

async function written(
  scope: Scope,
  { filing, period }: Found,
  content: Content,
  { signer, because }: { signer?: { name: string; title: string; on: string }; because?: string } = {},
): Promise<{ name: string; content: string }> {
  const filed = filedAttempt(await eventsOf(scope, filing.code, period.key));
  const before = filed === undefined ? undefined : await contentOf(scope, filing.code, period.key, filed);
  const file = (before && filing.file?.corrected) ?? filing.file;
  if (!file) throw conflict('no-file', `${filing.form} goes to the agency on paper or by its own site: no file is known here.`);
  const people = [
    ...content.copies.map(({ personId }) => personId),
    ...(content.corrected ?? []).map(({ personId }) => personId),
    ...(content.detail?.rows ?? []).map(({ personId }) => personId),
  ];
  const sender = await senderOf(scope, filing, period, people, {
    ...(signer ? { signer } : {}),
    known: content.corrected ? await knownOf(scope, { filing, period }) : new Map(),
  });
  const { detail, ...rest } = content;
  try {
    return {
      name: `${filing.code}-${period.key}.${file.extension}`,
      content: file.write(
        { period, ...rest, ...(detail ? { detail } : {}), ...(before ? { before: before.lines, because: because ?? '' } : {}) },
        sender,
      ),
    };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw new Refusal(422, 'does-not-fit', `The file cannot hold this filing: ${error.message}. Correct it where it comes from.`);
  }
}

/** What is missing before a filing can go by file, each with where it is entered. */
export async function wantedOf(scope: Scope, { filing, period }: Found): Promise<{ sentence: string; part: string }[]> {
  return filing.file?.wants(await senderOf(scope, filing, period, [])) ?? [];
}

/** By which numbers and names the agency knows people, out of the files that it has accepted: the last one that names somebody counts. */
async function knownOf(scope: Scope, { filing, period }: Found): Promise<Map<string, Named>> {
  const known = new Map<string, Named>();
  const accepted = new Set(
    (await eventsOf(scope, filing.code, period.key)).filter(({ step }) => step === 'accepted').map(({ attempt }) => attempt),
  );
  for (const { attempt } of await filesOf(scope, filing.code, period.key)) {
    const content = accepted.has(attempt) ? await contentOf(scope, filing.code, period.key, attempt) : undefined;
    if (!content) continue;
    const file = (content.corrected && filing.file?.corrected) ?? filing.file;
    const order = content.corrected ?? content.copies;
    const named = file?.named?.((await fileOf(scope, filing.code, period.key, attempt)).content) ?? [];
    named.forEach((one, index) => {
      const personId = order[index]?.personId;
      if (personId !== undefined) known.set(personId, one);
    });
  }
  return known;
}

/** The id of a file: the same one however often its filing is sent, so that others can go along with it before it is there. */
export function fileId({ employer }: Scope, { filing, period }: Found, attempt: number): string {
  const hash = createHash('sha256').update(`${employer.id} ${filing.code} ${period.key} ${attempt}`).digest('hex');
  return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-8${hash.slice(13, 16)}-a${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

/**
 * A file with the parts of other employers that go along with it.
 * @throws RangeError where they cannot be told apart
 */
export async function wholeFile(scope: Scope, { filing }: Found, file: string): Promise<string> {
  const parts = await select<{ id: string; sealed: Buffer }>(
    scope.database,
    'select id, content_sealed as sealed from filing_files where id = :file or goes_with = :file order by goes_with is not null, at, id',
    { file },
  );
  const [own = '', ...along] = parts.map(({ id, sealed }) => theVault().open(sealed, `filing:${id}`));
  return along.length && filing.file?.join ? filing.file.join([own, ...along]) : own;
}

/** Employers whose part waits for a file to go along with. */
export const waitAlong = async (scope: Scope, file: string): Promise<string[]> =>
  (
    await select<{ name: string }>(
      scope.database,
      'select e.name from filing_files f join employers e on e.id = f.employer_id where f.goes_with = :file and f.told_at is null order by e.name',
      { file },
    )
  ).map(({ name }) => name);

/** What is still owed for a filing's period, and could be paid along with it. */
export async function balanceOf(scope: Scope, { filing, period }: Found): Promise<{ owed: string; due: string; left: number }[]> {
  if (!filing.owed) return [];
  return (await obligationsOf(scope, filing.owed))
    .filter(({ left, upTo }) => left > 0 && upTo >= period.from && upTo <= period.to)
    .map(({ owed, due, left }) => ({ owed, due, left }));
}

/**
 * Makes the file of what was agreed to, once, and lets it wait for the agency, within the use case that takes the step.
 * The signer is who agreed.
 */
export async function makeFile(
  scope: Scope,
  found: Found,
  { consents, goesWith }: { consents: string; goesWith: string | null },
  transaction: Transaction,
): Promise<void> {
  const { filing, period } = found;
  const events = await eventsOf(scope, filing.code, period.key);
  const attempt = attemptFor('sent', events);
  if (attempt === undefined) return;
  const content = await contentOf(scope, filing.code, period.key, attempt);
  const prepared = events.find((event) => event.attempt === attempt && event.step === 'prepared');
  const agreed = events.find((event) => event.attempt === attempt && event.step === 'agreed');
  if (!content || !agreed) throw notFound('filing');
  const wants = await wantedOf(scope, found);
  if (wants[0])
    throw new Refusal(
      422,
      'filing-not-ready',
      `${filing.form} cannot go by file yet. Missing: ${wants.map(({ sentence }) => sentence).join('; ')}.`,
    );
  const [, signer = '', title = ''] = /^Signed by ([^,:]+)(?:, ([^:]+))?:/.exec(agreed.words) ?? [];
  const file = await written(scope, found, content, { signer: { name: signer, title, on: agreed.on }, because: prepared?.words ?? '' });
  const hash = createHash('sha256').update(file.content).digest('hex');
  const [row] = (await execute(
    scope.database,
    `insert into filing_files (id, employer_id, filing, period, attempt, agency, name, hash, consents, made_on, goes_with) values (:id, :employer, :filing, :period, :attempt, :agency, :name, :hash, :consents, :today, :goesWith) returning id`,
    {
      employer: scope.employer.id,
      filing: filing.code,
      period: period.key,
      attempt,
      agency: filing.agency,
      name: file.name,
      id: fileId(scope, found, attempt),
      hash,
      consents,
      goesWith,
      today: scope.employer.today,
    },
    transaction,
  )) as { id: string }[];
  if (!row) throw new Error('no file was made');
  await execute(
    scope.database,
    'update filing_files set content_sealed = :sealed where id = :id',
    { id: row.id, sealed: theVault().seal(file.content, `filing:${row.id}`) },
    transaction,
  );
}

/**
 * Hands in what waits, and takes what agencies have answered. It can be cut off anywhere and done again: a file keeps its
 * key, and an answer counts once, however often and in whichever order it comes.
 */
export async function exchangeWithAgencies(scope: Scope, agency: Agency): Promise<{ sent: number; answers: number; unknown: number }> {
  const waiting = await select<{ id: string; agency: string; filing: string; period: string; name: string }>(
    scope.database,
    `select id, agency, filing, period, name from filing_files where employer_id = :employer and told_at is null and goes_with is null order by at`,
    { employer: scope.employer.id },
  );
  for (const { id, agency: to, filing, period, name } of waiting) {
    const content = await wholeFile(scope, filingOf(scope, filing, period), id);
    await agency.submit({ key: id, agency: to, name, content, on: scope.employer.today });
    await execute(
      scope.database,
      'update filing_files set told_at = now() where (id = :id or goes_with = :id) and told_at is null returning id',
      { id },
    );
  }
  // What was accepted or rejected says nothing new.
  const open = await select<{ id: string }>(
    scope.database,
    `select coalesce(f.goes_with, f.id) as id from filing_files f where f.employer_id = :employer and not exists (select 1 from filing_answers a where a.file_id = f.id and a.status in ('accepted', 'rejected'))`,
    { employer: scope.employer.id },
  );
  if (!open.length) return { sent: waiting.length, answers: 0, unknown: 0 };
  let [answers, unknown] = [0, 0];
  for (const answer of await agency.answers(
    open.map(({ id }) => id),
    scope.employer.today,
  )) {
    const taken = await takeAnswer(scope, answer);
    if (taken === 'new') answers += 1;
    if (taken === 'unknown') unknown += 1;
  }
  return { sent: waiting.length, answers, unknown };
}

/** Takes one answer: new, known already, or to a filing that nobody here has sent. */
export async function takeAnswer(scope: Scope, answer: AgencyAnswer): Promise<'new' | 'known' | 'unknown'> {
  return changing(scope, async (transaction) => {
    const [file] = await select<{ id: string; filing: string; period: string; attempt: number }>(
      scope.database,
      'select id, filing, period, attempt from filing_files where employer_id = :employer and coalesce(goes_with, id) = :file',
      { employer: scope.employer.id, file: answer.file },
      transaction,
    );
    const kept = await execute(
      scope.database,
      `insert into filing_answers (employer_id, answer, file_id, on_day, status, told) values (:employer, :answer, :file, :on, :status, cast(:told as jsonb)) on conflict do nothing returning answer`,
      {
        employer: scope.employer.id,
        answer: answer.answer,
        file: file?.id ?? null,
        on: answer.on,
        status: answer.status,
        told: JSON.stringify(answer),
      },
      transaction,
    );
    if (!kept.length) return 'known';
    if (!file) return 'unknown';
    const events = await eventsOf(scope, file.filing, file.period);
    // An earlier attempt's late answer, or a step that is passed: it stays on record, and moves nothing.
    if (attemptFor(answer.status, events) !== file.attempt) return 'known';
    const words = [
      `Number ${answer.number}`,
      ...answer.faults.map(
        ({ code, text, line, person }) => `${code}: ${text}${line ? ` (line ${line})` : ''}${person ? ` (${person})` : ''}`,
      ),
    ].join('. ');
    await execute(
      scope.database,
      `insert into filing_events (employer_id, filing, period, attempt, step, on_day, user_id, words) values (:employer, :filing, :period, :attempt, :step, :on, null, :words) returning id`,
      {
        employer: scope.employer.id,
        filing: file.filing,
        period: file.period,
        attempt: file.attempt,
        step: answer.status,
        on: answer.on,
        words,
      },
      transaction,
    );
    const { filing, period } = filingOf(scope, file.filing, file.period);
    const what = `${filing.form}, ${period.label}: ${answer.status} by the ${filing.agency}. ${words}`;
    await record(scope, { action: 'filing', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
    // Whoever sent it is told.
    if (answer.status !== 'received')
      await execute(
        scope.database,
        `insert into outbox (employer_id, kind, to_address, to_name, subject, body)
         select :employer, 'filing', u.email, u.name, :subject, :what from filing_events e join users u on u.id = e.user_id where e.employer_id = :employer and e.filing = :filing and e.period = :period and e.attempt = :attempt and e.step = 'sent' returning id`,
        {
          employer: scope.employer.id,
          filing: file.filing,
          period: file.period,
          attempt: file.attempt,
          subject: `${filing.form}, ${period.label}: ${answer.status}`,
          what,
        },
        transaction,
      );
    return 'new';
  });
}

/** Faults that the agency gave for the latest attempt, while it is rejected: each leads to its line. */
export async function faultsOf(scope: Scope, code: string, key: string): Promise<AgencyAnswer['faults']> {
  const events = await eventsOf(scope, code, key);
  const last = events.at(-1);
  if (last?.step !== 'rejected') return [];
  const [row] = await select<{ told: AgencyAnswer }>(
    scope.database,
    `select a.told from filing_answers a join filing_files f on f.id = a.file_id where f.employer_id = :employer and f.filing = :code and f.period = :key and f.attempt = :attempt and a.status = 'rejected' order by a.at desc limit 1`,
    { employer: scope.employer.id, code, key, attempt: last.attempt },
  );
  return row?.told.faults ?? [];
}

/** What of a filing went by file, with what was agreed to along with it. */
export const filesOf = (
  scope: Scope,
  code: string,
  key: string,
): Promise<{ attempt: number; name: string; hash: string; consents: string }[]> =>
  select(
    scope.database,
    'select attempt, name, hash, consents from filing_files where employer_id = :employer and filing = :code and period = :key order by attempt',
    { employer: scope.employer.id, code, key },
  );

/** Refuses to pay along what nobody has consented to. */
export function consentWords(body: Pick<ParsedBodyOf<'sendFiling'>, 'pays' | 'consent'>, left: number): string {
  if (!body.pays) return '';
  if (!left) throw invalid('Nothing is left to pay for this period.', [{ path: 'pays', expected: 'nothing to pay along' }]);
  if (!body.consent) throw invalid('Consent to the payment with your name.', [{ path: 'consent', expected: 'your name' }]);
  return `Payment agreed to by ${body.consent}`;
}
