/** Bases by which pay is posted for the pay event, each of the kind that the agency's schema names. */
export const GROSS = 'au.gross';
export const OVERTIME = 'au.overtime';
export const BONUS = 'au.bonus';
export const DIRECTORS = 'au.directors-fees';

/** Paid leave that is stated by itself. */
export const PAID_LEAVE = {
  C: 'Leave cashed out in service',
  U: 'Unused leave on termination',
  P: 'Paid parental leave',
  W: "Workers' compensation",
  A: 'Ancillary and defence leave',
  O: 'Other paid leave',
} as const;

/** Allowances that are stated by themselves. */
export const ALLOWANCES = {
  CD: 'Cents per kilometre',
  AD: 'Award transport payments',
  LD: 'Laundry',
  MD: 'Overtime meals',
  RD: 'Domestic or overseas travel',
  TD: 'Tools',
  KN: 'Tasks',
  QN: 'Qualifications and certificates',
  OD: 'Other allowances',
} as const;

export const LUMP_SUMS = {
  R: 'Lump sum A, redundancy or invalidity',
  T: 'Lump sum A, other',
  B: 'Lump sum B',
  D: 'Lump sum D, tax-free part of redundancy',
  E: 'Lump sum E, back pay of earlier years',
  W: 'Lump sum W, return to work',
} as const;

/** Employment termination payments by their codes. */
export const TERMINATION = {
  R: 'Life benefit, excluded from the whole-of-income cap',
  O: 'Life benefit, other',
  D: 'Death benefit to a dependant',
  N: 'Death benefit to somebody else',
  T: 'Death benefit to the trustee of the estate',
} as const;

export const SACRIFICE = { S: 'Salary sacrificed to super', O: 'Salary sacrificed otherwise' } as const;
export const DEDUCTIONS = {
  F: 'Union and professional fees',
  W: 'Workplace giving',
  D: 'Child support deductions',
  G: 'Child support garnishee',
} as const;

export const leaveCode = (kind: keyof typeof PAID_LEAVE): string => `au.leave.${kind}`;
export const allowanceCode = (kind: keyof typeof ALLOWANCES): string => `au.allowance.${kind}`;
export const lumpSumCode = (kind: keyof typeof LUMP_SUMS): string => `au.lump.${kind}`;
export const terminationCode = (kind: keyof typeof TERMINATION): string => `au.etp.${kind}`;
export const terminationTaxCode = (kind: keyof typeof TERMINATION): string => `au.paygw.etp.${kind}`;
export const sacrificeCode = (kind: keyof typeof SACRIFICE): string => `au.sacrifice.${kind}`;
export const deductionCode = (kind: keyof typeof DEDUCTIONS): string => `au.deduction.${kind}`;

/** Pay that is taxed over the year and not in its period. */
export const ADDITIONAL = 'au.additional';
/** Of such pay what was spread over the pay periods in which it was earned. */
export const ADDITIONAL_APART = 'au.additional.apart';
/** Of what was withheld, what was on pay spread over the year. */
export const ADDITIONAL_TAX = 'au.additional.withheld';
export const UNUSED_LEAVE = 'au.unused-leave';
export const UNUSED_SERVICE_LEAVE = 'au.unused-service-leave';
export const REDUNDANCY = 'au.redundancy-pay';
export const NOTICE = 'au.notice-pay';
export const EARNINGS = 'au.super.earnings';
export const SUPER = 'au.super';
/** The first contribution for somebody, which has longer to arrive. */
export const SUPER_FIRST = 'au.super.first';
export const REPORTABLE_SUPER = 'au.super.reportable';
/** Contributed beyond the guarantee by the employer, and by members out of pay after tax. */
export const SUPER_EXTRA = 'au.super.extra';
export const SUPER_MEMBER = 'au.super.member';
export const FRINGE = 'au.fringe';
export const FRINGE_EXEMPT = 'au.fringe.exempt';
export const TAXED_WAGES = 'au.payroll-tax.wages';
export const PAYROLL_TAX = 'au.payroll-tax';
export const INSURANCE = 'au.workers-insurance';
