import type { FormGroup } from '../country-pack';
import { LETTERS } from './letters';

/** A person's tax details as fields for screens and files; their shape is in `facts.ts`. */
export const ukTaxForm: readonly FormGroup[] = [
  {
    title: 'PAYE and national insurance',
    fields: [
      { key: 'taxCode', label: 'Tax code', kind: 'text', help: 'As on the latest notice: 1257L, S1257L, K100, BR, 0T …' },
      {
        key: 'basis',
        label: 'Basis',
        kind: 'choice',
        choices: [
          { value: 'cumulative', label: 'Cumulative' },
          { value: 'week-1-month-1', label: 'Week 1 / month 1' },
        ],
      },
      {
        key: 'category',
        label: 'National insurance category',
        kind: 'choice',
        choices: Object.entries(LETTERS).map(([value, { label }]) => ({ value, label })),
      },
      {
        key: 'director',
        label: 'Director',
        kind: 'choice',
        choices: [
          { value: 'no', label: 'No' },
          { value: 'annual', label: 'Yes, contributions of the year so far' },
          { value: 'alternative', label: 'Yes, as others, and of the year with its last payment' },
        ],
      },
      {
        key: 'directorSince',
        label: 'Director since',
        kind: 'date',
        help: 'Only where it was within the tax year',
        when: [
          { key: 'director', is: 'annual' },
          { key: 'director', is: 'alternative' },
        ],
      },
    ],
  },
  {
    title: 'Minimum wage',
    fields: [{ key: 'apprentice', label: 'Apprentice under 19, or in the first year', kind: 'yes-no' }],
  },
  {
    title: 'For the submission',
    fields: [
      {
        key: 'gender',
        label: 'Gender, as registered',
        kind: 'choice',
        choices: [
          { value: 'F', label: 'F' },
          { value: 'M', label: 'M' },
        ],
      },
      { key: 'irregular', label: 'Paid irregularly', kind: 'yes-no', help: 'Three months without pay do not end the employment' },
      {
        key: 'hoursBand',
        label: 'Usual hours a week',
        kind: 'choice',
        choices: [
          { value: 'A', label: 'Up to 15.99' },
          { value: 'B', label: '16 to 23.99' },
          { value: 'C', label: '24 to 29.99' },
          { value: 'D', label: '30 or more' },
          { value: 'E', label: 'No regular pattern' },
        ],
      },
      {
        key: 'starterDeclaration',
        label: 'Starter declaration',
        kind: 'choice',
        help: 'Where there is no certificate of leaving',
        choices: [
          { value: 'A', label: 'A, first job since 6 April' },
          { value: 'B', label: 'B, only job now' },
          { value: 'C', label: 'C, another job or pension' },
        ],
      },
    ],
  },
  {
    title: 'Earlier employment in the tax year',
    fields: [
      { key: 'previousYear', label: 'Tax year', kind: 'text', help: 'Of part 1 of the certificate of leaving, such as 2026-27' },
      { key: 'previousPay', label: 'Pay there', kind: 'amount' },
      { key: 'previousTax', label: 'Tax there', kind: 'amount' },
    ],
  },
  {
    title: 'Loans',
    fields: [
      {
        key: 'studentLoan',
        label: 'Student loan',
        kind: 'choice',
        choices: [{ value: 'none', label: 'None' }, ...['1', '2', '4', '5'].map((value) => ({ value, label: `Plan ${value}` }))],
      },
      { key: 'postgraduateLoan', label: 'Postgraduate loan', kind: 'yes-no' },
    ],
  },
];
