import { parse } from 'csv-parse/sync';
import { NOTHING, type Fault, type Read } from '../read';
import { isAbn, isTfn } from './numbers';

const AMOUNTS = ['SuperannuationGuaranteeAmount', 'SalarySacrificedAmount', 'EmployerAdditionalAmount', 'MemberPersonalAmount'];
/** Funds that have closed, since when: what goes to them for later days comes back. */
const CLOSED: Readonly<Record<string, string>> = { TRN0302AU: '2026-11-01' };

/** Reads a message of contributions: who pays, for which days, and of every member the fund and the amounts. */
export function readContributions(content: string): Read {
  let rows: Record<string, string>[];
  try {
    rows = parse(content, { columns: true });
  } catch (error) {
    return { ...NOTHING, faults: [{ code: 'CSV', text: error instanceof Error ? error.message : 'it cannot be read' }] };
  }
  const faults: Fault[] = [];
  const [first] = rows;
  if (!first) return { ...NOTHING, faults: [{ code: 'NOBODY', text: 'no member stands in it' }] };
  const of = (row: Record<string, string>, key: string): string => row[key]?.trim() ?? '';
  const [from, to] = [of(first, 'PayPeriodStartDate'), of(first, 'PayPeriodEndDate')];
  if (!/^\d{4}-\d\d-\d\d$/.test(from) || !/^\d{4}-\d\d-\d\d$/.test(to)) faults.push({ code: 'PERIOD', text: 'the period is none' });
  const seen = new Set<string>();
  for (const row of rows) {
    const name = `${of(row, 'GivenName')} ${of(row, 'FamilyName')}`.trim();
    const fault = (code: string, sentence: string): void => void faults.push({ code, text: sentence, person: name });
    if (of(row, 'EmployerABN') !== of(first, 'EmployerABN') || of(row, 'PayPeriodEndDate') !== to)
      fault('SENDER', `${name} is of another employer or period`);
    if (!isAbn(of(row, 'FundABN'))) fault('FUND', `the business number of the fund of ${name} cannot exist`);
    if (of(row, 'FundUSI') && !/^[A-Z0-9]{9,14}$/.test(of(row, 'FundUSI'))) fault('USI', `the identifier of the fund of ${name} is none`);
    if ((CLOSED[of(row, 'FundUSI')] ?? '9999') <= to)
      fault('FUND-CLOSED', `${of(row, 'FundName')} has closed and sends the contribution of ${name} back; pay it to another fund`);
    // A self-managed fund has no identifier: an address for messages and an account in its place.
    if (!of(row, 'FundUSI') && !(of(row, 'FundElectronicServiceAddress') && of(row, 'FundBSB') && of(row, 'FundAccount')))
      fault('SMSF', `the self-managed fund of ${name} has no address for messages, or no account`);
    if (of(row, 'MemberTFN') && !isTfn(of(row, 'MemberTFN'))) fault('TFN', `the tax file number of ${name} cannot exist`);
    const id = of(row, 'PayrollNumber');
    if (seen.has(id)) fault('TWICE', `${name} stands in it twice`);
    seen.add(id);
    let all = 0;
    for (const key of AMOUNTS) {
      if (!/^\d{1,9}\.\d{2}$/.test(of(row, key))) fault('AMOUNT', `${key} of ${name} is no amount, or less than nothing`);
      all += Number(of(row, key));
    }
    if (all === 0) fault('NOTHING', `nothing is contributed for ${name}`);
  }
  const declaration = of(first, 'Declaration');
  return {
    form: 'super',
    from,
    to,
    taxpayer: of(first, 'EmployerABN'),
    name: of(first, 'EmployerName'),
    signed: declaration !== '',
    corrects: declaration.endsWith(', again'),
    ahead: from === to,
    faults,
  };
}
