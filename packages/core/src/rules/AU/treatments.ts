import type { Base, Treatment } from '../country-pack';
import {
  ADDITIONAL,
  allowanceCode,
  ALLOWANCES,
  BONUS,
  deductionCode,
  DEDUCTIONS,
  DIRECTORS,
  EARNINGS,
  FRINGE,
  FRINGE_EXEMPT,
  GROSS,
  leaveCode,
  lumpSumCode,
  LUMP_SUMS,
  NOTICE,
  OVERTIME,
  PAID_LEAVE,
  REDUNDANCY,
  REPORTABLE_SUPER,
  SACRIFICE,
  sacrificeCode,
  SUPER_EXTRA,
  SUPER_MEMBER,
  TAXED_WAGES,
  TERMINATION,
  UNUSED_LEAVE,
  UNUSED_SERVICE_LEAVE,
} from './codes';
import { childSupport, garnishee } from './orders';
import { placeOf, stateCodes } from './states';
import { PAY } from './withholding';

/** Pay that is withheld from in its period, counts for super and for payroll tax. */
const ORDINARY = { [PAY]: 1, [EARNINGS]: 1, [TAXED_WAGES]: 1 } as const;
/** Pay that is spread over the year for withholding. */
const SPREAD = { [ADDITIONAL]: 1, [EARNINGS]: 1, [TAXED_WAGES]: 1 } as const;
/** Ordinary time earnings: Superannuation Guarantee Ruling SGR 2009/2. */
const ORDINARY_TIME = { publication: 'ATO, SGR 2009/2: ordinary time earnings' };

const earning = (code: string, label: string, counts: Treatment['counts'], source?: Treatment['source']): Treatment => ({
  code,
  label,
  for: ['earning'],
  counts,
  ...(source ? { source } : {}),
});

/** Of what is paid on leaving the payslip works out the kinds that it is stated as. */
const byPayslip = (...of: Parameters<typeof earning>): Treatment => ({ ...earning(...of), statedByPayslip: true });

export const treatments: readonly Treatment[] = [
  earning('pay', 'Ordinary pay', { ...ORDINARY, [GROSS]: 1 }, ORDINARY_TIME),
  earning('overtime', 'Overtime', { [PAY]: 1, [TAXED_WAGES]: 1, [OVERTIME]: 1 }, ORDINARY_TIME),
  earning('commission', 'Commission of the period', { ...ORDINARY, [BONUS]: 1 }, ORDINARY_TIME),
  earning('bonus', 'Bonus, spread over the year', { ...SPREAD, [BONUS]: 1 }, ORDINARY_TIME),
  earning('back-pay', 'Back pay of the tax year, spread over the year', { ...SPREAD, [GROSS]: 1 }),
  earning('lump-e', 'Back pay of earlier tax years, 1,200 or more (lump sum E)', { ...SPREAD, [lumpSumCode('E')]: 1 }),
  earning('lump-w', 'Return to work payment (lump sum W)', { [ADDITIONAL]: 1, [TAXED_WAGES]: 1, [lumpSumCode('W')]: 1 }),
  earning('directors-fees', "Directors' fees", { ...ORDINARY, [DIRECTORS]: 1 }),
  earning('leave', 'Annual, personal and other paid leave', { ...ORDINARY, [leaveCode('O')]: 1 }, ORDINARY_TIME),
  earning('leave-loading', 'Leave loading', { ...ORDINARY, [leaveCode('O')]: 1 }),
  earning('leave-cashed-out', 'Leave cashed out in service', { ...SPREAD, [leaveCode('C')]: 1 }),
  earning('parental-leave', 'Paid parental leave, of the employer or of the government', { [PAY]: 1, [leaveCode('P')]: 1 }, ORDINARY_TIME),
  earning('workers-compensation', "Workers' compensation, not at work", { [PAY]: 1, [leaveCode('W')]: 1 }, ORDINARY_TIME),
  earning('ancillary-leave', 'Jury, community service and defence leave', { [PAY]: 1, [TAXED_WAGES]: 1, [leaveCode('A')]: 1 }),
  byPayslip('unused-leave', 'Unused annual leave on leaving', { [UNUSED_LEAVE]: 1, [TAXED_WAGES]: 1 }),
  byPayslip('unused-service-leave', 'Unused long service leave on leaving', { [UNUSED_SERVICE_LEAVE]: 1, [TAXED_WAGES]: 1 }),
  byPayslip('redundancy', 'Redundancy pay', { [REDUNDANCY]: 1 }),
  byPayslip('notice-pay', 'Pay in place of notice', { [NOTICE]: 1, [EARNINGS]: 1, [TAXED_WAGES]: 1 }, ORDINARY_TIME),
  byPayslip('etp', 'Termination payment (gratuity, unused personal leave)', { 'au.etp-paid.O': 1, [TAXED_WAGES]: 1 }),
  byPayslip('etp-excluded', 'Termination payment for invalidity or in a dispute', { 'au.etp-paid.R': 1, [TAXED_WAGES]: 1 }),
  byPayslip('death-benefit-dependant', 'Death benefit to a dependant', { 'au.etp-paid.D': 1 }),
  byPayslip('death-benefit-other', 'Death benefit to somebody else', { 'au.etp-paid.N': 1 }),
  byPayslip('death-benefit-estate', 'Death benefit to the trustee of the estate', { 'au.etp-paid.T': 1 }),
  ...(['KN', 'QN', 'OD'] as const).map((kind) =>
    earning(
      `allowance-${kind.toLowerCase()}`,
      `Allowance: ${ALLOWANCES[kind].toLowerCase()}`,
      { ...ORDINARY, [allowanceCode(kind)]: 1 },
      ORDINARY_TIME,
    ),
  ),
  ...(['AD', 'MD', 'RD', 'TD'] as const).map((kind) =>
    earning(
      `allowance-${kind.toLowerCase()}`,
      `Allowance: ${ALLOWANCES[kind].toLowerCase()}`,
      { [PAY]: 1, [TAXED_WAGES]: 1, [allowanceCode(kind)]: 1 },
      ORDINARY_TIME,
    ),
  ),
  earning('allowance-cd', 'Allowance: cents per kilometre, up to the rate and 5,000 km', { [allowanceCode('CD')]: 1 }),
  earning('allowance-ld', 'Allowance: laundry', { [allowanceCode('LD')]: 1 }),
  earning('allowance-reasonable', 'Travel or meal allowance within the reasonable amount', {}),
  { code: 'expenses', label: 'Expenses paid back', for: ['reimbursement'], counts: {} },
  { code: 'fringe-benefit', label: 'Fringe benefits of the FBT year, taxable value', for: ['benefit-in-kind'], counts: { [FRINGE]: 1 } },
  {
    code: 'fringe-benefit-exempt',
    label: 'Fringe benefits of an exempt employer, taxable value',
    for: ['benefit-in-kind'],
    counts: { [FRINGE_EXEMPT]: 1 },
  },
  {
    code: 'sacrifice-super',
    label: 'Salary sacrificed to super',
    for: ['deduction'],
    taken: 'before-tax',
    givesUpPay: true,
    counts: { [PAY]: -1, [sacrificeCode('S')]: 1, [REPORTABLE_SUPER]: 1 },
  },
  {
    code: 'sacrifice-other',
    label: 'Salary sacrificed for other benefits',
    for: ['deduction'],
    taken: 'before-tax',
    givesUpPay: true,
    counts: { [PAY]: -1, [sacrificeCode('O')]: 1 },
  },
  {
    code: 'workplace-giving',
    label: 'Workplace giving',
    for: ['deduction'],
    taken: 'before-tax',
    counts: { [PAY]: -1, [deductionCode('W')]: 1 },
  },
  { code: 'union-fees', label: 'Union and professional fees', for: ['deduction'], taken: 'after-tax', counts: { [deductionCode('F')]: 1 } },
  {
    code: 'super-after-tax',
    label: "Member's own super, after tax",
    for: ['deduction'],
    taken: 'after-tax',
    counts: { [SUPER_MEMBER]: 1 },
  },
  { code: 'after-tax', label: 'After tax', for: ['deduction'], taken: 'after-tax', counts: {} },
  childSupport,
  ...garnishee,
  {
    code: 'super-reportable',
    label: "Employer's super beyond the guarantee, reportable",
    for: ['employer-contribution'],
    counts: { [REPORTABLE_SUPER]: 1, [SUPER_EXTRA]: 1 },
  },
  { code: 'super-required', label: "Employer's super required by an award", for: ['employer-contribution'], counts: { [SUPER_EXTRA]: 1 } },
];

export const bases: readonly Base[] = [
  { code: PAY, label: 'Pay subject to withholding' },
  { code: ADDITIONAL, label: 'Pay that is spread over the year' },
  { code: GROSS, label: 'Gross payments' },
  { code: OVERTIME, label: 'Overtime' },
  { code: BONUS, label: 'Bonuses and commissions' },
  { code: DIRECTORS, label: "Directors' fees" },
  ...Object.entries(PAID_LEAVE).map(([kind, label]) => ({
    code: leaveCode(kind as keyof typeof PAID_LEAVE),
    label,
    ...(kind === 'U' ? { byTax: true } : {}),
  })),
  ...Object.entries(ALLOWANCES).map(([kind, label]) => ({ code: allowanceCode(kind as keyof typeof ALLOWANCES), label })),
  ...(['E', 'W'] as const).map((kind) => ({ code: lumpSumCode(kind), label: LUMP_SUMS[kind] })),
  ...Object.entries(SACRIFICE).map(([kind, label]) => ({ code: sacrificeCode(kind as keyof typeof SACRIFICE), label })),
  ...Object.entries(DEDUCTIONS).map(([kind, label]) => ({ code: deductionCode(kind as keyof typeof DEDUCTIONS), label })),
  { code: UNUSED_LEAVE, label: 'Unused leave' },
  { code: UNUSED_SERVICE_LEAVE, label: 'Unused long service leave' },
  { code: REDUNDANCY, label: 'Redundancy pay' },
  { code: NOTICE, label: 'Pay in place of notice' },
  ...Object.entries(TERMINATION).map(([kind, label]) => ({ code: `au.etp-paid.${kind}`, label })),
  { code: EARNINGS, label: 'Ordinary time earnings' },
  { code: REPORTABLE_SUPER, label: 'Reportable super of the employer' },
  { code: SUPER_EXTRA, label: "Employer's super beyond the guarantee" },
  { code: SUPER_MEMBER, label: "Member's own super" },
  { code: FRINGE, label: 'Fringe benefits, taxable value' },
  { code: FRINGE_EXEMPT, label: 'Fringe benefits of an exempt employer, taxable value' },
  { code: TAXED_WAGES, label: 'Wages for payroll tax', byTax: true },
  ...stateCodes.map((state) => ({
    code: `${TAXED_WAGES}@${placeOf(state)}`,
    label: `Wages for payroll tax, ${state}`,
    place: placeOf(state),
    follows: TAXED_WAGES,
    byTax: true,
  })),
];
