import { addDays, anniversary, type IsoDate } from '../../calendar/dates';
import { Exact, ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import type { TaxResult } from '../country-pack';
import {
  ADDITIONAL,
  lumpSumCode,
  LUMP_SUMS,
  NOTICE,
  REDUNDANCY,
  TERMINATION,
  terminationCode,
  terminationTaxCode,
  UNUSED_LEAVE,
  UNUSED_SERVICE_LEAVE,
} from './codes';
import { tables } from './tables';
import { yearEnd } from './tax-year';
import type { Context } from './context';
import { numberCounts, PAY } from './withholding';

const LAW = {
  publication:
    'Income Tax Assessment Act 1997, divisions 82 and 83; ATO, Schedule 11: Tax table for employment termination payments (NAT 70980)',
};
const PRESERVATION_AGE = 60;
const PENSION_AGE = 67;

/** Whole years of service up to a day, both days counted. */
export function yearsOfService(hired: IsoDate, lastDay: IsoDate): number {
  let years = 0;
  while (anniversary(hired, years + 1) <= addDays(lastDay, 1)) years += 1;
  return years;
}

type Kind = keyof typeof TERMINATION;

interface Shares {
  /** By code, what is an employment termination payment. */
  payments: Map<Kind, Figure>;
  /** The tax-free part of a genuine redundancy. */
  free?: Figure;
}

/** What is paid because employment ends and is no pay: termination payments by their codes, and the tax-free part of redundancy. */
export function terminationPayments(context: Context): { taxes: TaxResult[]; bases: NonNullable<TaxResult['bases']> } {
  const { payments, free } = sharesOf(context);
  const bases: NonNullable<TaxResult['bases']> = [];
  if (free && !free.amount.isZero()) bases.push({ code: lumpSumCode('D'), label: LUMP_SUMS.D, figure: free });
  const taxes: TaxResult[] = [];
  let taxed: Figure | undefined;
  for (const [kind, figure] of payments) {
    if (figure.amount.isZero()) continue;
    const withheld = withheldFrom(context, kind, figure, taxed);
    taxes.push({
      code: terminationTaxCode(kind),
      label: `Withheld from termination payment ${kind}`,
      figure: withheld,
      bases: [{ code: terminationCode(kind), label: TERMINATION[kind], figure }],
      counted: figure,
    });
    taxed = taxed
      ? context.paper
          .reckon('au.etp.before', 'Termination payments taken before')
          .start(taxed.label, taxed)
          .plus(figure.label, figure)
          .done()
      : figure;
  }
  return { taxes, bases };
}

function sharesOf(context: Context): Shares {
  const { paper, input } = context;
  const payments = new Map<Kind, Figure>();
  const add = (kind: Kind, figure: Figure): void => {
    const known = payments.get(kind);
    payments.set(
      kind,
      known
        ? paper
            .reckon(`${terminationCode(kind)}.all`, TERMINATION[kind])
            .start(known.label, known)
            .plus(figure.label, figure)
            .done()
        : figure,
    );
  };
  const [redundancy, notice] = [context.base(REDUNDANCY), context.base(NOTICE)];
  const { ending } = input.person;
  const genuine = ending?.kind === 'redundant';
  let free: Figure | undefined;
  if (genuine && !(redundancy.amount.isZero() && notice.amount.isZero())) {
    // In a genuine redundancy pay in place of notice is part of what is paid for it.
    const all = paper
      .reckon('au.redundancy.all', 'Paid because of the redundancy')
      .start(redundancy.label, redundancy)
      .plus(notice.label, notice)
      .done();
    free = taxFree(context, all);
    add('R', paper.reckon('au.redundancy.excess', 'Over the tax-free part').start(all.label, all).less(free.label, free).done());
  } else {
    if (!redundancy.amount.isZero()) add('R', redundancy);
    if (!notice.amount.isZero()) add(ending?.kind === 'invalidity' ? 'R' : 'O', notice);
  }
  for (const kind of Object.keys(TERMINATION) as Kind[]) {
    const paid = context.base(`au.etp-paid.${kind}`);
    if (!paid.amount.isZero()) add(kind, paid);
  }
  // The cap is used up by payments that only it limits first.
  return { payments: new Map([...payments].sort(([a], [b]) => Number(a === 'O') - Number(b === 'O'))), ...(free ? { free } : {}) };
}

/** The base limit and an amount for each whole year of service, less what of it was used already; nothing from pension age on. */
function taxFree(context: Context, all: Figure): Figure {
  const { paper, input } = context;
  const { ending, born } = input.person;
  const { date } = input.pay;
  const label = LUMP_SUMS.D;
  if (born !== undefined && ending && anniversary(born, PENSION_AGE) <= ending.lastDay)
    return paper.reckon('au.redundancy.free', label).start('Nothing from pension age on', ZERO).source(LAW).done();
  if (!ending?.hired) {
    context.problem({
      code: 'redundancy-without-hire',
      weight: 'stop',
      figure: 'au.redundancy.free',
      sentence: 'The tax-free part of redundancy goes by the years of service, and no hire date is on file. Enter it among the details.',
    });
    return paper.reckon('au.redundancy.free', label).start('No hire date on file', ZERO).done();
  }
  const [base, perYear] = [tables.value('au.redundancy.base', date), tables.value('au.redundancy.per-year', date)];
  const years = yearsOfService(ending.hired, ending.lastDay);
  const used = context.yearToDate(lumpSumCode('D'), 'Paid tax-free earlier');
  const reckoning = paper
    .reckon('au.redundancy.free', label)
    .start('Base limit', base.value)
    .plus(`${years} whole years of service, ${perYear.value.toDecimal()} each`, perYear.value.times(Exact.whole(years)));
  if (!used.amount.isZero()) reckoning.less(used.label, used);
  return reckoning.atLeast('Not below zero', ZERO).atMost(all.label, all).source(base.source, perYear.source, LAW).done();
}

/** Up to the cap at the rate of the kind, over it at the highest. */
function withheldFrom(context: Context, kind: Kind, payment: Figure, before: Figure | undefined): Figure {
  const { paper, input, tax } = context;
  const { date } = input.pay;
  const key = terminationTaxCode(kind);
  const over = tables.value('au.etp.rate.over', date);
  const quoted = numberCounts(tax, date);
  const whole = paper
    .reckon(`${key}.pay`, 'Payment without its cents')
    .start(payment.label, payment)
    .round('down', 0, 'Cents left out')
    .done();
  if (!quoted && kind !== 'D' && kind !== 'T')
    return paper
      .reckon(key, 'Withheld from a termination payment')
      .start(whole.label, whole)
      .percent('No tax file number', over.value)
      .round('half-up', 0)
      .source(over.source)
      .done();
  // What goes to the estate is taxed there.
  if (kind === 'T')
    return paper
      .reckon(key, 'Withheld from a termination payment')
      .start('Nothing: the trustee of the estate is taxed', ZERO)
      .source(LAW)
      .done();
  const room = roomUnderCap(context, kind, before);
  const within = paper.reckon(`${key}.within`, 'Up to the cap').start(whole.label, whole).atMost(room.label, room).done();
  const rate = rateOf(context, kind);
  const low = paper
    .reckon(`${key}.low`, 'On what is within the cap')
    .start(within.label, within)
    .percent(rate.words, rate.value)
    .round('half-up', 0)
    .source(...rate.sources)
    .done();
  const high = paper
    .reckon(`${key}.high`, 'On what is over it')
    .start(whole.label, whole)
    .less(within.label, within)
    .percent('Over the cap', over.value)
    .round('half-up', 0)
    .source(over.source)
    .done();
  return paper.reckon(key, 'Withheld from a termination payment').start(low.label, low).plus(high.label, high).source(LAW).done();
}

function rateOf({ input }: Context, kind: Kind) {
  const { date } = input.pay;
  if (kind === 'D') return { value: ZERO, words: 'A dependant pays nothing up to the cap', sources: [LAW] };
  if (kind === 'N') {
    const { value, source } = tables.value('au.etp.rate.death-other', date);
    return { value, words: 'Not a dependant', sources: [source] };
  }
  const { born } = input.person;
  const reached = born !== undefined && anniversary(born, PRESERVATION_AGE) <= yearEnd(date);
  const { value, source } = tables.value(`au.etp.rate.${reached ? 'preservation' : 'before-preservation'}`, date);
  const words =
    born === undefined
      ? 'Preservation age not known: no date of birth on file'
      : reached
        ? 'Preservation age reached in the tax year'
        : 'Under preservation age';
  return { value, words, sources: [source] };
}

/** What is left under the cap of the year; of life benefits that are not excluded the whole-of-income cap, too. */
function roomUnderCap(context: Context, kind: Kind, before: Figure | undefined): Figure {
  const { paper, input } = context;
  const { date } = input.pay;
  const cap = tables.value('au.etp.cap', date);
  const of: readonly Kind[] = kind === 'R' || kind === 'O' ? ['R', 'O'] : [kind];
  const reckoning = paper.reckon(`${terminationTaxCode(kind)}.room`, 'Left under the cap').start('ETP cap of the tax year', cap.value);
  for (const one of of) {
    const paid = context.yearToDate(terminationCode(one), `Paid earlier with code ${one}`);
    if (!paid.amount.isZero()) reckoning.less(paid.label, paid);
  }
  if (before) reckoning.less(before.label, before);
  reckoning.atLeast('Not below zero', ZERO).source(cap.source);
  if (kind === 'O') {
    const whole = tables.value('au.etp.whole-of-income', date);
    const income = paper.reckon('au.etp.income', 'Other taxable income of the tax year');
    for (const [code, label] of [
      [PAY, 'Pay'],
      [ADDITIONAL, 'Bonuses and back pay'],
      [UNUSED_LEAVE, 'Unused leave'],
      [UNUSED_SERVICE_LEAVE, 'Unused long service leave'],
    ] as const) {
      const [earlier, now] = [context.yearToDate(code, `${label} earlier this tax year`), context.base(code)];
      if (!earlier.amount.isZero()) income.plus(earlier.label, earlier);
      if (!now.amount.isZero()) income.plus(now.label, now);
    }
    const other = income.done();
    const left = paper
      .reckon('au.etp.whole-left', 'Left under the whole-of-income cap')
      .start('Whole-of-income cap', whole.value)
      .less(other.label, other);
    const earlier = context.yearToDate(terminationCode('O'), 'Paid earlier with code O');
    if (!earlier.amount.isZero()) left.less(earlier.label, earlier);
    const room = left.atLeast('Not below zero', ZERO).source(whole.source).done();
    reckoning.atMost(room.label, room);
  }
  return reckoning.done();
}
