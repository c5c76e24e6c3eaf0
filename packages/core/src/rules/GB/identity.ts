import { validate as validNumber } from 'stdnum/lib/cjs/gb/nino';
import { bacs } from './files/bacs';
import { bareText, type BankForm, type PersonForm, type Words } from '../identity';

export const words: Words = {
  frequencies: {
    daily: 'Daily',
    weekly: 'Weekly',
    fortnightly: 'Fortnightly',
    'four-weekly': 'Four-weekly',
    'twice-a-month': 'Twice a month',
    monthly: 'Monthly',
    quarterly: 'Quarterly',
    'half-yearly': 'Half-yearly',
    yearly: 'Annually',
  },
  cheque: 'cheque',
  cheques: 'cheques',
  benefitInKind: 'Benefits in kind',
  percent: 'per cent',
};

export const person: PersonForm = {
  number: {
    label: 'National Insurance number',
    also: ['nino', 'ni number'],
    expected: 'a National Insurance number such as AB 12 34 56 C',
    bare: bareText,
    isOne: (text) => validNumber(text).isValid,
    masked: (last4) => `•••••${last4}`,
  },
  address: {
    city: 'Town or city',
    // British Standard 7666 as the agency's schemas have it.
    postcode: {
      label: 'Postcode',
      also: ['post code'],
      expected: 'a postcode such as SW1A 1AA',
      isOne: (text) =>
        /^(GIR ?0AA|[A-PR-UWYZ]([0-9]{1,2}|([A-HK-Y][0-9]([0-9ABEHMNPRV-Y])?)|[0-9][A-HJKPS-UW]) ?[0-9][ABD-HJLNP-UW-Z]{2})$/.test(text),
    },
    line: ({ line1, line2, city, postcode }) => [line1, line2, city, postcode].filter(Boolean).join(', '),
  },
};

/** Modulus checks need the banks' own tables; form alone is looked at. */
export const bank: BankForm = {
  clearing: 'GBDSC',
  // By custom of the banks: six months.
  staleAfter: 180,
  // Dormant accounts are the banks' affair; wages stay owed until they are time-barred.
  unclaimed: () => undefined,
  files: [bacs],
  payerNumber: ({ serviceUser }) => (typeof serviceUser === 'string' ? serviceUser : ''),
  // Reasons of returned credits (ARUCS), as the clearing publishes them: from memory, unconfirmed.
  returns: {
    '0': 'Invalid details',
    '2': 'Beneficiary deceased',
    '3': 'Account transferred',
    '5': 'No account',
    B: 'Account closed',
    C: 'Requested by the remitter',
  },
  code: {
    label: 'Sort code',
    also: ['bank sort code'],
    expected: 'six figures',
    bare: bareText,
    isOne: (digits) => /^\d{6}$/.test(digits),
  },
  account: {
    label: 'Account number',
    also: ['bank account'],
    expected: 'eight figures',
    bare: bareText,
    isOne: (digits) => /^\d{8}$/.test(digits),
  },
};
