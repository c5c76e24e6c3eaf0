import type { Edits } from '@woodruff/contract';
import {
  Exact,
  packOf,
  PAYSLIP_INPUT_FORMAT,
  payDatesInYear,
  yearOf,
  type Balances,
  type HoursEntry,
  type ItemOnPayslip,
  type PayItem,
  type PaySchedule,
  type PayslipInput,
  type Rate,
} from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import type { Scope } from '../users/scope';

/** What all payslips of a run share. */
export interface RunFacts {
  country: string;
  pay: PayslipInput['pay'];
  employer: Record<string, unknown>;
  items: Map<string, PayItem>;
  hourItems: PayItem[];
  salaryItem: PayItem | undefined;
}

/** One person's facts as they stand for a pay date. */
export interface PersonFacts {
  payslipId: string;
  personId: string;
  name: string;
  born: string | null;
  standardHours: string | null;
  edits: Edits;
  rates: Rate[] | null;
  tax: unknown;
  items:
    { id: string; code: string; amount: string | null; percent: string | null; limits: object | null; orderFacts: object | null }[] | null;
  balances: Balances | null;
}

interface RunRow {
  id: string;
  scheduleId: string;
  periodFrom: string;
  periodTo: string;
  payDate: string;
}

export async function loadRunFacts(scope: Scope, run: RunRow, transaction?: Transaction): Promise<RunFacts> {
  const [schedule] = await select<PaySchedule>(
    scope.database,
    'select frequency, anchor, pay_date_offset as "payDateOffset", move from pay_schedules where id = :id and employer_id = :employer',
    { id: run.scheduleId, employer: scope.employer.id },
    transaction,
  );
  if (!schedule) throw new Error(`run ${run.id} has no schedule`);
  const definitions = await select<{ definition: PayItem }>(
    scope.database,
    'select definition from pay_items where employer_id = :employer and not retired',
    { employer: scope.employer.id },
    transaction,
  );
  const items = definitions.map((row) => row.definition).sort((a, b) => a.order - b.order);
  const pack = packOf(scope.employer.country);
  return {
    country: scope.employer.country,
    pay: {
      date: run.payDate,
      from: run.periodFrom,
      to: run.periodTo,
      frequency: schedule.frequency,
      payDatesInYear: payDatesInYear(schedule, yearOf(run.payDate), (date) => pack.isHoliday(date)),
    },
    employer: scope.employer.facts.country,
    items: new Map(items.map((item) => [item.code, item])),
    hourItems: items.filter((item) => item.method.by === 'hours'),
    salaryItem: items.find((item) => item.method.by === 'salary'),
  };
}

/** Facts of all people of a run in one statement, so that the cost per person does not grow with people or past runs. */
export function loadPeopleFacts(
  scope: Scope,
  run: RunRow,
  payslipIds: readonly string[] | undefined,
  transaction?: Transaction,
): Promise<PersonFacts[]> {
  const taxYear = packOf(scope.employer.country).taxYearOf(run.payDate).label;
  return select<PersonFacts>(
    scope.database,
    `with wanted as (
       select y.id, y.person_id, y.edits from payslips y where y.run_id = :run ${payslipIds ? 'and y.id in (:payslipIds)' : ''}
     ), rates as (
       select distinct on (r.person_id, r.series) r.person_id, r.series, r.is_primary,
              json_build_object('id', r.series, 'label', r.label, 'per', r.per, 'amount', trim_scale(r.amount)::text, 'from', r.from_date, 'primary', r.is_primary) as rate
       from pay_rates r join wanted w on w.person_id = r.person_id where r.from_date <= :periodTo order by r.person_id, r.series, r.from_date desc
     ), all_rates as (
       select person_id, json_agg(rate order by is_primary desc, series) as rates from rates group by person_id
     ), tax as (
       select distinct on (t.person_id) t.person_id, t.facts from tax_details t join wanted w on w.person_id = t.person_id where t.from_date <= :payDate order by t.person_id, t.from_date desc
     ), items as (
       select pi.person_id, json_agg(json_build_object('id', pi.id, 'code', i.code, 'amount', pi.amount::text, 'percent', trim_scale(pi.percent)::text, 'limits', pi.limits, 'orderFacts', pi.order_facts) order by i.code) as items
       from person_items pi join wanted w on w.person_id = pi.person_id join pay_items i on i.id = pi.item_id
       where pi.from_date <= :payDate and (pi.to_date is null or pi.to_date >= :payDate) and not i.retired group by pi.person_id
     ), sums as (
       select b.person_id, b.code, sum(b.amount) filter (where b.tax_year = :taxYear) as year, sum(b.amount) as in_all
       from balances b join wanted w on w.person_id = b.person_id group by b.person_id, b.code
     ), all_sums as (
       select person_id, json_object_agg(code, json_build_object('year', coalesce(year, 0), 'inAll', in_all)) as balances from sums group by person_id
     )
     select w.id as "payslipId", p.id as "personId", p.given_name || ' ' || p.family_name as name, p.born, trim_scale(p.standard_hours)::text as "standardHours", w.edits,
            r.rates, t.facts as tax, i.items, s.balances
     from wanted w join people p on p.id = w.person_id and p.employer_id = :employer
     left join all_rates r on r.person_id = p.id left join tax t on t.person_id = p.id left join items i on i.person_id = p.id left join all_sums s on s.person_id = p.id
     order by p.family_name, p.given_name, p.code`,
    { run: run.id, payslipIds, employer: scope.employer.id, periodTo: run.periodTo, payDate: run.payDate, taxYear },
    transaction,
  );
}

/** Hours of a person are entered by column: an hour item's code, or `code@2` on the second rate. */
export const SECOND_RATE = '@2';

/** The payslip's input from set-up and the edits of this run. */
export function inputOf(run: RunFacts, person: PersonFacts): PayslipInput {
  const rates = person.rates ?? [];
  const primary = rates.find((rate) => rate.primary) ?? rates[0];
  const hourly = primary?.per === 'hour';
  const items: ItemOnPayslip[] = [];
  if (primary && !hourly && run.salaryItem) items.push({ item: run.salaryItem });
  for (const held of person.items ?? []) {
    const item = run.items.get(held.code);
    if (item) items.push(onPayslip(item, held, person.balances));
  }
  return {
    format: PAYSLIP_INPUT_FORMAT,
    country: run.country,
    pay: run.pay,
    person: person.born === null ? { name: person.name } : { name: person.name, born: person.born },
    employer: run.employer,
    tax: person.tax ?? {},
    rates,
    hourItems: run.hourItems,
    hours: hoursOf(run, person, rates),
    items,
    oneOffs: (person.edits.oneOffs ?? []).flatMap((oneOff) => {
      const item = run.items.get(oneOff.item);
      return item ? [{ id: oneOff.id, item, amount: oneOff.amount, ...(oneOff.note ? { note: oneOff.note } : {}) }] : [];
    }),
    leftOut: person.edits.leftOut ?? [],
    overrides: person.edits.overrides ?? [],
    balances: person.balances ?? {},
  };
}

/** Hours by column as they count: those entered, else the standard hours on the first item. */
export function hoursByColumn(
  run: RunFacts,
  person: Pick<PersonFacts, 'edits' | 'standardHours'>,
  hourly: boolean,
): Record<string, string> {
  const entered = person.edits.hours ?? {};
  const first = run.hourItems[0]?.code;
  if (!hourly || first === undefined || entered[first] !== undefined || person.standardHours === null) return entered;
  // Leave taken out of the standard week, and hours on the second rate, are hours not worked on the first.
  const others = Object.entries(entered).filter(([column]) => column !== first && (column.endsWith(SECOND_RATE) || isPlain(run, column)));
  let rest = Exact.of(person.standardHours);
  for (const [, hours] of others) rest = rest.minus(Exact.of(hours));
  return { ...entered, [first]: rest.atLeast(Exact.whole(0)).toDecimal(2) };
}

const isPlain = (run: RunFacts, column: string): boolean => {
  const method = run.items.get(column)?.method;
  return method?.by === 'hours' && Exact.of(method.multiple).equals(Exact.whole(1));
};

function hoursOf(run: RunFacts, person: PersonFacts, rates: Rate[]): HoursEntry[] {
  const primary = rates.find((rate) => rate.primary);
  const second = rates.find((rate) => !rate.primary && rate.per === 'hour');
  return Object.entries(hoursByColumn(run, person, primary?.per === 'hour')).flatMap(([column, hours]) => {
    const onSecond = column.endsWith(SECOND_RATE);
    const rate = onSecond ? second?.id : primary?.id;
    return [{ item: onSecond ? column.slice(0, -SECOND_RATE.length) : column, rate: rate ?? '', hours }];
  });
}

function onPayslip(item: PayItem, held: NonNullable<PersonFacts['items']>[number], balances: Balances | null): ItemOnPayslip {
  const entry: ItemOnPayslip = { item, id: held.id };
  if (held.amount !== null) entry.amount = held.amount;
  if (held.percent !== null) entry.percent = held.percent;
  if (held.limits !== null) entry.limits = held.limits;
  if (held.orderFacts !== null) entry.orderFacts = held.orderFacts;
  const carried = balances?.[`carried:${item.code}`]?.inAll ?? 0;
  if (item.shortfall === 'carry-forward' && carried > 0) entry.carried = Exact.minor(carried).toDecimal(2);
  return entry;
}
