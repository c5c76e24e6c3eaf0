import type { PayItemRow } from '@woodruff/contract';
import { Exact, writtenDecimal } from '@woodruff/core';

export const itemKinds: { kind: PayItemRow['kind']; one: string; many: string }[] = [
  { kind: 'earning', one: 'Earning', many: 'Earnings' },
  { kind: 'reimbursement', one: 'Reimbursement', many: 'Reimbursements, not pay' },
  { kind: 'benefit-in-kind', one: 'Benefit in kind', many: 'Benefits in kind, taxed but not paid' },
  { kind: 'deduction', one: 'Deduction', many: 'Deductions' },
  { kind: 'employer-contribution', one: "Employer's contribution", many: "Employer's contributions and levies" },
];

/** How an item is worked out, in words. */
export function methodWords({ method }: Pick<PayItemRow, 'method'>): string {
  switch (method.by) {
    case 'salary':
      return "The person's salary for the period";
    case 'hours':
      return Number(method.multiple) === 1 ? 'Hours at the rate' : `Hours at ${method.multiple} times the rate`;
    case 'amount':
      return 'An amount';
    case 'percent':
      return 'Per cent of gross pay';
    case 'match':
      return `Match: ${method.tiers.map((tier, index) => `${tier.match}% of what is put in ${index === 0 ? 'up to' : 'then up to'} ${tier.upTo}% of pay`).join(', ')}`;
  }
}

const written = (amount: string): string => writtenDecimal(Exact.of(amount).toDecimal());

export function limitWords({ limits }: Pick<PayItemRow, 'limits'>): string {
  const words = [
    limits?.perPayslip === undefined ? '' : `${written(limits.perPayslip)} a payslip`,
    limits?.perYear === undefined ? '' : `${written(limits.perYear)} a year`,
    limits?.inAll === undefined ? '' : `${written(limits.inAll)} in all`,
  ].filter(Boolean);
  return words.join(', ');
}

export const shortfallWords: Record<string, string> = {
  skip: 'left out',
  'take-part': 'taken in part',
  'carry-forward': 'taken in part, the rest carried to the next payslip',
};
