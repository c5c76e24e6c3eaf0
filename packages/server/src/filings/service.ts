import type { AnswerOf, FilingsList, FilingView, ParsedQueryOf } from '@woodruff/contract';
import {
  FILING_STEPS,
  attemptFor,
  differencesOf,
  filedAttempt,
  stateOfFiling,
  writtenDate,
  yearOf,
  type FilingPeriod,
} from '@woodruff/core';
import { select } from '../database/connection';
import { packFor, type Scope } from '../scope';
import { earlierView } from './earlier';
import { enteredIn } from './facts';
import { balanceOf, faultsOf, filesOf, wantedOf } from './files';
import { filingOf, filingsWanted, isAskedFor, madeNow, payDatesOf, type Found } from './make';
import { contentOf, correctedSince, eventsOf, type Content, type Happened } from './events';

/** A filing of a period: as it is now, where it stands, what can follow, and how it differs from what was filed. */
export async function viewOf(scope: Scope, code: string, key: string): Promise<FilingView> {
  const found = filingOf(scope, code, key);
  const { filing, period } = found;
  const made = await madeNow(scope, found);
  const events = await eventsOf(scope, code, key);
  const entered = await enteredIn(scope, code, key);
  const { today, facts } = scope.employer;
  return {
    filing: code,
    form: filing.form,
    name: filing.name,
    agency: filing.agency,
    period,
    state: stateOfFiling(period, today, events),
    complete: today > period.to || period.ahead === true,
    ...made,
    copyOf: filing.copies
      ? {
          name: filing.copies.name,
          first: [...filing.copies.first],
          corrected: filing.copies.corrected ?? null,
          some: filing.copies.some ?? false,
          totals: filing.copies.totals ?? null,
          marks: [...(filing.copies.marks ?? [])],
        }
      : null,
    enters: (filing.enters ?? []).map((line) => ({ ...line, amount: 0, reason: '', ...entered[line.line] })),
    overrides: [...(filing.overrides ?? [])],
    place: filing.place ?? '',
    statement: filing.statement,
    signatory: facts.signatory,
    events: events.map(({ attempt, step, on, who, words }) => ({ attempt, step, on, who, words })),
    file: filing.file ? { format: filing.file.format, wants: await wantedOf(scope, found) } : null,
    files: await filesOf(scope, code, key),
    faults: await faultsOf(scope, code, key),
    balance: (await balanceOf(scope, found)).reduce((sum, { left }) => sum + left, 0),
    next: FILING_STEPS.filter((step) => attemptFor(step, events) !== undefined),
    filed: await filedOf(scope, found, events, made),
    earlier: await earlierView(scope, filing, period),
  };
}

/** What the agency has, compared line by line with what the ledger makes now. */
async function filedOf(scope: Scope, { filing, period }: Found, events: readonly Happened[], now: Content): Promise<FilingView['filed']> {
  const attempt = filedAttempt(events);
  if (attempt === undefined) return null;
  const sent = events.find((event) => event.attempt === attempt && event.step === 'sent');
  const content = await contentOf(scope, filing.code, period.key, attempt);
  if (!content || !sent) return null;
  const differences = differencesOf(content.lines, now.lines);
  const prepared = events.find((event) => event.attempt === attempt && event.step === 'prepared');
  return {
    attempt,
    on: sent.on,
    differences,
    corrected: correctedSince(content, now),
    because: prepared && (differences.length || correctedSince(content, now).length) ? await becauseOf(scope, period, prepared.at) : '',
    amendUntil: filing.amendUntil?.(period) ?? null,
  };
}

/** Why it differs, out of the reasons of the corrections that were posted into the period since. */
async function becauseOf(scope: Scope, { from, to }: FilingPeriod, since: Date): Promise<string> {
  const corrections = await select<{ name: string; payDate: string; reason: string }>(
    scope.database,
    `select distinct p.given_name || ' ' || p.family_name as name, to_char(o.pay_date, 'YYYY-MM-DD') as "payDate", coalesce(y.edits->>'note', '') as reason
     from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.approved_at > :since join payslips b on b.id = y.reverses join pay_runs o on o.id = b.run_id join people p on p.id = y.person_id
     where exists (select 1 from ledger_lines l where l.payslip_id = y.id and l.counts_on between :from and :to) order by 2, 1 limit 12`,
    { employer: scope.employer.id, since, from, to },
  );
  return corrections
    .map(({ name, payDate, reason }) => `The payslip of ${name} paid ${writtenDate(payDate)} was reversed${reason ? `: ${reason}` : ''}`)
    .join('. ');
}

/** Filings by period, latest first, from the first one with anything posted. */
export async function listOfFilings(scope: Scope): Promise<FilingsList> {
  const { today } = scope.employer;
  const [first] = await select<{ day: string | null }>(
    scope.database,
    'select counts_on as day from ledger_lines where employer_id = :employer order by counts_on limit 1',
    { employer: scope.employer.id },
  );
  const since = first?.day ?? today;
  const all = await eventsOf(scope);
  const list: FilingsList = [];
  const payDates = await payDatesOf(scope);
  const asked = await isAskedFor(scope, payDates);
  const posted = await postedDays(scope);
  for (const filing of await filingsWanted(scope)) {
    const periods: FilingsList[number]['periods'] = [];
    for (let year = yearOf(today) + 1; year >= yearOf(since); year--)
      for (const period of [...filing.periods(year, payDates)].reverse()) {
        if (period.to < since || (period.from > today && !period.ahead) || !asked(filing, period)) continue;
        const events = all.filter((event) => event.filing === filing.code && event.period === period.key);
        periods.push({
          ...period,
          state: stateOfFiling(period, today, events),
          differs: await differsSince(scope, { filing, period }, events, posted),
        });
      }
    const { code, form, name, agency, place = '' } = filing;
    const together = filing.file?.join ? packFor(scope).employerNumber(scope.employer.facts.country) : '';
    list.push({ filing: code, form, name, agency, place, together, periods });
  }
  return list;
}

/** Days on which what was posted counts, each with when it was approved: looked up once for all filings. */
async function postedDays(scope: Scope): Promise<{ at: Date; day: string }[]> {
  return select(
    scope.database,
    `select r.approved_at as at, r.pay_date as day from pay_runs r where r.employer_id = :employer and r.approved_at is not null and r.kind = 'regular'
     union all
     select r.approved_at, l.counts_on from pay_runs r cross join lateral (select distinct counts_on from ledger_lines where run_id = r.id) l
     where r.employer_id = :employer and r.approved_at is not null and r.kind <> 'regular'`,
    { employer: scope.employer.id },
  );
}

/** How many lines are not as they were filed; made anew only where something was posted into the period since. */
async function differsSince(
  scope: Scope,
  found: Found,
  events: readonly Happened[],
  posted: Awaited<ReturnType<typeof postedDays>>,
): Promise<number> {
  const attempt = filedAttempt(events);
  const prepared = events.find((event) => event.attempt === attempt && event.step === 'prepared');
  if (attempt === undefined || !prepared) return 0;
  const { from, to } = found.period;
  if (!posted.some(({ at, day }) => at > prepared.at && day >= from && day <= to)) return 0;
  const filed = await filedOf(scope, found, events, await madeNow(scope, found));
  return filed ? Math.max(filed.differences.length, filed.corrected.length) : 0;
}

/** Posted lines behind a figure: by payslip, largest first. */
export async function behind(scope: Scope, { codes, from, to, person }: ParsedQueryOf<'behind'>): Promise<AnswerOf<'behind'>> {
  const wanted = codes.split(',').filter(Boolean);
  if (!wanted.length) return { total: 0, entries: [] };
  const entries = await select<AnswerOf<'behind'>['entries'][number]>(
    scope.database,
    `select l.payslip_id as "payslipId", l.run_id as "runId", l.person_id as "personId", p.given_name || ' ' || p.family_name as name, l.pay_date as "payDate",
            min(l.label) as label, l.code, sum(l.amount)::bigint as amount
     from ledger_lines l join people p on p.id = l.person_id
     where l.employer_id = :employer and l.code in (:wanted) and l.counts_on between :from and :to ${person ? 'and l.person_id = :person' : ''}
     group by l.payslip_id, l.run_id, l.person_id, p.given_name, p.family_name, l.pay_date, l.code order by abs(sum(l.amount)) desc, l.pay_date`,
    { employer: scope.employer.id, wanted, from, to, person },
  );
  return { total: entries.reduce((sum, entry) => sum + entry.amount, 0), entries };
}
