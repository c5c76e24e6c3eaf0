import type { EmployerFacts } from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';

export const WEEKDAYS = ['Sunday', 'Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday'];

export const CLOCK_WORDS: { minutes: EmployerFacts['time']['clockStep']; words: string }[] = [
  { minutes: 0, words: 'to the minute' },
  { minutes: 5, words: 'to the nearest 5 minutes' },
  { minutes: 6, words: 'to the nearest tenth of an hour' },
  { minutes: 15, words: 'to the nearest quarter of an hour' },
];

export const EXPECTED_WORDS: Record<EmployerFacts['time']['expected'], string> = {
  nobody: 'nobody',
  'without-standard-hours': 'hourly people without standard hours',
  hourly: 'all hourly people',
};

/** The rules of time as they are read: what, and how it is. What an employer does not have is not told. */
export function timeRulesInWords(
  { time, holidays, overtimeRules }: Pick<EmployerFacts, 'time' | 'holidays' | 'overtimeRules'>,
  law: readonly { code: string; label: string }[],
  groups: readonly { id: string; name: string }[] = [],
): { label: string; words: string }[] {
  const overtime = (code: string) => law.find((rule) => rule.code === code)?.label ?? 'not chosen';
  const whom = ({ groupId, state }: EmployerFacts['time']['other'][number]) =>
    groupId ? (groups.find((group) => group.id === groupId)?.name ?? 'a group') : `worksites in ${state ?? ''}`;
  return [
    { label: 'Overtime', words: overtime(overtimeRules) },
    ...time.other.map((other) => ({
      label: `Overtime, ${whom(other)}`,
      words: `${overtime(other.overtimeRules)}, from ${writtenDate(other.from)}${other.premiums ? '' : ', without premiums'}`,
    })),
    { label: 'A workweek begins on', words: WEEKDAYS[time.weekBegins] ?? '' },
    { label: 'Timesheets are expected of', words: EXPECTED_WORDS[time.expected] },
    { label: 'Times of the clock are taken', words: CLOCK_WORDS.find((one) => one.minutes === time.clockStep)?.words ?? '' },
    ...time.premiums.map(({ label, from, to, perHour }) => ({
      label: `Premium, ${label}`,
      words: `${perHour} an hour from ${from} to ${to}`,
    })),
    ...time.minimumWages.map(({ worksite, from, amount }) => ({
      label: `Minimum wage, ${worksite}`,
      words: `${amount} an hour from ${writtenDate(from)}`,
    })),
    ...(holidays.length
      ? [{ label: 'Extra holidays', words: holidays.map(({ date, label }) => `${label}, ${writtenDate(date)}`).join('; ') }]
      : []),
  ];
}
