import { addDays, dateOf, lastOfMonth, weekday, yearOf, type IsoDate } from '../../calendar/dates';
import { easterOf } from '../../calendar/easter';

const known = new Map<string, ReadonlySet<IsoDate>>();

/**
 * Bank holidays (Banking and Financial Dealings Act 1971, schedule 1, and those proclaimed each year): of England and
 * Wales, by which banks clear payments, or of Scotland (GB-SCT) and Northern Ireland (GB-NIR). A day proclaimed once
 * only, for an event, is the employer's to enter.
 */
export function isBankHoliday(date: IsoDate, place = 'GB-EAW'): boolean {
  const nation = place === 'GB-SCT' || place === 'GB-NIR' ? place : 'GB-EAW';
  const key = `${nation} ${yearOf(date)}`;
  let days = known.get(key);
  if (!days) known.set(key, (days = new Set(holidaysOf(yearOf(date), nation))));
  return days.has(date);
}

function holidaysOf(year: number, nation: string): IsoDate[] {
  const easter = easterOf(year);
  const shared = [addDays(easter, -2), firstMonday(year, 5), lastMonday(year, 5), ...inTurn(dateOf(year, 12, 25), dateOf(year, 12, 26))];
  if (nation === 'GB-SCT')
    return [...shared, ...inTurn(dateOf(year, 1, 1), dateOf(year, 1, 2)), firstMonday(year, 8), ...inTurn(dateOf(year, 11, 30))];
  const ofMost = [...shared, ...inTurn(dateOf(year, 1, 1)), addDays(easter, 1), lastMonday(year, 8)];
  return nation === 'GB-NIR' ? [...ofMost, ...inTurn(dateOf(year, 3, 17)), ...inTurn(dateOf(year, 7, 12))] : ofMost;
}

/** Days that stand one after the other; what falls on a weekend is kept on the next weekdays that are free. */
function inTurn(...days: IsoDate[]): IsoDate[] {
  const kept = days.filter((day) => !isWeekend(day));
  for (const day of days.filter(isWeekend)) {
    let free = day;
    while (isWeekend(free) || kept.includes(free)) free = addDays(free, 1);
    kept.push(free);
  }
  return kept;
}

const isWeekend = (date: IsoDate): boolean => weekday(date) === 0 || weekday(date) === 6;

const firstMonday = (year: number, month: number): IsoDate => {
  const first = dateOf(year, month, 1);
  return addDays(first, (8 - weekday(first)) % 7);
};

const lastMonday = (year: number, month: number): IsoDate => {
  const last = lastOfMonth(year, month);
  return addDays(last, -((weekday(last) + 6) % 7));
};
