import { PAY_DATES_PER_YEAR } from '../../../calendar/schedules';
import { atPlace } from '../../../ledger/codes';
import { Exact, ZERO } from '../../../money/exact';
import type { Figure } from '../../../working/reckoning';
import { CannotCompute, type TaxResult } from '../../country-pack';
import type { UsTax } from '../facts';
import type { State, StateContext } from './state';
import { stateOf } from './index';

const CODE = 'us.state-income';

/** Where the work of this payslip was done, with the share of its pay: by time kept, else by the tax details; together one. */
export function workplacesOf({ input, tax }: StateContext): { state: State; share: Exact }[] {
  const places = input.workplaces?.length ? input.workplaces : ordinaryPlaces(tax);
  const whole = places.reduce((sum, { share }) => sum.plus(Exact.of(share)), ZERO);
  if (!whole.equals(Exact.whole(1)))
    throw new CannotCompute(
      'shares-of-work',
      `The shares of work at several places make ${whole.toDecimal()}, not 1. Correct them on the payslip.`,
    );
  return places.map(({ place, share }) => ({ state: stateOf(place), share: Exact.of(share) }));
}

/** One place of work, or two with the share of pay that the tax details give the second. */
function ordinaryPlaces({ workState, otherWorkState, otherWorkPercent }: UsTax): { place: string; share: string }[] {
  if (!otherWorkState || otherWorkState === workState || otherWorkPercent === undefined) return [{ place: `US-${workState}`, share: '1' }];
  const other = Exact.of(otherWorkPercent).over(Exact.whole(100));
  return [
    { place: `US-${workState}`, share: Exact.whole(1).minus(other).toDecimal() },
    { place: `US-${otherWorkState}`, share: other.toDecimal() },
  ];
}

/**
 * State income taxes of one payslip: each state where work is done taxes the pay earned there, unless it has agreed to
 * leave residents of the other to their home; the state of residence taxes all pay, and what is withheld elsewhere is
 * taken off (4 U.S.C. 114 leaves wages to the states of work and residence).
 */
export function stateIncomeTaxes(context: StateContext): TaxResult[] {
  const home = stateOf(`US-${context.tax.residentState}`);
  const places = workplacesOf(context);
  const elsewhere: TaxResult[] = [];
  let cut = ZERO;
  for (const { state, share } of places) {
    const from = cut;
    cut = cut.plus(share);
    if (state === home || !state.incomeTax || state.incomeTax.taxedAtHome?.includes(home.code)) continue;
    elsewhere.push(...taxed(state, partOf(state, from, cut, context), context));
  }
  if (!home.incomeTax) return elsewhere;
  // Who lives where no work is done needs the employer to be registered there; without it nothing can be paid over.
  const worksAtHome = places.some(({ state }) => state === home);
  if (!worksAtHome && elsewhere.length && !context.employer.states[home.code]) {
    context.problem({
      code: 'resident-state-not-registered',
      weight: 'look',
      sentence: `Lives in ${home.name}, where this employer is not registered: nothing is withheld for ${home.name}. Register there, or accept it with a reason.`,
      figure: elsewhere[0]?.code ?? 'taxes',
    });
    return elsewhere;
  }
  const pay = partOf(home, ZERO, Exact.whole(1), context);
  const [own] = elsewhere.length ? taxed(home, pay, context, elsewhere) : taxed(home, pay, context);
  return own ? [own, ...elsewhere] : elsewhere;
}

function taxed(state: State, pay: Figure, context: StateContext, credits: readonly TaxResult[] = []): TaxResult[] {
  const { incomeTax } = state;
  if (!incomeTax) return [];
  const code = atPlace(CODE, state.place);
  const label = `${state.name} income tax`;
  const periods = Exact.whole(PAY_DATES_PER_YEAR[context.input.pay.frequency]);
  const own = (key: string, named: string) => incomeTax.reckon(context.paper.reckon(key, named), pay, context, periods);
  let figure: Figure;
  if (!credits.length) figure = own(code, label).done();
  else {
    const whole = own(`${code}:on-all`, `${label} on all pay`).done();
    const reckoning = context.paper.reckon(code, label).start(whole.label, whole);
    for (const credit of credits) reckoning.less(`Credit for ${credit.label}`, credit.figure);
    figure = reckoning.atLeast('Not below zero', ZERO).done();
  }
  return [{ code, label, figure, bases: [{ code: atPlace(`${CODE}.wages`, state.place), label: `${state.name} wages`, figure: pay }] }];
}

/** The pay of a state's tax that belongs to a share of the work; rounded so that the shares make the whole. */
function partOf(state: State, from: Exact, to: Exact, context: StateContext): Figure {
  const pay = context.base(atPlace(`${CODE}.pay`, state.place));
  if (from.isZero() && to.equals(Exact.whole(1))) return pay;
  const { paper } = context;
  const until = (share: Exact, key: string) =>
    paper
      .reckon(key, `${state.name} wages, the part of the places before`)
      .start(pay.label, pay)
      .times('Share', share)
      .round('half-up')
      .done().amount;
  const before = until(from, `${pay.key}:before`);
  return paper
    .reckon(`${pay.key}:part`, `${state.name} wages, the part earned there`)
    .start(pay.label, pay)
    .times(`Share of the work done up to and in ${state.name}`, to)
    .round('half-up')
    .less('Counted at the places before', before)
    .done();
}
