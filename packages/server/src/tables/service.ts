import type { AnswerOf, ParsedBodyOf, TablesView } from '@woodruff/contract';
import { addDays, counted, writtenDate, type CountryPack, type EntryInForce, type ParameterEntry } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { factsChanged } from '../employers/facts-version';
import { conflict, invalid, notFound } from '../errors';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { readTables } from './loaded';

/** A figure or a schedule on one line. */
export const inWords = ({ value, bands }: Pick<ParameterEntry, 'value' | 'bands'>): string =>
  value ??
  (bands ?? [])
    .map(({ over, percent, base, less }) =>
      less !== undefined && percent === '0'
        ? `from ${over}: ${less.replace(/^-/, '')}`
        : less === undefined
          ? `over ${over}: ${base === undefined ? '' : `${base} + `}${percent}%`
          : `from ${over}: ${percent}% of the whole less ${less}`,
    )
    .join('; ');

export const sourceOf = ({ publication, section }: Pick<ParameterEntry, 'publication' | 'section'>): string =>
  [publication, section].filter(Boolean).join('; ');

const nextYear = (pack: CountryPack, today: string) => pack.taxYearOf(addDays(pack.taxYearOf(today).to, 1));

/** The tables of the fullest year before a day: some hold for ever, most for a year, so that years without any of their own have few. */
function lastWhole(pack: CountryPack, day: string): EntryInForce[] {
  let fullest: EntryInForce[] = [];
  for (let before = addDays(day, -1), year = 0; year < 12; year++, before = addDays(pack.taxYearOf(before).from, -1)) {
    const found = pack.tables.inForceOn(before);
    if (found.length > fullest.length) fullest = found;
  }
  return fullest;
}

/** Tables in force, and what was loaded into this installation for the employer's country. */
export async function tablesView(scope: Scope): Promise<TablesView> {
  const { today, country } = scope.employer;
  const pack = packFor(scope);
  const now = pack.tables.inForceOn(today);
  const year = pack.taxYearOf(today);
  const lacking = (before: readonly EntryInForce[], on: string): number => {
    const then = new Set(pack.tables.inForceOn(on).map(({ code }) => code));
    return before.filter(({ code }) => !then.has(code)).length;
  };
  // What the year that runs has none of comes before the next one.
  const missing = lacking(lastWhole(pack, year.from), today);
  const { label, from } = missing ? year : nextYear(pack, today);
  const files = await select<Omit<TablesView['files'][number], 'state'> & { approved: boolean | null }>(
    scope.database,
    `select f.id, f.title, f.counts_from as "countsFrom", jsonb_array_length(f.entries) as entries, f.approved, p.name as "proposedBy", to_char(f.proposed_at, 'YYYY-MM-DD') as "proposedAt",
            d.name as "decidedBy", f.reason, f.proposed_by = :user as own
     from table_files f join users p on p.id = f.proposed_by left join users d on d.id = f.decided_by where f.country = :country order by f.proposed_at desc`,
    { country, user: scope.user.id },
  );
  return {
    country: pack.name,
    today,
    next: { label, from, missing: missing || lacking(now, from) },
    inForce: now.map((entry) => ({
      code: entry.code,
      value: inWords(entry),
      from: entry.from,
      source: sourceOf(entry),
      confirmed: entry.confirmed,
      loaded: entry.loaded,
    })),
    files: files.map(({ approved, ...file }) => ({
      ...file,
      state: approved === null ? ('proposed' as const) : approved ? ('approved' as const) : ('dropped' as const),
    })),
  };
}

/** Tables in force on a day as a file, in the form in which they are loaded again. */
export function tablesFile(scope: Scope, date: string): { name: string; content: string } {
  const pack = packFor(scope);
  const entries = pack.tables.inForceOn(date).map(({ loaded: _loaded, ...entry }: EntryInForce) => entry);
  if (!entries.length) throw notFound('table');
  const file = { format: 'woodruff.parameters/1', title: `${pack.name}, in force on ${date}`, entries };
  return { name: `tables-${pack.code.toLowerCase()}-${date}.json`, content: `${JSON.stringify(file, null, 2)}\n` };
}

/** Takes a file of tables, to be approved by somebody else. Nothing counts until then. */
export async function proposeTables(scope: Scope, file: ParsedBodyOf<'proposeTables'>): Promise<{ id: string }> {
  return changing(scope, async (transaction) => {
    await checked(scope, file, transaction);
    const from = file.entries.map((entry) => entry.from).sort()[0] ?? '';
    const [row] = (await execute(
      scope.database,
      'insert into table_files (country, title, entries, counts_from, proposed_by) values (:country, :title, cast(:entries as jsonb), :from, :user) returning id',
      { country: scope.employer.country, title: file.title, entries: JSON.stringify(file.entries), from, user: scope.user.id },
      transaction,
    )) as { id: string }[];
    if (!row) throw new Error('no file was kept');
    const what = `Loaded ${counted(file.entries.length, 'table', 'tables')}: ${file.title}, from ${writtenDate(from)}; not approved yet`;
    await record(scope, { action: 'tables', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
    return row;
  });
}

/** Refuses what no rule would look up, what says two things of one day, and what would reach into pay that was posted. */
async function checked(scope: Scope, { entries }: ParsedBodyOf<'proposeTables'>, transaction: Transaction): Promise<void> {
  const kinds = packFor(scope).tables.kinds();
  const [posted] = await select<{ day: string | null }>(
    scope.database,
    `select max(r.pay_date) as day from pay_runs r join employers e on e.id = r.employer_id where e.country = :country and r.state = 'approved'`,
    { country: scope.employer.country },
    transaction,
  );
  const seen = new Set<string>();
  const wrong = entries.flatMap((entry, index) => {
    const path = `entries.${index}`;
    const kind = kinds.get(entry.code);
    const key = `${entry.code} ${entry.from}`;
    const twice = seen.has(key);
    seen.add(key);
    const rising = (entry.bands ?? []).every(({ over }, at, all) => at === 0 || Number(over) > Number(all[at - 1]?.over));
    return [
      ...(kind ? [] : [{ path: `${path}.code`, expected: `a code that rules look up, not "${entry.code}"` }]),
      ...(kind === 'value' && entry.value === undefined
        ? [{ path: `${path}.value`, expected: 'a single value, as the rules look it up' }]
        : []),
      ...(kind === 'bands' && !entry.bands ? [{ path: `${path}.bands`, expected: 'bands, as the rules look them up' }] : []),
      ...(twice ? [{ path: `${path}.from`, expected: `one entry of ${entry.code} for a day` }] : []),
      ...(rising ? [] : [{ path: `${path}.bands`, expected: 'each band over more than the one before' }]),
      ...(posted?.day && entry.from <= posted.day
        ? [{ path: `${path}.from`, expected: `a day after ${writtenDate(posted.day)}, the last pay date that was posted` }]
        : []),
    ];
  });
  if (wrong[0]) throw invalid(`${counted(wrong.length, 'entry is', 'entries are')} not as wanted; nothing was loaded.`, wrong.slice(0, 20));
}

/** Approves what somebody else has loaded, so that it counts from its day, or drops it. Never twice. */
export async function decideTables(scope: Scope, id: string, { approve, reason }: ParsedBodyOf<'decideTables'>): Promise<void> {
  await changing(scope, async (transaction) => {
    const [file] = await select<{
      title: string;
      own: boolean;
      approved: boolean | null;
      entries: ParsedBodyOf<'proposeTables'>['entries'];
    }>(
      scope.database,
      'select title, entries, approved, proposed_by = :user as own from table_files where id = :id and country = :country for update',
      { id, user: scope.user.id, country: scope.employer.country },
      transaction,
    );
    if (!file) throw notFound('table file');
    if (file.approved !== null) throw conflict('decided', 'This was decided already. Look at where it stands.');
    if (approve && file.own)
      throw conflict('second-person', 'Tables are approved by somebody else than who has loaded them. Ask another administrator.');
    // A pay date may have been posted since they were loaded.
    if (approve) await checked(scope, { format: 'woodruff.parameters/1', title: file.title, entries: file.entries }, transaction);
    await execute(
      scope.database,
      'update table_files set approved = :approve, decided_by = :user, decided_at = now(), reason = :reason where id = :id returning id',
      { id, approve, reason, user: scope.user.id },
      transaction,
    );
    const what = `${approve ? 'Approved' : 'Dropped'} tables: ${file.title}${reason ? `. ${reason}` : ''}`;
    await record(scope, { action: 'tables', subject: 'employer', subjectId: scope.employer.id, what }, transaction);
    if (approve) await factsChanged(scope, transaction);
  });
  if (approve) await readTables(scope.database);
}

export type Comparison = AnswerOf<'compareTables'>;
