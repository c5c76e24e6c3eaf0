import { ZERO } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import type { TaxContext, TaxResult } from '../country-pack';
import type { Parameter } from '../parameters';
import type { UkTax } from './facts';
import { LETTERS, type Letter } from './letters';
import { hasAge, statePensionDay } from './pension-age';
import { tables } from './tables';
import { ofDirectorsYear, ofPeriod, type Threshold } from './thresholds';
import { isLastOfYear } from './progress';
import { writtenDate } from '../../calendar/dates';

const METHOD = {
  publication: 'HMRC, CA38 and National Insurance guidance for software developers',
  section: 'Exact percentage method: to the nearest penny, half a penny down',
};
const DIRECTORS = {
  publication: 'Social Security (Contributions) Regulations 2001, regulation 8; HMRC, CA44',
  section: 'Annual earnings period of a director',
};
const EARNINGS = 'gb.ni.earnings';
const EMPLOYEE = 'gb.ni';
const EMPLOYER = 'gb.ni.employer';

type Context = TaxContext<UkTax>;

/** Earnings that contributions are reckoned on, with the thresholds of their earnings period. */
interface Reckoned {
  earnings: Figure;
  /** A director's: of the year so far. */
  ofYear: boolean;
  /** What was contributed or stated before on the same earnings is taken off. */
  before?: { label: string; of(code: string): Figure };
  at(name: Threshold): Parameter;
}

/**
 * A director's earnings period is the year. By the alternative method contributions are reckoned as of everybody else, and of
 * the year with the last payment in it.
 */
function reckonedOn(context: Context): Reckoned {
  const { input, tax, paper } = context;
  const earnings = context.base(EARNINGS);
  const { date } = input.pay;
  const annual = tax.director === 'annual' || (tax.director === 'alternative' && isLastOfYear(context));
  if (!annual || (tax.directorSince !== '' && tax.directorSince > date)) return ofEarningsPeriod(context, earnings);
  const soFar = paper
    .reckon('gb.ni.earnings-to-date', 'Earnings in the tax year')
    .start('Earnings earlier this tax year', context.yearToDate(EARNINGS, ''))
    .plus(earnings.label, earnings)
    .source(DIRECTORS)
    .done();
  return {
    earnings: soFar,
    ofYear: true,
    before: { label: 'Contributed earlier this tax year', of: (code) => context.yearToDate(code, '') },
    at: (name) => ofDirectorsYear(context, name),
  };
}

const TOGETHER = {
  publication: 'Social Security (Contributions) Regulations 2001, regulations 11 and 15; HMRC, CWG2, 1.9',
  section: 'Payments of one earnings period are added up, from this and other employments with the employer',
};

/** With what was paid beside the regular pay in the same earnings period. */
function ofEarningsPeriod(context: Context, earnings: Figure): Reckoned {
  const at = (name: Threshold) => ofPeriod(context, name);
  const earlier = context.earlierInPeriod(EARNINGS, '');
  if (earlier.amount.isZero()) return { earnings, ofYear: false, at };
  const together = context.paper
    .reckon('gb.ni.earnings-of-period', 'Earnings of the earnings period')
    .start('Paid earlier in the earnings period', earlier)
    .plus(earnings.label, earnings)
    .source(TOGETHER)
    .done();
  return {
    earnings: together,
    ofYear: false,
    before: { label: 'Contributed earlier in the earnings period', of: (code) => context.earlierInPeriod(code, '') },
    at,
  };
}

const between = (
  context: Context,
  key: string,
  label: string,
  { earnings }: Reckoned,
  from: [string, Parameter],
  to?: [string, Parameter],
) => {
  const reckoning = context.paper.reckon(key, label).start(earnings.label, earnings);
  if (to) reckoning.atMost(to[0], to[1].value);
  return reckoning.less(from[0], from[1].value).atLeast('Not below zero', ZERO);
};

/** Employee's class 1 contributions by the category letter, by the exact percentage method. */
export function nationalInsuranceOfEmployee(context: Context): TaxResult {
  const { paper, input, tax } = context;
  fitsAge(context);
  const letter: Letter = LETTERS[tax.category];
  const on = reckonedOn(context);
  const { date } = input.pay;
  const reckoning = paper.reckon(EMPLOYEE, 'National insurance');
  if (letter.employee === 'none') reckoning.start(`Category ${tax.category}: none of the employee`, ZERO);
  else {
    const primary = on.at('primary');
    const upper = on.at('upper');
    const main = tables.value(`gb.ni.employee.${letter.employee}`, date);
    const above = tables.value('gb.ni.employee.upper', date);
    const atMain = between(
      context,
      'gb.ni.main',
      'Between primary threshold and upper earnings limit',
      on,
      ['Primary threshold', primary],
      ['Upper earnings limit', upper],
    )
      .percent('Main rate', main.value)
      .round('half-down')
      .source(primary.source, main.source, METHOD)
      .done();
    const atUpper = between(context, 'gb.ni.upper', 'Above the upper earnings limit', on, ['Upper earnings limit', upper])
      .percent('Upper rate', above.value)
      .round('half-down')
      .source(above.source, METHOD)
      .done();
    reckoning.start(atMain.label, atMain).plus(atUpper.label, atUpper);
  }
  if (on.before) reckoning.less(on.before.label, on.before.of(EMPLOYEE));
  const figure = reckoning.fact(`Category ${tax.category}${on.ofYear ? ', director' : ''}`, 'tax-details').done();
  return {
    code: EMPLOYEE,
    label: 'National insurance',
    figure,
    bases: [
      ...bandsOf(context, on),
      { code: `gb.ni.${tax.category}.employee`, label: `Contributions of the employee, ${tax.category}`, figure },
    ],
  };
}

/** Employer's class 1 contributions by the category letter. */
export function nationalInsuranceOfEmployer(context: Context): TaxResult {
  const { paper, input, tax } = context;
  const letter: Letter = LETTERS[tax.category];
  const on = reckonedOn(context);
  const rate = tables.value('gb.ni.employer', input.pay.date);
  const names = {
    secondary: 'Secondary threshold',
    upper: 'Upper secondary threshold',
    special: 'Upper secondary threshold of the site',
    none: '',
  };
  const label = "National insurance, employer's";
  const reckoning = paper.reckon(EMPLOYER, label);
  if (letter.employer === 'none') reckoning.start(`Category ${tax.category}: none of the employer`, ZERO);
  else {
    const from = on.at(letter.employer);
    reckoning
      .start(on.earnings.label, on.earnings)
      .less(names[letter.employer], from.value)
      .atLeast('Not below zero', ZERO)
      .percent("Employer's rate", rate.value)
      .round('half-down')
      .source(from.source, rate.source, METHOD);
  }
  if (on.before) reckoning.less(on.before.label, on.before.of(EMPLOYER));
  const figure = reckoning.done();
  return {
    code: EMPLOYER,
    label,
    figure,
    bases: [{ code: `gb.ni.${tax.category}.employer`, label: `Contributions of the employer, ${tax.category}`, figure }],
  };
}

/** What reports state of a letter: earnings at the lower limit, from there to the primary threshold, and to the upper limit. */
function bandsOf(context: Context, on: Reckoned): NonNullable<TaxResult['bases']> {
  const { paper, tax } = context;
  const code = (name: string): string => `gb.ni.${tax.category}.${name}`;
  const lower = on.at('lower');
  const reached = !lower.value.isAbove(on.earnings.amount);
  const post = (name: string, label: string, of: Figure) => {
    if (!on.before) return { code: code(name), label: `${label}, ${tax.category}`, figure: of };
    const figure = paper
      .reckon(`${code(name)}.now`, label)
      .start(of.label, of)
      .less('Stated before', on.before.of(code(name)))
      .done();
    return { code: code(name), label: `${label}, ${tax.category}`, figure };
  };
  const atLower = paper
    .reckon(code('to-lower'), 'Earnings at the lower earnings limit')
    .start(reached ? 'Lower earnings limit, reached' : 'Lower earnings limit, not reached', reached ? lower.value : ZERO)
    .source(lower.source)
    .done();
  const limit = (name: Threshold, label: string): [string, Parameter] => [label, on.at(name)];
  return [
    post('to-lower', 'Earnings at the lower earnings limit', atLower),
    post(
      'to-primary',
      'Earnings from there to the primary threshold',
      between(
        context,
        code('to-primary'),
        'Earnings to the primary threshold',
        on,
        limit('lower', 'Lower earnings limit'),
        limit('primary', 'Primary threshold'),
      ).done(),
    ),
    post(
      'to-upper',
      'Earnings from there to the upper earnings limit',
      between(
        context,
        code('to-upper'),
        'Earnings to the upper earnings limit',
        on,
        limit('primary', 'Primary threshold'),
        limit('upper', 'Upper earnings limit'),
      ).done(),
    ),
    { code: code('earnings'), label: `Earnings, ${tax.category}`, figure: context.base(EARNINGS) },
  ];
}

/** A letter that belongs to an age, or to who has not reached pension age, and is on file for somebody else. */
function fitsAge(context: Context): void {
  const { input, tax } = context;
  const { born } = input.person;
  if (born === undefined || tax.category === 'X') return;
  const letter: Letter = LETTERS[tax.category];
  const { date } = input.pay;
  const name = input.person.name;
  const said = (sentence: string): void =>
    context.problem({
      code: 'category-and-age',
      weight: 'stop',
      figure: EMPLOYEE,
      sentence: `${sentence} Correct the category with the tax details.`,
    });
  if (letter.below && hasAge(born, letter.below, date))
    return said(`Category ${tax.category} is for who is under ${letter.below}, and ${name} was born on ${writtenDate(born)}.`);
  const pensioned = statePensionDay(born);
  if (letter.pensionAge && pensioned > date)
    return said(`Category ${tax.category} is for who has state pension age; ${name} reaches it on ${writtenDate(pensioned)}.`);
  if (!letter.pensionAge && pensioned <= date && letter.employee !== 'none')
    said(
      `${name} reached state pension age on ${writtenDate(pensioned)}: nothing more is contributed by an employee, and category C, or K or S of a site, applies.`,
    );
}
