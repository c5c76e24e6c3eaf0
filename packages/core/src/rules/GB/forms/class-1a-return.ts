import { dateOf, writtenDate } from '../../../calendar/dates';
import type { Filing, FilingFacts, MadeFiling } from '../../../filings/filing';
import { Lines } from '../../../filings/lines';
import { Exact } from '../../../money/exact';
import { round } from '../../../money/roundings';
import { written } from '../../../money/amounts';
import { BENEFITS, CLASS_1A_BENEFITS } from '../employer-reckonings';
import { tables } from '../tables';
import { taxYearLabel } from '../tax-year';

const OTHER = 'other-benefits';

/** Class 1A contributions on benefits in kind of a tax year, declared by 6 July (Social Security (Contributions) Regulations 2001, regulation 80). */
export const class1aReturn: Filing = {
  code: 'p11d-b',
  form: 'P11D(b)',
  name: 'Class 1A contributions on benefits in kind',
  agency: 'HM Revenue and Customs',
  every: 'year',
  from: 'days',
  only: BENEFITS,
  periods: (year) => {
    const to = dateOf(year, 4, 5);
    return [
      {
        key: taxYearLabel(to),
        label: `tax year ${taxYearLabel(to)}`,
        from: dateOf(year - 1, 4, 6),
        to,
        due: dateOf(year, 7, 6),
        taxYear: taxYearLabel(to),
      },
    ];
  },
  enters: [
    {
      line: OTHER,
      label: 'Benefits that were not payrolled, and expenses liable for class 1A',
      help: 'Their cash equivalents as given on the P11D of each person.',
    },
  ],
  make,
  owed: 'gb.class-1a',
  statement: 'All details of benefits and expenses that have to be returned are included in this declaration, correctly and completely.',
};

function make({ period, days, entered, reckoned }: FilingFacts): MadeFiling {
  const lines = new Lines(entered, []);
  const payrolled = days.reduce((sum, { sums }) => sum + (sums[BENEFITS] ?? 0), 0);
  const rate = tables.value('gb.ni.1a', period.to);
  lines.money('payrolled', payrolled, { label: 'Benefits in kind, payrolled', codes: [BENEFITS], working: `Posted in ${period.label}.` });
  const other = lines.given(OTHER);
  if (other) lines.money(OTHER, other, { label: 'Benefits that were not payrolled', working: entered[OTHER]?.reason ?? '' });
  const all = payrolled + other;
  lines.money('liable', all, { label: 'Liable for class 1A', working: 'Both together.' });
  const due = round(Exact.minor(all).times(rate.value).over(Exact.whole(100)), 'half-down', 2).toMinor();
  lines.money('class-1a', due, {
    label: 'Class 1A contributions',
    working: `${written(all)} at ${rate.value.toDecimal()} per cent, due on ${writtenDate(dateOf(Number(period.to.slice(0, 4)), 7, 22))}.`,
    sum: true,
  });
  const owed = reckoned[CLASS_1A_BENEFITS] ?? 0;
  return {
    lines: lines.all,
    byDay: null,
    copies: [],
    checks: [
      {
        sentence: `Contributions on what was payrolled ${written(owed)} are those owed${other ? '; what is owed of the others is entered with the employer’s taxes' : ''}`,
        holds: Math.abs(owed - round(Exact.minor(payrolled).times(rate.value).over(Exact.whole(100)), 'half-down', 2).toMinor()) <= 1,
      },
    ],
    source: 'HMRC, P11D(b): return of class 1A National Insurance contributions due',
  };
}
