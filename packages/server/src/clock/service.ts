import type { Clock, ParsedBodyOf, TakenFromClock } from '@woodruff/contract';
import { chanceFrom, isBusinessDay, likelyPunches, readPunches } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { invalid } from '../errors';
import { refuseLocked, saveSheets } from '../time/service';
import { periodAsked, sheetsOf } from '../time/sheets';
import { timeRulesOf } from '../payslip-input/time-rules';
import { changing } from '../users/changing';
import { holidaysOf, type Scope } from '../scope';
import { FROM_CLOCK, PUNCHED_AT, punchesOf } from './punches';

/** What the clock recorded on a day; a stand-in for the device at the door. */
export async function clockOn(scope: Scope, date = scope.employer.today): Promise<Clock> {
  const { schedule, period } = await periodAsked(scope, {});
  const punches = await select<Clock['punches'][number]>(
    scope.database,
    `select c.id::int as id, p.code, p.given_name || ' ' || p.family_name as name, ${PUNCHED_AT}, c.kind from punches c join people p on p.id = c.person_id
     where c.employer_id = :employer and c.at >= cast(:date as date) and c.at < cast(:date as date) + 1 order by c.at desc, c.id desc`,
    { employer: scope.employer.id, date },
  );
  const [counted] = await select<Clock['inPeriod']>(
    scope.database,
    `select count(*)::int as punches, count(distinct person_id)::int as people from punches where employer_id = :employer and at >= cast(:from as date) and at < cast(:to as date) + 1`,
    { employer: scope.employer.id, from: period.from, to: period.to },
  );
  return { date, scheduleId: schedule.id, from: period.from, to: period.to, punches, inPeriod: counted ?? { punches: 0, people: 0 } };
}

/** Somebody presses a key at the clock. */
export async function punch(scope: Scope, { code, kind, at }: ParsedBodyOf<'punch'>): Promise<{ name: string; at: string }> {
  const [person] = await select<{ id: string; name: string }>(
    scope.database,
    `select id, given_name || ' ' || family_name as name from people where employer_id = :employer and lower(code) = lower(:code) and ("left" is null or "left" >= :today)`,
    { employer: scope.employer.id, code, today: scope.employer.today },
  );
  if (!person)
    throw invalid(`Nobody here has the code “${code}”. Type it as on the badge.`, [{ path: 'code', expected: 'the code of a person' }]);
  const [made] = (await execute(
    scope.database,
    `insert into punches (employer_id, person_id, at, kind) values (:employer, :person, coalesce(cast(:at as timestamp), cast(:today as date) + date_trunc('minute', localtime)), :kind)
     on conflict (person_id, at, kind) do update set kind = excluded.kind returning to_char(at, 'YYYY-MM-DD"T"HH24:MI') as at`,
    { employer: scope.employer.id, person: person.id, at: at ?? null, today: scope.employer.today, kind },
  )) as { at: string }[];
  return { name: person.name, at: made?.at ?? '' };
}

/** Lets the clock record an ordinary period of everybody paid by the hour, with what people forget; the same again each time. */
export async function simulatePunches(scope: Scope, body: ParsedBodyOf<'simulatePunches'>): Promise<{ punches: number }> {
  const { schedule, period } = await periodAsked(scope, body);
  const sheets = await sheetsOf(scope, schedule, period, null);
  const holiday = holidaysOf(scope);
  const rows = sheets.flatMap(({ personId, code, hired, leave }) => {
    const seed = [...`${code} ${period.from}`].reduce((sum, letter) => (Math.imul(sum, 31) + letter.charCodeAt(0)) | 0, 7);
    const off = new Set((leave ?? []).map((day) => day.date));
    return likelyPunches(
      period.from,
      period.to,
      (date) => isBusinessDay(date, holiday) && !off.has(date) && (!hired || date >= hired),
      chanceFrom(seed),
    ).map((one) => ({
      person: personId,
      ...one,
    }));
  });
  if (!rows.length) return { punches: 0 };
  const made = await execute(
    scope.database,
    `insert into punches (employer_id, person_id, at, kind) select :employer, e.person, e.at, e.kind from jsonb_to_recordset(cast(:rows as jsonb)) as e(person uuid, at timestamp, kind text)
     on conflict do nothing returning id`,
    { employer: scope.employer.id, rows: JSON.stringify(rows) },
  );
  return { punches: made.length };
}

/**
 * Takes the period's time from the clock: sheets that nobody typed, submitted or approved are made anew from the punches.
 * What is open is listed, never guessed.
 */
export async function takeFromClock(scope: Scope, body: ParsedBodyOf<'takeFromClock'>): Promise<TakenFromClock> {
  const { schedule, period } = await periodAsked(scope, body);
  return changing(scope, async (transaction) => {
    await refuseLocked(scope, schedule.id, period, transaction);
    const sheets = await sheetsOf(scope, schedule, period, timeRulesOf(scope, period.from, period.to), transaction);
    const punches = await punchesOf(scope, period, transaction);
    const answer: TakenFromClock = { people: 0, lines: 0, doubled: 0, left: [], open: [] };
    const wanted: Parameters<typeof saveSheets>[3] = [];
    for (const sheet of sheets) {
      const own = punches.get(sheet.personId);
      if (!own) continue;
      const read = readPunches(own, scope.employer.facts.time?.clockStep);
      const lines = read.worked
        .filter(({ date }) => date >= period.from && date <= period.to)
        .map((one) => ({ ...one, breakMinutes: 0, place: FROM_CLOCK }));
      if ((sheet.state && sheet.state !== 'open') || sheet.lines?.some((line) => line.place !== FROM_CLOCK)) {
        answer.left.push(sheet.name);
        continue;
      }
      answer.doubled += read.doubled.length;
      answer.open.push(...read.open.filter(({ at }) => at.slice(0, 10) <= period.to).map((one) => ({ name: sheet.name, ...one })));
      if (!lines.length) continue;
      answer.people += 1;
      answer.lines += lines.length;
      wanted.push({ personId: sheet.personId, version: sheet.version ?? 0, lines });
    }
    if (wanted.length) await saveSheets(scope, schedule, period, wanted, transaction);
    await record(
      scope,
      {
        action: 'time',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Time imported from the clock: ${answer.people} people, ${answer.lines} lines, ${answer.open.length} open punches`,
      },
      transaction,
    );
    return answer;
  });
}
