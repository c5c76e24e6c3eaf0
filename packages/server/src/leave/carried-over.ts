import { counted, minorOf, writtenDate } from '@woodruff/core';
import type { Scope } from '../scope';
import { leavePage } from './page';

/** What leave plans let into their next year, and who has more so far: of years of a plan that begin within a range of days. */
export async function carriedOver(scope: Scope, { from, to }: { from: string; to: string }): Promise<{ sentence: string; link: string }[]> {
  const { plans, people } = await leavePage(scope);
  return plans.flatMap(({ id, terms }) => {
    const inForce = terms.find((one) => one.from <= from)?.terms;
    if (inForce?.carryOver === undefined) return [];
    const { name, carryOver, yearBegins } = inForce;
    const begins = [from.slice(0, 4), to.slice(0, 4)].map((year) => `${year}-${yearBegins}`).find((day) => day >= from && day <= to);
    if (yearBegins !== 'hire' && !begins) return [];
    const more = people.filter((one) => one.plans.some((plan) => plan.planId === id && plan.balance > minorOf(carryOver))).length;
    const when = begins && yearBegins !== 'hire' ? `on ${writtenDate(begins)}` : 'on the day on which somebody was hired';
    const who = more ? `${counted(more, 'person has', 'people have')} more so far.` : 'Nobody has more so far.';
    return [{ sentence: `${name}: at most ${carryOver} hours are carried over ${when}. ${who}`, link: '/time/leave' }];
  });
}
