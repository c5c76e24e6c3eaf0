import { NOTHING, type Fault, type Read } from '../read';

const cut = (line: string, from: number, length: number): string => line.slice(from - 1, from - 1 + length).trim();

/** Where the pairs of amounts of a statement begin, and how long one of a total is. */
const FIRST = 244;
const PAIRS = 15;
/** How many pairs the record of rarer amounts has. */
const RARE = 14;
/** Wages, tax, social security wages and tax, Medicare wages and tax, tips: the first seven pairs. */
const NAMES = [
  'wages',
  'income tax',
  'social security wages',
  'social security tax',
  'Medicare wages',
  'Medicare tax',
  'social security tips',
];

/** Reads corrections of wage statements: records and their order, both sides of each amount, and the totals. */
export function readCorrections(content: string): Read {
  const faults: Fault[] = [];
  const fault = (code: string, text: string, more: Partial<Fault> = {}): void => void faults.push({ code, text, ...more });
  const lines = content.split(/\r?\n/).filter((line) => line !== '');
  let read: Omit<Read, 'faults'> = { ...NOTHING, form: 'w-2', corrects: true };
  const sums = new Map<string, { before: number; now: number }>();
  const rare = new Map<number, number>();
  let people = 0;
  lines.forEach((line, index) => {
    const where = `record ${index + 1}`;
    const type = line.slice(0, 3);
    if (line.length !== 1024) fault('LENGTH', `${where} has ${line.length} columns, not 1024`);
    if (/[^\x20-\x7e]/.test(line)) fault('SIGNS', `${where} holds signs that are not allowed`);
    if (!['RCA', 'RCE', 'RCW', 'RCO', 'RCS', 'RCT', 'RCU', 'RCF'].includes(type))
      return fault('RECORD', `${where} is none that is known: ${type}`);
    if (type === 'RCA') {
      if (!/^[A-Z0-9]{8}$/.test(cut(line, 13, 8))) fault('USER', 'the User ID of the submitter is missing or wrong');
      else read = { ...read, signed: true };
    }
    if (type === 'RCE') {
      const year = cut(line, 4, 4);
      if (!/^\d{9}$/.test(cut(line, 17, 9))) fault('EIN', "the employer's number is not nine figures");
      read = { ...read, from: `${year}-01-01`, to: `${year}-12-31`, taxpayer: cut(line, 17, 9), name: cut(line, 44, 57) };
    }
    if (type === 'RCW') {
      people += 1;
      const name = `${cut(line, 72, 15)} ${cut(line, 102, 20)}`;
      if (!/^\d{9}$/.test(cut(line, 13, 9))) fault('SSN', `the number of ${name} is not nine figures`, { person: name });
      if (!cut(line, 72, 15) || !cut(line, 102, 20)) fault('NAME', 'a statement has no full name', { person: name });
      let changes = cut(line, 4, 9) !== '' || line.slice(21, 71).trim() !== '' || line.slice(FIRST + 27 * 22 - 1).trim() !== '';
      NAMES.forEach((what, at) => {
        const [before, now] = [cut(line, FIRST + at * 22, 11), cut(line, FIRST + at * 22 + 11, 11)];
        if (!before && !now) return;
        changes = true;
        if (!/^\d{11}$/.test(before) || !/^\d{11}$/.test(now))
          return fault('AMOUNT', `${what} of ${name} is not two amounts in figures`, { person: name });
        if (before === now) fault('SAME', `${what} of ${name} is corrected to what it was`, { person: name });
        const sum = sums.get(what) ?? { before: 0, now: 0 };
        sums.set(what, { before: sum.before + Number(before), now: sum.now + Number(now) });
      });
      if (line.slice(FIRST - 1, FIRST - 1 + 27 * 22).trim() !== '') changes = true;
      if (!changes && !/^RC[OS]/.test(lines[index + 1] ?? '')) fault('NOTHING', `nothing of ${name} is corrected`, { person: name });
    }
    if (type === 'RCO' || type === 'RCU') {
      const [start, length] = type === 'RCO' ? [13, 11] : [11, 15];
      for (let at = 0; at < RARE; at++) {
        const [before, now] = [cut(line, start + at * 2 * length, length), cut(line, start + (at * 2 + 1) * length, length)];
        if (!before && !now) continue;
        if (!/^\d+$/.test(before) || !/^\d+$/.test(now)) fault('AMOUNT', `${where}: a rarer amount is not two amounts in figures`);
        const sum = rare.get(at) ?? 0;
        rare.set(at, sum + (type === 'RCO' ? 1 : -1) * (Number(before) * 7 + Number(now)));
      }
      if (type === 'RCU' && [...rare.values()].some((left) => left !== 0)) fault('TOTAL', 'further totals are not those of the statements');
    }
    if (type === 'RCT') {
      if (Number(cut(line, 4, 7)) !== people) fault('COUNT', `the totals are of ${cut(line, 4, 7)} statements, and there are ${people}`);
      NAMES.forEach((what, at) => {
        const start = 11 + at * 2 * PAIRS;
        const [before, now] = [Number(cut(line, start, PAIRS)), Number(cut(line, start + PAIRS, PAIRS))];
        const sum = sums.get(what) ?? { before: 0, now: 0 };
        if (before !== sum.before || now !== sum.now) fault('TOTAL', `the total of ${what} is not that of the statements`);
      });
    }
    if (type === 'RCF' && Number(cut(line, 4, 9)) !== people)
      fault('COUNT', `the file ends with ${cut(line, 4, 9)} statements, and there are ${people}`);
  });
  for (const type of ['RCA', 'RCE', 'RCW', 'RCT', 'RCF'])
    if (!lines.some((line) => line.startsWith(type))) fault('RECORD', `there is no record ${type}`);
  return { ...read, faults };
}
