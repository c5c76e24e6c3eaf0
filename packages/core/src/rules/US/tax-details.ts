import { z } from 'zod';
import type { EmployerForm, FormGroup } from '../country-pack';
import { certificate2019, certificate2020, money, percent, registration, type UsEmployer, type UsTax } from './facts';
import { STATES } from './states';

const CODES = STATES.map((state) => state.code) as [string, ...string[]];
const state = z.enum(CODES, { message: `a state with rules: ${CODES.join(', ')}` });
const certificates = Object.fromEntries(
  STATES.flatMap(({ certificate }) => (certificate ? [[certificate.key, certificate.schema.optional()]] : [])),
);

/** A person's tax details in the United States, in the terms of Form W-4 and the states' certificates. */
export const usTaxSchema = z.object({
  federal: z.discriminatedUnion('certificate', [certificate2020, certificate2019]),
  residentState: state,
  workState: state,
  residentLocality: z.string().optional(),
  workLocality: z.string().optional(),
  servicesTaxExempt: z.boolean().default(false),
  otherWorkState: state.optional(),
  otherWorkPercent: percent.optional(),
  rothCatchUp: z.boolean().optional(),
  tippedOccupation: z
    .string()
    .regex(/^\d{3}$/, 'three figures')
    .optional(),
  ...certificates,
}) as unknown as z.ZodType<UsTax>;

/** The employer's facts that United States taxes depend on. */
export const usEmployerSchema: z.ZodType<UsEmployer> = z.object({
  federalNumber: z.string().regex(/^\d{2}-\d{7}$/, 'a number such as 98-7654321'),
  depositor: z.enum(['monthly', 'semiweekly']).optional(),
  federalReturn: z.enum(['941', '944']).optional(),
  signerPin: z
    .string()
    .regex(/^(\d{5})?$/, 'five figures')
    .optional(),
  submitterId: z
    .string()
    .regex(/^([A-Z0-9]{8})?$/, 'eight capital letters and figures')
    .optional(),
  establishment: z
    .string()
    .regex(/^[A-Z0-9]{0,4}$/, 'up to four capital letters and figures')
    .optional(),
  otherFederalNumber: z
    .string()
    .regex(/^(\d{2}-\d{7})?$/, 'a number such as 98-7654321')
    .optional(),
  closed: z.boolean().optional(),
  states: z.partialRecord(state, registration).default({}),
  localities: z
    .record(z.string(), z.object({ name: z.string(), residentRate: percent, nonresidentRate: percent, servicesTaxPerYear: money }))
    .default({}),
});

const is2020 = { key: 'federal.certificate', is: '2020' };
const is2019 = { key: 'federal.certificate', is: '2019' };
const stateChoices = STATES.map(({ code, name }) => ({ value: code, label: name }));
/** States that have an account for income tax withheld. */
const taxingIncome = STATES.flatMap(({ code, incomeTax }) => (incomeTax ? [code] : []));

/** Registrations of an employer, as data for its page. */
export const usEmployerForm: EmployerForm = {
  number: 'federalNumber',
  fields: [
    { key: 'federalNumber', label: 'Federal employer number', help: 'Two figures, a hyphen, seven figures', kind: 'text' },
    {
      key: 'depositor',
      label: 'Federal deposits',
      help: 'Monthly where 50,000 or less was reported in the lookback period (26 CFR 31.6302-1(b)); monthly where nothing is chosen',
      kind: 'choice',
      choices: [
        { value: 'monthly', label: 'monthly' },
        { value: 'semiweekly', label: 'semi-weekly' },
      ],
    },
    {
      key: 'federalReturn',
      label: 'Federal return',
      help: 'By the year only where the agency has notified so in writing; by the quarter where nothing is chosen',
      kind: 'choice',
      choices: [
        { value: '941', label: 'by the quarter, Form 941' },
        { value: '944', label: 'by the year, Form 944' },
      ],
    },
    {
      key: 'signerPin',
      label: "Signer's PIN",
      help: 'Five figures, of whoever signs employment tax returns that go by file',
      kind: 'text',
    },
    {
      key: 'submitterId',
      label: 'User ID for wage statements',
      help: 'Eight letters and figures, from Business Services Online',
      kind: 'text',
    },
    {
      key: 'establishment',
      label: 'Establishment number',
      help: 'Where several establishments file under one number: up to four letters and figures',
      kind: 'text',
    },
    {
      key: 'otherFederalNumber',
      label: 'Other federal number of the year',
      help: 'Under which taxes were deposited or reported in the same year, box h of Form W-3',
      kind: 'text',
    },
    { key: 'closed', label: 'The business has ended', help: 'Wage statements are then due with the last return', kind: 'yes-no' },
  ],
  lists: [
    {
      key: 'states',
      title: 'States',
      entry: 'State',
      choices: stateChoices,
      fields: [
        { key: 'unemploymentRate', label: 'Unemployment rate, %', help: "From the state's yearly notice", kind: 'percent' },
        { key: 'nextUnemploymentRate', label: 'Its next rate, %', help: 'From the notice of the coming year', kind: 'percent' },
        { key: 'nextUnemploymentFrom', label: 'Next rate from', kind: 'date' },
        { key: 'unemploymentAccount', label: 'Unemployment account', kind: 'text' },
        { key: 'incomeTaxAccount', label: 'Income tax account', kind: 'text', ofEntries: taxingIncome },
        {
          key: 'depositSchedule',
          label: 'Deposits of income tax',
          kind: 'choice',
          ofEntries: taxingIncome,
          choices: [
            { value: 'semiweekly', label: 'semi-weekly' },
            { value: 'twice-a-month', label: 'twice a month' },
            { value: 'monthly', label: 'monthly' },
            { value: 'quarterly', label: 'quarterly' },
          ],
        },
        ...STATES.flatMap(({ code, registration: more }) => (more ?? []).map((field) => ({ ...field, ofEntries: [code] }))),
      ],
    },
    {
      key: 'localities',
      title: 'Local taxes',
      entry: 'Locality code',
      fields: [
        { key: 'name', label: 'Name', kind: 'text' },
        { key: 'residentRate', label: 'Rate for residents, %', kind: 'percent' },
        { key: 'nonresidentRate', label: 'Rate for others, %', kind: 'percent' },
        { key: 'servicesTaxPerYear', label: 'Local services tax a year', kind: 'amount' },
      ],
    },
  ],
  noPlaces: 'No state that people work in',
  overtimeRules: [
    { code: 'weekly', label: 'Over 40 hours a week (29 U.S.C. 207)' },
    { code: 'daily', label: 'Over 8 and 12 a day, 40 a week, seventh day (Cal. Labor Code 510)' },
    { code: 'none', label: 'None: everybody is exempt' },
  ],
  // Form W-3, box b, kind of employer.
  kinds: [
    { code: '501c-non-govt', label: 'Tax-exempt under section 501(c), not governmental' },
    { code: 'state-local-non-501c', label: 'State or local government' },
    { code: 'state-local-501c', label: 'State or local government, section 501(c)' },
    { code: 'federal-govt', label: 'Federal government' },
  ],
};

export const usTaxForm: readonly FormGroup[] = [
  {
    title: 'Federal withholding certificate (Form W-4)',
    fields: [
      {
        key: 'federal.certificate',
        label: 'Form used',
        kind: 'choice',
        choices: [
          { value: '2020', label: '2020 or later' },
          { value: '2019', label: '2019 or earlier' },
        ],
      },
      { key: 'federal.onFileSince', label: 'On file since', kind: 'date' },
      {
        key: 'federal.status',
        label: 'Filing status, step 1(c)',
        kind: 'choice',
        when: is2020,
        choices: [
          { value: 'single', label: 'Single or married filing separately' },
          { value: 'married-jointly', label: 'Married filing jointly' },
          { value: 'head-of-household', label: 'Head of household' },
        ],
      },
      { key: 'federal.twoJobs', label: 'Two-jobs box, step 2(c)', kind: 'yes-no', when: is2020 },
      {
        key: 'federal.dependents',
        label: 'Dependents and other credits, step 3',
        help: 'Per year, as on the certificate',
        kind: 'amount',
        when: is2020,
      },
      { key: 'federal.otherIncome', label: 'Other income, step 4(a)', help: 'Per year', kind: 'amount', when: is2020 },
      { key: 'federal.deductions', label: 'Deductions, step 4(b)', help: 'Per year', kind: 'amount', when: is2020 },
      {
        key: 'federal.status',
        label: 'Marital status, line 3',
        kind: 'choice',
        when: is2019,
        choices: [
          { value: 'single', label: 'Single' },
          { value: 'married', label: 'Married' },
          { value: 'married-higher-single', label: 'Married, at the higher single rate' },
        ],
      },
      { key: 'federal.allowances', label: 'Allowances, line 5', kind: 'count', when: is2019 },
      { key: 'federal.extra', label: 'Extra withholding', help: 'Per pay date, step 4(c) or line 6', kind: 'amount' },
      { key: 'federal.exempt', label: 'Claims exemption', kind: 'yes-no' },
      {
        key: 'federal.nonresidentAlien',
        label: 'Nonresident alien',
        help: 'Pay is raised for the tax only (Publication 15-T)',
        kind: 'yes-no',
      },
    ],
  },
  {
    title: 'Plans and tips',
    fields: [
      {
        key: 'rothCatchUp',
        label: 'Catch-up only as Roth',
        help: 'Social security wages here last year were over the threshold (150,000 for 2026), section 414(v)(7)',
        kind: 'yes-no',
      },
      { key: 'tippedOccupation', label: 'Occupation code for tips', help: 'Three figures, Form W-2, box 14b', kind: 'text' },
    ],
  },
  {
    title: 'State',
    fields: [
      { key: 'residentState', label: 'Lives in', kind: 'choice', choices: stateChoices },
      { key: 'workState', label: 'Works in', kind: 'choice', choices: stateChoices, ofGroup: true },
      { key: 'otherWorkState', label: 'Also works in', kind: 'choice', choices: stateChoices },
      {
        key: 'otherWorkPercent',
        label: 'Share of pay earned there, %',
        help: 'Where time is not kept by place of work',
        kind: 'percent',
        when: stateChoices.map(({ value }) => ({ key: 'otherWorkState', is: value })),
      },
      ...STATES.flatMap(({ code, name, certificate }) =>
        (certificate?.fields ?? []).map((field) => ({
          ...field,
          key: `${certificate?.key ?? ''}.${field.key}`,
          label: `${name}: ${field.label}`,
          when: [
            { key: 'residentState', is: code },
            { key: 'workState', is: code },
          ],
        })),
      ),
    ],
  },
  {
    title: 'Local (Pennsylvania)',
    fields: [
      {
        key: 'residentLocality',
        label: 'Lives in (locality code)',
        kind: 'text',
        entryOf: 'localities',
        when: { key: 'residentState', is: 'PA' },
      },
      {
        key: 'workLocality',
        label: 'Works in (locality code)',
        kind: 'text',
        entryOf: 'localities',
        when: { key: 'workState', is: 'PA' },
        ofGroup: true,
      },
      {
        key: 'servicesTaxExempt',
        label: 'Exempt from local services tax',
        help: 'Low-income or other exemption certificate on file',
        kind: 'yes-no',
        when: { key: 'workState', is: 'PA' },
      },
    ],
  },
];
