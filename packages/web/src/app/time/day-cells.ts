import type { TimeLine, TimeRow } from '@woodruff/contract';
import { Exact } from '@woodruff/core';

/** A day as the grid shows it: the sum of its lines; empty when there are none. */
export function hoursOfDay(row: Pick<TimeRow, 'lines'>, date: string): string {
  const lines = row.lines.filter((line) => line.date === date);
  if (!lines.length) return '';
  return lines.reduce((sum, line) => sum.plus(Exact.of(line.hours)), Exact.whole(0)).toDecimal(2);
}

/** Whether typing into the cell says everything of the day: no clock, no second line, no other rate or item. */
export const isPlainDay = (row: Pick<TimeRow, 'lines'>, date: string): boolean => {
  const lines = row.lines.filter((line) => line.date === date);
  return lines.length < 2 && lines.every((line) => !line.begins && !line.rate && !line.item);
};

/** What was typed as the hours of a day: figures, hours and minutes with a colon, nothing for none. */
export function readDay(typed: string): { value: string | null } | { fault: string } {
  const text = typed.trim().replace(',', '.');
  if (text === '' || text === '–' || text === '0') return { value: null };
  const clock = /^(\d{1,2}):([0-5]\d)$/.exec(text);
  const value = clock
    ? Exact.of(clock[1]!)
        .plus(Exact.of(clock[2]!).over(Exact.whole(60)))
        .toDecimal(4)
    : text;
  if (!/^\d{1,2}(\.\d{1,4})?$/.test(value) || Exact.of(value).isAbove(Exact.whole(24)))
    return { fault: `“${typed}” was not taken: hours of a day are figures such as 8, 7.5 or 7:30, at most 24.` };
  return { value };
}

/** The lines of a person with one day as typed. */
export const withDay = (lines: TimeRow['lines'], date: string, hours: string | null): TimeLine[] =>
  [...lines.filter((line) => line.date !== date), ...(hours === null ? [] : [plainLine(date, hours)])].sort((a, b) =>
    a.date < b.date ? -1 : 1,
  );

export const plainLine = (date: string, hours: string): TimeLine => ({ date, hours, breakMinutes: 0, place: '' });
