import { computePayslip, type PayslipInput, type ParameterEntry } from '@woodruff/core';
import { setImmediate as breath } from 'node:timers/promises';
import { select } from '../database/connection';
import { invalid, notFound } from '../errors';
import { packFor, type Scope } from '../scope';
import { inWords, sourceOf, type Comparison } from './service';

/** So many payslips are reckoned before others get their turn. */
const AT_ONCE = 40;

/**
 * Tables of today beside those of a later day, and what the change alone makes of everybody's latest regular payslip: both
 * are reckoned as the first of a tax year, so that what was reached of limits before does not show as a change.
 */
export async function compareTables(scope: Scope, { date, file }: { date: string; file?: string | undefined }): Promise<Comparison> {
  const { today } = scope.employer;
  if (date <= today) throw invalid('Compare with a day after today.', [{ path: 'date', expected: 'a day after today' }]);
  const { tables } = packFor(scope);
  const tried = file === undefined ? [] : await entriesOf(scope, file);
  const [now, then] = [tables.inForceOn(today), tables.trying(tried, () => tables.inForceOn(date))];
  const later = new Map(then.map((entry) => [entry.code, entry]));
  const before = new Map(now.map((entry) => [entry.code, entry]));
  return {
    before: today,
    after: date,
    changed: then
      .map((entry) => ({ entry, was: before.get(entry.code) }))
      .filter(({ entry, was }) => !was || inWords(was) !== inWords(entry))
      .map(({ entry, was }) => ({
        code: entry.code,
        before: was ? inWords(was) : '',
        after: inWords(entry),
        source: sourceOf(entry),
        confirmed: entry.confirmed,
      })),
    ending: now.filter(({ code }) => !later.has(code)).map((entry) => ({ code: entry.code, before: inWords(entry) })),
    people: await effectOnPeople(scope, date, tried),
  };
}

async function entriesOf(scope: Scope, id: string): Promise<ParameterEntry[]> {
  const [file] = await select<{ entries: ParameterEntry[] }>(
    scope.database,
    'select entries from table_files where id = :id and country = :country and approved is distinct from false',
    { id, country: scope.employer.country },
  );
  if (!file) throw notFound('table file');
  return file.entries;
}

interface Latest {
  personId: string;
  name: string;
  input: PayslipInput;
}

async function effectOnPeople(scope: Scope, date: string, tried: readonly ParameterEntry[]): Promise<Comparison['people']> {
  const { today } = scope.employer;
  const { tables } = packFor(scope);
  const latest = await select<Latest>(
    scope.database,
    `select distinct on (p.id) p.id as "personId", p.given_name || ' ' || p.family_name as name, x.input from payslips y join pay_runs r on r.id = y.run_id and r.employer_id = :employer and r.kind = 'regular'
     join payslip_results x on x.payslip_id = y.id join people p on p.id = y.person_id
     where y.state = 'posted' and (p."left" is null or p."left" >= :today) order by p.id, r.pay_date desc`,
    { employer: scope.employer.id, today },
  );
  const people: Comparison['people'] = [];
  for (const [index, { personId, name, input }] of latest.entries()) {
    if (index % AT_ONCE === 0) await breath();
    const [was, is] = [reckoned(fresh(input, today)), tables.trying(tried, () => reckoned(fresh(input, date)))];
    const labels = new Map([...was.lines, ...is.lines].map(({ code, label }) => [code, label]));
    const sum = (lines: typeof is.lines, code: string) => lines.reduce((all, line) => (line.code === code ? all + line.amount : all), 0);
    people.push({
      personId,
      name,
      netBefore: was.net,
      netAfter: is.net,
      costBefore: was.cost,
      costAfter: is.cost,
      lines: [...labels]
        .map(([code, label]) => ({ label, before: sum(was.lines, code), after: sum(is.lines, code) }))
        .filter(({ before, after }) => before !== after),
      refused: is.refused,
    });
  }
  return people.sort((a, b) => Math.abs(b.netAfter - b.netBefore) - Math.abs(a.netAfter - a.netBefore) || (a.name < b.name ? -1 : 1));
}

/** The payslip as the first of its tax year, on another day. */
const fresh = (input: PayslipInput, date: string): PayslipInput => ({
  ...input,
  pay: { ...input.pay, date },
  balances: Object.fromEntries(Object.entries(input.balances).map(([code, { inAll }]) => [code, { year: 0, inAll }])),
});

interface Reckoned {
  net: number;
  cost: number;
  lines: { code: string; label: string; amount: number }[];
  refused: string;
}

/** Lines that somebody is paid, is withheld, or costs; bases follow from them. */
function reckoned(input: PayslipInput): Reckoned {
  const { totals, lines, problems } = computePayslip(input);
  return {
    net: totals.net,
    cost: totals.employerCost,
    lines: lines.filter(({ kind }) => kind !== 'base' && kind !== 'leave').map(({ code, label, amount }) => ({ code, label, amount })),
    // What could not be reckoned at all has no lines, and says why.
    refused: lines.length ? '' : (problems.find(({ weight }) => weight === 'stop')?.sentence ?? ''),
  };
}
