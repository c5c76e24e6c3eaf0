import { Exact } from '../../money/exact';
import type { Figure } from '../../working/reckoning';
import type { TaxResult } from '../country-pack';
import { usualPay, withheldFromAdditional } from './additional';
import { terminationPayments } from './termination';
import { unusedLeave } from './unused-leave';
import type { Context } from './context';
import { LABEL, PAY, WITHHELD, withheldFrom } from './withholding';

/** PAYG withholding (Taxation Administration Act 1953, schedule 1, part 2-5): from regular pay, from what is spread over the year, from leave paid out; termination payments apart. */
export function payAsYouGo(context: Context): TaxResult[] {
  const { tax, input } = context;
  const pay = context.base(PAY);
  const usual = usualPay(context, pay);
  const additional = withheldFromAdditional(context, usual);
  const leave = unusedLeave(context, usual);
  const termination = terminationPayments(context);
  const extra = input.pay.special || pay.amount.isZero() ? Exact.whole(0) : Exact.of(tax.extra);
  const alone = extra.isZero() && !additional && !leave;
  const figure = alone
    ? withheldFrom(context, pay, WITHHELD, LABEL)
    : together(context, { pay, extra, additional: additional?.withheld, leave: leave?.withheld });
  return [
    {
      code: WITHHELD,
      label: LABEL,
      figure,
      counted: pay,
      bases: [...(additional?.bases ?? []), ...(leave?.bases ?? []), ...termination.bases],
    },
    ...termination.taxes,
  ];
}

interface Parts {
  pay: Figure;
  extra: Exact;
  additional: Figure | undefined;
  leave: Figure | undefined;
}

function together(context: Context, { pay, extra, additional, leave }: Parts): Figure {
  const regular = withheldFrom(context, pay, 'au.paygw.regular', 'Withheld from regular pay');
  const reckoning = context.paper.reckon(WITHHELD, LABEL).start(regular.label, regular);
  if (!extra.isZero()) reckoning.plus('Extra tax, as asked for', extra).fact('Extra tax each pay', 'tax-details');
  if (additional) reckoning.plus(additional.label, additional);
  if (leave) reckoning.plus(leave.label, leave);
  // Extra tax never takes more than regular pay leaves.
  if (!additional && !leave) reckoning.atMost(pay.label, pay);
  return reckoning.done();
}
