import { assignedRate } from '../facts';
import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import { payUpToCeiling } from '../../ceilings';
import { CannotCompute, type TaxResult } from '../../country-pack';
import type { Figure } from '../../../working/reckoning';
import { tables } from '../tables';
import type { Programme, State, StateContext } from './state';

/** Pay that a programme counts; several with the same pay share it. */
export const payCodeOf = (state: State, { code, ceiling }: Programme): string => atPlace(ceiling?.pay ?? `${code}.pay`, state.place);

/** Shares of pay that a state's programmes take, from the employee or from the employer, as the state's file says. */
export function programmeTaxes(state: State, from: Programme['from'], context: StateContext): TaxResult[] {
  const posted = new Set<string>();
  return state.programmes.filter((programme) => programme.from === from).flatMap((programme) => taxOf(programme, state, context, posted));
}

function taxOf(programme: Programme, state: State, context: StateContext, posted: Set<string>): TaxResult[] {
  const { input, paper, employer } = context;
  const date = input.pay.date;
  const code = atPlace(programme.code, state.place);
  const label = programme.label;
  if (programme.perHour) return perHour(programme, state, context);
  const payCode = payCodeOf(state, programme);
  const pay = context.base(payCode);
  const bases: NonNullable<TaxResult['bases']> = [];
  const { ceiling } = programme;
  let counted = pay;
  if (ceiling) {
    const wages = atPlace(`${ceiling.pay.replace(/\.pay$/, '')}.wages`, state.place);
    counted = payUpToCeiling(context, payCode, {
      key: wages,
      label: ceiling.label,
      ceiling: tables.value(atPlace(ceiling.table, state.place), date),
    });
    // The employer's side comes after the employee's and has the same pay: it is posted once.
    const already =
      programme.from === 'employer' && state.programmes.some((other) => other.from === 'employee' && other.ceiling?.pay === ceiling.pay);
    if (!posted.has(payCode) && !already) {
      posted.add(payCode);
      bases.push({ code: payCode, label: pay.label, figure: pay }, { code: wages, label: ceiling.label, figure: counted });
    }
  }
  const reckoning = paper.reckon(code, label).start(counted.label, counted);
  const rate = programme.rate;
  if ('assigned' in rate) {
    const assigned = assignedRate(employer.states[state.code], rate.assigned, date);
    if (assigned === undefined)
      throw new CannotCompute(
        'employer-rate-missing',
        `The employer has no ${rate.label.toLowerCase()} for ${state.name}. Enter the rate of the state's notice with the employer's facts.`,
      );
    reckoning.percent(`${assigned}%, rate assigned to the employer`, Exact.of(assigned));
  } else {
    const table = tables.value(atPlace(rate.table, state.place), date);
    reckoning.percent(`${table.value.toDecimal()}%`, table.value).source(table.source);
  }
  if (ceiling) reckoning.source(tables.value(atPlace(ceiling.table, state.place), date).source);
  if (programme.share) {
    const share = tables.value(atPlace(programme.share.table, state.place), date);
    reckoning.percent(`Share, ${share.value.toDecimal()}%`, share.value).source(share.source);
  }
  if (programme.most) limited(programme.most, code, state, context, reckoning);
  return [{ code, label, figure: reckoning.round('half-up').done(), ...(bases.length ? { bases } : {}) }];
}

/** No more than the state's most for the weeks of the period, or than what is left of the year's. */
function limited(
  most: NonNullable<Programme['most']>,
  code: string,
  state: State,
  context: StateContext,
  reckoning: ReturnType<StateContext['paper']['reckon']>,
): void {
  const table = tables.value(atPlace(most.table, state.place), context.input.pay.date);
  reckoning.source(table.source);
  if (most.per === 'week') {
    const weeks = Exact.whole(52).over(Exact.whole(PAY_DATES_PER_YEAR[context.input.pay.frequency]));
    reckoning.atMost(`${table.value.toDecimal()} a week`, table.value.times(weeks));
  } else {
    const before = context.yearToDate(code, 'Taken earlier this year').amount;
    reckoning.atMost(`Remaining of ${table.value.toDecimal()} a year`, table.value.minus(before).atLeast(ZERO));
  }
}

/** By hours worked, at the rate of the employer's class of work. */
function perHour(programme: Programme, state: State, context: StateContext): TaxResult[] {
  if (!('assigned' in programme.rate)) return [];
  const assigned = assignedRate(context.employer.states[state.code], programme.rate.assigned, context.input.pay.date);
  const hours = hoursOf(context);
  if (assigned === undefined || !hours.amount.isAbove(ZERO)) return [];
  const code = atPlace(programme.code, state.place);
  const figure = context.paper
    .reckon(code, programme.label)
    .start(hours.label, hours)
    .times(`${assigned} an hour, rate assigned to the employer`, Exact.of(assigned))
    .round('half-up')
    .done();
  return [{ code, label: programme.label, figure }];
}

const hoursOf = (context: StateContext): Figure => ({ key: '', label: 'Hours worked', amount: context.hoursWorked() });
