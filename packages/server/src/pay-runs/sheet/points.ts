import type { OpenPoint } from '@woodruff/contract';
import { writtenDate, type Problem } from '@woodruff/core';
import { select, type Transaction } from '../../database/connection';
import { approvedWithDoubts } from '../../time/doubts';
import { isExpected } from '../../time/expected';
import { enrolmentPoints } from '../../enrolment/standing';
import { packFor, type Scope } from '../../scope';
import type { PayRun } from '../../calculation/models';

/**
 * Everything in the run that needs a person, from facts: fixed or accepted, it goes. With `changed`, the points
 * that an edit of that payslip can have changed: its own, those of the whole run, and those about limits of zero.
 */
export async function openPoints(scope: Scope, run: PayRun, transaction?: Transaction, changed?: string): Promise<OpenPoint[]> {
  if (run.state === 'approved' || run.state === 'withdrawn') return [];
  // One after another: within a transaction there is one connection.
  const rows = await select<{ payslipId: string; personId: string; name: string; problems: Problem[]; gross: number; hourly: boolean }>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, x.problems, x.gross, (x.summary->>'hourly')::boolean as hourly
       from payslips y join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id
       where y.run_id = :run and y.included and ${
         changed
           ? `y.id in (select :changed::uuid union select payslip_id from payslip_results where run_id = :run and problems @> '[{"code": "limit-is-zero"}]')`
           : `(x.problems <> '[]'::jsonb or x.gross = 0)`
       } order by p.family_name, p.given_name, p.code`,
    { run: run.id, changed },
    transaction,
  );
  const accepted = await select<{ key: string; reason: string; by: string }>(
    scope.database,
    'select a.key, a.reason, u.name as by from accepted_points a join users u on u.id = a.user_id where a.run_id = :run',
    { run: run.id },
    transaction,
  );
  const items = await select<{ id: string; code: string; name: string }>(
    scope.database,
    `select id, code, definition->>'name' as name from pay_items where employer_id = :employer`,
    { employer: scope.employer.id },
    transaction,
  );
  const byCode = new Map(items.map((item) => [item.code, item]));
  const reasons = new Map(accepted.map(({ key, ...rest }) => [key, rest]));
  const points: OpenPoint[] = [];
  const zeroLimits = new Map<string, typeof rows>();
  const add = (point: Omit<OpenPoint, 'accepted'>) =>
    points.push({ ...point, accepted: point.weight === 'look' ? (reasons.get(point.key) ?? null) : null });

  if (run.factsVersion < scope.employer.factsVersion) {
    add({
      key: 'stale',
      weight: 'stop',
      stage: 'gather',
      sentence: 'Set-up or paid amounts changed after this run was calculated. Recalculate it.',
      who: '',
      payslipId: null,
      personId: null,
      itemId: null,
      figure: null,
    });
  }
  for (const row of rows) {
    if (row.hourly && row.gross === 0 && !row.problems.some((problem) => problem.weight === 'stop')) {
      add({
        key: `no-hours:${row.personId}`,
        weight: 'look',
        stage: 'gather',
        sentence: 'No hours yet. Enter them, leave the person out of this run, or accept that nothing is paid.',
        who: row.name,
        payslipId: row.payslipId,
        personId: row.personId,
        itemId: null,
        figure: 'gross',
      });
    }
    for (const problem of row.problems) {
      if (problem.code === 'limit-is-zero' && problem.item) {
        zeroLimits.set(problem.item, [...(zeroLimits.get(problem.item) ?? []), row]);
        continue;
      }
      add({
        key: `${problem.code}:${problem.item ?? ''}:${row.personId}`,
        weight: problem.weight,
        stage: 'check',
        sentence: problem.sentence,
        who: row.name,
        payslipId: row.payslipId,
        personId: row.personId,
        itemId: byCode.get(problem.item ?? '')?.id ?? null,
        figure: problem.figure ?? null,
      });
    }
  }
  const sheets = changed ? [] : await sheetsToLookAt(scope, run, transaction);
  const withoutHours = new Map(points.flatMap((point) => (point.key.startsWith('no-hours:') ? [[point.personId, point]] : [])));
  for (const { missing, ...sheet } of sheets) {
    // Nothing to pay for want of the sheet is one point, not two.
    const bare = missing ? withoutHours.get(sheet.personId) : undefined;
    if (bare)
      bare.sentence = 'No timesheet yet, and no hours. Take the time in, leave the person out of this run, or accept that nothing is paid.';
    else add({ ...sheet, weight: 'look', stage: 'gather', itemId: null, figure: 'gross' });
  }
  if (run.kind === 'regular')
    for (const point of await enrolmentPoints(scope, { run: run.id, ...(changed ? { payslip: changed } : {}) }, transaction))
      add({ ...point, weight: 'look', stage: 'check', itemId: null, figure: null });
  for (const point of changed ? [] : await paidAhead(scope, run, transaction))
    add({ ...point, weight: 'look', stage: 'gather', itemId: null, figure: 'gross' });
  const later = changed ? undefined : await reportedLater(scope, run, transaction);
  if (later)
    add({
      key: `reported-later:${later}`,
      weight: 'look',
      stage: 'check',
      sentence: `The pay of ${writtenDate(later)} was reported already: this pay date is before it, and is reported late. Pay on a later day, or accept it with a reason.`,
      who: '',
      payslipId: null,
      personId: null,
      itemId: null,
      figure: null,
    });
  // A limit of zero that strikes everyone is the item's fault, not the people's.
  for (const [code, struck] of zeroLimits) {
    const item = byCode.get(code);
    if (item && struck.length > 1 && struck.length >= (await holdersInRun(scope, run, item.id, transaction))) {
      add({
        key: `limit-is-zero:${code}`,
        weight: 'look',
        stage: 'check',
        sentence: `${item.name} is zero for all ${struck.length} who have it, because its limit is 0.00. Change the limit on the item's page.`,
        who: item.name,
        payslipId: null,
        personId: null,
        itemId: item.id,
        figure: null,
      });
      continue;
    }
    for (const row of struck) {
      const problem = row.problems.find((candidate) => candidate.code === 'limit-is-zero' && candidate.item === code);
      if (problem)
        add({
          key: `limit-is-zero:${code}:${row.personId}`,
          weight: 'look',
          stage: 'check',
          sentence: problem.sentence,
          who: row.name,
          payslipId: row.payslipId,
          personId: row.personId,
          itemId: item?.id ?? null,
          figure: problem.figure ?? null,
        });
    }
  }
  for (const { code, people } of changed ? [] : await givingNothing(scope, run, transaction)) {
    const item = byCode.get(code);
    if (!item || zeroLimits.has(code) || people < 2 || people < (await holdersInRun(scope, run, item.id, transaction))) continue;
    add({
      key: `gives-nothing:${code}`,
      weight: 'look',
      stage: 'check',
      sentence: `${item.name} gives nothing for all ${people} who have it. Look at how it works on the item's page.`,
      who: item.name,
      payslipId: null,
      personId: null,
      itemId: item.id,
      figure: null,
    });
  }
  return points.sort((a, b) => (a.weight === b.weight ? 0 : a.weight === 'stop' ? -1 : 1));
}

interface SheetToLookAt extends Pick<OpenPoint, 'key' | 'sentence' | 'who' | 'payslipId' | 'personId'> {
  missing: boolean;
}

/** Of a regular run: sheets that are expected and not there, or there and not approved, or approved with something in doubt. */
async function sheetsToLookAt(scope: Scope, run: PayRun, transaction?: Transaction): Promise<SheetToLookAt[]> {
  if (run.kind !== 'regular') return [];
  const doubts = new Map((await approvedWithDoubts(scope, run, transaction)).map((sheet) => [sheet.personId, sheet]));
  const rows = await select<{ payslipId: string; personId: string; who: string; state: string | null; standardHours: string | null }>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.given_name || ' ' || p.family_name as who, s.state, p.standard_hours::text as "standardHours"
     from payslips y join people p on p.id = y.person_id join payslip_results x on x.payslip_id = y.id left join timesheets s on s.person_id = y.person_id and s.period_from = :from
     where y.run_id = :run and y.included and (x.summary->>'hourly')::boolean and (s.id is null or s.state <> 'approved' or y.person_id = any(cast(:doubted as uuid[])))
     order by p.family_name, p.given_name, p.code`,
    { run: run.id, from: run.periodFrom, doubted: `{${[...doubts.keys()].join()}}` },
    transaction,
  );
  return rows.flatMap(({ state, standardHours, ...row }): SheetToLookAt[] => {
    const doubt = doubts.get(row.personId);
    // Accepted as it stands: another version of the sheet is asked about anew.
    if (doubt && state === 'approved')
      return [
        {
          ...row,
          key: `time:${row.personId}:${doubt.version}`,
          missing: false,
          sentence: `Approved time to look at: ${doubt.doubts.join('; ')}. Fix it on the time page, or accept it with a reason.`,
        },
      ];
    if (state === null && !isExpected(scope, standardHours)) return [];
    const sentence = state ? `The timesheet is ${state}, not approved: its hours are not in the payslip.` : 'No timesheet yet.';
    return [{ ...row, key: `time:${row.personId}`, missing: state === null, sentence }];
  });
}

/** A later pay date that was reported to the agency before this one was paid, where every pay date is reported. */
async function reportedLater(scope: Scope, run: PayRun, transaction?: Transaction): Promise<string | undefined> {
  const codes = packFor(scope)
    .filings(scope.employer.facts.country)
    .flatMap(({ code, every }) => (every === 'pay-date' ? [code] : []));
  if (!codes.length) return undefined;
  const [later] = await select<{ date: string | null }>(
    scope.database,
    `select max(period) as date from filing_events where employer_id = :employer and filing in (:codes) and step = 'sent' and period > :payDate
       and not exists (select 1 from filing_events f where f.employer_id = :employer and f.filing in (:codes) and f.step = 'sent' and f.period = :payDate)`,
    { employer: scope.employer.id, codes, payDate: run.payDate },
    transaction,
  );
  return later?.date ?? undefined;
}

/** Who was paid for the run's period before it began, with an earlier pay. */
async function paidAhead(
  scope: Scope,
  run: PayRun,
  transaction?: Transaction,
): Promise<{ key: string; sentence: string; who: string; payslipId: string; personId: string }[]> {
  if (run.kind !== 'regular') return [];
  const rows = await select<{ payslipId: string; personId: string; who: string; payDate: string }>(
    scope.database,
    `select y.id as "payslipId", y.person_id as "personId", p.given_name || ' ' || p.family_name as who, a.pay_date as "payDate"
     from payslips y join people p on p.id = y.person_id
     join lateral (select r.pay_date from payslips e join pay_runs r on r.id = e.run_id and r.schedule_id = :schedule and r.period_to < :from
                   where e.person_id = y.person_id and e.state = 'posted' and (e.edits->>'ahead')::int * (r.period_to - r.period_from + 1) >= cast(:from as date) - r.period_to order by 1 desc limit 1) a on true
     where y.run_id = :run and y.included order by who`,
    { run: run.id, schedule: run.scheduleId, from: run.periodFrom },
    transaction,
  );
  return rows.map(({ payDate, ...row }) => ({
    ...row,
    key: `paid-ahead:${row.personId}`,
    sentence: `Paid for this period before, with the pay of ${writtenDate(payDate)}. Leave the payslip out, or accept that it is paid beside that.`,
  }));
}

/** Items that gave nothing, with how many people it struck. */
const givingNothing = (scope: Scope, run: PayRun, transaction?: Transaction): Promise<{ code: string; people: number }[]> =>
  select(
    scope.database,
    `select n.code, count(*) as people from payslips y join payslip_results x on x.payslip_id = y.id cross join lateral jsonb_array_elements_text(x.summary->'nothing') n(code)
     where y.run_id = :run and y.included and jsonb_exists(x.summary, 'nothing') group by n.code`,
    { run: run.id },
    transaction,
  );

async function holdersInRun(scope: Scope, run: PayRun, itemId: string, transaction?: Transaction): Promise<number> {
  const [counted] = await select<{ holders: number }>(
    scope.database,
    `select count(distinct y.person_id) as holders from person_items pi join payslips y on y.person_id = pi.person_id and y.run_id = :run and y.included
     where pi.item_id = :item`,
    { run: run.id, item: itemId },
    transaction,
  );
  return counted?.holders ?? 0;
}
