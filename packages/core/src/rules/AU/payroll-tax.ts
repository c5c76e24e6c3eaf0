import { lastOfMonth, MONTHS, monthOf, yearOf, type IsoDate } from '../../calendar/dates';
import type { EmployerReckonings, Reckoned } from '../../filings/reckoned';
import type { Minor } from '../../money/amounts';
import { Exact, ZERO } from '../../money/exact';
import { Paper, type Figure } from '../../working/reckoning';
import type { AuEmployer } from './employer';
import { PAYROLL_TAX, TAXED_WAGES } from './codes';
import { placeOf, stateCodes, STATES, type StateCode } from './states';
import { tables } from './tables';
import { yearStart } from './tax-year';

const codeOf = (what: string, state: StateCode): string => `${what}@${placeOf(state)}`;

/** A month of the tax year, with what was paid up to its end. */
interface Month {
  /** 1 for July. */
  number: number;
  on: IsoDate;
  label: string;
  readonly toDate: (code: string) => Minor;
}

/**
 * Payroll tax of each state or territory that the employer is registered in, month by month out of the wages of the year so
 * far: only what differs from the months before is added.
 */
export const payrollTax: EmployerReckonings = {
  codes: stateCodes.map((state) => codeOf(TAXED_WAGES, state)),
  labels: Object.fromEntries(stateCodes.map((state) => [codeOf(PAYROLL_TAX, state), `Payroll tax, ${STATES[state]}`])),
  of({ employer, days }) {
    const made: Reckoned[] = [];
    const owed = new Map<string, Minor>();
    const registered = (employer as Partial<AuEmployer>).states ?? {};
    for (const month of monthsOf(days))
      for (const state of stateCodes) {
        const facts = registered[state];
        if (!facts?.payrollTaxNumber || month.toDate(codeOf(TAXED_WAGES, state)) === 0) continue;
        const code = codeOf(PAYROLL_TAX, state);
        const paper = new Paper(true);
        const toDate = taxToDate(paper, month, state, facts);
        const before = owed.get(code) ?? 0;
        const amount = toDate.amount.toMinor() - before;
        owed.set(code, before + amount);
        if (!amount) continue;
        paper
          .reckon(code, `Payroll tax of ${month.label}`)
          .start(toDate.label, toDate)
          .less('Owed for the months before', Exact.minor(before))
          .done();
        made.push({ code, on: month.on, amount, period: month.label, workings: paper.workings });
      }
    return made;
  },
};

function monthsOf(days: Parameters<EmployerReckonings['of']>[0]['days']): Month[] {
  const months = new Map<string, IsoDate>();
  // With the first pay date of the month, so that a later one of it only adds to what was reckoned.
  for (const { payDate } of days) if (!months.has(payDate.slice(0, 7))) months.set(payDate.slice(0, 7), payDate);
  return [...months.values()].map((first) => {
    const end = lastOfMonth(yearOf(first), monthOf(first));
    return {
      number: ((monthOf(first) + 5) % 12) + 1,
      on: first,
      label: `${MONTHS[monthOf(first) - 1]} ${yearOf(first)}`,
      toDate: (code) =>
        days.reduce((sum, { payDate, sums }) => (payDate >= yearStart(first) && payDate <= end ? sum + (sums[code] ?? 0) : sum), 0),
    };
  });
}

type Facts = NonNullable<AuEmployer['states'][StateCode]>;

/** On wages of the year so far over the part of the threshold that those months have, at the state's rates; with its levies. */
function taxToDate(paper: Paper, { number, on, toDate }: Month, state: StateCode, facts: Facts): Figure {
  const at = (what: string) => tables.value(codeOf(`au.payroll-tax.${what}`, state), on);
  const has = (what: string): boolean => tables.has(codeOf(`au.payroll-tax.${what}`, state), on);
  const wages = paper
    .reckon('wages', `Wages in ${STATES[state]} so far`)
    .start('Posted in the tax year', Exact.minor(toDate(codeOf(TAXED_WAGES, state))))
    .done();
  const months = Exact.whole(number);
  // What a whole year would have at this pace in all states, with the others of the group: thresholds are shared by it.
  const everywhere = stateCodes.reduce((sum, one) => sum + toDate(codeOf(TAXED_WAGES, one)), 0);
  const yearly = paper
    .reckon('yearly', 'Wages of a year at this pace, with the group')
    .start('Wages in all states so far', Exact.minor(everywhere))
    .times('Months of a year', Exact.whole(12))
    .over('Months so far', months)
    .plus('Other wages of the group in Australia', Exact.of(facts.groupWages ?? '0'))
    .done();
  const share = paper
    .reckon('share', `Share of ${STATES[state]} in them`)
    .in('percent')
    .start(wages.label, wages)
    .times('Months of a year', Exact.whole(12))
    .over('Months so far', months)
    .over(yearly.label, yearly)
    .done();
  const deduction = deductionOf(paper, { yearly, share, wages, number, facts, state, at, has });
  const rate = rateOf(state, yearly, facts, { at, has });
  const reckoning = paper
    .reckon('ordinary', 'Payroll tax so far')
    .start(wages.label, wages)
    .less(deduction.label, deduction)
    .atLeast('Not below zero', ZERO);
  if (has('higher-over')) {
    const [over, higher] = [at('higher-over'), at('higher-rate')];
    const band = Exact.whole(number)
      .over(Exact.whole(12))
      .times(over.value.minus(at('threshold').value))
      .times(share.amount);
    const more = reckoning.result.minus(band).atLeast(ZERO);
    reckoning
      .percent(rate.words, rate.value)
      .plus(
        `Over ${over.value.toDecimal()} a year ${higher.value.toDecimal()} per cent`,
        more.times(higher.value.minus(rate.value)).over(Exact.whole(100)),
      )
      .source(higher.source);
  } else reckoning.percent(rate.words, rate.value);
  const ordinary = reckoning
    .round('half-up')
    .source(...rate.sources)
    .done();
  if (!has('levy')) return ordinary;
  const { bands, source } = tables.schedule(codeOf('au.payroll-tax.levy', state), on);
  const levy = paper
    .reckon('levy', 'Levies for mental health')
    .start(yearly.label, yearly)
    .schedule('Levies on wages of a year', bands)
    .times(share.label, share)
    .times('Months so far', months)
    .over('Months of a year', Exact.whole(12))
    .round('half-up')
    .source(source)
    .done();
  return levy.amount.isZero()
    ? ordinary
    : paper.reckon('to-date', 'Payroll tax and levies so far').start(ordinary.label, ordinary).plus(levy.label, levy).done();
}

interface Of {
  yearly: Figure;
  share: Figure;
  wages: Figure;
  number: number;
  facts: Facts;
  state: StateCode;
  at: (what: string) => ReturnType<typeof tables.value>;
  has: (what: string) => boolean;
}

/** What of the year's wages is free: the threshold, less where the law shrinks it, shared by wages, for the months so far. */
function deductionOf(paper: Paper, { yearly, share, wages, number, facts, at, has }: Of): Figure {
  const label = 'Deductible amount of these months';
  if (facts.withoutThreshold) return paper.reckon('deduction', label).start('Another member of the group claims it', ZERO).done();
  const threshold = at('threshold');
  const reckoning = paper.reckon('deduction', label);
  if (has('deduction')) {
    const fixed = at('deduction');
    reckoning
      .start(
        yearly.amount.isAbove(threshold.value) ? 'Deductible amount of a year' : 'Wages of a year within the threshold',
        yearly.amount.isAbove(threshold.value) ? fixed.value : yearly.amount,
      )
      .source(fixed.source);
  } else reckoning.start('Threshold of a year', threshold.value);
  if (has('reduced-over')) {
    const [over, by] = [at('reduced-over'), at('reduced-by')];
    const less = yearly.amount.minus(over.value).atLeast(ZERO).times(by.value).over(Exact.whole(100));
    if (!less.isZero())
      reckoning
        .less(`Shrinks by ${by.value.toDecimal()} per cent of what is over ${over.value.toDecimal()}`, less)
        .atLeast('Not below zero', ZERO)
        .source(over.source, by.source);
  }
  reckoning.times('Months so far', Exact.whole(number)).over('Months of a year', Exact.whole(12));
  reckoning.times(share.label, share);
  return reckoning.atMost(wages.label, wages).round('half-up').source(threshold.source).done();
}

function rateOf(state: StateCode, yearly: Figure, facts: Facts, { at, has }: Pick<Of, 'at' | 'has'>) {
  const plain = at('rate');
  if (facts.regional && has('regional-rate')) {
    const rate = at('regional-rate');
    return { value: rate.value, words: 'Regional employer', sources: [rate.source] };
  }
  let { value } = plain;
  const sources = [plain.source];
  let words = `Rate of ${state}`;
  if (has('higher-whole-over') && yearly.amount.isAbove(at('higher-whole-over').value)) {
    const higher = at('higher-rate');
    value = higher.value;
    sources.push(higher.source);
    words = `Rate over ${at('higher-whole-over').value.toDecimal()} a year`;
  }
  if (has('full-rate-over')) {
    const [full, threshold] = [at('full-rate-over'), at('threshold')];
    if (yearly.amount.isBelow(full.value)) {
      value = value.times(yearly.amount.minus(threshold.value).atLeast(ZERO)).over(full.value.minus(threshold.value));
      words = 'Rate, rising between the thresholds';
      sources.push(full.source);
    }
  }
  if (facts.regional && has('regional-discount')) {
    const discount = at('regional-discount');
    value = value.minus(discount.value);
    words = `${words}, less the regional discount`;
    sources.push(discount.source);
  }
  return { value, words, sources };
}
