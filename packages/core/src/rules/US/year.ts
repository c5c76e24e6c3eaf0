import { dateOf, type IsoDate } from '../../calendar/dates';
import { nextBusinessDay } from './holidays';

/** The turn of a calendar year, which is the tax year. Statements and returns are filings and stand there. */
export const yearTurns = (year: number): { date: IsoDate; what: string }[] => [
  // Publication 15, section 9: employees are reminded before 1 December.
  { date: dateOf(year, 12, 1), what: 'Remind employees to look at their Forms W-4' },
  { date: dateOf(year + 1, 1, 1), what: `Wage bases, limits and tables of ${year + 1} begin with the first pay date` },
  // 26 CFR 31.3402(f)(4)-2(b).
  { date: nextBusinessDay(dateOf(year + 1, 2, 15)), what: `Exemptions from withholding claimed for ${year} lapse` },
];
