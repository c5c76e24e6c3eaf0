import { xmlOf, type Element } from '../../../files/xml';
import type { FilingPeriod } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';

const [OFFICE, REFERENCE] = [0, 1];

/** What every submission in real time stands in: whose it is, until when, who signed, and the employer's references. */
export function envelope(
  kind: 'FullPaymentSubmission' | 'EmployerPaymentSummary',
  period: FilingPeriod,
  { number, employer, name, signer, amends }: Sender,
  body: readonly (Element | null)[],
): string {
  const reference = number.split('/');
  return xmlOf([
    'IRenvelope',
    [
      [
        'IRheader',
        [
          [
            'Keys',
            [
              ['Key', reference[OFFICE] ?? '', { Type: 'TaxOfficeNumber' }],
              ['Key', reference[REFERENCE] ?? '', { Type: 'TaxOfficeReference' }],
            ],
          ],
          ['PeriodEnd', period.to],
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
          ...body,
        ],
      ],
    ],
    { xmlns: `http://www.govtalk.gov.uk/taxation/PAYE/RTI/${kind}` },
  ]);
}
