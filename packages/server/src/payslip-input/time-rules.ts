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
  return { base, other, states: Object.fromEntries(facts.worksites.map(({ name, state }) => [name, state])) };
}

/** The rules that hold for somebody, by group and by the state of the worksite. */
export const rulesFor = ({ base, other, states }: EmployerTimeRules, person: { groupId: string | null; worksite: string }): TimeRules =>
  other.find(({ groupId, state }) => (groupId ? groupId === person.groupId : !!state && state === states[person.worksite]))?.rules ?? base;

function rulesBy(scope: Scope, code: string, withPremiums: boolean, from: string, to: string): TimeRules | null {
  const law = packFor(scope).overtimeRules[code];
  const { time } = scope.employer.facts;
  if (!law || !time?.items.ordinary || !time.items.overtime) return null;
  const { double, halfPremium, holiday, makeUp, ...items } = time.items;
  const holidays: string[] = [];
  const isHoliday = holidaysOf(scope);
  if (holiday) for (let day = weekOf(from, time.weekBegins); day <= to; day = addDays(day, 1)) if (isHoliday(day)) holidays.push(day);
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
