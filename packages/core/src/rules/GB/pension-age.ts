import { addMonths, anniversary, type IsoDate } from '../../calendar/dates';

/** The day on which somebody reaches an age. */
export const reachesAge = anniversary;

/**
 * The day on which state pension age is reached (Pensions Act 1995, schedule 4, as changed by the Pensions Acts 2011 and 2014):
 * 66 for the born before 6 April 1960, a month more for each month after that, 67 from 6 March 1961, 68 from 6 April 1978,
 * and for the born from 6 April 1977 on a day of its own between those.
 */
export function statePensionDay(born: IsoDate): IsoDate {
  if (born < '1960-04-06') return reachesAge(born, 66);
  if (born < '1961-03-06') {
    let months = 1;
    for (let from = '1960-05-06'; born >= from; from = addMonths(from, 1)) months++;
    // Where the month of the age has no such day, its last day counts.
    const at = reachesAge(born, 66);
    return addMonths(at, months);
  }
  if (born < '1977-04-06') return reachesAge(born, 67);
  if (born >= '1978-04-06') return reachesAge(born, 68);
  // On 6 May 2044 for the born from 6 April to 5 May 1977, and two months later for each month after that.
  let day = '2044-05-06';
  for (let to = '1977-05-06'; born >= to; to = addMonths(to, 1)) day = addMonths(day, 2);
  return day;
}

/** Whether an age is reached on a day. */
export const hasAge = (born: IsoDate, years: number, on: IsoDate): boolean => reachesAge(born, years) <= on;
