import { writeRecord, type FixedRecord } from '../../../files/fixed-width';
import type { FilingContent, FilingFile } from '../../../filings/filing';
import type { PostalAddress, Sender } from '../../../filings/sender';
import { accountWanted, stateFile, type AccountOf } from './state-csv';
import { blank, digits, figures, inFigures, is, named, text } from './wage-records';

/**
 * Quarterly wages in the layout that the states agreed on for reports on magnetic media (Interstate Conference of Employment
 * Security Agencies, "Standardized quarterly wage reporting"): 275 columns. From memory: positions are unconfirmed, and what
 * a state has changed in it is not in. It has no sign and no mark for a correction.
 */
const LENGTH = 275;
const record = (name: string, ...fields: FixedRecord['fields']): FixedRecord => {
  const used = fields.reduce((sum, { length }) => sum + length, 0);
  return { name, fields: [...fields, blank(LENGTH - used)] };
};
const TAX = { key: 'tax', length: 4, kind: 'text', always: 'UTAX' } as const;

export const QUARTERLY_WAGES = {
  transmitter: record(
    'Transmitter (A)',
    is('A'),
    figures('year', 4),
    figures('number', 9),
    TAX,
    blank(5),
    text('name', 50),
    text('street', 40),
    text('city', 25),
    text('state', 2),
    blank(13),
    text('zip', 5),
    text('zip4', 5),
    text('contact', 30),
    text('phone', 10),
  ),
  employer: record(
    'Employer (E)',
    is('E'),
    figures('year', 4),
    figures('number', 9),
    blank(9),
    text('name', 50),
    text('street', 40),
    text('city', 25),
    text('state', 2),
    blank(8),
    text('zip', 5),
    text('zip4', 5),
    blank(8),
    TAX,
    figures('stateNumber', 2),
    text('account', 15),
    figures('month', 2),
    figures('workers', 1),
  ),
  person: record(
    'Employee (S)',
    is('S'),
    figures('number', 9),
    text('family', 20),
    text('given', 12),
    text('middle', 1),
    figures('stateNumber', 2),
    blank(4),
    figures('gross', 14),
    figures('wages', 14),
    figures('excess', 14),
    figures('taxable', 14),
    blank(37),
    TAX,
    text('account', 15),
    blank(53),
    figures('quarter', 6),
  ),
  total: record(
    'Total (T)',
    is('T'),
    figures('people', 7),
    TAX,
    figures('gross', 14),
    figures('wages', 14),
    figures('excess', 14),
    figures('taxable', 14),
    blank(13),
    figures('rate', 6),
    figures('due', 13),
    blank(44),
    blank(4),
    blank(11),
    blank(4),
    figures('fromEmployees', 11),
    figures('payment', 11),
    blank(13),
    blank(14),
    blank(14),
    figures('month1', 7),
    figures('month2', 7),
    figures('month3', 7),
  ),
  final: record(
    'Final (F)',
    is('F'),
    figures('people', 10),
    figures('employers', 10),
    TAX,
    figures('gross', 15),
    figures('wages', 15),
    figures('excess', 15),
    figures('taxable', 15),
  ),
} as const;

const located = ({ line1, city, state, postcode }: PostalAddress): Record<string, string> => {
  const zip = digits(postcode);
  return { street: line1, city, state, zip: zip.slice(0, 5), zip4: zip.slice(5, 9) };
};

/** Which state it is, and what each line of its report is in the layout. */
export interface WageLayout {
  /** Its number (FIPS 5-2). */
  stateNumber: string;
  /** Lines of contributions of the employer, and of those withheld from employees. */
  due: readonly string[];
  fromEmployees: readonly string[];
}

function write({ period, lines, detail }: FilingContent, sender: Sender, account: string, layout: WageLayout): string {
  const { stateNumber } = layout;
  const year = period.to.slice(0, 4);
  const month = period.to.slice(5, 7);
  const line = (key: string): number => lines.find((one) => one.line === key)?.amount ?? 0;
  const all = (keys: readonly string[]): string =>
    inFigures(
      keys.reduce((sum, key) => sum + line(key), 0),
      'Contributions',
    );
  const rows = detail?.rows ?? [];
  const capped = detail?.columns.some(({ key }) => key === 'taxable') ?? false;
  const taxableOf = (values: readonly number[]): number => (capped ? (values[1] ?? 0) : (values[0] ?? 0));
  const gross = line('wages');
  const taxable = rows.reduce((sum, { values }) => sum + taxableOf(values), 0);
  const sums = (who: string, wages: number, upTo: number): Record<string, string> => ({
    gross: inFigures(wages, who),
    wages: inFigures(wages, who),
    excess: inFigures(wages - upTo, who),
    taxable: inFigures(upTo, who),
  });
  const head = { year, number: digits(sender.number), name: sender.name, ...located(sender.address) };
  const people = rows.map(({ personId, values }) => {
    const who = sender.people.get(personId);
    if (!who) throw new RangeError('somebody of the report is not on file');
    return writeRecord(QUARTERLY_WAGES.person, {
      ...named(who),
      stateNumber,
      ...sums(`${who.givenName} ${who.familyName}`, values[0] ?? 0, taxableOf(values)),
      account,
      quarter: `${month}${year}`,
    });
  });
  const whole = sums('Totals', gross, taxable);
  const records = [
    writeRecord(QUARTERLY_WAGES.transmitter, { ...head, contact: sender.contact.name, phone: digits(sender.contact.phone) }),
    writeRecord(QUARTERLY_WAGES.employer, { ...head, stateNumber, account, month, workers: rows.length ? '1' : '0' }),
    ...people,
    writeRecord(QUARTERLY_WAGES.total, {
      people: String(rows.length),
      ...whole,
      rate: '0',
      due: all(layout.due),
      fromEmployees: all(layout.fromEmployees),
      payment: inFigures(Math.max(0, line('left')), 'Left to pay'),
      ...Object.fromEntries(['1', '2', '3'].map((number) => [`month${number}`, String(line(`month ${number}`))])),
    }),
    writeRecord(QUARTERLY_WAGES.final, { people: String(rows.length), employers: '1', ...whole }),
  ];
  return `${records.join('\r\n')}\r\n`;
}

/** A state's report of contributions and wages in the common layout; what corrects it goes as CSV, for the layout has no correction. */
export const wageFile = (form: string, accountOf: AccountOf, layout: WageLayout): FilingFile => ({
  format: 'Common layout of quarterly wages',
  extension: 'txt',
  wants: accountWanted(form, accountOf),
  write: (content, sender) => write(content, sender, accountOf(sender.employer), layout),
  corrected: stateFile(form, accountOf),
});
