import type { TimePage, TimeRow } from '@woodruff/contract';
import {
  addDays,
  CannotCompute,
  hoursByRule,
  movedToBusinessDay,
  nextPeriod,
  Paper,
  periodOf,
  writtenDay,
  type LeavePlan,
  type PayItem,
  type PayPeriod,
  type Punch,
} from '@woodruff/core';
import { punchesOf } from '../clock/punches';
import { select } from '../database/connection';
import { termsOn } from '../payslip-input/leave-terms';
import { holidaysOf, type Scope } from '../scope';
import { changesAsked } from './changes';
import { daysOf, doubtsOf } from './doubts';
import { isExpected } from './expected';
import { isTips, rulesFor, timeRulesOf, type EmployerTimeRules } from '../payslip-input/time-rules';
import { lockOf } from './service';
import { periodAsked, sheetsOf, type Schedule, type Sheet } from './sheets';

/** The timesheets of a schedule's period: hourly people, their days, and the hours as the rules pay them. */
export async function timePage(
  scope: Scope,
  query: { scheduleId?: string | undefined; from?: string | undefined; person?: string | undefined },
): Promise<TimePage> {
  const { schedule, period } = await periodAsked(scope, query);
  const rules = timeRulesOf(scope, period.from, period.to);
  const rows = (await sheetsOf(scope, schedule, period, rules)).filter((row) => !query.person || row.personId === query.person);
  const items = await itemsOfTime(scope);
  const holiday = holidaysOf(scope);
  const plans = await termsOn(scope, period.to);
  const punches = await punchesOf(scope, period);
  const asked = await changesAsked(scope, period);
  const handInBy = cutOffOf(scope, schedule, period);
  return {
    scheduleId: schedule.id,
    schedule: schedule.name,
    ...period,
    handInBy,
    earlier: periodOf(schedule, addDays(period.from, -1), holiday).from,
    later: nextPeriod(schedule, period, holiday).from,
    rules: rules?.base.label ?? null,
    locked: await lockOf(scope, schedule.id, period.from),
    items,
    // Workings are for looking at one person: a thousand of them are not sent.
    rows: rows.map((row) => ({
      ...viewOf(
        scope,
        row,
        period,
        rules,
        new Map(items.map((item) => [item.code, item.name])),
        plans,
        punches.get(row.personId) ?? [],
        asked.get(row.personId) ?? [],
        handInBy !== null && handInBy < scope.employer.today ? handInBy : null,
        !!query.person,
      ),
    })),
  };
}

/** The last business day on which the period's time is handed in. */
function cutOffOf(scope: Scope, schedule: Schedule, period: PayPeriod): string | null {
  if (schedule.timeCutOff === null) return null;
  return movedToBusinessDay(addDays(period.to, schedule.timeCutOff), 'previous', holidaysOf(scope));
}

/** What a day's line can be for beside time worked. */
export async function itemsOfTime(scope: Scope): Promise<TimePage['items']> {
  const rows = await select<{ definition: PayItem }>(
    scope.database,
    `select definition from pay_items where employer_id = :employer and not retired order by (definition->>'order')::int`,
    { employer: scope.employer.id },
  );
  return rows.flatMap(({ definition: item }) => {
    const per = item.method.by === 'hours' ? 'hours' : item.method.by === 'pieces' ? 'pieces' : isTips(scope, item) ? 'tips' : null;
    return per ? [{ code: item.code, name: item.name, per }] : [];
  });
}

function viewOf(
  scope: Scope,
  sheet: Sheet,
  period: PayPeriod,
  all: EmployerTimeRules | null,
  names: ReadonlyMap<string, string>,
  plans: ReadonlyMap<string, LeavePlan>,
  punches: readonly Punch[],
  asked: TimeRow['asked'],
  late: string | null,
  withWorkings: boolean,
): TimeRow {
  const lines = sheet.lines ?? [];
  const rules = all && rulesFor(all, sheet);
  const { entries, away } = daysOf(sheet, plans);
  const points: string[] = [];
  if (!sheet.sheetId && isExpected(scope, sheet.standardHours))
    points.push(late ? `No timesheet, and it was due by ${writtenDay(late).slice(0, -5)}` : 'No timesheet yet');
  points.push(...doubtsOf(scope, sheet, period, plans, punches));
  let paid: TimeRow['paid'] = [];
  let workings: TimeRow['workings'] = {};
  if (rules && lines.length)
    try {
      const paper = new Paper(withWorkings);
      const ruled = hoursByRule({ rules, entries: [...(sheet.before ?? []), ...entries] }, period, sheet.rates ?? [], paper);
      const several = new Set(ruled.hours.map((one) => one.rate)).size > 1;
      const rateLabels = new Map([...(sheet.rates ?? []), ...ruled.rates].map((rate) => [rate.primary ? 'primary' : rate.id, rate.label]));
      paid = ruled.hours.map(({ item, rate, hours, figure }) => ({
        item,
        label: `${names.get(item) ?? item}${several && rateLabels.get(rate) ? `, ${rateLabels.get(rate) ?? ''}` : ''}`,
        hours,
        figure: figure.key,
      }));
      workings = paper.workings;
    } catch (error) {
      if (!(error instanceof CannotCompute)) throw error;
      points.push(error.message);
    }
  return {
    personId: sheet.personId,
    name: sheet.name,
    code: sheet.code,
    department: sheet.department,
    rates: (sheet.rates ?? [])
      .filter((rate) => !rate.primary && rate.per === 'hour')
      .map(({ id, label }) => ({ id, label: [label, ...jobsAt(sheet, id)].join(': ') })),
    state: sheet.state ?? 'none',
    comment: sheet.comment ?? '',
    version: sheet.version ?? 0,
    lines,
    asked,
    leave: away,
    paid,
    workings,
    points,
    rules: rules && all && rules !== all.base ? rules.label : '',
  };
}

/** What somebody does at a rate, by the positions held. */
export const jobsAt = ({ positions }: Pick<Sheet, 'positions'>, rate: string): string[] =>
  (positions ?? []).flatMap((position) => (position.rate === rate ? [position.job] : []));
