import { STATES as STATES_IN } from './states';
import { validate as validNumber } from 'stdnum/lib/cjs/us/ssn';
import { ach } from './files/ach';
import { bareText, type BankForm, type PersonForm, type Words } from '../identity';

export const words: Words = {
  frequencies: {
    daily: 'Daily',
    weekly: 'Weekly',
    fortnightly: 'Biweekly',
    'four-weekly': 'Every four weeks',
    'twice-a-month': 'Semimonthly',
    monthly: 'Monthly',
    quarterly: 'Quarterly',
    'half-yearly': 'Semiannual',
    yearly: 'Annually',
  },
  cheque: 'check',
  cheques: 'checks',
  benefitInKind: 'Noncash benefits',
  percent: 'percent',
};

const STATES =
  'AL AK AZ AR CA CO CT DE DC FL GA HI ID IL IN IA KS KY LA ME MD MA MI MN MS MO MT NE NV NH NJ NM NY NC ND OH OK OR PA RI SC SD TN TX UT VT VA WA WV WI WY PR'.split(
    ' ',
  );

export const person: PersonForm = {
  number: {
    label: 'Social security number',
    also: ['ssn', 'social security'],
    expected: 'a social security number such as 123-45-6789',
    bare: bareText,
    // No area 000, 666 or 9xx, no group 00, no serial 0000, and none of those that were printed on sample cards.
    isOne: (digits) => /^(?!000|666|9)\d{3}(?!00)\d{2}(?!0000)\d{4}$/.test(digits) && validNumber(digits).isValid,
    masked: (last4) => `•••-••-${last4}`,
  },
  address: {
    city: 'City',
    state: { label: 'State', also: ['state'], expected: 'two letters such as PA', isOne: (text) => STATES.includes(text) },
    postcode: {
      label: 'ZIP code',
      also: ['zip', 'postal code'],
      expected: 'five figures, or nine with a hyphen',
      isOne: (text) => /^\d{5}(-\d{4})?$/.test(text),
    },
    line: ({ line1, line2, city, state, postcode }) =>
      [line1, line2, [city, `${state} ${postcode}`.trim()].filter(Boolean).join(', ')].filter(Boolean).join(', '),
  },
};

/** The check digit of a routing number: weights 3, 7, 1 (ABA). */
const checks = (digits: string): boolean =>
  [...digits].reduce((sum, digit, index) => sum + Number(digit) * ([3, 7, 1][index % 3] ?? 0), 0) % 10 === 0;

/** Return reason and change codes (Nacha Operating Rules, Appendix Four and Five); those that credits come back with. */
const RETURNS = {
  R02: 'The account is closed',
  R03: 'There is no account under this name and number',
  R04: 'The account number has not the form that it has at this bank',
  R16: 'The account is frozen',
  R20: 'The account takes no such payments',
  R23: 'The receiver refused the payment',
  C01: 'The account number has changed',
  C02: 'The routing number has changed',
  C03: 'Routing and account number have changed',
  C05: 'It is another kind of account',
};

export const bank: BankForm = {
  kinds: { checking: 'checking', savings: 'savings' },
  clearing: 'USABA',
  // UCC 4-404: six months.
  staleAfter: 180,
  unclaimed: (state) => STATES_IN.find(({ code }) => code === state)?.unclaimed,
  files: [ach],
  returns: RETURNS,
  code: {
    label: 'Routing number',
    also: ['bank routing', 'aba'],
    expected: 'nine figures with their check digit',
    bare: bareText,
    isOne: (digits) => /^\d{9}$/.test(digits) && checks(digits),
  },
  account: {
    label: 'Account number',
    also: ['bank account'],
    expected: 'four to seventeen figures',
    bare: bareText,
    isOne: (digits) => /^\d{4,17}$/.test(digits),
  },
};
