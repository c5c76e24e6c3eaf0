import { z } from 'zod';
import type { EmployerForm } from '../country-pack';

const optional = (pattern: RegExp, expected: string) =>
  z
    .string()
    .regex(pattern, expected)
    .optional()
    .or(z.literal('').transform(() => undefined));

/** The employer's registrations with the agency. */
export const ukEmployerSchema = z.object({
  /** The tax office's number and the employer's reference there. */
  payeReference: optional(/^\d{3}\/[A-Z0-9]{1,10}$/, 'such as 123/AB456'),
  /** By which payments are known. */
  accountsOffice: optional(/^\d{3}P[A-Z]\d{7}[0-9X]$/, 'thirteen signs such as 123PA00012345'),
  /** By which the clearing knows the employer. */
  serviceUser: optional(/^\d{6}$/, 'six figures'),
  /** Pays the agency by the quarter, as those whose average month is below 1,500 may. */
  paysQuarterly: z.boolean().optional(),
  /** Claims the employment allowance. */
  employmentAllowance: z.boolean().optional(),
  /** Of the yearly allowance for the apprenticeship levy what this scheme has, where connected employers share it. */
  levyAllowance: optional(/^\d{1,5}(\.\d{2})?$/, 'an amount such as 15000.00'),
  /** Class 1 contributions of the qualifying tax year were 45,000 or less: statutory pay is recovered in full. */
  smallEmployer: z.boolean().optional(),
  /** The day since which the duties of workplace pensions hold. */
  dutiesFrom: optional(/^\d{4}-\d\d-\d\d$/, 'a date'),
  /** The day on which the scheme ceased. */
  schemeCeased: optional(/^\d{4}-\d\d-\d\d$/, 'a date'),
});
export type UkEmployer = z.infer<typeof ukEmployerSchema>;

export const ukEmployerForm: EmployerForm = {
  number: 'payeReference',
  fields: [
    { key: 'payeReference', label: 'PAYE reference', kind: 'text', help: 'Three figures, a stroke and the reference: 123/AB456' },
    {
      key: 'accountsOffice',
      label: 'Accounts Office reference',
      kind: 'text',
      help: 'Thirteen signs, on the payment booklet: 123PA00012345',
    },
    { key: 'serviceUser', label: 'Bacs service user number', kind: 'text', help: 'Six figures, from the bank' },
    { key: 'paysQuarterly', label: 'Pays by the quarter', kind: 'yes-no' },
    { key: 'employmentAllowance', label: 'Claims the employment allowance', kind: 'yes-no' },
    {
      key: 'levyAllowance',
      label: 'Allowance for the apprenticeship levy',
      kind: 'amount',
      help: 'Only where connected employers share it: the part of this scheme',
    },
    {
      key: 'smallEmployer',
      label: 'Small employer for statutory pay',
      kind: 'yes-no',
      help: 'Class 1 contributions of the qualifying tax year were 45,000 or less',
    },
    {
      key: 'dutiesFrom',
      label: 'Duties for workplace pensions since',
      kind: 'date',
      help: 'Mostly the day on which the first employee began',
    },
    { key: 'schemeCeased', label: 'Scheme ceased on', kind: 'date' },
  ],
  lists: [],
  overtimeRules: [],
  kinds: [],
};
