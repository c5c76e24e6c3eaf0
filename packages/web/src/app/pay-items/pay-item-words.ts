import type { PayItemRow } from '@woodruff/contract';
import { counted, Exact, writtenDecimal } from '@woodruff/core';

export const itemKinds: { kind: PayItemRow['kind']; one: string; many: string }[] = [
  { kind: 'earning', one: 'Earning', many: 'Earnings' },
  { kind: 'reimbursement', one: 'Reimbursement', many: 'Reimbursements, not pay' },
  { kind: 'benefit-in-kind', one: 'Benefit in kind', many: 'Benefits in kind, taxed but not paid' },
  { kind: 'deduction', one: 'Deduction', many: 'Deductions' },
  { kind: 'employer-contribution', one: "Employer's contribution", many: "Employer's contributions and levies" },
];

type Method = PayItemRow['method'];
const BASES = { gross: 'gross pay', taxable: 'taxable pay', disposable: 'disposable earnings', net: 'pay that is left' };

/** What a per cent is taken of, in words; items by their names where these are known. */
export const baseWords = (of: Extract<Method, { by: 'percent' }>['of'], nameOf: (code: string) => string = (code) => code): string =>
  typeof of === 'object' ? of.items.map(nameOf).join(', ') : BASES[of];

/** How an item is calculated, in words. */
export function methodWords({ method }: Pick<PayItemRow, 'method'>, nameOf: (code: string) => string = (code) => code): string {
  switch (method.by) {
    case 'salary':
      return "The person's salary for the period";
    case 'hours':
      return Number(method.multiple) === 1 ? 'Hours at the rate' : `Hours at ${method.multiple} times the rate`;
    case 'amount':
      return 'An amount';
    case 'percent':
      return `Percentage of ${baseWords(method.of, nameOf)}`;
    case 'per-hour':
      return method.items ? `An amount for each hour of ${method.items.map(nameOf).join(', ')}` : 'An amount for each hour paid';
    case 'pieces':
      return 'An amount for each piece';
    case 'match': {
      const pay = baseWords(method.on ?? 'gross', nameOf);
      const upTo = (tier: (typeof method.tiers)[number]) =>
        tier.upTo === undefined ? `${written(tier.upToAmount ?? '0')} a payslip` : `${tier.upTo}% of ${pay}`;
      return `Match of ${nameOf(method.of)}: ${method.tiers.map((tier, index) => `${tier.match}% ${index === 0 ? 'up to' : 'then up to'} ${upTo(tier)}`).join(', ')}`;
    }
    case 'table':
      return `A table by ${method.over === 'age' ? 'the age reached in the year' : 'gross pay'}, ${counted(method.rows.length, 'row', 'rows')}`;
    case 'published-table':
      return 'A statutory table';
  }
}

/** Whether people hold the item one by one, or it comes with the hours or the salary. */
export const isHeld = ({ method }: Pick<PayItemRow, 'method'>): boolean => method.by !== 'hours' && method.by !== 'salary';

/** Which of a person's own values the method asks for. */
export const asksFor = ({ method }: Pick<PayItemRow, 'method'>): 'amount' | 'percent' | 'nothing' =>
  method.by === 'percent' ? 'percent' : method.by === 'match' || method.by === 'table' || !isHeld({ method }) ? 'nothing' : 'amount';

const written = (amount: string): string => writtenDecimal(Exact.of(amount).toDecimal());

export const LIMITS: { key: keyof NonNullable<PayItemRow['limits']>; label: string; words: string }[] = [
  { key: 'perPayslip', label: 'Per payslip', words: 'a payslip' },
  { key: 'perPeriod', label: 'Per pay period', words: 'a pay period' },
  { key: 'perMonth', label: 'Per month', words: 'a month' },
  { key: 'perQuarter', label: 'Per quarter', words: 'a quarter' },
  { key: 'perYear', label: 'Per year', words: 'a year' },
  { key: 'inAll', label: 'Lifetime', words: 'lifetime' },
];

export const limitWords = ({ limits }: Pick<PayItemRow, 'limits'>): string =>
  LIMITS.flatMap(({ key, words }) => (limits?.[key] === undefined ? [] : [`${written(limits[key])} ${words}`])).join(', ');

export const shortfallWords: Record<string, string> = {
  skip: 'left out',
  'take-part': 'taken in part',
  'carry-forward': 'taken in part, the rest carried to the next payslip',
};
