import type { Read } from '../read';
import { at, list, readEnvelope, text, type Say } from './xml';

/** Prefixes that no number has, and its shape (HMRC, NIM39110). */
const NINO = /^(?!BG|GB|KN|NK|NT|TN|ZZ)[A-CEGHJ-PR-TW-Z][A-CEGHJ-NPR-TW-Z]\d{6}[A-D]$/;
const TAX_CODE = /^([SC]?(\d{1,5}[LMNT]|K\d{1,5}|BR|D[0-3])|NT)$/;
const LETTERS = /^[A-FH-NSVXZ]$/;
const CONTRIBUTIONS = [
  'GrossEarningsForNICsInPd',
  'GrossEarningsForNICsYTD',
  'AtLELYTD',
  'LELtoPTYTD',
  'PTtoUELYTD',
  'TotalEmpNICInPd',
  'TotalEmpNICYTD',
  'EmpeeContribnsInPd',
  'EmpeeContribnsYTD',
];

/** Reads a full payment submission: who files, for which day, and of everybody the payment, the year and the contributions. */
export const readPayment = (content: string): Read =>
  readEnvelope(content, 'FullPaymentSubmission', 'fps', (body, to, fault, signedOn) => {
    const people = list(at(body, 'Employee'));
    if (!people.length) fault('NOBODY', 'nobody is paid in it');
    // Since 19 April after it a year is closed: what comes later says of each payment why.
    const start = Number(to.slice(0, 4)) - (to.slice(5) < '04-06' ? 1 : 0);
    if (signedOn > `${start + 1}-04-19` && people.some((one) => !text(at(one, 'Employment', 'Payment', 'LateReason'))))
      fault('CLOSED', 'the tax year is closed; of each payment it is said why it comes late');
    const seen = new Set<string>();
    for (const one of people) checkPerson(one, to, seen, fault);
    return { from: to };
  });

function checkPerson(one: unknown, to: string, seen: Set<string>, fault: Say): void {
  const name = `${text(at(one, 'EmployeeDetails', 'Name', 'Fore'))} ${text(at(one, 'EmployeeDetails', 'Name', 'Sur'))}`.trim();
  const [nino, id] = [text(at(one, 'EmployeeDetails', 'NINO')), text(at(one, 'Employment', 'PayId'))];
  if (!name.includes(' ')) fault('NAME', 'somebody has no full name', name);
  if (nino && !NINO.test(nino)) fault('NINO', `the National Insurance number of ${name} cannot exist`, name);
  if (!nino && !(text(at(one, 'EmployeeDetails', 'BirthDate')) && list(at(one, 'EmployeeDetails', 'Address', 'Line')).length))
    fault('NINO', `${name} has neither a number nor date of birth and address in its place`, name);
  if (seen.has(id)) fault('TWICE', `the payroll number of ${name} stands in it twice`, name);
  seen.add(id);
  const payment = at(one, 'Employment', 'Payment');
  const cents = (where: unknown, element: string): number => {
    const written = text(at(where, element));
    if (!/^-?\d{1,9}\.\d{2}$/.test(written)) fault('AMOUNT', `${element} of ${name} is no amount`, name);
    return Math.round(Number(written) * 100);
  };
  if (text(at(payment, 'PmtDate')) !== to) fault('DATE', `${name} is paid on another day than it is for`, name);
  if (!TAX_CODE.test(text(at(payment, 'TaxCode')))) fault('TAX-CODE', `the tax code of ${name} cannot exist`, name);
  const [pay, tax] = [cents(payment, 'TaxablePay'), cents(payment, 'TaxDeductedOrRefunded')];
  const year = at(one, 'Employment', 'FiguresToDate');
  const [payToDate] = [cents(year, 'TaxablePay'), cents(year, 'TotalTax')];
  if (payToDate < 0) fault('TO-DATE', `pay of ${name} in the year is less than nothing`, name);
  if (pay > 0 && tax * 2 > pay) fault('LIMIT', `more than half of the pay of ${name} is deducted`, name);
  for (const letter of list(at(one, 'Employment', 'NIlettersAndValues'))) {
    if (!LETTERS.test(text(at(letter, 'NIletter')))) fault('LETTER', `the category of ${name} is none in force`, name);
    const amounts = Object.fromEntries(CONTRIBUTIONS.map((element) => [element, cents(letter, element)]));
    const of = (element: string): number => amounts[element] ?? 0;
    if (of('AtLELYTD') + of('LELtoPTYTD') + of('PTtoUELYTD') > of('GrossEarningsForNICsYTD'))
      fault('BANDS', `earnings of ${name} between the limits are more than all earnings`, name);
    if (of('EmpeeContribnsYTD') > of('GrossEarningsForNICsYTD') || of('TotalEmpNICYTD') > of('GrossEarningsForNICsYTD'))
      fault('CONTRIBUTIONS', `contributions of ${name} are more than the earnings`, name);
    if (of('GrossEarningsForNICsInPd') === of('GrossEarningsForNICsYTD') && of('EmpeeContribnsInPd') !== of('EmpeeContribnsYTD'))
      fault('CONTRIBUTIONS', `a first payment of ${name} has other contributions in the year than now`, name);
  }
}
