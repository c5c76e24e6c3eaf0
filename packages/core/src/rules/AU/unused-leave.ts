import { daysBetween, writtenDate, type IsoDate } from '../../calendar/dates';
import { Exact } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import { overTheYear } from './additional';
import { leaveCode, lumpSumCode, LUMP_SUMS, UNUSED_LEAVE, UNUSED_SERVICE_LEAVE } from './codes';
import { tables } from './tables';
import type { Context } from './context';
import { wayOf, withheldFrom } from './withholding';

const SCHEDULE_7 = {
  publication: 'ATO, Schedule 7: Tax table for unused leave payments on termination of employment',
  section: 'By when the leave accrued, and why employment ends',
};
/** Long service leave of before is taxed in small part only; leave of before the second day at no more than the flat rate. */
const [SERVICE_LEAVE_FROM, MARGINAL_FROM] = ['1978-08-16', '1993-08-18'] as const;
/** Reasons for which the flat rate holds whenever it accrued. */
export const FLAT_KINDS: readonly string[] = ['redundant', 'invalidity'];

export interface LeavePaidOut {
  withheld: Figure;
  bases: { code: string; label: string; figure: Figure }[];
}

/** Unused leave that is paid out: what is withheld, and the lump sums or the paid leave that it is stated as. */
export function unusedLeave(context: Context, usual: Figure): LeavePaidOut | undefined {
  const [annual, service] = [context.base(UNUSED_LEAVE), context.base(UNUSED_SERVICE_LEAVE)];
  if (annual.amount.isZero() && service.amount.isZero()) return undefined;
  const { paper, input } = context;
  const flat = FLAT_KINDS.includes(input.person.ending?.kind ?? '');
  const parts = partsOf(context, annual, service, flat);
  const bases: LeavePaidOut['bases'] = [];
  const reckoning = paper.reckon('au.unused-leave.withheld', 'Withheld from unused leave');
  const { marginal, small, flatly, type } = parts;
  if (flatly && !flatly.amount.isZero()) {
    const withheld = atFlatRate(context, flatly, 'au.unused-leave.flat');
    reckoning.plus(withheld.label, withheld);
    bases.push({ code: lumpSumCode(type), label: LUMP_SUMS[type], figure: flatly });
  }
  if (small && !small.amount.isZero()) {
    const rate = tables.value('au.lump-sum-b', input.pay.date);
    const counted = paper
      .reckon('au.unused-leave.b', 'Taxed part of lump sum B')
      .start(small.label, small)
      .percent('Part', rate.value)
      .round('half-up')
      .source(rate.source)
      .done();
    const withheld = overTheYear(context, { usual, now: counted, key: 'au.unused-leave.small', label: 'On the taxed part of lump sum B' });
    reckoning.plus(withheld.label, withheld);
    bases.push({ code: lumpSumCode('B'), label: LUMP_SUMS.B, figure: small });
  }
  if (!marginal.amount.isZero()) {
    const withheld = atMarginalRates(context, usual, marginal);
    reckoning.plus(withheld.label, withheld);
    bases.push({ code: leaveCode('U'), label: 'Unused leave on termination', figure: marginal });
  }
  return { withheld: reckoning.source(SCHEDULE_7).done(), bases };
}

/** Up to 300 whichever is less: the flat rate or the year's effect. */
function atMarginalRates(context: Context, usual: Figure, pay: Figure): Figure {
  const marginal = overTheYear(context, { usual, now: pay, key: 'au.unused-leave.marginal', label: 'On leave since 18 August 1993' });
  const small = tables.value('au.lump-sum.small', context.input.pay.date);
  if (!pay.amount.isBelow(small.value) || wayOf(context).by !== 'scale') return marginal;
  const flat = atFlatRate(context, pay, 'au.unused-leave.little');
  return context.paper
    .reckon('au.unused-leave.of-little', marginal.label)
    .start(marginal.label, marginal)
    .atMost(`Less than ${small.value.toDecimal()}: the flat rate where that is less`, flat)
    .source(small.source)
    .done();
}

function atFlatRate(context: Context, pay: Figure, key: string): Figure {
  const { paper, input } = context;
  if (wayOf(context).by === 'no-number') return withheldFrom(context, pay, key, 'At the flat rate');
  const rate = tables.value('au.lump-sum-a', input.pay.date);
  return paper
    .reckon(key, 'At the flat rate')
    .start(pay.label, pay)
    .percent('Rate', rate.value)
    .round('half-up', 0)
    .source(rate.source)
    .done();
}

interface Parts {
  /** Since 18 August 1993, for an ordinary reason. */
  marginal: Figure;
  /** At the flat rate, and as which lump sum. */
  flatly?: Figure;
  type: 'R' | 'T';
  /** Long service leave of before 16 August 1978. */
  small?: Figure;
}

function partsOf({ paper, input }: Context, annual: Figure, service: Figure, flat: boolean): Parts {
  const hired = input.person.ending?.hired;
  const lastDay = input.person.ending?.lastDay ?? input.pay.to;
  const all = paper.reckon('au.unused-leave.all', 'Unused leave').start(annual.label, annual).plus(service.label, service).done();
  const old = hired && hired < SERVICE_LEAVE_FROM ? share(paper, service, 'old', [hired, lastDay], [hired, SERVICE_LEAVE_FROM]) : undefined;
  if (flat) {
    if (!old) return { marginal: none(all), flatly: all, type: 'R' };
    const rest = paper
      .reckon('au.unused-leave.flat-part', 'Unused leave since 16 August 1978')
      .start(all.label, all)
      .less(old.label, old)
      .done();
    return { marginal: none(all), flatly: rest, type: 'R', small: old };
  }
  // Annual leave of before 1993 has long been taken: of long service leave the days of service tell.
  if (!hired || hired >= MARGINAL_FROM || service.amount.isZero()) return { marginal: all, type: 'T' };
  const middle = share(
    paper,
    service,
    'middle',
    [hired, lastDay],
    [hired > SERVICE_LEAVE_FROM ? hired : SERVICE_LEAVE_FROM, MARGINAL_FROM],
  );
  const reckoning = paper
    .reckon('au.unused-leave.marginal-part', 'Unused leave since 18 August 1993')
    .start(all.label, all)
    .less(middle.label, middle);
  if (old) reckoning.less(old.label, old);
  return { marginal: reckoning.done(), flatly: middle, type: 'T', ...(old ? { small: old } : {}) };
}

const none = ({ label }: Figure): Figure => ({ key: '', label, amount: Exact.whole(0) });

/** Of long service leave the part of a time, by days of service. */
function share(
  paper: Context['paper'],
  leave: Figure,
  key: string,
  [hired, lastDay]: [IsoDate, IsoDate],
  [from, to]: [IsoDate, IsoDate],
): Figure {
  const [days, of] = [daysBetween(from, to), daysBetween(hired, lastDay) + 1];
  return paper
    .reckon(`au.unused-leave.${key}`, `Long service leave of before ${writtenDate(to)}`)
    .start(leave.label, leave)
    .times(`Days of service from ${writtenDate(from)}`, Exact.whole(days))
    .over('Days of all service', Exact.whole(of))
    .round('half-up')
    .done();
}
