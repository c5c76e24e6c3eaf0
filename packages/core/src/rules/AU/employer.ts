import { z } from 'zod';
import { isDate } from '../../calendar/dates';
import type { EmployerForm } from '../country-pack';
import { isBusinessNumber } from './identity';
import { stateChoices, stateCodes } from './states';

const blankIsNone = <T extends z.ZodType>(schema: T) => schema.optional().or(z.literal('').transform(() => undefined));
const optional = (pattern: RegExp, expected: string) => blankIsNone(z.string().regex(pattern, expected));
const business = (expected: string) => blankIsNone(z.string().refine(isBusinessNumber, expected));
const day = blankIsNone(z.string().refine(isDate, 'a date'));

/** What an employer has in a state or territory: payroll tax and workers' insurance. */
const stateSchema = z.object({
  payrollTaxNumber: optional(/^[0-9A-Z -]{4,20}$/, 'the registration for payroll tax'),
  /** Wages of the group in all Australia beside those paid here: the threshold is shared by them. */
  groupWages: optional(/^\d{1,12}(\.\d{2})?$/, 'an amount such as 500000.00'),
  /** Another member of the group claims the threshold. */
  withoutThreshold: z.boolean().optional(),
  /** Its wages are paid outside the metropolitan area: the regional rate, where the state has one. */
  regional: z.boolean().optional(),
  /** Of wages, as the insurer's or scheme's notice says. */
  premiumRate: optional(/^\d{1,2}(\.\d{1,4})?$/, 'a per cent such as 1.85'),
  insurer: z.string().optional(),
  policy: z.string().optional(),
});

/** A super fund that people of the employer are members of; known by its unique identifier, or by its number where it has none. */
const fundSchema = z.object({
  name: z.string().min(1, 'the name of the fund'),
  abn: z.string().refine(isBusinessNumber, 'a business number of eleven figures whose check digits are right'),
  /** By which a self-managed fund receives messages. */
  alias: optional(/^[A-Z0-9]{4,16}$/, 'an electronic service address such as SMSFMSG01'),
  bsb: optional(/^\d{3}-?\d{3}$/, 'a BSB such as 062-000'),
  account: optional(/^\d{2,9}$/, 'an account number'),
  /** From when it takes nothing more. */
  closed: day,
});

/** The employer's registrations. */
export const auEmployerSchema = z.object({
  abn: business('a business number of eleven figures whose check digits are right'),
  /** Where one business number has several withholding branches. */
  branch: optional(/^\d{1,3}$/, 'a branch of at most three figures, such as 1 or 002'),
  directEntryUser: optional(/^\d{6}$/, 'six figures'),
  /** By what was withheld in a year: quarterly up to 25,000, monthly up to 1,000,000, large above. */
  withholder: z.enum(['small', 'medium', 'large']).default('medium'),
  /** Registered as an employer of working holiday makers. */
  holidayMakers: z.boolean().optional(),
  /** The pay event that states the end of an employment makes the year of whoever leaves final. */
  leaversFinal: z.boolean().optional(),
  /** Fewer than fifteen people: no redundancy pay by the National Employment Standards. */
  smallBusiness: z.boolean().optional(),
  /** The fund of those who have chosen none and have none. */
  defaultFund: z.string().optional(),
  states: z.partialRecord(z.enum(stateCodes), stateSchema).default({}),
  funds: z
    .record(z.string().regex(/^[A-Z0-9]{9,14}$/, "a fund's unique identifier such as QWL0100AU, or a business number"), fundSchema)
    .default({}),
});
export type AuEmployer = z.infer<typeof auEmployerSchema>;

export const auEmployerForm: EmployerForm = {
  number: 'abn',
  fields: [
    { key: 'abn', label: 'Australian business number (ABN)', kind: 'text', help: 'Eleven figures' },
    { key: 'branch', label: 'Withholding branch', kind: 'text', help: 'Only where one ABN has several: at most three figures' },
    {
      key: 'withholder',
      label: 'Withholds as',
      kind: 'choice',
      choices: [
        { value: 'small', label: 'small withholder: pays by the quarter' },
        { value: 'medium', label: 'medium withholder: pays by the month' },
        { value: 'large', label: 'large withholder: pays within days of each pay day' },
      ],
    },
    { key: 'directEntryUser', label: 'Direct entry user number', kind: 'text', help: 'Six figures, from the bank' },
    { key: 'holidayMakers', label: 'Registered to employ working holiday makers', kind: 'yes-no' },
    { key: 'leaversFinal', label: 'Leavers are final with the pay event of their end', kind: 'yes-no' },
    { key: 'smallBusiness', label: 'Small business: fewer than fifteen people', kind: 'yes-no' },
    {
      key: 'defaultFund',
      label: 'Default super fund',
      kind: 'text',
      entryOf: 'funds',
      help: 'For who has chosen none and has no stapled fund',
    },
  ],
  lists: [
    {
      key: 'states',
      title: 'States and territories',
      entry: 'State or territory',
      choices: stateChoices,
      fields: [
        { key: 'payrollTaxNumber', label: 'Payroll tax registration', kind: 'text' },
        { key: 'groupWages', label: 'Other wages of the group in Australia', kind: 'amount', help: 'Of a year, beside those paid here' },
        { key: 'withoutThreshold', label: 'Another member of the group claims the threshold', kind: 'yes-no' },
        { key: 'regional', label: 'Regional employer', kind: 'yes-no', ofEntries: ['VIC', 'QLD'] },
        { key: 'premiumRate', label: "Workers' insurance, % of wages", kind: 'percent', help: "From the insurer's notice" },
        { key: 'insurer', label: 'Insurer', kind: 'text' },
        { key: 'policy', label: 'Policy', kind: 'text' },
      ],
    },
    {
      key: 'funds',
      title: 'Super funds',
      entry: 'USI, or ABN of a self-managed fund',
      fields: [
        { key: 'name', label: 'Name of the fund', kind: 'text' },
        { key: 'abn', label: 'ABN of the fund', kind: 'text' },
        { key: 'alias', label: 'Electronic service address', kind: 'text', help: 'Of a self-managed fund' },
        { key: 'bsb', label: 'BSB', kind: 'text', help: 'Of a self-managed fund' },
        { key: 'account', label: 'Account', kind: 'text', help: 'Of a self-managed fund' },
        { key: 'closed', label: 'Takes nothing from', kind: 'date', help: 'The day it closed or was merged' },
      ],
    },
  ],
  overtimeRules: [
    { code: 'weekly', label: 'Over 38 hours a week (Fair Work Act 2009, section 62)' },
    { code: 'none', label: 'None, or by the award: set up with the time rules' },
  ],
  kinds: [],
};
