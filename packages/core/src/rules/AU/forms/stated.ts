import {
  allowanceCode,
  ALLOWANCES,
  BONUS,
  deductionCode,
  DEDUCTIONS,
  DIRECTORS,
  GROSS,
  leaveCode,
  lumpSumCode,
  LUMP_SUMS,
  OVERTIME,
  PAID_LEAVE,
  REPORTABLE_SUPER,
  sacrificeCode,
  SACRIFICE,
  TERMINATION,
  terminationCode,
  terminationTaxCode,
} from '../codes';
import { CONTRIBUTED } from '../super';
import { SUPER, SUPER_FIRST } from '../codes';
import { WITHHELD } from '../withholding';

/** What a pay event states of a person, year to date: by a key of ours, with the kind of the agency's schema. */
export interface Stated {
  key: string;
  label: string;
  codes: readonly string[];
  group: 'pay' | 'leave' | 'allowance' | 'lump-sum' | 'sacrifice' | 'deduction' | 'super' | 'termination';
  /** Type code within the group. */
  type?: string;
}

const ofGroup = (group: Stated['group'], kinds: Readonly<Record<string, string>>, codeOf: (kind: never) => string): Stated[] =>
  Object.entries(kinds).map(([type, label]) => ({ key: `${group} ${type}`, label, codes: [codeOf(type as never)], group, type }));

/** Everything that a pay event states, in our own order: pay, leave, allowances, lump sums, sacrifice, deductions, super, termination payments. */
export const STATED: readonly Stated[] = [
  { key: 'gross', label: 'Gross', codes: [GROSS], group: 'pay' },
  { key: 'withheld', label: 'Withheld', codes: [WITHHELD], group: 'pay' },
  { key: 'overtime', label: 'Overtime', codes: [OVERTIME], group: 'pay' },
  { key: 'bonus', label: 'Bonuses and commissions', codes: [BONUS], group: 'pay' },
  { key: 'directors', label: "Directors' fees", codes: [DIRECTORS], group: 'pay' },
  ...ofGroup('leave', PAID_LEAVE, leaveCode),
  ...ofGroup('allowance', ALLOWANCES, allowanceCode),
  ...ofGroup('lump-sum', LUMP_SUMS, lumpSumCode),
  ...ofGroup('sacrifice', SACRIFICE, sacrificeCode),
  ...ofGroup('deduction', DEDUCTIONS, deductionCode),
  { key: 'super L', label: 'Super guarantee', codes: [SUPER, SUPER_FIRST], group: 'super', type: 'L' },
  { key: 'super O', label: 'Earnings for super', codes: [CONTRIBUTED], group: 'super', type: 'O' },
  { key: 'super R', label: 'Reportable super', codes: [REPORTABLE_SUPER], group: 'super', type: 'R' },
  ...(Object.entries(TERMINATION) as [keyof typeof TERMINATION, string][]).flatMap(([type, label]): Stated[] => [
    {
      key: `termination ${type}`,
      label: `Termination payment ${type}: ${label.toLowerCase()}`,
      codes: [terminationCode(type)],
      group: 'termination',
      type,
    },
    {
      key: `termination ${type} withheld`,
      label: `Withheld from termination payment ${type}`,
      codes: [terminationTaxCode(type)],
      group: 'termination',
      type,
    },
  ]),
];

/** Of a key, the sum of the year so far. */
export const soFar = (key: string): string => `${key}, year`;
