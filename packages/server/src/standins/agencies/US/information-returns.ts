import { parse } from 'csv-parse/sync';
import { NOTHING, type Fault, type Read } from '../read';

/** From which a payee has to be stated, as the agency itself knows it, by year: in cents. */
const LEAST: Record<string, number> = { '2025': 60_000, '2026': 200_000 };

/** Reads information returns: a row for each payee, who pays, who is paid, and each box. */
export function readInformation(content: string): Read {
  let rows: Record<string, string>[];
  try {
    rows = parse(content, { columns: true });
  } catch (error) {
    return { ...NOTHING, faults: [{ code: 'CSV', text: error instanceof Error ? error.message : 'it cannot be read' }] };
  }
  const faults: Fault[] = [];
  const [first] = rows;
  if (!first) return { ...NOTHING, faults: [{ code: 'EMPTY', text: 'there is nobody in the file' }] };
  const year = first['Tax Year'] ?? '';
  if (!/^\d{4}$/.test(year)) faults.push({ code: 'YEAR', text: 'the tax year is none' });
  const seen = new Set<string>();
  for (const row of rows) {
    const number = row['Recipient Taxpayer ID Number'] ?? '';
    const name = `${row['Recipient First Name'] ?? ''} ${row['Recipient Last Name'] ?? ''}`.trim();
    const fault = (code: string, text: string): void => void faults.push({ code, text, person: name });
    if (row['Form Type'] !== first['Form Type'] || row['Tax Year'] !== year)
      fault('FORM', `${name} is of another form or year than the rest`);
    if (!/^\d{9}$/.test(number)) fault('TIN', `the number of ${name} is not nine figures`);
    else if (seen.has(number)) fault('TWICE', `${name} stands in the file twice`);
    seen.add(number);
    if (!name) fault('NAME', 'a payee has no name');
    const amounts = Object.entries(row).filter(([key]) => key.startsWith('Box '));
    const wrong = amounts.find(([, amount]) => !/^\d{1,11}\.\d{2}$/.test(amount));
    if (wrong) fault('AMOUNT', `${wrong[0]} of ${name} is no amount`);
    const paid = amounts.filter(([key]) => !key.startsWith('Box 4 ')).map(([, amount]) => Math.round(Number(amount) * 100));
    const withheld = amounts.some(([key, amount]) => key.startsWith('Box 4 ') && Number(amount) > 0);
    const least = first['Form Type'] === '1099-NEC' ? LEAST[year] : undefined;
    if (row['Corrected'] !== 'C' && least !== undefined && !withheld && Math.max(0, ...paid) < least)
      fault('SMALL', `${name} was paid less than what is stated`);
  }
  return {
    form: first['Form Type'] ?? '',
    from: `${year}-01-01`,
    to: `${year}-12-31`,
    taxpayer: first['Payer Taxpayer ID Number'] ?? '',
    name: first['Payer Name'] ?? '',
    signed: true,
    corrects: first['Corrected'] === 'C',
    faults,
  };
}
