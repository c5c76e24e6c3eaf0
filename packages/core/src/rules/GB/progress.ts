import { CannotCompute, type TaxContext } from '../country-pack';
import { addDays, addMonths } from '../../calendar/dates';
import { taxMonth, taxWeek, yearStart } from './tax-year';

/** How far the tax year has run: period `number` of `ofYear`, and how many of them one payslip pays: `unit` each, so many `times`. */
export interface Progress {
  number: number;
  ofYear: 12 | 52;
  paid: number;
  unit: number;
  times: number;
}

const PAID: Readonly<Record<string, { ofYear: 12 | 52; unit: number }>> = {
  weekly: { ofYear: 52, unit: 1 },
  fortnightly: { ofYear: 52, unit: 2 },
  'four-weekly': { ofYear: 52, unit: 4 },
  monthly: { ofYear: 12, unit: 1 },
  quarterly: { ofYear: 12, unit: 3 },
  'half-yearly': { ofYear: 12, unit: 6 },
  yearly: { ofYear: 12, unit: 12 },
};

/**
 * Pay that is paid ahead goes by the last week that it is for (HMRC, CWG2, 1.10: holiday pay).
 * @throws CannotCompute for pay periods that the tables do not know, and for pay ahead that they cannot tax
 */
export function progressOf({ input }: Pick<TaxContext, 'input'>): Progress {
  const { date, frequency, ahead = 0 } = input.pay;
  const of = PAID[frequency as string];
  if (!of)
    throw new CannotCompute(
      'no-table',
      'There are no PAYE tables here for this pay period. Pay weekly, fortnightly, four-weekly, monthly, quarterly, half-yearly or yearly.',
    );
  const times = ahead + 1;
  const paid = of.unit * times;
  if (!ahead) return { ...of, paid, times, number: of.ofYear === 12 ? taxMonth(date) : taxWeek(date) };
  if (of.ofYear === 12)
    throw new CannotCompute('ahead-not-weeks', 'Only pay by the week can be paid ahead. Take the further periods off this payslip.');
  const last = addDays(date, 7 * of.unit * ahead);
  if (yearStart(last) !== yearStart(date))
    throw new CannotCompute(
      'ahead-into-next-year',
      'Pay ahead would reach into the next tax year, which has tables of its own. Pay ahead up to the last week of this one, and the rest when the new one has begun.',
    );
  const number = taxWeek(last);
  if (number > 52)
    throw new CannotCompute(
      'ahead-into-week-53',
      'Week 53 is taxed by itself. Pay ahead up to week 52, and week 53 with a payslip of its own.',
    );
  return { ...of, paid, times, number };
}

/** Whether the pay date after this one lies in the next tax year. */
export function isLastOfYear(context: Pick<TaxContext, 'input'>): boolean {
  const { date } = context.input.pay;
  const { ofYear, paid } = progressOf(context);
  return yearStart(ofYear === 12 ? addMonths(date, paid) : addDays(date, 7 * paid)) !== yearStart(date);
}
