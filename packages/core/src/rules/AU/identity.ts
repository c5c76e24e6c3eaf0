import { validate as validNumber } from 'stdnum/lib/cjs/au/tfn';
import { validate as validBusiness } from 'stdnum/lib/cjs/au/abn';
import { bareText, type BankForm, type PersonForm, type Words } from '../identity';
import { aba } from './files/aba';
import { STATES } from './states';

export const words: Words = {
  frequencies: {
    daily: 'Daily',
    weekly: 'Weekly',
    fortnightly: 'Fortnightly',
    'four-weekly': 'Four-weekly',
    'twice-a-month': 'Half-monthly',
    monthly: 'Monthly',
    quarterly: 'Quarterly',
    'half-yearly': 'Half-yearly',
    yearly: 'Annually',
  },
  cheque: 'cheque',
  cheques: 'cheques',
  benefitInKind: 'Fringe benefits',
  percent: 'per cent',
};

/** An Australian business number by its check digits (ATO, Format of the ABN). */
export const isBusinessNumber = (bare: string): boolean => /^\d{11}$/.test(bare) && validBusiness(bare).isValid;

/**
 * Numbers that the agency gives a meaning of their own, where there is none yet or nobody quotes one (ATO, TFN declarations: exemption codes):
 * not quoted, applied for, under 18 and below the threshold, a pensioner, and a number in letters.
 */
export const SPECIAL_NUMBERS = ['000000000', '111111111', '333333333', '444444444', '987654321'] as const;
export const isSpecialNumber = (bare: string): boolean => (SPECIAL_NUMBERS as readonly string[]).includes(bare);

export const person: PersonForm = {
  number: {
    label: 'Tax file number',
    also: ['tfn'],
    expected: 'a tax file number of nine figures whose check digit is right, such as 123 456 782',
    bare: bareText,
    // Before the check digit: a number with a meaning of its own passes none.
    isOne: (text) => isSpecialNumber(text) || (/^\d{8,9}$/.test(text) && validNumber(text).isValid),
    masked: (last4) => `••• ••${last4.slice(0, 1)} ${last4.slice(1)}`,
  },
  address: {
    city: 'Suburb or town',
    state: {
      label: 'State',
      also: ['state or territory'],
      expected: `one of ${Object.keys(STATES).join(', ')}`,
      isOne: (text) => text in STATES,
    },
    postcode: { label: 'Postcode', also: ['post code'], expected: 'a postcode of four figures', isOne: (text) => /^\d{4}$/.test(text) },
    line: ({ line1, line2, city, state, postcode }) =>
      [line1, line2, [city, state, postcode].filter(Boolean).join(' ')].filter(Boolean).join(', '),
  },
};

export const bank: BankForm = {
  clearing: 'AUBSB',
  // Cheques Act 1986, section 3(5): stale after fifteen months.
  staleAfter: 456,
  // Unpaid wages go to the regulator after a time that differs by state; the employer keeps them owed until then.
  unclaimed: () => undefined,
  files: [aba],
  payerNumber: ({ directEntryUser }) => (typeof directEntryUser === 'string' ? directEntryUser : ''),
  // Bulk electronic clearing, return codes of direct entry.
  returns: {
    '1': 'Invalid BSB number',
    '2': 'Payment stopped',
    '3': 'Account closed',
    '4': 'Customer deceased',
    '5': 'No account, or incorrect account number',
    '6': 'Refer to customer',
    '9': 'Technically invalid',
  },
  code: {
    label: 'BSB',
    also: ['bsb number'],
    expected: 'six figures, such as 062-000',
    bare: bareText,
    isOne: (digits) => /^\d{6}$/.test(digits),
  },
  account: {
    label: 'Account number',
    also: ['bank account'],
    expected: 'two to nine figures',
    bare: bareText,
    isOne: (digits) => /^\d{2,9}$/.test(digits) && !/^0+$/.test(digits),
  },
};
