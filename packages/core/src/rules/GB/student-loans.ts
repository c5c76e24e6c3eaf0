import { Exact, ZERO } from '../../money/exact';
import { round } from '../../money/roundings';
import type { Figure } from '../../working/reckoning';
import type { TaxContext, TaxResult } from '../country-pack';
import type { UkTax } from './facts';
import { progressOf } from './progress';
import { tables } from './tables';

const GUIDANCE = {
  publication: 'HMRC, Collection of Student Loans and Postgraduate Loans (CSL) guidance for employers',
  section: 'Of earnings for national insurance over the threshold of the period, down to a pound',
};

/** Repayments of a student loan and of a postgraduate loan, each by itself; nothing is carried from one period to another. */
export function loanRepayments(context: TaxContext<UkTax>): TaxResult[] {
  const { studentLoan, postgraduateLoan } = context.tax;
  return [
    ...(studentLoan === 'none'
      ? []
      : [
          {
            code: 'gb.student-loan',
            label: `Student loan, plan ${studentLoan}`,
            figure: repayment(context, studentLoan, 'gb.student-loan'),
          },
        ]),
    ...(postgraduateLoan
      ? [{ code: 'gb.postgraduate-loan', label: 'Postgraduate loan', figure: repayment(context, 'postgraduate', 'gb.postgraduate-loan') }]
      : []),
  ];
}

function repayment(context: TaxContext<UkTax>, plan: string, key: string): Figure {
  const { paper, input } = context;
  const { date } = input.pay;
  const { ofYear, paid } = progressOf(context);
  const yearly = tables.value(`gb.student-loan.${plan}`, date);
  const rate = tables.value(plan === 'postgraduate' ? 'gb.student-loan.postgraduate.rate' : 'gb.student-loan.rate', date);
  const threshold = round(yearly.value.times(Exact.whole(paid)).over(Exact.whole(ofYear)), 'down', 2);
  const now = context.base('gb.ni.earnings');
  const earlier = context.earlierInPeriod('gb.ni.earnings', '');
  const earnings = earlier.amount.isZero()
    ? now
    : paper
        .reckon(`${key}.earnings`, 'Earnings of the earnings period')
        .start('Paid earlier in the earnings period', earlier)
        .plus(now.label, now)
        .done();
  const due = paper
    .reckon(
      earlier.amount.isZero() ? key : `${key}.of-period`,
      plan === 'postgraduate' ? 'Postgraduate loan' : `Student loan, plan ${plan}`,
    )
    .start(earnings.label, earnings)
    .less(`Threshold of the period, ${yearly.value.toDecimal()} a year`, threshold)
    .atLeast('Not below zero', ZERO)
    .percent('Rate', rate.value)
    .round('down', 0)
    .source(yearly.source, rate.source, GUIDANCE)
    .fact('Loans on file', 'tax-details')
    .done();
  if (earlier.amount.isZero()) return due;
  return paper
    .reckon(key, due.label)
    .start(due.label, due)
    .less('Repaid earlier in the earnings period', context.earlierInPeriod(key, ''))
    .done();
}
