import { addDays } from '../../../calendar/dates';
import type { BankPayment, PaymentFile } from '../../../payments/payment-file';
import { createHash } from 'node:crypto';
import { readBacs, writeBacs } from './bacs';
import { bacsHash } from './cross-reference';

const payment = (reference: string, name: string, amount: number): BankPayment => ({
  reference,
  name,
  bank: '400100',
  account: '12345678',
  kind: '',
  amount,
  purpose: 'pay',
});
const file = (more: Partial<PaymentFile> = {}): PaymentFile => ({
  number: 7,
  made: { on: '2026-11-25', at: '10:15' },
  payer: { name: 'Tide & Slate Ltd', number: '123456', bankName: 'The bank', bank: '401234', account: '87654321' },
  effective: '2026-11-30',
  balanced: true,
  payments: [payment('PAY7-1', 'Rhian Carrow', 210_050), payment('PAY7-2', 'Ewan Ó Strath', 305_000)],
  ...more,
});

describe('A Bacs file', () => {
  const lines = writeBacs(file()).split('\r\n').slice(0, -1);

  it('has labels of 80 columns around payments of 100, and is read again without a fault', () => {
    expect(lines.map((line) => [line.slice(0, 4).replace(/^4.*/, 'pay'), line.length])).toEqual([
      ['VOL1', 80],
      ['HDR1', 80],
      ['HDR2', 80],
      ['UHL1', 80],
      ['pay', 100],
      ['pay', 100],
      ['pay', 100],
      ['EOF1', 80],
      ['EOF2', 80],
      ['UTL1', 80],
    ]);
    expect(readBacs(writeBacs(file())).faults).toEqual([]);
  });

  it('carries of each pay the four signs by which the agency finds it, and of others none', () => {
    expect(lines.slice(4, 6).map((line) => line.slice(31, 35))).toEqual(['/7-1', '/7-2']);
    const payee = { ...payment('R1', 'Harbour Mutual', 100), purpose: 'payee' as const };
    expect(
      writeBacs(file({ payments: [payee] }))
        .split('\r\n')[4]
        ?.slice(31, 35),
    ).toBe('    ');
    // SHA-256 of both sort codes, eleven figures of pence and the signs, reckoned by another program.
    const text = '40123440010000000210050/7-1';
    expect(bacsHash({ format: 'bacs', from: '401234', to: '400100', amount: 210_050, reference: 'PAY7-1' })).toBe(
      createHash('sha256').update(text).digest('hex'),
    );
  });

  it('is processed on the working day before the money is there', () => {
    // Monday 30 November 2026: Friday the 27th is day 331. After Christmas: Tuesday 29 December, by way of Boxing Day’s substitute.
    expect(lines[3]?.slice(4, 10)).toBe(' 26331');
    const after = writeBacs(file({ effective: '2026-12-29' })).split('\r\n')[3];
    expect(after?.slice(4, 10)).toBe(' 26358');
    expect(addDays('2026-01-01', 357)).toBe('2026-12-24');
  });

  it('credits each, in letters that the clearing takes, and debits the payer with the whole', () => {
    const { lines: read } = readBacs(writeBacs(file()));
    const [first, second, contra] = read.filter(({ record }) => record === 'payment').map(({ values }) => values);
    expect([first?.['sortCode'], first?.['account'], first?.['transaction'], Number(first?.['amount']), first?.['payer']]).toEqual([
      '400100',
      '12345678',
      '99',
      210_050,
      'TIDE & SLATE LTD',
    ]);
    expect([second?.['name'], second?.['reference']]).toEqual(['EWAN O STRATH', 'PAY7-2']);
    expect([contra?.['sortCode'], contra?.['account'], contra?.['transaction'], Number(contra?.['amount'])]).toEqual([
      '401234',
      '87654321',
      '17',
      515_050,
    ]);
    const totals = read.at(-1)?.values;
    expect([totals?.['debits'], totals?.['credits'], totals?.['debitCount'], totals?.['creditCount']].map(Number)).toEqual([
      515_050, 515_050, 1, 2,
    ]);
  });

  it('is refused without a service user number, and where an amount does not fit', () => {
    const { payer } = file();
    expect(() => writeBacs(file({ payer: { ...payer, number: '123/AB456' } }))).toThrowError(RangeError, /service user number/);
    expect(() => writeBacs(file({ payments: [payment('P', 'Rhian Carrow', 123_456_789_012)] }))).toThrowError(RangeError);
  });
});
