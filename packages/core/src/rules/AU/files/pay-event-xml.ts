import { xmlOf, type Element } from '../../../files/xml';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender, type Stated as Person } from '../../../filings/sender';
import { decimalOf } from '../../../money/amounts';
import { soFar, STATED, type Stated } from '../forms/stated';
import { isBusinessNumber } from '../identity';
import { KINDS } from '../leaving';
import { taxYearLabel } from '../tax-year';
import { incomeStream, treatmentCode } from './treatment-code';

/** A number where there is none: not quoted. */
const NOT_QUOTED = '000000000';
const APPLIED_FOR = '111111111';

type AmountOf = (key: string) => number;

/** Elements of one kind of collection: a type, and its amount of the year. */
function collected(
  name: string,
  entry: string,
  group: Stated['group'],
  { type, amount }: { type: string; amount: string },
  of: AmountOf,
): Element | null {
  const entries = STATED.filter((one) => one.group === group && of(soFar(one.key)) !== 0 && !one.key.endsWith('withheld')).map(
    (one): Element => [
      entry,
      [
        [type, one.type ?? ''],
        [amount, decimalOf(of(soFar(one.key)))],
      ],
    ],
  );
  return entries.length ? [name, entries] : null;
}

/** Somebody's part of the event: who, how employed, and the year to date by income stream (elements from memory, unconfirmed). */
export function payee(who: Person, of: AmountOf, { from, to, final }: { from: string; to: string; final: boolean }): Element {
  const details = who.details ?? {};
  const money = (key: string): string => decimalOf(of(soFar(key)));
  const optional = (element: string, key: string): Element | null => (of(soFar(key)) ? [element, money(key)] : null);
  const left = who.left !== undefined && who.left <= to;
  const number = who.number || (textOf(details, 'numberQuoted') === 'applied' ? APPLIED_FOR : NOT_QUOTED);
  const terminations = STATED.filter(({ group, key }) => group === 'termination' && !key.endsWith('withheld') && of(soFar(key)) !== 0);
  const home = textOf(details, 'homeCountry');
  return [
    'Payee',
    [
      [
        'Identifiers',
        [
          ['TaxFileNumberId', number],
          ['EmploymentPayrollNumberId', who.code ?? ''],
        ],
      ],
      [
        'PersonNameDetails',
        [
          ['FamilyNameT', who.familyName],
          ['GivenNameT', who.givenName],
        ],
      ],
      who.born
        ? [
            'PersonDemographicDetails',
            [
              ['BirthDm', String(Number(who.born.slice(8)))],
              ['BirthM', String(Number(who.born.slice(5, 7)))],
              ['BirthY', who.born.slice(0, 4)],
            ],
          ]
        : null,
      [
        'AddressDetails',
        [
          ['Line1T', who.address.line1],
          who.address.line2 ? ['Line2T', who.address.line2] : null,
          ['LocalityNameT', who.address.city],
          ['StateOrTerritoryC', who.address.state],
          ['PostcodeT', who.address.postcode],
          ['CountryC', 'au'],
        ],
      ],
      [
        'EmployerConditions',
        [
          ['EmploymentStartD', who.hired ?? ''],
          left ? ['EmploymentEndD', who.left ?? ''] : null,
          ['PaymentBasisC', textOf(details, 'basis') || 'F'],
          left ? ['CessationTypeC', KINDS[(who.leavingKind ?? 'resigned') as keyof typeof KINDS]?.code ?? 'V'] : null,
          ['TaxTreatmentC', treatmentCode(details)],
        ],
      ],
      [
        'RemunerationPayrollPeriod',
        [
          ['StartD', from],
          ['EndD', to],
          ['RemunerationPayrollEventFinalI', String(final)],
        ],
      ],
      [
        'RemunerationCollection',
        [
          [
            'Remuneration',
            [
              ['IncomeStreamTypeC', incomeStream(details)],
              incomeStream(details) === 'WHM' && home ? ['AddressDetailsCountryC', home.toLowerCase()] : null,
              ['IncomeTaxPayAsYouGoWithholdingTaxWithheldA', money('withheld')],
              ['GrossA', money('gross')],
              optional('OvertimePaymentA', 'overtime'),
              optional('BonusesAndCommissionsA', 'bonus'),
              optional('DirectorsFeesA', 'directors'),
              collected('PaidLeaveCollection', 'PaidLeave', 'leave', { type: 'TypeC', amount: 'PaymentA' }, of),
              collected('AllowanceCollection', 'Allowance', 'allowance', { type: 'TypeC', amount: 'EmploymentAllowancesA' }, of),
              collected('SalarySacrificeCollection', 'SalarySacrifice', 'sacrifice', { type: 'TypeC', amount: 'PaymentA' }, of),
              collected('LumpSumCollection', 'LumpSum', 'lump-sum', { type: 'TypeC', amount: 'PaymentsA' }, of),
              terminations.length
                ? [
                    'EmploymentTerminationPaymentCollection',
                    terminations.map(({ key, type }): Element => [
                      'EmploymentTerminationPayment',
                      [
                        ['IncomeTaxPayAsYouGoWithholdingTypeC', type ?? ''],
                        ['IncomeD', to],
                        ['IncomeTaxPayAsYouGoWithholdingA', money(`${key} withheld`)],
                        ['SuperannuationTaxableComponentA', money(key)],
                      ],
                    ]),
                  ]
                : null,
            ],
          ],
        ],
      ],
      collected('DeductionCollection', 'Deduction', 'deduction', { type: 'RemunerationTypeC', amount: 'RemunerationA' }, of),
      collected(
        'SuperannuationContributionCollection',
        'SuperannuationContribution',
        'super',
        { type: 'EntitlementTypeC', amount: 'EmployerContributionsYearToDateA' },
        of,
      ),
      ...(['T', 'X'] as const).map((type): Element | null =>
        of(`fringe ${type}`)
          ? [
              'IncomeFringeBenefitsReportable',
              [
                ['FringeBenefitsReportableExemptionC', type],
                ['A', decimalOf(of(`fringe ${type}`))],
              ],
            ]
          : null,
      ),
    ],
  ];
}

/** The event around its payees: whose it is, of which run, and who declares it. */
export function eventOf(
  sender: Sender,
  { key, to, payees, sums }: { key: string; to: string; payees: readonly Element[]; sums: { gross: number; withheld: number } },
  kind: 'submit' | 'replacement' | 'update',
): string {
  const { employer, name, signer, contact, address, amends } = sender;
  return xmlOf([
    'PAYEVNT',
    [
      [
        'Rp',
        [
          ['AustralianBusinessNumberId', sender.number],
          ['OrganisationDetailsOrganisationBranchC', textOf(employer, 'branch').padStart(3, '0').replace('000', '001')],
          ['OrganisationNameDetailsOrganisationalNameT', name],
          ['ContactName', contact.name],
          contact.email ? ['ElectronicMailAddressT', contact.email] : null,
          ['AddressLocality', [address.city, address.state, address.postcode].filter(Boolean).join(' ')],
        ],
      ],
      [
        'Payroll',
        [
          ['ActionC', kind === 'update' ? 'update' : 'submit'],
          ['PaymentRecordTransactionD', to],
          ['InteractionTransactionId', key],
          ['ReportingFinancialY', String(Number(taxYearLabel(to).slice(0, 4)) + 1)],
          ['InteractionRecordCt', String(payees.length)],
          ['AmendmentI', String(amends)],
          kind === 'replacement' ? ['FullFileReplacementI', 'true'] : null,
          ...(kind !== 'update'
            ? ([
                ['TotalGrossPaymentsWithholdingA', decimalOf(sums.gross)],
                ['IncomeTaxPayAsYouGoWithholdingTaxWithheldA', decimalOf(sums.withheld)],
              ] satisfies Element[])
            : []),
        ],
      ],
      signer
        ? [
            'Declaration',
            [
              ['SignatoryIdentifierT', signer.name],
              ['SignatureD', signer.on],
              ['StatementAcceptedI', 'true'],
            ],
          ]
        : null,
      ...payees,
    ],
    { xmlns: 'http://www.sbr.gov.au/ato/payevnt' },
  ]);
}

export const wants: FilingFile['wants'] = ({ number }) =>
  isBusinessNumber(number) ? [] : [{ sentence: 'The Australian business number of the employer', part: 'registrations' }];

function write({ period, detail, lines }: FilingContent, sender: Sender): string {
  const at = new Map((detail?.columns ?? []).map(({ key }, index) => [key, index]));
  const line = (key: string): number => lines.find((one) => one.line === key)?.amount ?? 0;
  const payees = (detail?.rows ?? []).map(({ personId, values }): Element => {
    const who = sender.people.get(personId);
    if (!who) throw new RangeError('somebody of the event is not on file');
    return payee(who, (key) => values[at.get(key) ?? -1] ?? 0, {
      from: period.from,
      to: period.to,
      final: sender.employer['leaversFinal'] === true && who.left !== undefined && who.left <= period.to,
    });
  });
  // The latest event is replaced as a whole, with its totals; of an earlier one, or of a year that is over, what is stated is updated.
  const ofYear = sender.signer === undefined || taxYearLabel(sender.signer.on) === period.taxYear;
  const kind = !ofYear ? 'update' : !sender.amends ? 'submit' : sender.latest ? 'replacement' : 'update';
  return eventOf(sender, { key: period.key, to: period.to, payees, sums: { gross: line('gross'), withheld: line('withheld') } }, kind);
}

/** The file of a pay event. */
export const payEventFile: FilingFile = { format: 'XML of pay events', extension: 'xml', wants, write };
