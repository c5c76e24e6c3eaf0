import { addDays, addMonths, dateOf, monthOf, quarterOf, weekday, yearOf, type IsoDate } from '../../calendar/dates';
import { dueBy, dueDay, sinceBy, type DueRule } from '../../filings/due-rules';
import type { DuePayment, Liability, Owed } from '../../filings/owed';
import { INSURANCE, PAYROLL_TAX, SUPER, SUPER_FIRST, TERMINATION, terminationTaxCode } from './codes';
import type { AuEmployer } from './employer';
import { isPublicHoliday } from './holidays';
import { lateSuper } from './late-super';
import { placeOf, STATES, type StateCode } from './states';
import { PAYDAY_SUPER } from './tax-year';
import { WITHHELD } from './withholding';

const TAA = { publication: 'Taxation Administration Act 1953, schedule 1, sections 16-75 and 16-85' };
const WITHHELD_CODES = [WITHHELD, ...(Object.keys(TERMINATION) as (keyof typeof TERMINATION)[]).map(terminationTaxCode)];
const national = (date: IsoDate): boolean => isPublicHoliday(date);
const WHAT = 'PAYG withholding';

/** The 28th of the month after the quarter; of the quarter to December 28 February (section 31-8 of the GST Act, as for activity statements). */
export function quarterDue(payDate: IsoDate): IsoDate {
  const quarter = quarterOf(payDate);
  return quarter === 4 ? dateOf(yearOf(payDate) + 1, 2, 28) : dueDay({ by: 'quarter', day: 28 }, payDate, national).due;
}

/** Days by which a large withholder pays, by the weekday on which it withheld. */
export function largeDue(payDate: IsoDate): IsoDate {
  const [MONDAY, THURSDAY] = [1, 4];
  const next = (day: number, from: IsoDate): IsoDate => addDays(from, (day - weekday(from) + 7) % 7 || 7);
  switch (weekday(payDate)) {
    case 6:
    case 0:
      return addDays(next(MONDAY, payDate), 7);
    case 1:
    case 2:
      return next(MONDAY, payDate);
    case 3:
      return addDays(next(THURSDAY, payDate), 7);
    default:
      return next(THURSDAY, payDate);
  }
}

const each =
  (what: string, dayOf: (payDate: IsoDate) => IsoDate) =>
  (liabilities: readonly Liability[]): DuePayment[] => {
    const byDay = new Map<IsoDate, DuePayment>();
    for (const { payDate, amount } of liabilities) {
      const date = dayOf(payDate);
      const known = byDay.get(date);
      byDay.set(date, {
        date,
        what,
        amount: (known?.amount ?? 0) + amount,
        upTo: payDate > (known?.upTo ?? '') ? payDate : (known?.upTo ?? payDate),
      });
    }
    return [...byDay.values()];
  };

const MONTHLY: DueRule = { by: 'month', day: 21 };

/** What was withheld, by the cycle of the employer's activity statements. */
export function owedWithheld({ abn = '', branch, withholder = 'medium' }: Partial<AuEmployer>): Owed {
  const of = {
    code: WITHHELD,
    what: WHAT,
    payee: 'Australian Taxation Office',
    codes: WITHHELD_CODES,
    reference: branch ? `${abn} ${branch.padStart(3, '0')}` : abn,
    source: TAA,
  };
  if (withholder === 'large')
    return {
      ...of,
      rule: 'by the Monday or Thursday that follows the day of withholding',
      due: each(WHAT, largeDue),
      since: (from) => addDays(from, -21),
    };
  if (withholder === 'small')
    return {
      ...of,
      rule: 'on the 28th after the quarter, of the quarter to December on 28 February',
      filing: 'activity-statement',
      due: each(WHAT, quarterDue),
      since: (from) => addMonths(from, -6),
    };
  return {
    ...of,
    rule: 'on the 21st of the following month',
    filing: 'activity-statement',
    due: dueBy(MONTHLY, WHAT, national),
    since: (from) => sinceBy(MONTHLY, from),
  };
}

const [WORKING_DAYS, WORKING_DAYS_FIRST] = [7, 20];

/** With its pay day since July 2026: within seven business days at the fund; before, by the 28th after the quarter. */
export const superDue = (payDate: IsoDate, days = WORKING_DAYS): IsoDate =>
  payDate >= PAYDAY_SUPER
    ? dueDay({ by: 'pay-date', days, business: true }, payDate, national).due
    : dateOf(
        yearOf(payDate) + (quarterOf(payDate) === 4 ? 1 : 0),
        quarterOf(payDate) === 4 ? 1 : monthOf(dateOf(yearOf(payDate), quarterOf(payDate) * 3 + 1, 1)),
        28,
      );

const SUPER_LAW = { publication: 'Superannuation Guarantee (Administration) Act 1992; Payday Superannuation Act 2025' };

export const owedSuper = ({ abn = '' }: Partial<AuEmployer>): Owed[] => [
  {
    code: SUPER,
    what: 'Super guarantee',
    payee: 'Super clearing house',
    codes: [SUPER],
    reference: abn,
    rule: 'within seven business days of each pay day; until June 2026 on the 28th after the quarter',
    source: SUPER_LAW,
    filing: 'super',
    due: each('Super guarantee', superDue),
    since: (from) => addMonths(from, -5),
    late: lateSuper,
  },
  {
    code: SUPER_FIRST,
    what: 'Super guarantee, first contributions',
    payee: 'Super clearing house',
    codes: [SUPER_FIRST],
    reference: abn,
    rule: 'within twenty business days of the pay day',
    source: { ...SUPER_LAW, section: 'A first contribution for somebody, or to a new fund' },
    filing: 'super',
    due: each('Super guarantee, first contributions', (payDate) => superDue(payDate, WORKING_DAYS_FIRST)),
    since: (from) => addMonths(from, -2),
    late: lateSuper,
  },
];

/** Of each state: payroll tax by the 7th of the month after, of June by 21 July with the year; and the insurer's premium once a year. */
export function owedToStates({ states = {} }: Partial<AuEmployer>): Owed[] {
  return (Object.entries(states) as [StateCode, NonNullable<AuEmployer['states'][StateCode]>][]).flatMap(([state, facts]): Owed[] => {
    const place = placeOf(state);
    const what = `Payroll tax, ${state}`;
    return [
      ...(facts.payrollTaxNumber
        ? [
            {
              code: `${PAYROLL_TAX}@${place}`,
              what,
              payee: OFFICES[state],
              codes: [`${PAYROLL_TAX}@${place}`],
              place,
              reference: facts.payrollTaxNumber,
              rule: 'on the 7th of the following month, of June on 21 July',
              source: { publication: `Payroll tax act of ${STATES[state]}: monthly returns and the annual reconciliation` },
              filing: `payroll-tax-${state.toLowerCase()}`,
              due: each(what, payrollTaxDue),
              since: (from: IsoDate) => addMonths(from, -3),
            },
          ]
        : []),
      ...(facts.premiumRate
        ? [
            {
              code: `${INSURANCE}@${place}`,
              what: `Workers' insurance, ${state}`,
              payee: facts.insurer ?? `Workers' insurer, ${state}`,
              codes: [`${INSURANCE}@${place}`],
              place,
              reference: facts.policy ?? '',
              rule: 'by 30 September after the year, with the declaration of wages',
              source: { publication: `Workers' compensation law of ${STATES[state]}; as the policy says` },
              due: each(`Workers' insurance, ${state}`, (payDate) => dateOf(yearOf(payDate) + (monthOf(payDate) >= 7 ? 1 : 0), 9, 30)),
              since: (from: IsoDate) => addMonths(from, -16),
            },
          ]
        : []),
    ];
  });
}

export const payrollTaxDue = (payDate: IsoDate): IsoDate =>
  dueDay({ by: 'month', day: monthOf(payDate) === 6 ? 21 : 7 }, payDate, national).due;

export const OFFICES: Readonly<Record<StateCode, string>> = {
  ACT: 'ACT Revenue Office',
  NSW: 'Revenue NSW',
  NT: 'Territory Revenue Office',
  QLD: 'Queensland Revenue Office',
  SA: 'RevenueSA',
  TAS: 'State Revenue Office of Tasmania',
  VIC: 'State Revenue Office Victoria',
  WA: 'RevenueWA',
};
