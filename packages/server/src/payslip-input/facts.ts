import {
  dateOf,
  packOf,
  payDatesInYear,
  periodsPaidWithin,
  placeOf,
  quarterOf,
  yearOf,
  type PayItem,
  type PaySchedule,
} from '@woodruff/core';
import type { SpecialRules } from '@woodruff/contract';
import { select, type Transaction } from '../database/connection';
import { LEAVE, termsOn } from './leave-terms';
import { ratesInForce } from './rates-in-force';
import { isTips, timeRulesOf, weekOf } from './time-rules';
import { holidaysOf, packFor, type Scope } from '../scope';
import type { PersonFacts, RunFacts } from './input';

interface RunRow {
  kind: string;
  scheduleId: string;
  periodFrom: string;
  periodTo: string;
  payDate: string;
  rules?: SpecialRules | null;
}

/** Whether the run's tax is reckoned together with the latest regular pay. */
const addsToEarlierPay = (scope: Scope, rules?: SpecialRules | null): boolean =>
  packFor(scope).paidBeside.methods.some(({ code, withEarlierPay }) => code === rules?.taxMethod && withEarlierPay);

export async function loadRunFacts(scope: Scope, run: RunRow, transaction?: Transaction): Promise<RunFacts> {
  const [schedule] = await select<PaySchedule>(
    scope.database,
    'select frequency, anchor, pay_date_offset as "payDateOffset", move from pay_schedules where id = :id and employer_id = :employer',
    { id: run.scheduleId, employer: scope.employer.id },
    transaction,
  );
  if (!schedule) throw new Error(`there is no schedule ${run.scheduleId}`);
  const definitions = await select<{ definition: PayItem }>(
    scope.database,
    'select definition from pay_items where employer_id = :employer and not retired',
    { employer: scope.employer.id },
    transaction,
  );
  const items = definitions.map((row) => row.definition).sort((a, b) => a.order - b.order);
  const holiday = holidaysOf(scope);
  return {
    country: scope.employer.country,
    pay: {
      date: run.payDate,
      from: run.periodFrom,
      to: run.periodTo,
      frequency: schedule.frequency,
      payDatesInYear: payDatesInYear(schedule, yearOf(run.payDate), holiday),
      ...payDatesInTaxYear(scope, schedule, run.payDate),
      place: placeOf(schedule, run.payDate, holiday),
      ...(run.kind === 'special' ? { special: true } : {}),
      ...(run.rules?.taxMethod === undefined ? {} : { taxMethod: run.rules.taxMethod }),
    },
    employer: scope.employer.facts.country,
    items: new Map(items.map((item) => [item.code, item])),
    hourItems: items.filter((item) => item.method.by === 'hours'),
    timeItems: items.filter((item) => item.code === scope.employer.facts.time?.items.makeUp || isTips(scope, item)),
    salaryItem: items.find((item) => item.method.by === 'salary'),
    minimumWages: scope.employer.facts.time?.minimumWages ?? [],
    spans: packFor(scope).looksAtQuarter === true || (await hasShortLimits(scope, transaction)),
    rules: run.rules ?? null,
    some: await whatThereIs(scope, transaction),
    leavePlans: await termsOn(scope, run.periodTo, transaction),
    timeRules: run.kind === 'regular' || run.kind === 'correction' ? timeRulesOf(scope, run.periodFrom, run.periodTo) : null,
  };
}

/** Of a country whose tax year is not the calendar's, where its taxes go by how many pay dates it has. */
function payDatesInTaxYear(scope: Scope, schedule: PaySchedule, payDate: string): { payDatesInTaxYear?: number } {
  const pack = packFor(scope);
  if (!pack.countsPayDates) return {};
  const { from, to } = pack.taxYearOf(payDate);
  return { payDatesInTaxYear: periodsPaidWithin(schedule, from, to, holidaysOf(scope)).length };
}

/** Whether anybody has an exemption, and any one-off is taken by a draft: only then are they looked up person by person. */
async function whatThereIs(scope: Scope, transaction?: Transaction): Promise<RunFacts['some']> {
  const [found] = await select<RunFacts['some']>(
    scope.database,
    `select exists (select 1 from standing_taxes st join people p on p.id = st.person_id where p.employer_id = :employer) as "standingTaxes",
            exists (select 1 from leave_plans where employer_id = :employer) as leave,
            exists (select 1 from recoveries where employer_id = :employer and ended is null) as recoveries,
            exists (select 1 from one_offs where employer_id = :employer and payslip_id is not null) as "oneOffs"`,
    { employer: scope.employer.id },
    transaction,
  );
  return found ?? { standingTaxes: true, oneOffs: true, leave: true, recoveries: true };
}

/** Whether any item or anybody's item has a limit by period, month or quarter; only then are such sums looked up. */
async function hasShortLimits(scope: Scope, transaction?: Transaction): Promise<boolean> {
  const [found] = await select<{ any: boolean }>(
    scope.database,
    `select exists (select 1 from pay_items i where i.employer_id = :employer and not i.retired and (
              jsonb_exists_any(i.definition->'limits', array['perPeriod', 'perMonth', 'perQuarter'])
              or exists (select 1 from person_items pi where pi.item_id = i.id and jsonb_exists_any(pi.limits, array['perPeriod', 'perMonth', 'perQuarter'])))) as any`,
    { employer: scope.employer.id },
    transaction,
  );
  return found?.any ?? false;
}

const PAYSLIPS = 'payslips y join people p on p.id = y.person_id and p.employer_id = :employer where y.id in (:payslipIds)';
/** People without a payslip yet, as for an empty one. */
const NO_PAYSLIP = `(select id, null::uuid as payslip, '{}'::jsonb as edits from people where id in (:people)) y join people p on p.id = y.id and p.employer_id = :employer`;

/** Sums of a person's lines in the month, the quarter and the pay period of the run. */
const SPANS = `(select json_object_agg(m.code, json_build_object('month', m.month, 'quarter', m.quarter, 'period', m.period))
              from (select l.code, coalesce(sum(l.amount) filter (where to_char(l.counts_on, 'YYYY-MM') = :month), 0) as month,
                           coalesce(sum(l.amount) filter (where l.counts_on >= :quarterFrom and l.counts_on < :quarterFrom::date + interval '3 months'), 0) as quarter,
                           coalesce(sum(l.amount) filter (where r.period_from = :periodFrom and r.period_to = :periodTo), 0) as period
                    from ledger_lines l join pay_runs r on r.id = l.run_id
                    where l.person_id = p.id and (l.counts_on >= :quarterFrom or (r.period_from = :periodFrom and r.period_to = :periodTo)) group by l.code) m)`;

/**
 * Sums of the payments in the country's earnings period that are reckoned with this one. A regular payslip has a period of
 * its own, even where two of them are paid within one of the law's.
 */
const EARNINGS = `(select json_object_agg(m.code, m.amount)
              from (select l.code, sum(l.amount) as amount from ledger_lines l join payslips ye on ye.id = l.payslip_id and ye.state = 'posted' join pay_runs re on re.id = l.run_id
                    where l.person_id = p.id and l.counts_on between :earningsFrom and :earningsTo and (re.kind = 'special' or (:special and re.kind in ('regular', 'correction'))) and ye.id is distinct from y.id group by l.code) m)`;

/** Taxes that are not taken by their rules on the pay date. */
const STANDING = `(select json_agg(json_strip_nulls(json_build_object('tax', st.tax, 'instead', st.instead, 'value', trim_scale(st.value)::text, 'reason', st.reason, 'from', st.from_date, 'to', st.to_date)) order by st.tax)
             from standing_taxes st where st.person_id = p.id and st.from_date <= :payDate and (st.to_date is null or st.to_date >= :payDate))`;

/** One-offs that were waiting and that the payslip takes. */
const TAKEN = `(select json_agg(json_strip_nulls(json_build_object('id', o.id, 'item', i.code, 'amount', o.amount::text, 'note', nullif(o.note, ''), 'part', o.part, 'earned', o.earned)) order by o.number)
             from one_offs o join pay_items i on i.id = o.item_id where o.payslip_id = y.id)`;

/** Approved time of the period, with that of the days before it in a workweek that reaches into it. */
const TIME = `(select json_agg(json_strip_nulls(json_build_object('date', t.on_date, 'hours', trim_scale(t.hours)::text, 'rate', t.rate, 'item', t.item, 'quantity', trim_scale(t.quantity)::text, 'from', t.begins, 'to', t.ends, 'label', nullif(t.place, ''))) order by t.on_date, t.id)
              from time_entries t where t.person_id = p.id and t.on_date between :timeFrom and :periodTo
                and exists (select 1 from timesheets s where s.person_id = p.id and s.period_from = :periodFrom and s.state = 'approved'))`;

/** Pay that is taken back over several payslips, with what is left of it. */
const RECOVERIES = `(select json_agg(json_build_object('id', v.id, 'item', i.code, 'left', v.total - coalesce((select sum(l.amount) from ledger_lines l where l.person_id = p.id and l.code = 'recovered:' || v.id), 0),
                'perPayslip', (v.per_payslip / 100.0)::numeric(12, 2)::text, 'reason', v.reason) order by v.entered_at)
              from recoveries v join pay_items i on i.id = v.item_id where v.person_id = p.id and v.ended is null)`;

/** The latest regular payslip before the run's pay date, its lines summed by code. */
const EARLIER_PAY = `(select json_build_object('date', e.pay_date, 'lines', (select json_object_agg(s.code, s.amount) from (select l.code, sum(l.amount) as amount from ledger_lines l where l.payslip_id = e.id group by l.code) s))
              from (select ye.id, re.pay_date from payslips ye join pay_runs re on re.id = ye.run_id
                    where ye.person_id = p.id and ye.state = 'posted' and re.kind in ('regular', 'correction') and re.pay_date <= :payDate order by re.pay_date desc limit 1) e)`;

/** How employment ended, or ends within the period. */
const ENDING = `(select json_strip_nulls(json_build_object('kind', coalesce(g.entered->>'kind', ''), 'lastDay', g.last_day, 'hired', p.hired)) from leavings g where g.person_id = p.id and g.undone_at is null and g.last_day <= :periodTo)`;

/** What was earned in the periods before by regular pay, where a plan pays leave at an average of it. */
const EARNED_BEFORE = `(select json_agg(json_build_object('from', e.period_from, 'to', e.period_to, 'pay', e.pay, 'hours', e.hours::text, 'away', e.away) order by e.period_from desc)
              from (select r.period_from, r.period_to, coalesce(sum(l.amount) filter (where l.code = :averaged), 0)::bigint as pay, coalesce(sum(l.quantity) filter (where l.kind = 'earning'), 0) as hours, bool_or(l.code = any(cast(:averagedAway as text[]))) as away
                    from ledger_lines l join pay_runs r on r.id = l.run_id and r.kind in ('regular', 'correction')
                    where l.person_id = p.id and r.period_to < :periodFrom and r.period_from >= cast(:periodFrom as date) - 735 group by 1, 2) e)`;

/** Leave by law within the period, where ordinary pay does not go on. */
const AWAY = `(select json_agg(json_build_object('from', greatest(w.from_date, cast(:periodFrom as date)), 'to', least(w.to_date, cast(:periodTo as date)), 'kind', w.kind) order by w.from_date)
              from law_leaves w where w.person_id = p.id and w.undone is null and not w.pays_on and w.from_date <= :periodTo and w.to_date >= :periodFrom)`;

/** Facts of the people behind payslips in one statement, so that the cost per person does not grow with people or past runs. */
export function loadPeopleFacts(
  scope: Scope,
  run: RunRow,
  of: readonly string[] | { people: readonly string[] },
  { spans, timeRules, some, pay, leavePlans }: Pick<RunFacts, 'spans' | 'timeRules' | 'some' | 'pay' | 'leavePlans'>,
  transaction?: Transaction,
): Promise<PersonFacts[]> {
  const month = run.payDate.slice(0, 7);
  const quarterFrom = dateOf(yearOf(run.payDate), quarterOf(run.payDate) * 3 - 2, 1);
  const pack = packOf(scope.employer.country);
  const taxYear = pack.taxYearOf(run.payDate).label;
  const together = pack.earningsPeriod?.(run.payDate, pay.frequency);
  const { taxedByEnding } = pack.leaving;
  const averaged = [...leavePlans.values()].some(({ paidAt }) => paidAt) ? pack.averageLeavePay : undefined;
  return select<PersonFacts>(
    scope.database,
    // Looked up person by person through indexes: linear whatever the planner believes about a table that has just been filled.
    `select y.id as "payslipId", p.id as "personId", p.given_name || ' ' || p.family_name as name, p.born, p.kind, p.number_last4 is not null and coalesce(p.number_refused > :payDate, true) as "hasNumber", p.hired, p."left", p.group_id as "groupId", p.worksite, trim_scale(p.standard_hours)::text as "standardHours", y.edits,
            ${ratesInForce('periodTo', 'timeFrom')} as rates,
            (select t.facts from tax_details t where t.person_id = p.id and t.from_date <= :payDate order by t.from_date desc limit 1) as tax,
            ${some.standingTaxes ? STANDING : 'null'} as "standingTaxes",
            (select json_agg(json_build_object('id', pi.id, 'code', i.code, 'amount', pi.amount::text, 'percent', trim_scale(pi.percent)::text, 'limits', pi.limits, 'orderFacts', pi.order_facts) order by i.code)
             from person_items pi join pay_items i on i.id = pi.item_id
             where pi.person_id = p.id and pi.from_date <= :payDate and (pi.to_date is null or pi.to_date >= :payDate) and not i.retired) as items,
            (select json_object_agg(b.code, json_build_object('year', b.year, 'inAll', b.in_all))
             from (select code, coalesce(sum(amount) filter (where tax_year = :taxYear), 0) as year, sum(amount) as in_all from balances where person_id = p.id group by code) b) as balances,
            ${some.oneOffs ? TAKEN : 'null'} as taken,
            ${timeRules ? TIME : 'null'} as time,
            ${some.leave ? LEAVE : 'null'} as leave,
            ${packFor(scope).leaveByLaw ? AWAY : 'null'} as away,
            ${averaged ? EARNED_BEFORE : 'null'} as "earnedBefore",
            ${some.recoveries ? RECOVERIES : 'null'} as recoveries,
            ${addsToEarlierPay(scope, run.rules) ? EARLIER_PAY : taxedByEnding ? `case when p."left" <= :periodTo then ${EARLIER_PAY} end` : 'null'} as "earlierPay",
            ${taxedByEnding ? ENDING : 'null'} as ending,
            ${spans ? SPANS : 'null'} as spans,
            ${together ? EARNINGS : 'null'} as earnings
     from ${'people' in of ? NO_PAYSLIP : PAYSLIPS} order by p.family_name, p.given_name, p.code`,
    {
      payslipIds: 'people' in of ? [null] : of,
      people: 'people' in of ? of.people : [null],
      employer: scope.employer.id,
      periodFrom: run.periodFrom,
      periodTo: run.periodTo,
      payDate: run.payDate,
      taxYear,
      month,
      quarterFrom,
      earningsFrom: together?.from ?? run.payDate,
      earningsTo: together?.to ?? run.payDate,
      special: pay.special ?? false,
      averaged: averaged?.earnings ?? '',
      averagedAway: `{${(averaged?.away ?? []).join()}}`,
      timeFrom: timeRules ? weekOf(run.periodFrom, timeRules.base.weekBegins) : run.periodFrom,
    },
    transaction,
  );
}
