import type { FileFault, Order, Read } from './order';

/**
 * The bank's own reader of direct entry files, by columns: a descriptive record, each credit, the debit of the payer where there
 * is one, and the totals.
 */
export function readAbaFile(content: string): Read {
  const lines = content.split(/\r?\n/);
  if (lines.at(-1) === '') lines.pop();
  const faults: FileFault[] = [];
  const fault = (line: number, column: number, what: string) => void faults.push({ line: line + 1, column, what });
  const cut = (line: number, from: number, to: number): string => (lines[line] ?? '').slice(from - 1, to);
  lines.forEach((text, line) => {
    if (text.length !== 120) fault(line, text.length + 1, `the record has ${text.length} columns, not 120`);
    else if (/[^\x20-\x7e]/.test(text)) fault(line, text.search(/[^\x20-\x7e]/) + 1, 'a letter that the file may not have');
  });
  const last = lines.length - 1;
  if (cut(0, 1, 1) !== '0') fault(0, 1, 'the descriptive record is expected');
  if (last < 1 || cut(last, 1, 1) !== '7') fault(Math.max(0, last), 1, 'the total record is expected');
  if (faults.length) return { faults };
  if (!/^\d{6}$/.test(cut(0, 57, 62))) fault(0, 57, 'the user number has six figures');
  if (!/^[A-Z]{3}$/.test(cut(0, 21, 23))) fault(0, 21, 'the bank is named by three letters');
  const effective = dayAt(cut(0, 75, 80));
  if (!effective) fault(0, 75, 'a day as two figures each of day, month and year is expected');
  const number = (line: number, from: number, to: number): number => {
    if (/^\d+$/.test(cut(line, from, to))) return Number(cut(line, from, to));
    fault(line, from, `figures are expected in columns ${from} to ${to}`);
    return 0;
  };
  const payments: Order['payments'] = [];
  let [credits, debits] = [0, 0];
  let payer: { bank: string; account: string } | null = null;
  for (let line = 1; line < last; line++) {
    if (cut(line, 1, 1) !== '1') fault(line, 1, 'a detail record is expected');
    const [bsb, account, transaction] = [cut(line, 2, 8), cut(line, 9, 17), cut(line, 19, 20)];
    const own = { bank: cut(line, 81, 87).replace('-', ''), account: cut(line, 88, 96).trim() };
    payer ??= own;
    if (own.bank !== payer.bank || own.account !== payer.account) fault(line, 81, 'the account that pays is another one than before');
    if (!/^\d{3}-\d{3}$/.test(bsb)) fault(line, 2, 'the code of a bank, three figures, a hyphen and three figures, is expected');
    // To the right, with blanks before it.
    if (!/^ *\d{2,9}$/.test(account)) fault(line, 9, 'an account number to the right is expected');
    const amount = number(line, 21, 30);
    if (amount === 0) fault(line, 21, 'an amount is expected');
    const [name, reference] = [cut(line, 31, 62).trim(), cut(line, 63, 80).trim()];
    if (!name) fault(line, 31, 'a name is expected');
    if (transaction === '13') {
      if (bsb.replace('-', '') !== own.bank || account.trim() !== own.account)
        fault(line, 2, 'another account is debited than the one that pays');
      debits += amount;
    } else if (transaction === '50' || transaction === '53') {
      credits += amount;
      payments.push({ reference, name, bank: bsb.replace('-', ''), account: account.trim(), amount, effective: effective ?? '' });
    } else fault(line, 19, `transaction ${transaction} is not known`);
  }
  if (cut(last, 2, 8) !== '999-999') fault(last, 2, '999-999 is expected');
  if (number(last, 31, 40) !== credits) fault(last, 31, 'the credits come to another sum');
  if (number(last, 41, 50) !== debits) fault(last, 41, 'the debits come to another sum');
  if (number(last, 21, 30) !== Math.abs(credits - debits)) fault(last, 21, 'the difference of credits and debits is another one');
  if (number(last, 75, 80) !== last - 1) fault(last, 75, `${last - 1} detail records were read`);
  if (debits !== 0 && debits !== credits) fault(last, 41, 'what is debited is not what is credited');
  if (faults.length || !payer) return { faults: faults.length ? faults : [{ line: 1, column: 1, what: 'the file pays nobody' }] };
  return { order: { payerBank: payer.bank, payerAccount: payer.account, payments } };
}

/** A day as two figures each of day, month and year. */
function dayAt(text: string): string | null {
  const found = /^(\d\d)(\d\d)(\d\d)$/.exec(text);
  if (!found) return null;
  const day = new Date(Date.UTC(2000 + Number(found[3]), Number(found[2]) - 1, Number(found[1])));
  const written = day.toISOString().slice(0, 10);
  return written === `20${found[3]}-${found[2]}-${found[1]}` ? written : null;
}
