import { CannotCompute, type TaxContext } from '../country-pack';
import { addDays, addMonths } from '../../calendar/dates';
import { taxMonth, taxWeek, yearStart } from './tax-year';

/** How far the tax year has run: period `number` of `ofYear`, and how many of them one payslip pays. */
export interface Progress {
  number: number;
  ofYear: 12 | 52;
  paid: number;
}

const PAID: Readonly<Record<string, Omit<Progress, 'number'>>> = {
  weekly: { ofYear: 52, paid: 1 },
  fortnightly: { ofYear: 52, paid: 2 },
  'four-weekly': { ofYear: 52, paid: 4 },
  monthly: { ofYear: 12, paid: 1 },
  quarterly: { ofYear: 12, paid: 3 },
  'half-yearly': { ofYear: 12, paid: 6 },
  yearly: { ofYear: 12, paid: 12 },
};

/** @throws CannotCompute for pay periods that the tables do not know */
export function progressOf({ input }: Pick<TaxContext, 'input'>): Progress {
  const { date, frequency } = input.pay;
  const paid = PAID[frequency as string];
  if (!paid)
    throw new CannotCompute(
      'no-table',
      'There are no PAYE tables here for this pay period. Pay weekly, fortnightly, four-weekly, monthly, quarterly, half-yearly or yearly.',
    );
  return { ...paid, number: paid.ofYear === 12 ? taxMonth(date) : taxWeek(date) };
}

/** Whether the pay date after this one lies in the next tax year. */
export function isLastOfYear(context: Pick<TaxContext, 'input'>): boolean {
  const { date } = context.input.pay;
  const { ofYear, paid } = progressOf(context);
  return yearStart(ofYear === 12 ? addMonths(date, paid) : addDays(date, 7 * paid)) !== yearStart(date);
}
