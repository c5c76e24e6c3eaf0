import { addDays, writtenDate, type IsoDate } from '../calendar/dates';
import { writtenDecimal } from '../money/amounts';
import { Exact, ZERO } from '../money/exact';
import type { Problem } from '../payslip/payslip';
import type { Figure, Paper } from '../working/reckoning';
import { daysOfFirstYear, leaveCode, planYearOf, stepOn, usableFrom, type LeaveMovement, type LeaveOnPayslip } from './leave';

export interface LeaveResult {
  movements: { movement: LeaveMovement; figure: Figure }[];
  /** Before anything is paid out. */
  left: Figure;
  problems: Problem[];
}

/**
 * The movements of one plan with one payslip: what lapses and is granted in a new plan year, what is taken, what is
 * earned, each within its limits. The balance is the sum of all movements posted before and these.
 * @param worked hours worked in the period; @param paid hours of the plan's item on the payslip; @param cashedOut hours
 * cashed out in service on it
 */
export function leaveOnPayslip(
  entry: LeaveOnPayslip,
  pay: { from: IsoDate; to: IsoDate },
  worked: Exact,
  paid: Exact,
  paper: Paper,
  cashedOut = ZERO,
): LeaveResult {
  const { plan } = entry;
  const year = planYearOf(plan, pay.to, entry.hired);
  const book = new Movements(entry, paper);
  if (entry.earns && !entry.yearBegun) {
    book.add('lapsed', lapsed(book, year.from));
    if (plan.earns.by === 'year') book.add('granted', granted(book, year, pay));
  }
  const taken = entry.taken.reduce((sum, day) => sum.plus(Exact.of(day.hours)), paid);
  if (!taken.isZero()) book.add('taken', takenOf(book, taken, paid));
  if (entry.earns && plan.earns.by !== 'year') book.add('earned', earned(book, worked, pay));
  const problems = problemsOf(book, taken, pay);
  if (!cashedOut.isZero()) {
    book.add('paid-out', book.reckon('paid-out', 'cashed out').less('Hours cashed out on this payslip', cashedOut).done());
    problems.push(...problemsOfCashingOut(book, cashedOut));
  }
  return { movements: book.movements, left: book.balance(), problems };
}

/** The movements so far, and the balance that they leave. */
class Movements {
  readonly movements: LeaveResult['movements'] = [];
  sum: Exact;

  constructor(
    readonly entry: LeaveOnPayslip,
    readonly paper: Paper,
  ) {
    this.sum = Exact.minor(entry.balance);
  }

  reckon(movement: LeaveMovement, label: string) {
    return this.paper.reckon(leaveCode(this.entry.plan.code, movement), `${this.entry.plan.name}, ${label}`).in('hours');
  }

  add(movement: LeaveMovement, figure: Figure | undefined): void {
    if (!figure || figure.amount.isZero()) return;
    this.movements.push({ movement, figure });
    this.sum = this.sum.plus(figure.amount);
  }

  balance(): Figure {
    const { plan, balance } = this.entry;
    const reckoning = this.paper
      .reckon(`leave:${plan.code}`, `${plan.name}, balance`)
      .in('hours')
      .start('Balance before', Exact.minor(balance));
    for (const { figure } of this.movements) reckoning.plus(figure.label, figure);
    return reckoning.done();
  }
}

function lapsed(book: Movements, yearFrom: IsoDate): Figure | undefined {
  const { carryOver } = book.entry.plan;
  if (carryOver === undefined || !book.sum.isAbove(Exact.of(carryOver))) return undefined;
  return book
    .reckon('lapsed', 'lapsed')
    .start('Carried over at most', Exact.of(carryOver))
    .less(`Balance before the plan year from ${writtenDate(yearFrom)}`, book.sum)
    .done();
}

function granted(book: Movements, year: { from: IsoDate; to: IsoDate }, pay: { to: IsoDate }): Figure | undefined {
  const { plan, hired } = book.entry;
  if (plan.earns.by !== 'year' || earnsNothingYet(book.entry, pay.to)) return undefined;
  const step = stepOn(plan.earns.steps, hired, year.from > (hired ?? '') ? year.from : (hired ?? year.from));
  if (!step) return undefined;
  const reckoning = book.reckon('granted', 'for the year').start(stepWords(step.fromMonths, 'a year'), Exact.of(step.hours));
  const { days, of } = daysOfFirstYear(year, hired);
  if (plan.earns.firstYearByDays && days < of)
    reckoning
      .times(`Days from ${writtenDate(hired ?? '')} to ${writtenDate(year.to)}`, Exact.whole(days))
      .over('Days of the plan year', Exact.whole(of));
  return capped(book, reckoning).round('half-up').done();
}

function takenOf(book: Movements, taken: Exact, paid: Exact): Figure {
  const reckoning = book.reckon('taken', 'taken').start('Nothing', ZERO);
  if (!paid.isZero()) reckoning.less('Hours paid as leave on this payslip', paid);
  for (const { date, hours } of book.entry.taken) reckoning.less(`Approved for ${writtenDate(date)}`, Exact.of(hours));
  if (book.entry.plan.item && !taken.equals(paid)) reckoning.note('Paid within the salary: the payslip has no line for it.');
  return reckoning.done();
}

function earned(book: Movements, worked: Exact, pay: { to: IsoDate }): Figure | undefined {
  const { plan, hired } = book.entry;
  if (earnsNothingYet(book.entry, pay.to)) return undefined;
  const reckoning = book.reckon('earned', 'earned');
  if (plan.earns.by === 'hours-worked')
    reckoning
      .start('Hours worked', worked)
      .times('Hours of leave earned', Exact.of(plan.earns.hours))
      .over('For every so many hours worked', Exact.of(plan.earns.forEvery));
  else if (plan.earns.by === 'period') {
    const step = stepOn(plan.earns.steps, hired, pay.to);
    if (!step) return undefined;
    reckoning.start(stepWords(step.fromMonths, 'a pay period'), Exact.of(step.hours));
  }
  return capped(book, reckoning).atLeast('Not below zero', ZERO).round('half-up').done();
}

/** Never more than the plan year and the balance allow. */
function capped(book: Movements, reckoning: ReturnType<Movements['reckon']>): ReturnType<Movements['reckon']> {
  const { plan, earnedInYear } = book.entry;
  if (plan.atMostInYear !== undefined)
    reckoning.atMost(
      `Remaining ${hoursText(plan.atMostInYear)} hours a plan year`,
      Exact.of(plan.atMostInYear).minus(Exact.minor(earnedInYear)).atLeast(ZERO),
    );
  if (plan.atMostBalance !== undefined)
    reckoning.atMost(
      `Until the balance is ${hoursText(plan.atMostBalance)} hours`,
      Exact.of(plan.atMostBalance).minus(book.sum).atLeast(ZERO),
    );
  return reckoning;
}

function problemsOf(book: Movements, taken: Exact, pay: { from: IsoDate; to: IsoDate }): Problem[] {
  const { plan, hired } = book.entry;
  if (taken.isZero()) return [];
  const about = { weight: 'look' as const, figure: `leave:${plan.code}` };
  const problems: Problem[] = [];
  const lowest = Exact.of(plan.mayOwe ?? '0').negated();
  if (book.sum.isBelow(lowest))
    problems.push({
      ...about,
      code: 'leave-exceeded',
      sentence: `${plan.name}: ${taken.toDecimal(2)} hours taken leave a balance of ${writtenDecimal(book.sum.toDecimal(2))}. The plan allows ${lowest.isZero() ? 'none below zero' : `down to ${writtenDecimal(lowest.toDecimal(2))}`}. Take fewer hours, or accept it with a reason.`,
    });
  const usable = usableFrom(plan, hired);
  if (usable && usable > pay.from && usable > (book.entry.taken.at(-1)?.date ?? pay.to))
    problems.push({
      ...about,
      code: 'leave-too-early',
      sentence: `${plan.name} may be taken from ${writtenDate(usable)} on, and ${taken.toDecimal(2)} hours are taken before. Take them off, or accept it with a reason.`,
    });
  return problems;
}

/** What is cashed out is agreed each time, leaves enough for rest, and is not too much in a year. */
function problemsOfCashingOut(book: Movements, cashedOut: Exact): Problem[] {
  const { plan, paidOutBefore = 0 } = book.entry;
  const about = { weight: 'look' as const, figure: leaveCode(plan.code, 'paid-out') };
  const hours = writtenDecimal(cashedOut.toDecimal(2));
  const problems: Problem[] = [];
  const keeps = Exact.of(plan.cashOutKeeps ?? '0');
  if (book.sum.isBelow(keeps))
    problems.push({
      ...about,
      code: 'leave-cash-out-keeps',
      sentence: `${plan.name}: cashing out ${hours} hours leaves ${writtenDecimal(book.sum.toDecimal(2))}, and at least ${hoursText(keeps.toDecimal())} must be left. Cash out fewer hours.`,
    });
  const inYear = cashedOut.plus(Exact.minor(paidOutBefore));
  if (plan.cashOutAtMost !== undefined && inYear.isAbove(Exact.of(plan.cashOutAtMost)))
    problems.push({
      ...about,
      code: 'leave-cash-out-limit',
      sentence: `${plan.name}: with these ${hours} hours, ${writtenDecimal(inYear.toDecimal(2))} are cashed out within twelve months, and at most ${hoursText(plan.cashOutAtMost)} may be. Cash out fewer hours.`,
    });
  problems.push({
    ...about,
    code: 'leave-cashed-out',
    sentence: `${plan.name}: ${hours} hours are cashed out, which takes a written agreement each time. Accept it with the date of the agreement.`,
  });
  return problems;
}

const earnsNothingYet = ({ plan, hired }: LeaveOnPayslip, date: IsoDate): boolean =>
  !!hired && !!plan.earnsAfterDays && addDays(hired, plan.earnsAfterDays) > date;

const stepWords = (months: number, per: string): string =>
  months === 0 ? `Hours ${per}` : `Hours ${per}, from ${months % 12 === 0 ? yearsText(months / 12) : `${months} months`} of service`;
const yearsText = (years: number): string => (years === 1 ? 'one year' : `${years} years`);
const hoursText = (hours: string): string =>
  Exact.of(hours)
    .toDecimal()
    .replace(/\.?0+$/, '');
