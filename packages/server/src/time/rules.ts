import { addDays, weekday, type TimeRules } from '@woodruff/core';
import { holidaysOf, packFor, type Scope } from '../users/scope';

/** The first day of the workweek that holds a date. */
export const weekOf = (date: string, weekBegins: number): string => addDays(date, -((weekday(date) - weekBegins + 7) % 7));

/** How the employer turns time into hours in a period: the law's part by the overtime rules chosen, and its own. Null while the pay items are not chosen. */
export function timeRulesOf(scope: Scope, from: string, to: string): TimeRules | null {
  const { facts } = scope.employer;
  const pack = packFor(scope);
  const law = pack.overtimeRules[facts.overtimeRules || 'weekly'];
  const { time } = facts;
  if (!law || !time?.items.ordinary || !time.items.overtime) return null;
  const { double, halfPremium, holiday, ...items } = time.items;
  const holidays: string[] = [];
  const isHoliday = holidaysOf(scope);
  if (holiday) for (let day = weekOf(from, time.weekBegins); day <= to; day = addDays(day, 1)) if (isHoliday(day)) holidays.push(day);
  return {
    code: facts.overtimeRules || 'weekly',
    ...law,
    weekBegins: time.weekBegins,
    items: { ...items, ...(double ? { double } : {}), ...(halfPremium ? { halfPremium } : {}), ...(holiday ? { holiday } : {}) },
    ...(holidays.length ? { holidays } : {}),
    ...(time.premiums.length ? { premiums: time.premiums } : {}),
  };
}
