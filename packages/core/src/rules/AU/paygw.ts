import { Exact } from '../../money/exact';
import type { TaxResult } from '../country-pack';
import { usualPay, withheldFromAdditional } from './additional';
import { ADDITIONAL_TAX } from './codes';
import { terminationPayments } from './termination';
import { unusedLeave } from './unused-leave';
import { LABEL, PAY, quotedBy, WITHHELD, withheldFrom, type Context } from './withholding';

/** PAYG withholding (Taxation Administration Act 1953, schedule 1, part 2-5): from regular pay, from what is spread over the year, from leave paid out; termination payments apart. */
export function payAsYouGo(context: Context): TaxResult[] {
  const { paper, tax, input } = context;
  const pay = context.base(PAY);
  const usual = usualPay(context, pay);
  const additional = withheldFromAdditional(context, usual);
  const leave = unusedLeave(context, usual);
  const termination = terminationPayments(context);
  const extra = input.pay.special || pay.amount.isZero() ? Exact.whole(0) : Exact.of(tax.extra);
  const regular = withheldFrom(context, pay, 'au.paygw.regular', 'Withheld from regular pay');
  const reckoning = paper.reckon(WITHHELD, LABEL).start(regular.label, regular);
  if (!extra.isZero()) reckoning.plus('Extra tax, as asked for', extra).fact('Extra tax each pay', 'tax-details');
  if (additional) reckoning.plus(additional.label, additional);
  if (leave) reckoning.plus(leave.withheld.label, leave.withheld);
  if (tax.numberQuoted === 'applied' && tax.declaredOn !== '')
    reckoning.note(`The number that was applied for counts as quoted until ${quotedBy(tax.declaredOn)}.`);
  const most = paper.reckon('au.paygw.most', 'No more than the pay').start(pay.label, pay).done();
  // Extra tax never takes more than regular pay leaves.
  if (!extra.isZero() && !additional && !leave) reckoning.atMost(most.label, most);
  return [
    {
      code: WITHHELD,
      label: LABEL,
      figure: reckoning.done(),
      counted: pay,
      bases: [
        ...(additional ? [{ code: ADDITIONAL_TAX, label: additional.label, figure: additional }] : []),
        ...(leave?.bases ?? []),
        ...termination.bases,
      ],
    },
    ...termination.taxes,
  ];
}
