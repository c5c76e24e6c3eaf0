import type { IsoDate } from '../../../calendar/dates';
import { readRecord, writeRecord, type FixedFault, type FixedField, type FixedRecord } from '../../../files/fixed-width';
import type { PaymentFile, PaymentFormat } from '../../../payments/payment-file';

/**
 * Credits by direct entry (Australian Payments Network, BECS procedures: user file of 120 columns): a descriptive record, a
 * detail record for each credit, the debit of the payer where the file balances, and a total.
 */

const text = (key: string, length: number): FixedField => ({ key, length, kind: 'text' });
const figures = (key: string, length: number): FixedField => ({ key, length, kind: 'figures' });
const always = (value: string, length = value.length): FixedField => ({ key: 'always', length, kind: 'text', always: value });
const blank = (length: number): FixedField => ({ key: '', length, kind: 'text', always: '' });

export const ABA_RECORDS = {
  descriptive: {
    name: 'Descriptive record',
    fields: [
      always('0'),
      blank(17),
      always('01'),
      text('bankName', 3),
      blank(7),
      text('payer', 26),
      figures('user', 6),
      text('description', 12),
      figures('processing', 6),
      blank(40),
    ],
  },
  detail: {
    name: 'Detail record',
    fields: [
      always('1'),
      text('bsb', 7),
      text('account', 9),
      text('indicator', 1),
      figures('transaction', 2),
      figures('amount', 10),
      text('name', 32),
      text('reference', 18),
      text('payerBsb', 7),
      text('payerAccount', 9),
      text('payer', 16),
      figures('withheld', 8),
    ],
  },
  total: {
    name: 'File total record',
    fields: [
      always('7'),
      always('999-999'),
      blank(12),
      figures('net', 10),
      figures('credits', 10),
      figures('debits', 10),
      blank(24),
      figures('count', 6),
      blank(40),
    ],
  },
} as const satisfies Record<string, FixedRecord>;

/** Banks by the first figures of a BSB (Australian Payments Network, BSB directory: abbreviations of institutions). */
const BANKS: Readonly<Record<string, string>> = {
  '01': 'ANZ',
  '03': 'WBC',
  '73': 'WBC',
  '06': 'CBA',
  '76': 'CBA',
  '08': 'NAB',
  '10': 'BSA',
  '11': 'STG',
  '12': 'BQL',
  '18': 'MBL',
  '30': 'BWA',
  '48': 'MET',
  '63': 'BBL',
};
const [PAY, CREDIT, DEBIT] = ['53', '50', '13'];
const dashed = (bsb: string): string => `${bsb.slice(0, 3)}-${bsb.slice(3)}`;
/** To the right, with blanks before it. */
const right = (account: string): string => account.padStart(9);
const day = (date: IsoDate): string => `${date.slice(8)}${date.slice(5, 7)}${date.slice(2, 4)}`;

export function writeAba({ payer, effective, balanced, payments }: PaymentFile): string {
  if (!/^\d{6}$/.test(payer.number)) throw new RangeError('the direct entry user number has six figures: enter it with the registrations');
  const bankName = BANKS[payer.bank.slice(0, 2)] ?? payer.bankName.trim().toUpperCase();
  if (!/^[A-Z]{3}$/.test(bankName))
    throw new RangeError('the bank of the paying account is named by three letters, such as ANZ: enter them as its name with the account');
  const from = { payerBsb: dashed(payer.bank), payerAccount: right(payer.account), payer: payer.name };
  const total = payments.reduce((sum, { amount }) => sum + amount, 0);
  const lines = [
    writeRecord(ABA_RECORDS.descriptive, {
      bankName,
      payer: payer.name,
      user: payer.number,
      description: payments.every(({ purpose }) => purpose === 'pay') ? 'PAY' : 'PAYMENTS',
      processing: day(effective),
    }),
    ...payments.map(({ bank, account, amount, name, reference, purpose }) =>
      writeRecord(ABA_RECORDS.detail, {
        ...from,
        bsb: dashed(bank),
        account: right(account),
        transaction: purpose === 'pay' ? PAY : CREDIT,
        amount: String(amount),
        name,
        reference,
      }),
    ),
    ...(balanced
      ? [
          writeRecord(ABA_RECORDS.detail, {
            ...from,
            bsb: dashed(payer.bank),
            account: right(payer.account),
            transaction: DEBIT,
            amount: String(total),
            name: payer.name,
            reference: 'PAY',
          }),
        ]
      : []),
    writeRecord(ABA_RECORDS.total, {
      net: String(balanced ? 0 : total),
      credits: String(total),
      debits: String(balanced ? total : 0),
      count: String(payments.length + (balanced ? 1 : 0)),
    }),
  ];
  return `${lines.join('\r\n')}\r\n`;
}

export interface AbaLine {
  record: keyof typeof ABA_RECORDS;
  values: Record<string, string>;
}

const BY_SIGN: Readonly<Record<string, AbaLine['record']>> = { '0': 'descriptive', '1': 'detail', '7': 'total' };

/** Every line by its description; faults with their position where one is not as described. */
export function readAba(content: string): { lines: AbaLine[]; faults: FixedFault[] } {
  const lines: AbaLine[] = [];
  const faults: FixedFault[] = [];
  for (const [index, held] of content
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .entries()) {
    const record = BY_SIGN[held.slice(0, 1)];
    if (!record) {
      faults.push({ line: index + 1, column: 1, what: 'a record begins with 0, 1 or 7' });
      continue;
    }
    const read = readRecord(ABA_RECORDS[record], held, index + 1);
    faults.push(...read.faults);
    lines.push({ record, values: read.values });
  }
  return { lines, faults };
}

export const aba: PaymentFormat = { code: 'aba', name: 'Direct entry file', extension: 'aba', mediaType: 'text/plain', write: writeAba };
