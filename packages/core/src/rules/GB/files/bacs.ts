import { addDays, dateOf, daysBetween, yearOf, type IsoDate } from '../../../calendar/dates';
import { readRecord, writeRecord, type FixedField, type FixedFault, type FixedRecord } from '../../../files/fixed-width';
import { movedToBusinessDay } from '../../../calendar/schedules';
import type { PaymentFile, PaymentFormat } from '../../../payments/payment-file';
import { subReference } from './cross-reference';
import { isBankHoliday } from '../holidays';

/**
 * Credits to accounts by the automated clearing (Bacs, Standard 18): labels of 80 columns, payments of 100, a contra record
 * that debits the payer. From memory: positions are unconfirmed. A day is written as a blank, two figures of the year and
 * three of the day in it; the processing day is the working day before the money is there.
 */

const text = (key: string, length: number): FixedField => ({ key, length, kind: 'text' });
const figures = (key: string, length: number): FixedField => ({ key, length, kind: 'figures' });
const always = (value: string, length = value.length): FixedField => ({ key: 'always', length, kind: 'text', always: value });
const blank = (length: number): FixedField => ({ key: '', length, kind: 'text', always: '' });

const fileLabel = (name: string, label: string): FixedRecord => ({
  name,
  fields: [
    always(label),
    text('identifier', 17),
    text('set', 6),
    always('0001'),
    always('0001'),
    blank(6),
    text('made', 6),
    text('expires', 6),
    blank(1),
    always('000000'),
    blank(20),
  ],
});
const shapeLabel = (name: string, label: string): FixedRecord => ({
  name,
  fields: [always(label), always('F'), always('02000'), always('00100'), blank(35), always('00'), blank(28)],
});

export const BACS_RECORDS = {
  volume: { name: 'Volume (VOL1)', fields: [always('VOL1'), text('set', 6), blank(31), text('user', 10), blank(28), always('1')] },
  file: fileLabel('File (HDR1)', 'HDR1'),
  shape: shapeLabel('Shape (HDR2)', 'HDR2'),
  header: {
    name: 'Header (UHL1)',
    fields: [
      always('UHL1'),
      text('processing', 6),
      always('999999', 10),
      always('00'),
      always('000000'),
      always('1 DAILY', 9),
      figures('number', 3),
      blank(40),
    ],
  },
  payment: {
    name: 'Payment',
    fields: [
      figures('sortCode', 6),
      figures('account', 8),
      always('0'),
      figures('transaction', 2),
      figures('payerSortCode', 6),
      figures('payerAccount', 8),
      text('free', 4),
      figures('amount', 11),
      text('payer', 18),
      text('reference', 18),
      text('name', 18),
    ],
  },
  endOfFile: fileLabel('End of file (EOF1)', 'EOF1'),
  endShape: shapeLabel('Shape at the end (EOF2)', 'EOF2'),
  trailer: {
    name: 'Totals (UTL1)',
    fields: [always('UTL1'), figures('debits', 13), figures('credits', 13), figures('debitCount', 7), figures('creditCount', 7), blank(36)],
  },
} as const satisfies Record<string, FixedRecord>;

/** Credit of pay and of payees; the debit of the payer's own account. */
const CREDIT = '99';
const CONTRA = '17';

/** What the clearing takes: capitals, figures, and a few signs. */
const written = (value: string): string =>
  value
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .toUpperCase()
    .replace(/[^A-Z0-9.&/ -]/g, ' ');
const day = (date: IsoDate): string =>
  ` ${String(yearOf(date)).slice(2)}${String(daysBetween(dateOf(yearOf(date), 1, 1), date) + 1).padStart(3, '0')}`;

export function writeBacs({ number, made, payer, effective, payments }: PaymentFile): string {
  if (!/^\d{6}$/.test(payer.number)) throw new RangeError('the service user number has six figures: enter it with the registrations');
  const set = String(number).padStart(6, '0').slice(-6);
  const label = { identifier: `A${payer.number}S  1${payer.number}`, set, made: day(made.on), expires: day(effective) };
  const from = { payerSortCode: payer.bank, payerAccount: payer.account, payer: written(payer.name) };
  const total = payments.reduce((sum, { amount }) => sum + amount, 0);
  const lines = [
    writeRecord(BACS_RECORDS.volume, { set, user: `    ${payer.number}` }),
    writeRecord(BACS_RECORDS.file, label),
    writeRecord(BACS_RECORDS.shape, {}),
    writeRecord(BACS_RECORDS.header, {
      processing: day(movedToBusinessDay(addDays(effective, -1), 'previous', isBankHoliday)),
      number: String(((number - 1) % 999) + 1),
    }),
    ...payments.map(({ bank, account, amount, name, reference, purpose }) =>
      writeRecord(BACS_RECORDS.payment, {
        ...from,
        sortCode: bank,
        account,
        transaction: CREDIT,
        free: purpose === 'pay' ? subReference(reference) : '',
        amount: String(amount),
        reference: written(reference),
        name: written(name),
      }),
    ),
    writeRecord(BACS_RECORDS.payment, {
      ...from,
      sortCode: payer.bank,
      account: payer.account,
      transaction: CONTRA,
      amount: String(total),
      reference: 'CONTRA',
      name: from.payer,
    }),
    writeRecord(BACS_RECORDS.endOfFile, label),
    writeRecord(BACS_RECORDS.endShape, {}),
    writeRecord(BACS_RECORDS.trailer, {
      debits: String(total),
      credits: String(total),
      debitCount: '1',
      creditCount: String(payments.length),
    }),
  ];
  return `${lines.join('\r\n')}\r\n`;
}

const BY_LABEL = {
  VOL1: 'volume',
  HDR1: 'file',
  HDR2: 'shape',
  UHL1: 'header',
  EOF1: 'endOfFile',
  EOF2: 'endShape',
  UTL1: 'trailer',
} as const;

export interface BacsLine {
  record: keyof typeof BACS_RECORDS;
  values: Record<string, string>;
}

/** Every line by its description; faults with their position where one is not as described. */
export function readBacs(content: string): { lines: BacsLine[]; faults: FixedFault[] } {
  const lines: BacsLine[] = [];
  const faults: FixedFault[] = [];
  content
    .replace(/\r?\n$/, '')
    .split(/\r?\n/)
    .forEach((held, index) => {
      const record: BacsLine['record'] = BY_LABEL[held.slice(0, 4) as keyof typeof BY_LABEL] ?? 'payment';
      const read = readRecord(BACS_RECORDS[record], held, index + 1);
      faults.push(...read.faults);
      lines.push({ record, values: read.values });
    });
  return { lines, faults };
}

export const bacs: PaymentFormat = { code: 'bacs', name: 'Bacs file', extension: 'bacs', mediaType: 'text/plain', write: writeBacs };
