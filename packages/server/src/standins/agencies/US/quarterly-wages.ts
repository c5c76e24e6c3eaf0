import { NOTHING, type Fault, type Read } from '../read';

const cut = (line: string, from: number, to: number): string => line.slice(from - 1, to).trim();
const figures = (text: string): number => (/^\d+$/.test(text) ? Number(text) : Number.NaN);

/** By the number of a state, how its report is called that such a file is. */
const REPORTS: Readonly<Record<string, string>> = {
  '42': 'Forms UC-2 and UC-2A',
  '48': 'Forms C-3 and C-4',
  '51': 'Forms VEC-FC-20 and VEC-FC-21',
};
/** Columns of wages in all, of those that count, over the ceiling and up to it: of a person, of the total, of the end. */
const SUMS = ['wages in all', 'wages that count', 'wages over the ceiling', 'taxable wages'] as const;
const LAST_DAY: Readonly<Record<string, string>> = { '03': '31', '06': '30', '09': '30', '12': '31' };

/** Reads quarterly wages in the common layout: records and their order, each person, and the totals against them. */
export function readWages(content: string): Read {
  const faults: Fault[] = [];
  const fault = (code: string, text: string, more: Partial<Fault> = {}): void => void faults.push({ code, text, ...more });
  const lines = content.split(/\r?\n/).filter((line) => line !== '');
  const sums = [0, 0, 0, 0];
  const numbers = new Set<string>();
  let read: Omit<Read, 'faults'> = { ...NOTHING };
  let [people, account] = [0, ''];
  lines.forEach((line, index) => {
    const where = `record ${index + 1}`;
    const type = line.slice(0, 1);
    if (line.length !== 275) fault('LENGTH', `${where} has ${line.length} columns, not 275`);
    if (/[^\x20-\x7e]/.test(line)) fault('SIGNS', `${where} holds signs that are not allowed`);
    const amounts = (first: number, length: number): number[] =>
      SUMS.map((_what, at) => figures(line.slice(first - 1 + at * length, first - 1 + (at + 1) * length)));
    /** What stands there against the people before it. */
    const total = (first: number, length: number): void =>
      amounts(first, length).forEach((amount, at) => {
        if (amount !== sums[at]) fault('TOTAL', `${where}: ${SUMS[at] ?? ''} are not those of the people`, { line: 'wages' });
      });
    if (type === 'A') {
      if (!cut(line, 164, 193) || !/^\d{10}$/.test(cut(line, 194, 203))) fault('CONTACT', 'name and telephone of a contact are missing');
      else read = { ...read, signed: true };
    } else if (type === 'E') {
      const [year, month, state] = [cut(line, 2, 5), cut(line, 188, 189), cut(line, 171, 172)];
      account = cut(line, 173, 187);
      if (!account) fault('ACCOUNT', 'no account is named');
      if (!LAST_DAY[month]) fault('PERIOD', 'the quarter is none');
      const first = String(Number(month) - 2).padStart(2, '0');
      read = {
        ...read,
        form: REPORTS[state] ?? '',
        from: `${year}-${first}-01`,
        to: `${year}-${month}-${LAST_DAY[month] ?? '01'}`,
        taxpayer: cut(line, 6, 14),
        name: cut(line, 24, 73),
      };
      if (!read.form) fault('STATE', 'the state is none that takes such a file');
    } else if (type === 'S') {
      people += 1;
      const [number, name] = [cut(line, 2, 10), `${cut(line, 31, 42)} ${cut(line, 11, 30)}`];
      if (!/^\d{9}$/.test(number)) fault('SSN', `the number of ${name} is not nine figures`, { person: name });
      else if (numbers.has(number)) fault('TWICE', `${name} stands in the report twice`, { person: name });
      numbers.add(number);
      if (!cut(line, 31, 42) || !cut(line, 11, 30)) fault('NAME', 'somebody has no full name', { person: name });
      if (cut(line, 147, 161) !== account) fault('ACCOUNT', `${name} stands under another account`, { person: name });
      if (`${cut(line, 217, 220)}-${cut(line, 215, 216)}` !== read.to.slice(0, 7))
        fault('PERIOD', `${name} is of another quarter`, { person: name });
      const [gross = 0, counted = 0, excess = 0, taxable = 0] = amounts(50, 14);
      if ([gross, counted, excess, taxable].some(Number.isNaN)) return fault('AMOUNT', `an amount of ${name} is none`, { person: name });
      if (counted !== excess + taxable) fault('AMOUNT', `wages of ${name} are not those up to the ceiling and over it`, { person: name });
      [gross, counted, excess, taxable].forEach((amount, at) => (sums[at] = (sums[at] ?? 0) + amount));
    } else if (type === 'T') {
      if (figures(cut(line, 2, 8)) !== people) fault('COUNT', `the totals are not of ${people} people`);
      total(13, 14);
    } else if (type === 'F') {
      if (figures(cut(line, 2, 11)) !== people) fault('COUNT', `the file does not end with ${people} people`);
      total(26, 15);
    } else fault('RECORD', `${where} is none that is known: ${type}`);
  });
  const order = lines.map((line) => line.slice(0, 1)).join('');
  if (!/^AES*TF$/.test(order)) fault('ORDER', 'the records are not in their order');
  return { ...read, faults };
}
