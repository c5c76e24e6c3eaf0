import type { FormGroup } from '../country-pack';
import { BASES } from './facts';
import { stateChoices } from './states';

const RESIDENT = { key: 'status', is: 'resident' };

/** A person's tax details as fields for screens and files; their shape is in `facts.ts`. */
export const auTaxForm: readonly FormGroup[] = [
  {
    title: 'Tax file number declaration',
    fields: [
      {
        key: 'status',
        label: 'For tax',
        kind: 'choice',
        choices: [
          { value: 'resident', label: 'Australian resident' },
          { value: 'foreign-resident', label: 'Foreign resident' },
          { value: 'working-holiday', label: 'Working holiday maker' },
          { value: 'seasonal', label: 'Seasonal worker (PALM scheme)' },
        ],
      },
      { key: 'threshold', label: 'Claims the tax-free threshold', kind: 'yes-no', when: RESIDENT },
      {
        key: 'numberQuoted',
        label: 'Tax file number',
        kind: 'choice',
        choices: [
          { value: 'yes', label: 'quoted' },
          { value: 'applied', label: 'applied for, within 28 days' },
          { value: 'exempt', label: 'exempt from quoting it' },
          { value: 'no', label: 'not quoted' },
        ],
      },
      {
        key: 'declaredOn',
        label: 'Declared on',
        kind: 'date',
        help: 'The 28 days of a number applied for run from then',
        when: { key: 'numberQuoted', is: 'applied' },
      },
      { key: 'studyLoan', label: 'Has a study or training support loan', kind: 'yes-no' },
      {
        key: 'homeCountry',
        label: 'Home country',
        kind: 'text',
        help: 'Two letters (ISO 3166), such as IE',
        when: { key: 'status', is: 'working-holiday' },
      },
    ],
  },
  {
    title: 'Further declarations',
    fields: [
      {
        key: 'medicare',
        label: 'Medicare levy',
        kind: 'choice',
        when: RESIDENT,
        choices: [
          { value: 'full', label: 'as usual' },
          { value: 'half-exemption', label: 'half exemption' },
          { value: 'full-exemption', label: 'full exemption' },
        ],
      },
      {
        key: 'medicareReduction',
        label: 'Medicare levy reduction',
        kind: 'choice',
        when: RESIDENT,
        choices: [
          { value: 'no', label: 'not claimed' },
          { value: 'spouse', label: 'claimed, with a spouse' },
          { value: 'children', label: 'claimed, with dependent children' },
        ],
      },
      {
        key: 'dependants',
        label: 'Dependent children',
        kind: 'count',
        when: [
          { key: 'medicareReduction', is: 'spouse' },
          { key: 'medicareReduction', is: 'children' },
        ],
      },
      {
        key: 'seniors',
        label: 'Seniors and pensioners tax offset',
        kind: 'choice',
        when: RESIDENT,
        choices: [
          { value: 'no', label: 'not claimed' },
          { value: 'single', label: 'claimed, single' },
          { value: 'illness-separated', label: 'claimed, separated by illness' },
          { value: 'couple', label: 'claimed, member of a couple' },
        ],
      },
      { key: 'offsets', label: 'Tax offsets of the year', kind: 'amount', help: 'By the withholding declaration', when: RESIDENT },
      { key: 'extra', label: 'Extra tax each pay', kind: 'amount', help: 'As the person has asked in writing' },
      {
        key: 'surcharge',
        label: 'Medicare levy surcharge',
        kind: 'choice',
        help: 'Stated with the pay event; ask for the amount as extra tax',
        choices: [
          { value: 'no', label: 'not asked for' },
          { value: '1', label: 'tier 1' },
          { value: '2', label: 'tier 2' },
          { value: '3', label: 'tier 3' },
        ],
      },
    ],
  },
  {
    title: 'Employment',
    fields: [
      { key: 'basis', label: 'Employed', kind: 'choice', choices: Object.entries(BASES).map(([value, label]) => ({ value, label })) },
      {
        key: 'state',
        label: 'State or territory',
        kind: 'choice',
        choices: stateChoices,
        help: 'Where the wages are liable for payroll tax',
        ofGroup: true,
      },
    ],
  },
  {
    title: 'Super',
    fields: [
      {
        key: 'fundChoice',
        label: 'Fund',
        kind: 'choice',
        choices: [
          { value: 'chosen', label: 'chosen by the person' },
          { value: 'stapled', label: 'stapled, as the agency answered' },
          { value: 'default', label: "the employer's default fund" },
        ],
      },
      {
        key: 'fund',
        label: 'USI or ABN of the fund',
        kind: 'text',
        entryOf: 'funds',
        when: [
          { key: 'fundChoice', is: 'chosen' },
          { key: 'fundChoice', is: 'stapled' },
        ],
      },
      { key: 'memberNumber', label: 'Member number', kind: 'text' },
    ],
  },
];
