import type { Figure } from '../../../working/reckoning';
import type { TaxContext, TaxResult } from '../../country-pack';
import { tables } from '../tables';

export const BACKUP = 'us.backup';

/**
 * Backup withholding from who is paid by contract and has given no number, or one that the agency has refused (26 U.S.C. 3406): of the
 * whole payment with which the year's reach the amount that is to be reported (3406(b)(6)), and of all after it.
 */
export function backupWithholding(
  { paper, input, yearToDate }: Pick<TaxContext, 'paper' | 'input' | 'yearToDate'>,
  paid: Figure,
): TaxResult[] {
  const date = input.pay.date;
  const least = tables.value('us.nonemployee.threshold', date);
  const rate = tables.value('us.backup.rate', date);
  const before = yearToDate('us.nonemployee', 'Paid before in the year');
  if (before.amount.plus(paid.amount).isBelow(least.value)) return [];
  const figure = paper
    .reckon(BACKUP, 'Backup withholding')
    .start(paid.label, paid)
    .percent(`${rate.value.toDecimal()}%`, rate.value)
    .round('half-up')
    .source(rate.source, least.source)
    .note(`The year's payments reach ${least.value.toDecimal()}, and no taxpayer number is on file that the agency accepts.`)
    .done();
  return [{ code: BACKUP, label: 'Backup withholding', figure }];
}
