import type { Effect } from '@woodruff/contract';
import type { Problem } from '@woodruff/core';

export type EffectOnPerson = Effect['people'][number];

/** What is compared of a payslip before and after; amounts in minor units. */
export interface Outcome {
  net: number;
  employerCost: number;
  problems: Problem[];
}

/** What a change does to a payslip; null where neither an amount nor what has to be fixed or looked at is another. */
export function effectOn(name: string, was: Outcome, is: Outcome): EffectOnPerson | null {
  const look = newLooks(was, is);
  if (was.net === is.net && was.employerCost === is.employerCost && stopOf(was) === stopOf(is) && !look.length) return null;
  return { name, before: was.net, after: is.net, cost: is.employerCost - was.employerCost, stop: stopOf(is), look };
}

/** First who could not be paid, then the largest differences. */
export const byWeight = (a: EffectOnPerson, b: EffectOnPerson): number =>
  Number(!!b.stop) - Number(!!a.stop) || Math.abs(b.after - b.before) - Math.abs(a.after - a.before) || b.look.length - a.look.length;

const stopOf = ({ problems }: Outcome): string | null => problems.find((problem) => problem.weight === 'stop')?.sentence ?? null;

/** Points to look at that a payslip has after the change only; one that speaks of other figures is the same point. */
function newLooks(was: Outcome, is: Outcome): string[] {
  const nameOf = ({ code, item }: Problem): string => `${code} ${item ?? ''}`;
  const known = new Set(was.problems.map(nameOf));
  return is.problems.filter((problem) => problem.weight === 'look' && !known.has(nameOf(problem))).map((problem) => problem.sentence);
}
