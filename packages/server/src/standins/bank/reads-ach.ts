import type { FileFault, Order, Read } from './order';

/**
 * The bank's own reader of clearing-house files (Nacha Operating Rules, Appendix Three), by columns. It believes nothing
 * that can be checked: lengths, blocking, numbers of batches and entries, hashes, totals, check digits.
 */
export function readAchFile(content: string): Read {
  const lines = content.split('\n');
  if (lines.at(-1) === '') lines.pop();
  const faults: FileFault[] = [];
  const fault = (line: number, column: number, what: string) => void faults.push({ line: line + 1, column, what });
  lines.forEach((text, line) => {
    if (text.length !== 94) fault(line, Math.min(text.length, 94) + 1, `a record has 94 columns, this one ${text.length}`);
    else if (/[^\x20-\x7e]/.test(text)) fault(line, text.search(/[^\x20-\x7e]/) + 1, 'a letter that the file may not have');
  });
  if (faults.length) return { faults };
  if (lines.length % 10) fault(lines.length - 1, 1, 'the number of records is no multiple of ten');
  const cut = (line: number, from: number, to: number) => (lines[line] ?? '').slice(from - 1, to);
  const number = (line: number, from: number, to: number): number => {
    const text = cut(line, from, to);
    if (/^\d+$/.test(text)) return Number(text);
    fault(line, from, `figures are expected in columns ${from} to ${to}`);
    return 0;
  };
  const dateAt = (line: number, from: number): string => {
    const text = cut(line, from, from + 5);
    const date = `20${text.slice(0, 2)}-${text.slice(2, 4)}-${text.slice(4)}`;
    if (!/^\d{6}$/.test(text) || Number.isNaN(Date.parse(date))) fault(line, from, 'a date as YYMMDD is expected');
    return date;
  };
  if (cut(0, 1, 3) !== '101') fault(0, 1, 'a file begins with a header 1, priority 01');
  if (cut(0, 35, 40) !== '094101') fault(0, 35, 'record size 094, blocking 10 and format 1 are expected');
  const payerBank = cut(0, 5, 13);
  if (cut(0, 4, 4) !== ' ' || !/^\d{9}$/.test(payerBank) || checksum(payerBank))
    fault(0, 4, 'a blank and the number of this bank are expected');
  dateAt(0, 24);

  const payments: Order['payments'] = [];
  const traces = new Set<string>();
  let payerAccount: string | null = null;
  let batch: {
    line: number;
    class: string;
    entries: number;
    hash: number;
    debits: number;
    credits: number;
    effective: string;
    code: string;
  } | null = null;
  const all = { batches: 0, entries: 0, hash: 0, debits: 0, credits: 0 };
  let closed = -1;
  for (let line = 1; line < lines.length; line++) {
    const text = lines[line] ?? '';
    if (closed >= 0) {
      if (!/^9{94}$/.test(text)) fault(line, 1, 'after the control record only lines of nines follow');
      continue;
    }
    switch (text[0]) {
      case '5':
        if (batch) fault(line, 1, 'a batch begins before the one before it ends');
        if (!['200', '220', '225'].includes(cut(line, 2, 4))) fault(line, 2, 'service class 200, 220 or 225 is expected');
        if (!['PPD', 'CCD'].includes(cut(line, 51, 53))) fault(line, 51, 'entries are taken as PPD or CCD');
        if (cut(line, 79, 79) !== '1') fault(line, 79, 'the originator is a bank: status 1');
        if (cut(line, 80, 87) !== payerBank.slice(0, 8)) fault(line, 80, 'the batch comes from another bank than the file');
        batch = {
          line,
          class: cut(line, 2, 4),
          entries: 0,
          hash: 0,
          debits: 0,
          credits: 0,
          effective: dateAt(line, 70),
          code: cut(line, 51, 53),
        };
        if (number(line, 88, 94) !== all.batches + 1) fault(line, 88, `batch ${all.batches + 1} is expected`);
        all.batches += 1;
        break;
      case '6': {
        if (!batch) {
          fault(line, 1, 'an entry stands in no batch');
          break;
        }
        const transaction = cut(line, 2, 3);
        const bank = cut(line, 4, 12);
        const account = cut(line, 13, 29).trim();
        const amount = number(line, 30, 39);
        const trace = cut(line, 80, 94);
        if (!['22', '23', '27', '32', '33', '37'].includes(transaction)) fault(line, 2, `transaction ${transaction} is not known`);
        if (!/^\d{9}$/.test(bank) || checksum(bank)) fault(line, 12, 'the check digit of the receiving bank is wrong');
        if (!/^[0-9A-Za-z-]{1,17}$/.test(account)) fault(line, 13, 'an account number is expected');
        if (!cut(line, 55, 76).trim()) fault(line, 55, 'a name is expected');
        if (!/^\d{15}$/.test(trace) || traces.has(trace)) fault(line, 80, 'a trace number of its own is expected');
        traces.add(trace);
        const trial = transaction === '23' || transaction === '33';
        if (trial !== (amount === 0)) fault(line, 30, trial ? 'a prenote has no amount' : 'an amount is expected');
        batch.entries += 1;
        batch.hash += Number(bank.slice(0, 8));
        if (transaction === '27' || transaction === '37') {
          batch.debits += amount;
          payerAccount = account;
        } else {
          batch.credits += amount;
          payments.push({
            reference: cut(line, 40, 54).trim(),
            name: cut(line, 55, 76).trim(),
            bank,
            account,
            amount,
            effective: batch.effective,
          });
        }
        const addenda = cut(line, 79, 79);
        if (addenda === '1') {
          line += 1;
          if (cut(line, 1, 3) !== '705') fault(line, 1, 'addenda 705 are expected');
          else if (cut(line, 88, 94) !== trace.slice(8)) fault(line, 88, 'the addenda belong to another entry');
          batch.entries += 1;
        } else if (addenda !== '0') fault(line, 79, 'whether addenda follow is 0 or 1');
        break;
      }
      case '8':
        if (!batch) {
          fault(line, 1, 'a batch ends that did not begin');
          break;
        }
        if (cut(line, 2, 4) !== batch.class) fault(line, 2, 'the service class is that of the header');
        if (number(line, 5, 10) !== batch.entries) fault(line, 5, `${batch.entries} entries and addenda were read`);
        if (number(line, 11, 20) !== batch.hash % 1e10) fault(line, 11, 'the hash of the receiving banks is another');
        if (number(line, 21, 32) !== batch.debits) fault(line, 21, 'the debits come to another sum');
        if (number(line, 33, 44) !== batch.credits) fault(line, 33, 'the credits come to another sum');
        if (cut(line, 45, 54) !== cut(batch.line, 41, 50)) fault(line, 45, 'the company is that of the header');
        if (cut(line, 80, 94) !== cut(batch.line, 80, 94)) fault(line, 80, 'origin and number are those of the header');
        if (batch.class === '220' && batch.debits) fault(line, 2, 'a batch of credits holds a debit');
        if (batch.class === '200' && batch.debits !== batch.credits) fault(line, 21, 'a balanced batch debits what it credits');
        all.entries += batch.entries;
        all.hash += batch.hash;
        all.debits += batch.debits;
        all.credits += batch.credits;
        batch = null;
        break;
      case '9':
        if (batch) fault(line, 1, 'the file ends within a batch');
        if (number(line, 2, 7) !== all.batches) fault(line, 2, `${all.batches} batches were read`);
        if (number(line, 8, 13) !== Math.ceil((line + 1) / 10)) fault(line, 8, `${Math.ceil((line + 1) / 10)} blocks were read`);
        if (number(line, 14, 21) !== all.entries) fault(line, 14, `${all.entries} entries and addenda were read`);
        if (number(line, 22, 31) !== all.hash % 1e10) fault(line, 22, 'the hash of the receiving banks is another');
        if (number(line, 32, 43) !== all.debits) fault(line, 32, 'the debits come to another sum');
        if (number(line, 44, 55) !== all.credits) fault(line, 44, 'the credits come to another sum');
        closed = line;
        break;
      default:
        fault(line, 1, `no record begins with ${text[0] ?? 'nothing'}`);
    }
  }
  if (closed < 0) fault(lines.length - 1, 1, 'the control record of the file is missing');
  if (!payments.length && !faults.length) fault(0, 1, 'the file pays nobody');
  return faults.length ? { faults } : { order: { payerBank, payerAccount, payments } };
}

/** Not nothing where the check digit is wrong (weights 3, 7, 1). */
const checksum = (bank: string): number =>
  [...bank].reduce((sum, digit, index) => sum + Number(digit) * ([3, 7, 1][index % 3] ?? 0), 0) % 10;
