import { dateOf, yearOf, type IsoDate } from '../../../calendar/dates';
import type { FilingPeriod } from '../../../filings/filing';

/**
 * Three years after a return was filed; one that was filed before 15 April of the following year counts as filed then
 * (26 U.S.C. 6501(a) and (b)(2), 6511(a); Instructions for Form 941-X).
 */
export const amendUntil = ({ to }: Pick<FilingPeriod, 'to'>): IsoDate => dateOf(yearOf(to) + 4, 4, 15);
