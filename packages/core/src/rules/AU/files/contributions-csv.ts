import type { FilingContent, FilingFile } from '../../../filings/filing';
import { textOf, type Sender } from '../../../filings/sender';
import { decimalOf } from '../../../money/amounts';
import type { Contribution } from '../contributions';
import { fundOf } from '../funds';
import { wants } from './pay-event-xml';

/** Headings of a message of contributions, in the order of the data standard's alternative file format (from memory, unconfirmed). */
export const HEADINGS = [
  'SourceEntityID',
  'EmployerABN',
  'EmployerName',
  'PayPeriodStartDate',
  'PayPeriodEndDate',
  'FundABN',
  'FundUSI',
  'FundName',
  'FundElectronicServiceAddress',
  'FundBSB',
  'FundAccount',
  'MemberTFN',
  'PayrollNumber',
  'FamilyName',
  'GivenName',
  'BirthDate',
  'MemberClientIdentifier',
  'EmploymentStartDate',
  'EmploymentEndDate',
  'SuperannuationGuaranteeAmount',
  'SalarySacrificedAmount',
  'EmployerAdditionalAmount',
  'MemberPersonalAmount',
  'Declaration',
] as const;

const ORDER: readonly Contribution[] = ['guarantee', 'sacrificed', 'extra', 'member'];
const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replace(/"/g, '""')}"` : text);

function write({ period, detail }: FilingContent, sender: Sender): string {
  const { employer, number, name, people, signer } = sender;
  const at = new Map((detail?.columns ?? []).map(({ key }, index) => [key, index]));
  const rows = (detail?.rows ?? []).map(({ personId, values }) => {
    const who = people.get(personId);
    if (!who) throw new RangeError('a member of the message is not on file');
    const details = who.details ?? {};
    const { code, fund } = fundOf(details, employer);
    if (!fund) throw new RangeError(`${who.givenName} ${who.familyName} has no super fund on file`);
    return [
      'EMPLOYER',
      number,
      name,
      period.from,
      period.to,
      fund.abn,
      code === fund.abn ? '' : code,
      fund.name,
      fund.alias ?? '',
      fund.bsb ?? '',
      fund.account ?? '',
      who.number,
      who.code ?? '',
      who.familyName,
      who.givenName,
      who.born ?? '',
      textOf(details, 'memberNumber'),
      who.hired ?? '',
      who.left && who.left <= period.to ? who.left : '',
      ...ORDER.map((key) => decimalOf(values[at.get(key) ?? -1] ?? 0)),
      signer ? `${signer.name}, ${signer.on}${sender.amends ? ', again' : ''}` : '',
    ];
  });
  return `${[[...HEADINGS], ...rows].map((row) => row.map(quoted).join(',')).join('\r\n')}\r\n`;
}

/** The message of contributions as a table. */
export const contributionsFile: FilingFile = { format: 'Super contributions, CSV', extension: 'csv', wants, write };
