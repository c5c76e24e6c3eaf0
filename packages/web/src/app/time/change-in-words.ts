import type { TimeChange } from '@woodruff/contract';
import { Exact, ZERO } from '@woodruff/core';

/** What a day is asked to be. */
export function changeInWords({
  hours,
  begins,
  ends,
  breakMinutes,
}: Pick<TimeChange, 'hours' | 'begins' | 'ends' | 'breakMinutes'>): string {
  const sum = Exact.of(hours);
  if (!sum.isAbove(ZERO)) return 'without time';
  const clock = begins && ends ? `, ${begins} to ${ends}${breakMinutes ? ` with ${breakMinutes} minutes of break` : ''}` : '';
  return `${sum.toDecimal(2)} hours${clock}`;
}
