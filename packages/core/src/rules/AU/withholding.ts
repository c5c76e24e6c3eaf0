import type { Frequency } from '../../calendar/schedules';
import { addDays, writtenDate } from '../../calendar/dates';
import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import type { Figure } from '../../working/reckoning';
import type { Context } from './context';
import type { AuTax } from './facts';
import { ofSenior } from './seniors';
import { tables } from './tables';
import { ofPeriod, weeklyEarnings } from './weekly';

/** Codes that the ledger knows withheld amounts by. */
export const WITHHELD = 'au.paygw';
export const PAY = 'au.withholding';
export const LABEL = 'PAYG withholding';
const SCHEDULE_1 = { publication: 'ATO, Schedule 1: Statement of formulas for calculating amounts to be withheld (NAT 1004)' };

/** How somebody is withheld from, by what was declared. */
export type Way =
  | { by: 'scale'; scale: '1' | '2' | '3' | '5' | '6' }
  /** No number was quoted: so much per cent of the whole. */
  | { by: 'no-number'; foreign: boolean }
  /** A working holiday maker: bands of the year's income. */
  | { by: 'holiday-maker' }
  | { by: 'seasonal' };

const DAYS_TO_QUOTE = 28;

/** Whether a number counts as quoted on a day: one that is applied for does for 28 days. */
export function numberCounts(tax: AuTax, date: string): boolean {
  if (tax.numberQuoted === 'no') return false;
  return tax.numberQuoted !== 'applied' || tax.declaredOn === '' || date <= addDays(tax.declaredOn, DAYS_TO_QUOTE);
}

export function wayOf({ tax, input }: Pick<Context, 'tax' | 'input'>): Way {
  if (!numberCounts(tax, input.pay.date)) return { by: 'no-number', foreign: tax.status !== 'resident' };
  if (tax.status === 'working-holiday') return { by: 'holiday-maker' };
  if (tax.status === 'seasonal') return { by: 'seasonal' };
  if (tax.status === 'foreign-resident') return { by: 'scale', scale: '3' };
  if (!tax.threshold) return { by: 'scale', scale: '1' };
  return { by: 'scale', scale: tax.medicare === 'full-exemption' ? '5' : tax.medicare === 'half-exemption' ? '6' : '2' };
}

/** What is withheld from regular pay of a period, in whole dollars; with the study loan, and less offsets and the levy reduction. */
export function withheldFrom(context: Context, pay: Figure, key: string, label: string): Figure {
  const { paper, input, tax } = context;
  const { date, frequency } = input.pay;
  const way = wayOf(context);
  if (way.by === 'no-number') return flat(context, pay, key, label, way.foreign);
  if (way.by === 'seasonal') {
    const rate = tables.value('au.seasonal', date);
    return paper
      .reckon(key, label)
      .start(pay.label, pay)
      .atLeast('Not below zero', ZERO)
      .percent('Seasonal worker', rate.value)
      .round('half-up', 0)
      .source(rate.source)
      .done();
  }
  if (way.by === 'holiday-maker') return ofHolidayMaker(context, pay, key, label);
  const { scale } = way;
  const weekly = weeklyEarnings(paper, key, pay, frequency);
  const reckoning = paper.reckon(key, label);
  if (tax.seniors !== 'no' && scale !== '1' && scale !== '3') {
    const senior = ofSenior(context, weekly, key);
    reckoning.start(senior.label, senior);
  } else {
    const { bands, source } = tables.schedule(`au.paygw.scale-${scale}`, date);
    reckoning.start(weekly.label, weekly).schedule(`Scale ${scale}`, bands).atLeast('Not below zero', ZERO).source(source, SCHEDULE_1);
  }
  ofPeriod(reckoning.round('half-up', 0, 'Weekly amount, to the nearest dollar'), frequency);
  if (scale !== '1' && scale !== '3') {
    const offset = offsetOf(context, key);
    if (offset) reckoning.less(offset.label, offset).atLeast('Not below zero', ZERO);
    const reduction = medicareReduction(context, weekly, key, scale);
    if (reduction) reckoning.less(reduction.label, reduction).atLeast('Not below zero', ZERO);
  }
  const loan = studyLoan(context, weekly, key);
  if (loan) reckoning.plus(loan.label, loan);
  const more = extraPayOf(context, weekly);
  if (more) reckoning.plus(`A tax year with ${paysOfTaxYear(input.pay)} pays`, more);
  if (tax.numberQuoted === 'applied' && tax.declaredOn !== '')
    reckoning.note(`The number that was applied for counts as quoted until ${quotedBy(tax.declaredOn)}.`);
  return reckoning.fact(`Declaration on file: scale ${scale}`, 'tax-details').done();
}

/** Schedule 1, scale 4: cents count neither in what is paid nor in what is withheld. */
function flat({ paper, input }: Context, pay: Figure, key: string, label: string, foreign: boolean): Figure {
  const rate = tables.value(`au.paygw.no-number.${foreign ? 'foreign' : 'resident'}`, input.pay.date);
  return paper
    .reckon(key, label)
    .start(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .round('down', 0, 'Cents left out')
    .percent(`No tax file number, ${foreign ? 'foreign resident' : 'resident'}`, rate.value)
    .round('down', 0, 'Cents left out')
    .source(rate.source)
    .fact('Tax file number', 'tax-details')
    .done();
}

/** Of the year's income each part at its rate (Schedule 15); of an employer who is not registered at least 30 per cent. */
function ofHolidayMaker(context: Context, pay: Figure, key: string, label: string): Figure {
  const { paper, input, employer } = context;
  const { bands, source } = tables.schedule('au.whm', input.pay.date);
  const before = context.yearToDate(PAY, 'Paid earlier this tax year');
  const reckoning = paper.reckon(key, label);
  if (employer.holidayMakers !== true) {
    const rate = tables.value('au.whm.unregistered', input.pay.date);
    context.problem({
      code: 'holiday-makers-unregistered',
      weight: 'look',
      figure: key,
      sentence:
        'The employer is not registered to employ working holiday makers: 30 per cent is withheld from the first dollar. Register, and enter it with the registrations.',
    });
    return reckoning
      .start(pay.label, pay)
      .atLeast('Not below zero', ZERO)
      .percent('Employer not registered', rate.value)
      .round('half-up', 0)
      .source(rate.source)
      .done();
  }
  const earlier = paper
    .reckon(`${key}.earlier`, 'On what was paid earlier')
    .start(before.label, before)
    .schedule('Bands of the year', bands)
    .done();
  return reckoning
    .start(before.label, before)
    .plus(pay.label, pay)
    .atLeast('Not below zero', ZERO)
    .schedule('Bands of the year', bands)
    .less(earlier.label, earlier)
    .round('half-up', 0)
    .source(source)
    .done();
}

/** Tax offsets of the year, the part that the schedule gives a pay of the period. */
function offsetOf({ paper, input, tax }: Context, key: string): Figure | undefined {
  const year = Exact.of(tax.offsets);
  if (year.isZero()) return undefined;
  const named: Partial<Record<Frequency, string>> = {
    weekly: 'weekly',
    fortnightly: 'fortnightly',
    monthly: 'monthly',
    quarterly: 'quarterly',
  };
  const period = named[input.pay.frequency];
  const part = tables.value(`au.paygw.offset.${period ?? 'weekly'}`, input.pay.date);
  const reckoning = paper
    .reckon(`${key}.offset`, 'Tax offsets')
    .start('Offsets of the year, as declared', year)
    .percent('Part of this pay', part.value);
  return (period ? reckoning.round('half-up', 0) : ofPeriod(reckoning.round('half-up', 0), input.pay.frequency))
    .source(part.source)
    .fact('Withholding declaration', 'tax-details')
    .done();
}

/** Medicare levy adjustment of a family on a low income (Schedule 1), in whole dollars of the period. */
function medicareReduction({ paper, input, tax }: Context, weekly: Figure, key: string, scale: string): Figure | undefined {
  if (tax.medicareReduction === 'no' || scale === '5') return undefined;
  const { date, frequency } = input.pay;
  const kind = scale === '6' ? 'half' : 'full';
  const of = (what: string) => tables.value(`au.medicare.${what}`, date);
  const [threshold, family, child] = [of(`threshold.${kind}`), of('family'), of('child')];
  const [levy, shadeIn, shadeOut] = [of(`levy.${kind}`), of(`shade-in.${kind}`), of(`shade-out.${kind}`)];
  if (weekly.amount.isBelow(threshold.value)) return undefined;
  const familyWeekly = paper
    .reckon(`${key}.family`, 'Weekly family threshold')
    .start('Family threshold of the year', family.value)
    .plus(`${tax.dependants} dependent children`, child.value.times(Exact.whole(tax.dependants)))
    .over('Weeks', Exact.whole(52))
    .round('half-up')
    .source(family.source, child.source)
    .done();
  const end = round(familyWeekly.amount.times(shadeIn.value).over(shadeOut.value), 'down', 0);
  const reckoning = paper.reckon(`${key}.medicare`, 'Medicare levy reduction');
  if (!weekly.amount.isBelow(end)) return undefined;
  if (weekly.amount.isBelow(familyWeekly.amount)) {
    const whole = weekly.amount.times(levy.value).over(Exact.whole(100));
    reckoning
      .start(weekly.label, weekly)
      .less('Weekly earnings threshold', threshold.value)
      .percent('Shading in', shadeIn.value)
      .atMost('The whole levy', whole);
  } else
    reckoning
      .start('Levy at the family threshold', familyWeekly.amount.times(levy.value).over(Exact.whole(100)))
      .less('Shading out of what is over it', weekly.amount.minus(familyWeekly.amount).times(shadeOut.value).over(Exact.whole(100)))
      .atLeast('Not below zero', ZERO);
  return ofPeriod(reckoning.round('half-up', 0, 'Weekly amount, to the nearest dollar'), frequency)
    .source(threshold.source, levy.source)
    .fact('Medicare levy variation declaration', 'tax-details')
    .done();
}

/** The component of a study or training support loan (Schedule 8), in whole dollars of the period. */
function studyLoan({ paper, input, tax }: Context, weekly: Figure, key: string): Figure | undefined {
  if (!tax.studyLoan) return undefined;
  const claimed = tax.status !== 'resident' || tax.threshold;
  const { bands, source } = tables.schedule(`au.study.${claimed ? 'claimed' : 'unclaimed'}`, input.pay.date);
  const reckoning = paper
    .reckon(`${key}.study-loan`, 'Study and training support loan')
    .start(weekly.label, weekly)
    .schedule('Component of the loan', bands);
  return ofPeriod(reckoning.round('half-up', 0, 'Weekly amount, to the nearest dollar'), input.pay.frequency)
    .source(source)
    .fact('Loan declared', 'tax-details')
    .done();
}

const paysOfTaxYear = ({ payDatesInTaxYear, payDatesInYear }: Context['input']['pay']): number => payDatesInTaxYear ?? payDatesInYear;

/** A tax year with 53 weekly or 27 fortnightly pays has more withheld, by ranges of earnings. */
function extraPayOf({ input }: Context, weekly: Figure): Exact | undefined {
  const { frequency, date } = input.pay;
  const pays = paysOfTaxYear(input.pay);
  const kind = frequency === 'weekly' && pays === 53 ? 'weekly' : frequency === 'fortnightly' && pays === 27 ? 'fortnightly' : undefined;
  if (!kind) return undefined;
  const earnings = kind === 'weekly' ? weekly.amount : weekly.amount.times(Exact.whole(2));
  const row = tables
    .schedule(`au.paygw.extra-pay.${kind}`, date)
    .bands.filter(({ over }) => !earnings.isBelow(over))
    .at(-1);
  return row && !row.base.isZero() ? row.base : undefined;
}

/** Until when a number that was applied for counts. */
const quotedBy = (declaredOn: string): string => writtenDate(addDays(declaredOn, DAYS_TO_QUOTE));
