import { addDays, weekday, type PayItem, type TimeRules } from '@woodruff/core';
import { holidaysOf, packFor, type Scope } from '../scope';

/** The first day of the workweek that holds a date. */
export const weekOf = (date: string, weekBegins: number): string => addDays(date, -((weekday(date) - weekBegins + 7) % 7));

/** An employer's rules in a period: for everybody, and of groups and states in place of them. */
export interface EmployerTimeRules {
  base: TimeRules;
  other: { groupId?: string | null | undefined; state?: string | null | undefined; rules: TimeRules }[];
  /** States of the worksites, by name. */
  states: Record<string, string>;
  /** Holidays at worksites of places that have days of their own. */
  holidays: Record<string, string[]>;
}

/** How the employer turns time into hours in a period: the law's part by the overtime rules chosen, and its own. Null while the pay items are not chosen. */
export function timeRulesOf(scope: Scope, from: string, to: string): EmployerTimeRules | null {
  const { facts } = scope.employer;
  const { time } = facts;
  const base = rulesBy(scope, facts.overtimeRules || 'weekly', true, from, to);
  if (!base) return null;
  // The latest that are in force when the period begins go first; a group is closer to a person than a state.
  const other = [...(time.other ?? [])]
    .filter((one) => one.from <= from)
    .sort((a, b) => Number(!!b.groupId) - Number(!!a.groupId) || (a.from < b.from ? 1 : -1))
    .flatMap(({ groupId, state, overtimeRules, premiums }) => {
      const rules = rulesBy(scope, overtimeRules, premiums, from, to);
      return rules ? [{ groupId, state, rules }] : [];
    });
  const everywhere = base.holidays?.join() ?? '';
  const holidays = facts.worksites.flatMap(({ name }) => {
    const days = time.items.holiday ? holidaysIn(scope, from, to, name) : [];
    return days.join() === everywhere ? [] : [[name, days] as const];
  });
  return {
    base,
    other,
    states: Object.fromEntries(facts.worksites.map(({ name, state }) => [name, state])),
    holidays: Object.fromEntries(holidays),
  };
}

/** The rules that hold for somebody, by group and by the state of the worksite, with the holidays there. */
export function rulesFor(all: EmployerTimeRules, person: { groupId: string | null; worksite: string }): TimeRules {
  const own = all.other.find(({ groupId, state }) =>
    groupId ? groupId === person.groupId : !!state && state === all.states[person.worksite],
  );
  const rules = own?.rules ?? all.base;
  const holidays = all.holidays[person.worksite];
  return holidays ? { ...rules, holidays } : rules;
}

/** Holidays of a period and of the workweek that it begins in. */
function holidaysIn(scope: Scope, from: string, to: string, worksite?: string): string[] {
  const isHoliday = holidaysOf(scope, worksite);
  const days: string[] = [];
  for (let day = weekOf(from, scope.employer.facts.time?.weekBegins ?? 0); day <= to; day = addDays(day, 1))
    if (isHoliday(day)) days.push(day);
  return days;
}

function rulesBy(scope: Scope, code: string, withPremiums: boolean, from: string, to: string): TimeRules | null {
  const law = packFor(scope).overtimeRules[code];
  const { time } = scope.employer.facts;
  if (!law || !time?.items.ordinary || !time.items.overtime) return null;
  const { double, halfPremium, holiday, makeUp, ...items } = time.items;
  const holidays = holiday ? holidaysIn(scope, from, to) : [];
  return {
    code,
    ...law,
    weekBegins: time.weekBegins,
    items: {
      ...items,
      ...(double ? { double } : {}),
      ...(halfPremium ? { halfPremium } : {}),
      ...(holiday ? { holiday } : {}),
      ...(makeUp ? { makeUp } : {}),
    },
    ...(holidays.length ? { holidays } : {}),
    ...(withPremiums && time.premiums.length ? { premiums: time.premiums } : {}),
  };
}

/** Whether an item is tips, by its tax treatment. */
export function isTips(scope: Scope, item: PayItem): boolean {
  const { tipsBase, treatments } = packFor(scope);
  return !!tipsBase && treatments[item.treatment]?.counts[tipsBase] === 1;
}
