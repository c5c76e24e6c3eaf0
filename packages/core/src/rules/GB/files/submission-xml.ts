import { dateOf, yearOf, type IsoDate } from '../../../calendar/dates';
import type { Element } from '../../../files/xml';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender, type Stated } from '../../../filings/sender';
import { decimalOf } from '../../../money/amounts';
import { letterKey, OF_LETTER, soFar } from '../forms/stated';
import { LETTERS } from '../letters';
import { taxMonth, taxWeek, yearStart } from '../tax-year';
import { bacsHash } from './cross-reference';
import { envelope } from './envelope';

/** Elements of a payment's letters, of the period and of the year, in the order of the agency's schema (from memory, unconfirmed). */
const NI: readonly (readonly [element: string, what: (typeof OF_LETTER)[number], year: boolean])[] = [
  ['GrossEarningsForNICsInPd', 'earnings', false],
  ['GrossEarningsForNICsYTD', 'earnings', true],
  ['AtLELYTD', 'to-lower', true],
  ['LELtoPTYTD', 'to-primary', true],
  ['PTtoUELYTD', 'to-upper', true],
  ['TotalEmpNICInPd', 'employer', false],
  ['TotalEmpNICYTD', 'employer', true],
  ['EmpeeContribnsInPd', 'employee', false],
  ['EmpeeContribnsYTD', 'employee', true],
];

const PAY_FREQUENCY: Readonly<Record<string, string>> = {
  weekly: 'W1',
  fortnightly: 'W2',
  'four-weekly': 'W4',
  monthly: 'M1',
  quarterly: 'M3',
  'half-yearly': 'M6',
  yearly: 'MA',
};
/** The week or month of the tax year, and how many weeks or months are paid with it. */
function paid(frequency: string, date: string): Element[] {
  const weeks = { weekly: 1, fortnightly: 2, 'four-weekly': 4 }[frequency];
  if (weeks)
    return [
      ['WeekNo', String(taxWeek(date))],
      ['PeriodsCovered', String(weeks)],
    ];
  const months = { quarterly: 3, 'half-yearly': 6, yearly: 12 }[frequency] ?? 1;
  return [
    ['MonthNo', String(taxMonth(date))],
    ['PeriodsCovered', String(months)],
  ];
}

/** Since 19 April a tax year that is over is closed: what is reported of it corrects it. */
const isClosed = (date: IsoDate, on: IsoDate = date): boolean => on > dateOf(yearOf(yearStart(date)) + 1, 4, 19);

/** Why a payment is reported after its day: it corrects what was reported (HMRC, late reporting reasons). */
const CORRECTION = 'H';

/** One person: who they are, how they are employed, the year so far, this payment, and contributions by letter. */
function employee(
  who: Stated,
  amount: (key: string) => number,
  { date, letters, correction }: { date: string; letters: readonly string[]; correction: boolean },
): Element {
  const details = who.details ?? {};
  const text = (key: string): string => textOf(details, key);
  const money = (key: string): string => decimalOf(amount(key));
  const first = amount('pay') === amount(soFar('pay')) && who.hired !== undefined;
  const loan = text('studentLoan');
  return [
    'Employee',
    [
      [
        'EmployeeDetails',
        [
          who.number ? ['NINO', who.number] : null,
          [
            'Name',
            [
              ['Fore', who.givenName],
              ['Sur', who.familyName],
            ],
          ],
          [
            'Address',
            [
              ...[who.address.line1, who.address.line2, who.address.city].filter(Boolean).map((line): Element => ['Line', line]),
              who.address.postcode ? ['UKPostcode', who.address.postcode] : null,
            ],
          ],
          who.born ? ['BirthDate', who.born] : null,
          text('gender') ? ['Gender', text('gender')] : null,
        ],
      ],
      [
        'Employment',
        [
          first && text('starterDeclaration')
            ? [
                'Starter',
                [
                  ['StartDate', who.hired ?? ''],
                  ['StartDec', text('starterDeclaration')],
                ],
              ]
            : null,
          ['PayId', who.code ?? ''],
          who.left && who.left <= date ? ['LeavingDate', who.left] : null,
          [
            'FiguresToDate',
            [
              ['TaxablePay', money(soFar('pay'))],
              ['TotalTax', money(soFar('tax'))],
              amount(soFar('student')) ? ['StudentLoansTD', money(soFar('student'))] : null,
              amount(soFar('postgraduate')) ? ['PostgradLoansTD', money(soFar('postgraduate'))] : null,
            ],
          ],
          [
            'Payment',
            [
              ['PayFreq', PAY_FREQUENCY[who.frequency ?? 'monthly'] ?? 'IR'],
              who.transfer?.format === 'bacs' ? ['BacsHashCode', bacsHash(who.transfer)] : null,
              ['PmtDate', date],
              correction ? ['LateReason', CORRECTION] : null,
              ...paid(who.frequency ?? 'monthly', date),
              details['irregular'] === true ? ['IrrEmp', 'yes'] : null,
              text('hoursBand') ? ['HoursWorked', text('hoursBand')] : null,
              ['TaxCode', text('taxCode'), details['basis'] === 'week-1-month-1' ? { BasisNonCumulative: 'yes' } : {}],
              ['TaxablePay', money('pay')],
              ['TaxDeductedOrRefunded', money('tax')],
              amount('student') ? ['StudentLoanRecovered', money('student'), { PlanType: `0${loan}` }] : null,
              amount('postgraduate') ? ['PostgradLoanRecovered', money('postgraduate')] : null,
            ],
          ],
          ...letters
            .filter((letter) => amount(soFar(letterKey(letter, 'earnings'))) !== 0 || amount(letterKey(letter, 'earnings')) !== 0)
            .map((letter): Element => [
              'NIlettersAndValues',
              [
                ['NIletter', letter],
                ...NI.map(([element, what, year]): Element => {
                  const key = letterKey(letter, what);
                  return [element, money(year ? soFar(key) : key)];
                }),
              ],
            ]),
        ],
      ],
    ],
  ];
}

function write({ period, detail }: FilingContent, sender: Sender): string {
  const { people } = sender;
  const at = new Map((detail?.columns ?? []).map(({ key }, index) => [key, index]));
  const letters = Object.keys(LETTERS).filter((letter) => at.has(letterKey(letter, 'earnings')));
  return envelope('FullPaymentSubmission', period, sender, [
    ['RelatedTaxYear', period.taxYear.slice(2)],
    ...(detail?.rows ?? []).map(({ personId, values }): Element => {
      const who = people.get(personId);
      if (!who) throw new RangeError('somebody of the submission is not on file');
      return employee(who, (key) => values[at.get(key) ?? -1] ?? 0, {
        date: period.to,
        letters,
        correction: sender.amends || isClosed(period.to, sender.signer?.on),
      });
    }),
  ]);
}

/** By which the agency knows the employer, and what is paid to it. */
export const submissionWants: FilingFile['wants'] = ({ number, employer }) => [
  ...(/^\d{3}\/[A-Z0-9]{1,10}$/.test(number) ? [] : [{ sentence: 'The PAYE reference of the employer', part: 'registrations' as const }]),
  ...(textOf(employer, 'accountsOffice') ? [] : [{ sentence: 'The Accounts Office reference', part: 'registrations' as const }]),
];

/** The file of a full payment submission: the body that the agency's gateway takes within its envelope. */
export const submissionFile: FilingFile = {
  format: 'XML of real time information',
  extension: 'xml',
  wants: submissionWants,
  write,
};
