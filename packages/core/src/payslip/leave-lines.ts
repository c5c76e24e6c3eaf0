import { leaveCode, leaveItemsOf, type LeaveOnPayslip } from '../leave/leave';
import { leaveOnPayslip } from '../leave/leave-on-payslip';
import { Exact, ZERO } from '../money/exact';
import { CannotCompute } from '../rules/country-pack';
import type { Figure } from '../working/reckoning';
import type { PayslipDraft } from './draft';
import type { Rate } from './input';

/** The plan's movements with this payslip; at the end of employment what is left is paid. */
export function keepLeave(draft: PayslipDraft, entry: LeaveOnPayslip): void {
  const { input, paper } = draft;
  const { plan } = entry;
  const leaveItems = input.leave?.flatMap((one) => leaveItemsOf(one.plan)) ?? [];
  const paid = plan.item ? draft.hours([plan.item]) : ZERO;
  const entered = draft.hours().minus(draft.hours(leaveItems));
  // Who has a salary works the ordinary hours, but for the leave taken.
  const away = (input.leave ?? []).flatMap((one) => one.taken).reduce((sum, day) => sum.plus(Exact.of(day.hours)), ZERO);
  const worked = entry.standardHours === undefined ? entered : Exact.of(entry.standardHours).minus(away).atLeast(ZERO);
  const cashedOut = plan.cashOutItem ? draft.hours([plan.cashOutItem]) : ZERO;
  const { movements, left, problems } = leaveOnPayslip(entry, input.pay, worked, paid, paper, cashedOut);
  for (const { movement, figure } of movements)
    draft.post(figure, { code: leaveCode(plan.code, movement), kind: 'leave', label: figure.label });
  draft.problems.push(...problems);
  if (entry.payOut && left.amount.isAbove(ZERO)) payOut(draft, entry, left);
}

function payOut(draft: PayslipDraft, { plan, standardHours }: LeaveOnPayslip, left: Figure): void {
  const { paper, input } = draft;
  const unused = `${plan.name} payout`;
  const item = plan.payOutItem === undefined ? undefined : input.payOutItems?.find((one) => one.code === plan.payOutItem);
  if (!item) return;
  const rate = input.rates.find((candidate) => candidate.primary);
  if (!rate || (rate.per !== 'hour' && standardHours === undefined))
    throw new CannotCompute(
      'leave-without-rate',
      `Unused ${plan.name.toLowerCase()} cannot be paid out: there is no rate, or no standard hours for a salary. Enter them on the person's page.`,
    );
  const average = plan.item === undefined ? undefined : averageFor(draft, plan.item);
  const hourly =
    average ??
    (rate.per === 'hour'
      ? { key: '', label: rate.label, amount: Exact.of(rate.amount) }
      : hourOfSalary(draft, plan.code, rate, standardHours ?? '1'));
  const figure = paper
    .reckon(`leave:${plan.code}:pay-out`, unused)
    .start(left.label, left)
    .times(hourly.label, hourly)
    .round('half-up')
    .done();
  draft.add(figure, item, 'earning', { quantity: left.amount.toDecimal(2), rate: hourly.amount.toDecimal() });
  const out = paper.reckon(leaveCode(plan.code, 'paid-out'), `${plan.name}, paid out`).in('hours').less('Left, and paid out', left).done();
  draft.post(out, { code: leaveCode(plan.code, 'paid-out'), kind: 'leave', label: out.label });
}

/** What an hour of a salary is worth. */
export function hourOfSalary(draft: PayslipDraft, plan: string, rate: Rate, standardHours: string): Figure {
  const reckoning = draft.paper.reckon(`leave:${plan}:hour`, `${rate.label}, an hour of it`).start(rate.label, Exact.of(rate.amount));
  if (rate.per === 'year') reckoning.over('Pay dates in the year', Exact.whole(draft.input.pay.payDatesInYear));
  return reckoning.over('Hours of a period', Exact.of(standardHours)).round('half-up', 4).done();
}

/** Leave whose plan says so is paid at the average that the law makes of earlier pay, where there is any. */
export function averageFor({ input, pack, paper }: PayslipDraft, item: string): Figure | undefined {
  const averaged = input.leave?.some(({ plan }) => plan.item === item && plan.paidAt === 'average');
  return averaged ? pack.averageLeavePay?.hourly(paper, input.earnedBefore ?? [], input.pay.frequency, input.pay.from) : undefined;
}
