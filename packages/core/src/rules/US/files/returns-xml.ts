import { monthOf } from '../../../calendar/dates';
import { decimalOf } from '../../../money/amounts';
import { xmlOf, type Element } from '../../../files/xml';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';

/** Lines of a return with the elements that the agency's schemas name them by. */
type Elements = readonly (readonly [line: string, element: string])[];

/** Elements of the agency's schemas for employment tax returns (MeF, 94x), as far as they are known here: unconfirmed. */
const FORM_941: Elements = [
  ['1', 'EmployeeCnt'],
  ['2', 'WagesAmt'],
  ['3', 'FederalIncomeTaxWithheldAmt'],
  ['5a (1)', 'SocialSecurityTaxCashWagesAmt'],
  ['5a (2)', 'SocialSecurityTaxAmt'],
  ['5b (1)', 'TaxableSocSecTipsAmt'],
  ['5b (2)', 'TaxOnSocialSecurityTipsAmt'],
  ['5c (1)', 'TaxableMedicareWagesTipsAmt'],
  ['5c (2)', 'TaxOnMedicareWagesTipsAmt'],
  ['5d (1)', 'TxblWageTipsSubjAddnlMedcrAmt'],
  ['5d (2)', 'TaxOnWageTipsSubjAddnlMedcrAmt'],
  ['5e', 'TotSSMdcrTaxAmt'],
  ['6', 'TotalTaxBeforeAdjustmentAmt'],
  ['7', 'CurrentQtrFractionsCentsAmt'],
  ['8', 'CurrentQuarterSickPaymentAmt'],
  ['9', 'CurrQtrTipGrpTermLifeInsAdjAmt'],
  ['10', 'TotalTaxAfterAdjustmentAmt'],
  ['11', 'PayrollTaxCreditAmt'],
  ['12', 'TotalTaxAmt'],
  ['13', 'TotalTaxDepositAmt'],
  ['14', 'BalanceDueAmt'],
  ['15', 'OverpaidAmt'],
  ['16, month 1', 'TaxLiabilityMonth1Amt'],
  ['16, month 2', 'TaxLiabilityMonth2Amt'],
  ['16, month 3', 'TaxLiabilityMonth3Amt'],
];

const FORM_944: Elements = [
  ['1', 'WagesAmt'],
  ['2', 'FederalIncomeTaxWithheldAmt'],
  ['4a (1)', 'SocialSecurityTaxCashWagesAmt'],
  ['4a (2)', 'SocialSecurityTaxAmt'],
  ['4b (1)', 'TaxableSocSecTipsAmt'],
  ['4b (2)', 'TaxOnSocialSecurityTipsAmt'],
  ['4c (1)', 'TaxableMedicareWagesTipsAmt'],
  ['4c (2)', 'TaxOnMedicareWagesTipsAmt'],
  ['4d (1)', 'TxblWageTipsSubjAddnlMedcrAmt'],
  ['4d (2)', 'TaxOnWageTipsSubjAddnlMedcrAmt'],
  ['4e', 'TotSSMdcrTaxAmt'],
  ['5', 'TotalTaxBeforeAdjustmentAmt'],
  ['6', 'CurrentYearAdjustmentAmt'],
  ['7', 'TotalTaxAfterAdjustmentAmt'],
  ['9', 'TotalTaxAmt'],
  ['10', 'TotalTaxDepositAmt'],
  ['11', 'BalanceDueAmt'],
  ['12', 'OverpaidAmt'],
  ...Array.from({ length: 12 }, (_, month): [string, string] => [
    `13${String.fromCharCode(97 + month)}`,
    `TaxLiabilityMonth${month + 1}Amt`,
  ]),
];

const FORM_940: Elements = [
  ['3', 'TotalWagesAmt'],
  ['4', 'ExemptWagesAmt'],
  ['5', 'WagesOverLimitAmt'],
  ['6', 'TotalExemptWagesAmt'],
  ['7', 'TotalTaxableWagesAmt'],
  ['8', 'FUTATaxBeforeAdjustmentsAmt'],
  ['10', 'FUTAAdjustmentAmt'],
  ['11', 'TotalCreditReductionAmt'],
  ['12', 'TotalTaxAmt'],
  ['13', 'TotalTaxDepositedAmt'],
  ['14', 'BalanceDueAmt'],
  ['15', 'OverpaidAmt'],
  ['16a', 'Quarter1LiabilityAmt'],
  ['16b', 'Quarter2LiabilityAmt'],
  ['16c', 'Quarter3LiabilityAmt'],
  ['16d', 'Quarter4LiabilityAmt'],
];

const FORM_945: Elements = [
  ['2', 'BackupWithholdingAmt'],
  ['3', 'TotalTaxAmt'],
  ['4', 'TotalTaxDepositAmt'],
  ['5', 'BalanceDueAmt'],
  ['6', 'OverpaidAmt'],
];

const FORMS: Record<string, Elements> = { '941': FORM_941, '944': FORM_944, '940': FORM_940, '945': FORM_945 };
const digits = (text: string): string => text.replace(/\D/g, '');

/** A federal employment tax return as XML: who files and signs, the return, and its schedules. */
export function returnXml(form: keyof typeof FORMS, content: FilingContent, sender: Sender): string {
  const { period, lines, byDay } = content;
  const elements = FORMS[form] ?? [];
  const body = elements.flatMap(([line, element]): Element[] => {
    const found = lines.find((one) => one.line === line);
    return found ? [[element, found.unit === 'money' ? decimalOf(found.amount) : String(found.amount)]] : [];
  });
  const corrections = correctionOf(elements, content);
  const reduced = lines.filter(({ line }) => line.startsWith('A '));
  const semiweekly = sender.employer['depositor'] === 'semiweekly';
  return xmlOf([
    'Return',
    [
      headerOf(form, content, sender),
      [
        'ReturnData',
        [
          [`IRS${form}`, body],
          form === '941' && semiweekly && byDay
            ? [
                'IRS941ScheduleB',
                byDay.days.map(({ date, amount }): Element => [
                  `TaxLiabilityMonth${((monthOf(date) - 1) % 3) + 1}Amt`,
                  decimalOf(amount),
                  { day: String(Number(date.slice(8))) },
                ]),
              ]
            : null,
          corrections,
          reduced.length
            ? [
                'IRS940ScheduleA',
                reduced.map(({ line, amount }): Element => ['CreditReductionAmt', decimalOf(amount), { state: line.slice(2) }]),
              ]
            : null,
        ],
        { documentCnt: String(1 + (form === '941' && semiweekly ? 1 : 0) + (reduced.length ? 1 : 0) + (corrections ? 1 : 0)) },
      ],
    ],
    { xmlns: 'http://www.irs.gov/efile', returnVersion: `${period.taxYear}v1.0` },
  ]);
}

/** Columns of the adjusted return (Form 941-X, lines 6 to 27): of each line that differs what is right, what was filed, and the difference, with the explanation. */
function correctionOf(elements: Elements, { lines, before, because = '' }: FilingContent): Element | null {
  if (!before) return null;
  const differing = elements.flatMap(([line, element]): Element[] => {
    const now = lines.find((one) => one.line === line);
    const was = before.find((one) => one.line === line)?.amount ?? 0;
    if ((now?.amount ?? 0) === was || now?.unit === 'count') return [];
    const corrected = now?.amount ?? 0;
    return [
      [
        'CorrectionGrp',
        [
          ['ElementNm', element],
          ['CorrectedAmt', decimalOf(corrected)],
          ['PreviouslyReportedAmt', decimalOf(was)],
          ['DifferenceAmt', decimalOf(corrected - was)],
        ],
      ],
    ];
  });
  return ['CorrectionDetail', [...differing, ['ExplanationTxt', because]]];
}

function headerOf(form: string, { period }: FilingContent, sender: Sender): Element {
  const { name, number, address, contact, signer, employer } = sender;
  return [
    'ReturnHeader',
    [
      ['ReturnTypeCd', sender.amends ? `${form}X` : form],
      ['TaxPeriodBeginDt', period.from],
      ['TaxPeriodEndDt', period.to],
      [
        'Filer',
        [
          ['EIN', digits(number)],
          ['BusinessName', [['BusinessNameLine1Txt', name]]],
          [
            'USAddress',
            [
              ['AddressLine1Txt', address.line1],
              address.line2 ? ['AddressLine2Txt', address.line2] : null,
              ['CityNm', address.city],
              ['StateAbbreviationCd', address.state],
              ['ZIPCd', address.postcode],
            ],
          ],
        ],
      ],
      signer
        ? [
            'BusinessOfficerGrp',
            [
              ['PersonNm', signer.name],
              ['PersonTitleTxt', signer.title],
              ['PhoneNum', digits(contact.phone)],
              ['TaxpayerPIN', textOf(employer, 'signerPin')],
              ['SignatureDt', signer.on],
            ],
          ]
        : null,
    ],
  ];
}

/** The file of a federal return, and what must be there before one is filed. */
export const returnFile = (form: keyof typeof FORMS): FilingFile => ({
  format: 'XML of the employment tax returns (94x)',
  extension: 'xml',
  wants: ({ employer, contact, address }) => [
    ...(/^\d{5}$/.test(textOf(employer, 'signerPin'))
      ? []
      : [{ sentence: "The signer's PIN for employment tax returns, five figures", part: 'registrations' as const }]),
    ...(contact.phone ? [] : [{ sentence: 'The telephone number of whom the agency can ask', part: 'legal' as const }]),
    ...(address.line1 && address.city && address.postcode ? [] : [{ sentence: "The employer's full address", part: 'legal' as const }]),
  ],
  write: (content, sender) => returnXml(form, content, sender),
});
