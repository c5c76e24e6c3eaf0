import { sha1 } from '@noble/hashes/legacy.js';
import { utf8ToBytes } from '@noble/hashes/utils.js';
import { canonicalXml, type Element } from '../../../files/xml';
import type { FilingPeriod } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';

const [OFFICE, REFERENCE] = [0, 1];
const GATEWAY = 'http://www.govtalk.gov.uk/CM/envelope';
/** What each submission is called at the gateway. */
const CLASSES = { FullPaymentSubmission: 'HMRC-PAYE-RTI-FPS', EmployerPaymentSummary: 'HMRC-PAYE-RTI-EPS' } as const;

/**
 * The mark by which both sides know a submission: SHA-1 of the body in canonical form without the mark itself, in base 64
 * (HMRC, Generic IRmark technical specification). `mark` stands before whoever sends it.
 */
export const markOf = (body: string): string => {
  const digest = sha1(utf8ToBytes(body));
  return btoa(String.fromCharCode(...digest));
};

/** What every submission in real time stands in: the gateway's envelope, whose it is, until when, who signed, and its mark. */
export function envelope(
  kind: keyof typeof CLASSES,
  period: FilingPeriod,
  { number, employer, name, signer, amends }: Sender,
  content: readonly (Element | null)[],
): string {
  const reference = number.split('/');
  const keys: Element = [
    'Keys',
    [
      ['Key', reference[OFFICE] ?? '', { Type: 'TaxOfficeNumber' }],
      ['Key', reference[REFERENCE] ?? '', { Type: 'TaxOfficeReference' }],
    ],
  ];
  const body = (mark?: string): Element => [
    'Body',
    [
      [
        'IRenvelope',
        [
          [
            'IRheader',
            [
              keys,
              ['PeriodEnd', period.to],
              ['DefaultCurrency', 'GBP'],
              mark === undefined ? null : ['IRmark', mark, { Type: 'generic' }],
              signer ? ['Sender', 'Employer'] : null,
              signer ? ['SignedBy', `${signer.name}, ${signer.on}`] : null,
            ],
          ],
          [
            kind,
            [
              [
                'EmpRefs',
                [
                  ['OfficeNo', reference[OFFICE] ?? ''],
                  ['PayeRef', reference[REFERENCE] ?? ''],
                  ['AORef', textOf(employer, 'accountsOffice')],
                ],
              ],
              ['EmployerName', name],
              amends ? ['Correction', 'yes'] : null,
              ...content,
            ],
          ],
        ],
        { xmlns: `http://www.govtalk.gov.uk/taxation/PAYE/RTI/${kind}` },
      ],
    ],
  ];
  // The body has the name space of what it stands in, and as the mark's own root says it itself.
  const [named, inner] = body();
  const mark = markOf(canonicalXml([named, inner, { xmlns: GATEWAY }]));
  return `<?xml version="1.0" encoding="UTF-8"?>\n${canonicalXml([
    'GovTalkMessage',
    [
      ['EnvelopeVersion', '2.0'],
      [
        'Header',
        [
          [
            'MessageDetails',
            [
              ['Class', CLASSES[kind]],
              ['Qualifier', 'request'],
              ['Function', 'submit'],
              ['CorrelationID', ''],
              ['Transformation', 'XML'],
            ],
          ],
        ],
      ],
      ['GovTalkDetails', [keys, ['TargetDetails', [['Organisation', 'IR']]]]],
      body(mark),
    ],
    { xmlns: GATEWAY },
  ])}\n`;
}
