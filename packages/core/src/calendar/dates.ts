/** A calendar date without time zone, as ISO text: "2026-11-27". Texts of this form sort as dates do. */
export type IsoDate = string;

const DAY = 86_400_000;

/** True for an existing date written YYYY-MM-DD. */
export function isDate(text: string): boolean {
  return /^\d{4}-\d{2}-\d{2}$/.test(text) && !Number.isNaN(Date.parse(text)) && fromDay(toDay(text)) === text;
}

/** Days since 1 Jan 1970. */
export const toDay = (date: IsoDate): number => Math.round(Date.parse(`${date}T00:00:00Z`) / DAY);

export const fromDay = (day: number): IsoDate => new Date(day * DAY).toISOString().slice(0, 10);

export const addDays = (date: IsoDate, days: number): IsoDate => fromDay(toDay(date) + days);

/** Days from the first date to the second; negative when the second is earlier. */
export const daysBetween = (from: IsoDate, to: IsoDate): number => toDay(to) - toDay(from);

/** 0 is Sunday, 6 Saturday. */
export const weekday = (date: IsoDate): number => (((toDay(date) + 4) % 7) + 7) % 7;

export const yearOf = (date: IsoDate): number => Number(date.slice(0, 4));
export const monthOf = (date: IsoDate): number => Number(date.slice(5, 7));
export const quarterOf = (date: IsoDate): number => Math.ceil(monthOf(date) / 3);

export const dateOf = (year: number, month: number, day: number): IsoDate =>
  `${String(year).padStart(4, '0')}-${String(month).padStart(2, '0')}-${String(day).padStart(2, '0')}`;

export const lastOfMonth = (year: number, month: number): IsoDate =>
  addDays(month === 12 ? dateOf(year + 1, 1, 1) : dateOf(year, month + 1, 1), -1);

/** Adds whole months; the 31st becomes the month's last day where there is no 31st. */
export function addMonths(date: IsoDate, months: number): IsoDate {
  const index = yearOf(date) * 12 + monthOf(date) - 1 + months;
  const year = Math.floor(index / 12);
  const month = (index % 12) + 1;
  const last = lastOfMonth(year, month);
  const wanted = dateOf(year, month, Number(date.slice(8)));
  return wanted > last ? last : wanted;
}

/** The same day so many years later; of 29 February in other years 1 March. */
export const anniversary = (date: IsoDate, years: number): IsoDate => {
  const [year, month, day] = [yearOf(date) + years, monthOf(date), Number(date.slice(8))];
  return month === 2 && day === 29 && new Date(Date.UTC(year, 1, 29)).getUTCMonth() !== 1 ? dateOf(year, 3, 1) : dateOf(year, month, day);
};

/** Names of the months, January first. */
export const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];

const DAY_NAMES = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat'];
const MONTH_NAMES = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];

/** For reading: "27 Nov 2026". */
/** Such as `Nov 2026`. */
export const writtenMonth = (date: IsoDate): string => `${MONTH_NAMES[monthOf(date) - 1]} ${date.slice(0, 4)}`;
export const writtenDate = (date: IsoDate): string => `${Number(date.slice(8))} ${MONTH_NAMES[monthOf(date) - 1]} ${date.slice(0, 4)}`;

/** For reading, with the day of the week: "Fri 27 Nov 2026". */
export const writtenDay = (date: IsoDate): string => `${DAY_NAMES[weekday(date)]} ${writtenDate(date)}`;

/** For reading: "8 – 21 Nov 2026", or with both months where they differ. */
export function writtenPeriod(from: IsoDate, to: IsoDate): string {
  if (from === to) return writtenDate(to);
  const start = Number(from.slice(8));
  if (from.slice(0, 7) === to.slice(0, 7)) return `${start} – ${writtenDate(to)}`;
  const year = yearOf(from) === yearOf(to) ? '' : ` ${yearOf(from)}`;
  return `${start} ${MONTH_NAMES[monthOf(from) - 1]}${year} – ${writtenDate(to)}`;
}

/** Days of a part of one month, and of that month. */
export const daysOfPart = ({ from, to }: { from: IsoDate; to: IsoDate }): { days: number; ofMonth: number } => ({
  days: daysBetween(from, to) + 1,
  ofMonth: Number(lastOfMonth(yearOf(from), monthOf(from)).slice(8)),
});

/** Mondays to Fridays from one day to another, both counted. */
export function weekdaysBetween(from: IsoDate, to: IsoDate): number {
  let days = 0;
  for (let day = toDay(from); day <= toDay(to); day++) if (![0, 6].includes(weekday(fromDay(day)))) days += 1;
  return days;
}
