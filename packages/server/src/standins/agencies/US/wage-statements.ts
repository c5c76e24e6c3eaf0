import { NOTHING, type Fault, type Read } from '../read';

/** A column of a record, counted from 1 as the publication does. */
const cut = (line: string, from: number, to: number): string => line.slice(from - 1, to).trim();

/** A number made of figures alone; nothing else is one. */
const figures = (text: string): number => (/^\d+$/.test(text) ? Number(text) : Number.NaN);

/** Amounts of a statement by their first column, and where their total begins. */
const AMOUNTS: readonly (readonly [name: string, column: number, total: number])[] = [
  ['wages', 188, 10],
  ['income tax', 199, 25],
  ['social security wages', 210, 40],
  ['social security tax', 221, 55],
  ['Medicare wages', 232, 70],
  ['Medicare tax', 243, 85],
  ['social security tips', 254, 100],
  ['dependent care', 276, 130],
  ['code D', 287, 145],
  ['code E', 298, 160],
  ['code F', 309, 175],
  ['code G', 320, 190],
  ['code H', 331, 205],
  ['nonqualified 457', 353, 235],
  ['code W', 364, 250],
  ['nonqualified other', 375, 265],
  ['code Q', 386, 280],
  ['code C', 408, 310],
  ['code V', 419, 340],
  ['code Y', 430, 355],
  ['code AA', 441, 370],
  ['code BB', 452, 385],
  ['code DD', 463, 295],
  ['code FF', 474, 400],
];

/** Fields of the record of rarer amounts that are in use, counted from none. */
const MORE = [0, 1, 2, 3, 4, 5, 6, 7, 9, 10, 11, 12, 13];

/** Wage bases and rates that the agency itself knows, by year: social security's base in cents. */
const BASES: Record<string, number> = { '2024': 16_860_000, '2025': 17_610_000, '2026': 18_450_000 };
const ORDER = ['RA', 'RE', 'RW', 'RO', 'RS', 'RT', 'RU', 'RF'];
/** Behind the totals of one employer another one of the same number can begin. */
const END = ['RT', 'RU'];

/** Reads wage statements: the records and their order, each amount, each number, and the totals against the statements. */
export function readStatements(content: string): Read {
  const faults: Fault[] = [];
  const fault = (code: string, text: string, more: Partial<Fault> = {}): void => void faults.push({ code, text, ...more });
  const lines = content.split(/\r?\n/).filter((line) => line !== '');
  const sums = new Map<string, number>();
  const numbers = new Set<string>();
  const more = new Map<number, number>();
  let withMore = 0;
  const establishments = new Set<string>();
  let [people, before, ofFile] = [0, 0, 0];
  let read = { ...NOTHING, form: 'w-2', signed: false };
  lines.forEach((line, index) => {
    const where = `record ${index + 1}`;
    const type = line.slice(0, 2);
    if (line.length !== 512) fault('LENGTH', `${where} has ${line.length} columns, not 512`);
    if (/[^\x20-\x7e]/.test(line)) fault('SIGNS', `${where} holds signs that are not allowed`);
    const place = ORDER.indexOf(type);
    if (place < 0) return fault('RECORD', `${where} is none that is known: ${type}`);
    const another = type === 'RE' && END.includes(ORDER[before] ?? '');
    if (place < before && !another && !(['RW', 'RO', 'RS'].includes(type) && before <= ORDER.indexOf('RS')))
      fault('ORDER', `${where}, ${type}, stands in the wrong place`);
    before = place;
    if (type === 'RA') {
      if (!/^[A-Z0-9]{8}$/.test(cut(line, 12, 19))) fault('USER', 'the User ID of the submitter is missing or wrong');
      else read = { ...read, signed: true };
      if (!cut(line, 396, 422) || !/^\d{10}/.test(cut(line, 423, 437))) fault('CONTACT', 'name and telephone of a contact are missing');
    }
    if (type === 'RE') {
      const year = cut(line, 3, 6);
      if (another) {
        if (cut(line, 8, 16) !== read.taxpayer) fault('EIN', 'the employers of the file have not one number');
        [ofFile, people, withMore] = [ofFile + people, 0, 0];
        for (const kept of [sums, numbers, more]) kept.clear();
      }
      const establishment = cut(line, 27, 30);
      if (establishments.has(establishment)) fault('ESTABLISHMENT', 'two employers of the file have the same establishment number');
      establishments.add(establishment);
      if (!/^\d{9}$/.test(cut(line, 8, 16))) fault('EIN', "the employer's number is not nine figures");
      if (!/^[FSTYN]$/.test(line.slice(173, 174))) fault('KIND', 'the kind of employer is none that is known');
      if (!/^[AHMQRXF]$/.test(line.slice(218, 219))) fault('EMPLOYMENT', 'the employment code is none that is known');
      read = { ...read, from: `${year}-01-01`, to: `${year}-12-31`, taxpayer: cut(line, 8, 16), name: read.name || cut(line, 40, 96) };
    }
    if (type === 'RW') {
      people += 1;
      const [number, name] = [cut(line, 3, 11), `${cut(line, 12, 26)} ${cut(line, 42, 61)}`];
      if (!/^\d{9}$/.test(number)) fault('SSN', `the number of ${name} is not nine figures`, { person: name });
      else if (/^(000|666|9)/.test(number) || number.slice(3, 5) === '00' || number.slice(5) === '0000')
        fault('SSN', `the number of ${name} cannot exist`, { person: name });
      else if (numbers.has(number)) fault('TWICE', `the number of ${name} stands on another statement too`, { person: name });
      numbers.add(number);
      if (!cut(line, 12, 26) || !cut(line, 42, 61)) fault('NAME', `a statement has no full name`, { person: name });
      for (const [what, column] of AMOUNTS) {
        const written = line.slice(column - 1, column + 10);
        if (!/^\d{11}$/.test(written)) fault('AMOUNT', `${what} of ${name} is no amount in figures`, { person: name });
        else sums.set(what, (sums.get(what) ?? 0) + Number(written));
      }
      checkPerson(line, name, read.to.slice(0, 4), fault);
    }
    if (type === 'RO') {
      withMore += 1;
      for (const at of MORE) more.set(at, (more.get(at) ?? 0) + figures(line.slice(11 + at * 11, 22 + at * 11)));
    }
    if (type === 'RU') {
      if (figures(cut(line, 3, 9)) !== withMore) fault('COUNT', `the further totals are not of ${withMore} statements`);
      for (const at of MORE)
        if (figures(line.slice(9 + at * 15, 24 + at * 15)) !== (more.get(at) ?? 0))
          fault('TOTAL', `further total ${at + 1} is not that of the statements`);
    }
    if (type === 'RS' && !/^\d{2}$/.test(cut(line, 3, 4))) fault('STATE', `${where} names no state`);
    if (type === 'RT') {
      if (figures(cut(line, 3, 9)) !== people) fault('COUNT', `the totals are of ${cut(line, 3, 9)} statements, and there are ${people}`);
      for (const [what, , column] of AMOUNTS)
        if (figures(line.slice(column - 1, column + 14)) !== (sums.get(what) ?? 0))
          fault('TOTAL', `the total of ${what} is not that of the statements`);
    }
    if (type === 'RF' && figures(cut(line, 8, 16)) !== ofFile + people)
      fault('COUNT', `the file ends with ${cut(line, 8, 16)} statements, and there are ${ofFile + people}`);
  });
  if (withMore && !lines.some((line) => line.startsWith('RU'))) fault('RECORD', 'there is no record RU');
  for (const type of ['RA', 'RE', 'RW', 'RT', 'RF'])
    if (!lines.some((line) => line.startsWith(type))) fault('RECORD', `there is no record ${type}`);
  return { ...read, faults };
}

function checkPerson(line: string, name: string, year: string, fault: (code: string, text: string, more?: Partial<Fault>) => void): void {
  const amount = (column: number): number => figures(line.slice(column - 1, column + 10));
  const [social, tax, medicare, tips] = [amount(210), amount(221), amount(232), amount(254)];
  if ([social, tax, medicare, tips].some(Number.isNaN)) return;
  const base = BASES[year];
  if (base !== undefined && social + tips > base)
    fault('BASE', `social security wages and tips of ${name} are over the base of the year`, { person: name });
  if (social + tips > medicare) fault('BOXES', `social security wages and tips of ${name} are more than Medicare wages`, { person: name });
  if (Math.abs(tax - (social + tips) * 0.062) > 30)
    fault('TAX', `social security tax of ${name} is not 6.2 per cent of the wages`, { person: name });
}
