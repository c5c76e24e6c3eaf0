import { parse } from 'csv-parse/sync';
import { NOTHING, type Fault, type Read } from '../read';

/** Reads a state's report: who and when, each line an amount, and its people's wages against the line of wages. */
export function readReport(content: string): Read {
  let rows: string[][];
  try {
    rows = parse(content, { relax_column_count: true });
  } catch (error) {
    return { ...NOTHING, faults: [{ code: 'CSV', text: error instanceof Error ? error.message : 'it cannot be read' }] };
  }
  const faults: Fault[] = [];
  const of = (key: string): string[] => rows.find(([first]) => first === key)?.slice(1) ?? [];
  const amounts = new Map<string, number>();
  for (const [key, line = '', amount = ''] of rows) {
    if (key !== 'line') continue;
    if (!/^-?\d{1,13}(\.\d{2})?$/.test(amount)) faults.push({ code: 'AMOUNT', text: `line ${line} holds no amount`, line });
    else amounts.set(line, Math.round(Number(amount) * 100));
  }
  const [from = '', to = ''] = of('period');
  if (!/^\d{4}-\d\d-\d\d$/.test(from) || !/^\d{4}-\d\d-\d\d$/.test(to)) faults.push({ code: 'PERIOD', text: 'the period is none' });
  if (!of('account')[0]) faults.push({ code: 'ACCOUNT', text: 'no account is named' });
  if (!amounts.size) faults.push({ code: 'LINES', text: 'there are no lines' });
  const people = rows.filter(([key]) => key === 'person');
  const wages = of('columns').indexOf('wages');
  const seen = new Set<string>();
  let sum = 0;
  for (const [, number = '', family = '', given = '', ...values] of people) {
    const name = `${given} ${family}`.trim();
    if (!/^\d{9}$/.test(number)) faults.push({ code: 'SSN', text: `the number of ${name} is not nine figures`, person: name });
    else if (seen.has(number)) faults.push({ code: 'TWICE', text: `${name} stands in the report twice`, person: name });
    seen.add(number);
    sum += Math.round(Number(values[wages] ?? 0) * 100);
  }
  if (people.length && amounts.has('wages') && sum !== amounts.get('wages'))
    faults.push({ code: 'DETAIL', text: 'wages of the people do not come to the wages of the report', line: 'wages' });
  const [signer = '', on = ''] = of('signed');
  return {
    form: of('form')[0] ?? '',
    from,
    to,
    taxpayer: (of('number')[0] ?? '').replace(/\D/g, ''),
    name: of('employer')[0] ?? '',
    signed: signer !== '' && on !== '',
    corrects: of('kind')[0] === 'amended',
    faults,
  };
}
