import fc from 'fast-check';
import type { BankPayment, PaymentFile } from '../../../payments/payment-file';
import { readAch, writeAch } from './ach';

const payment = (more: Partial<BankPayment> = {}): BankPayment => ({
  reference: 'P0000000000001',
  name: 'Ines Halloway',
  bank: '011000015',
  account: '4400123',
  kind: 'checking',
  amount: 123_456,
  purpose: 'pay',
  ...more,
});

const file = (payments: BankPayment[], balanced = false): PaymentFile => ({
  number: 27,
  made: { on: '2026-11-24', at: '14:05' },
  payer: { name: 'Quillmere Glassworks', number: '00-4417226', bankName: 'Tidewater Savings', bank: '051000017', account: '77001' },
  effective: '2026-11-27',
  balanced,
  payments,
});

describe('An ACH file', () => {
  it('has 94 columns in blocks of ten lines, each figure where the rules put it', () => {
    const lines = writeAch(file([payment(), payment({ reference: 'P2', name: 'Zoë Ångström', kind: 'savings', amount: 5 })])).split('\n');
    expect(lines.pop()).toBe('');
    expect(lines.length).toBe(10);
    expect(new Set(lines.map((line) => line.length))).toEqual(new Set([94]));
    // Written out by hand from Appendix Three.
    expect(lines[0]).toBe(
      '101 05100001710044172262611241405' + '0' + '094101' + 'TIDEWATER SAVINGS      ' + 'QUILLMERE GLASSWORKS   ' + '27      ',
    );
    expect(lines[1]).toBe(
      '5220' +
        'QUILLMERE GLASSW' +
        ' '.repeat(20) +
        '1004417226' +
        'PPD' +
        'PAYROLL   ' +
        '261127' +
        '261127' +
        '   ' +
        '1' +
        '05100001' +
        '0000001',
    );
    expect(lines[2]).toBe(
      '622' +
        '011000015' +
        '4400123          ' +
        '0000123456' +
        'P0000000000001 ' +
        'INES HALLOWAY         ' +
        '  ' +
        '0' +
        '051000010000001',
    );
    expect(lines[3]?.slice(0, 3)).toBe('632');
    expect(lines[3]?.slice(54, 76)).toBe('ZOE ANGSTROM          ');
    // 01100001 twice.
    expect(lines[4]).toBe(
      '8220' + '000002' + '0002200002' + '000000000000' + '000000123461' + '1004417226' + ' '.repeat(25) + '05100001' + '0000001',
    );
    expect(lines[5]).toBe('9000001' + '000001' + '00000002' + '0002200002' + '000000000000' + '000000123461' + ' '.repeat(39));
    expect(lines[6]).toBe('9'.repeat(94));
  });

  it('debits the payer where it is balanced, batch by batch', () => {
    const read = readAch(writeAch(file([payment(), payment({ purpose: 'payee', amount: 700 })], true)));
    expect(read.faults).toEqual([]);
    const debits = read.lines.filter(({ record, values }) => record === 'entry' && values['transaction'] === '27');
    expect(debits.map(({ values }) => [Number(values['amount']), values['account']])).toEqual([
      [123_456, '77001'],
      [700, '77001'],
    ]);
    expect(read.lines.find(({ record }) => record === 'fileControl')?.values).toEqual(
      jasmine.objectContaining({ batches: '000002', debits: '000000124156', credits: '000000124156' }),
    );
  });

  it('carries a support order with its addenda', () => {
    const support = { caseNumber: 'FS-2204', payDate: '2026-11-27', number: '123456789', name: 'Okafor, Dele', ended: false };
    const { lines } = readAch(writeAch(file([payment({ purpose: 'support', amount: 12_500, support })])));
    expect(lines.map(({ record }) => record)).toEqual(['file', 'batch', 'entry', 'addenda', 'batchControl', 'fileControl']);
    expect(lines[1]?.values['entryClass']).toBe('CCD');
    expect(lines[2]?.values['addenda']).toBe('1');
    expect(lines[3]?.values['information']).toBe('DED*CS*FS-2204*261127*12500*123456789*N*OKAFOR, DE\\');
    // Addenda count as entries.
    expect(lines[4]?.values['entries']).toBe('000002');
  });

  it('tries an account without money as a prenote', () => {
    const { lines } = readAch(writeAch(file([payment({ amount: 0, purpose: 'trial' })], true)));
    expect(lines[2]?.values['transaction']).toBe('23');
    expect(lines[1]?.values['serviceClass']).toBe('220');
  });

  it('reads back what was written, whatever is paid', () => {
    const payments = fc.array(
      fc.record({
        amount: fc.integer({ min: 1, max: 9_999_999_999 }),
        account: fc.stringMatching(/^[1-9]\d{3,16}$/),
        bank: fc.constantFrom('011000015', '051000017', '031000040'),
        kind: fc.constantFrom('checking' as const, 'savings' as const),
        purpose: fc.constantFrom('pay' as const, 'payee' as const),
      }),
      { minLength: 1, maxLength: 40 },
    );
    fc.assert(
      fc.property(payments, fc.boolean(), (sketches, balanced) => {
        const made = sketches.map((sketch, index) => payment({ ...sketch, reference: `P${index}` }));
        const credits = made.reduce((sum, { amount }) => sum + amount, 0);
        if (credits > 999_999_999_999 || (balanced && credits > 9_999_999_999)) return;
        const read = readAch(writeAch(file(made, balanced)));
        expect(read.faults).toEqual([]);
        const entries = read.lines.filter(({ record, values }) => record === 'entry' && values['transaction'] !== '27');
        expect(entries.map(({ values }) => [values['reference'], Number(values['amount']), values['account']]).sort()).toEqual(
          made.map(({ reference, amount, account }) => [reference, amount, account]).sort(),
        );
      }),
    );
  });

  it('refuses an amount that has no room rather than cut it', () => {
    expect(() => writeAch(file([payment({ amount: 10_000_000_000 })]))).toThrowError(RangeError);
  });

  it('says where a damaged line is not as described', () => {
    const lines = writeAch(file([payment()])).split('\n');
    const damaged = (line: number, column: number, letter: string) =>
      readAch(lines.map((held, index) => (index === line - 1 ? held.slice(0, column - 1) + letter + held.slice(column) : held)).join('\n'))
        .faults;
    expect(damaged(3, 33, 'x')).toEqual([{ line: 3, column: 30, what: 'Entry: amount is made of figures' }]);
    expect(damaged(1, 35, '5')[0]).toEqual(jasmine.objectContaining({ line: 1, column: 35 }));
    expect(damaged(2, 1, '4')).toEqual([{ line: 2, column: 1, what: 'no record begins with 4' }]);
    expect(readAch(lines.map((held, index) => (index === 2 ? held.slice(0, 90) : held)).join('\n')).faults[0]).toEqual(
      jasmine.objectContaining({ line: 3, column: 91 }),
    );
  });
});
