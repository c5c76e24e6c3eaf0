import type { FileFault, Order, Read } from './order';

const LABELS = ['VOL1', 'HDR1', 'HDR2', 'UHL1'];
const TRAILERS = ['EOF1', 'EOF2', 'UTL1'];

/**
 * The bank's own reader of clearing files in Standard 18, by columns: labels and their order, each payment, the contra record
 * against the payments, and the totals. The money is there on the working day after the one that it is processed on.
 */
export function readBacsFile(content: string, nextDay: (date: string) => string): Read {
  const lines = content.split(/\r?\n/);
  if (lines.at(-1) === '') lines.pop();
  const faults: FileFault[] = [];
  const fault = (line: number, column: number, what: string) => void faults.push({ line: line + 1, column, what });
  const cut = (line: number, from: number, to: number): string => (lines[line] ?? '').slice(from - 1, to);
  lines.forEach((text, line) => {
    const label = /^(VOL1|HDR|UHL1|EOF|UTL1)/.test(text);
    if (text.length !== (label ? 80 : 100)) fault(line, text.length + 1, `the record has ${text.length} columns, not ${label ? 80 : 100}`);
    else if (/[^\x20-\x7e]/.test(text)) fault(line, text.search(/[^\x20-\x7e]/) + 1, 'a letter that the file may not have');
  });
  const first = LABELS.length;
  const last = lines.length - TRAILERS.length;
  LABELS.forEach((label, line) => cut(line, 1, 4) === label || fault(line, 1, `the label ${label} is expected`));
  TRAILERS.forEach(
    (label, index) => cut(last + index, 1, 4) === label || fault(Math.max(0, last + index), 1, `the label ${label} is expected`),
  );
  if (faults.length) return { faults };
  if (!/^A\d{6}S {2}1\d{6}$/.test(cut(1, 5, 21)) || cut(0, 46, 51) !== cut(1, 6, 11))
    fault(1, 5, 'the service user is not that of the volume');
  if (cut(1, 5, 53) !== cut(last, 5, 53)) fault(last, 5, 'the label at the end is not that of the beginning');
  const processing = dayAt(cut(3, 5, 10));
  if (!processing) fault(3, 5, 'a blank, the year and the day in it are expected');
  const number = (line: number, from: number, to: number): number => {
    if (/^\d+$/.test(cut(line, from, to))) return Number(cut(line, from, to));
    fault(line, from, `figures are expected in columns ${from} to ${to}`);
    return 0;
  };
  const effective = processing ? nextDay(processing) : '';
  const payments: Order['payments'] = [];
  let [credits, debits, contras] = [0, 0, 0];
  let payer: { bank: string; account: string } | null = null;
  for (let line = first; line < last; line++) {
    const [bank, account, transaction] = [cut(line, 1, 6), cut(line, 7, 14), cut(line, 16, 17)];
    const own = { bank: cut(line, 18, 23), account: cut(line, 24, 31) };
    payer ??= own;
    if (own.bank !== payer.bank || own.account !== payer.account) fault(line, 18, 'the account that pays is another one than before');
    if (!/^\d{6}$/.test(bank) || !/^\d{8}$/.test(account)) fault(line, 1, 'a sort code and an account number are expected');
    const amount = number(line, 36, 46);
    if (amount === 0) fault(line, 36, 'an amount is expected');
    if (transaction === '17') {
      if (bank !== own.bank || account !== own.account) fault(line, 1, 'the contra record debits another account than the one that pays');
      debits += amount;
      contras += 1;
    } else if (transaction === '99') {
      if (!cut(line, 83, 100).trim()) fault(line, 83, 'a name is expected');
      credits += amount;
      payments.push({ reference: cut(line, 65, 82).trim(), name: cut(line, 83, 100).trim(), bank, account, amount, effective });
    } else fault(line, 16, `transaction ${transaction} is not known`);
  }
  const total = last + 2;
  if (contras !== 1) fault(Math.max(first, last - 1), 16, 'one contra record is expected');
  if (debits !== credits) fault(Math.max(first, last - 1), 36, 'the contra record is not what is credited');
  if (number(total, 5, 17) !== debits) fault(total, 5, 'the debits come to another sum');
  if (number(total, 18, 30) !== credits) fault(total, 18, 'the credits come to another sum');
  if (number(total, 31, 37) !== contras) fault(total, 31, `${contras} debits were read`);
  if (number(total, 38, 44) !== payments.length) fault(total, 38, `${payments.length} credits were read`);
  if (faults.length || !payer) return { faults: faults.length ? faults : [{ line: 1, column: 1, what: 'the file pays nobody' }] };
  return { order: { payerBank: payer.bank, payerAccount: payer.account, payments } };
}

/** A day as a blank, two figures of the year and three of the day in it. */
function dayAt(text: string): string | null {
  const found = /^ (\d\d)(\d{3})$/.exec(text);
  const inYear = Number(found?.[2]);
  if (!found || inYear < 1 || inYear > 366) return null;
  return new Date(Date.UTC(2000 + Number(found[1]), 0, inYear)).toISOString().slice(0, 10);
}
