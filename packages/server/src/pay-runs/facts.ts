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
    // Looked up person by person through indexes: linear whatever the planner believes about a table that has just been filled.
    `select y.id as "payslipId", p.id as "personId", p.given_name || ' ' || p.family_name as name, p.born, trim_scale(p.standard_hours)::text as "standardHours", y.edits,
            (select json_agg(json_build_object('id', r.series, 'label', r.label, 'per', r.per, 'amount', trim_scale(r.amount)::text, 'from', r.from_date, 'primary', r.is_primary) order by r.is_primary desc, r.series)
             from (select distinct on (series) * from pay_rates where person_id = p.id and from_date <= :periodTo order by series, from_date desc) r) as rates,
            (select t.facts from tax_details t where t.person_id = p.id and t.from_date <= :payDate order by t.from_date desc limit 1) as tax,
            (select json_agg(json_build_object('id', pi.id, 'code', i.code, 'amount', pi.amount::text, 'percent', trim_scale(pi.percent)::text, 'limits', pi.limits, 'orderFacts', pi.order_facts) order by i.code)
             from person_items pi join pay_items i on i.id = pi.item_id
             where pi.person_id = p.id and pi.from_date <= :payDate and (pi.to_date is null or pi.to_date >= :payDate) and not i.retired) as items,
            (select json_object_agg(b.code, json_build_object('year', b.year, 'inAll', b.in_all))
             from (select code, coalesce(sum(amount) filter (where tax_year = :taxYear), 0) as year, sum(amount) as in_all from balances where person_id = p.id group by code) b) as balances
     from payslips y join people p on p.id = y.person_id and p.employer_id = :employer
     where y.run_id = :run ${payslipIds ? 'and y.id in (:payslipIds)' : ''} order by p.family_name, p.given_name, p.code`,
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
