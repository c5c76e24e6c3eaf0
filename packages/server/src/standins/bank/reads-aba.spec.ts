import { packOf } from '@woodruff/core';
import { readAbaFile } from './reads-aba';

const [aba] = packOf('AU').bank.files;
const file = (balanced: boolean) =>
  aba!.write({
    number: 7,
    made: { on: '2026-11-25', at: '10:15' },
    payer: { name: 'Tarrant Ropeworks Pty Ltd', number: '301500', bankName: 'The bank', bank: '063000', account: '10014400' },
    effective: '2026-11-27',
    balanced,
    payments: ['1', '2'].map((one) => ({
      reference: `PAY7-${one}`,
      name: `Person ${one}`,
      bank: '082001',
      account: '1234567',
      kind: '' as const,
      amount: 100_000 + Number(one),
      purpose: 'pay' as const,
    })),
  });
const content = file(true);
const faultsOf = (text: string) => {
  const found = readAbaFile(text);
  return 'faults' in found ? found.faults : [];
};

describe('The bank’s reader of direct entry files', () => {
  it('takes what the product writes: whose money, to whom, when; with the debit of the payer and without', () => {
    for (const text of [content, file(false)]) {
      const found = readAbaFile(text);
      if (!('order' in found)) return fail(JSON.stringify(found.faults));
      const { payerBank, payerAccount, payments } = found.order;
      expect([payerBank, payerAccount]).toEqual(['063000', '10014400']);
      expect(payments.map(({ reference, bank, account, amount, effective }) => [reference, bank, account, amount, effective])).toEqual([
        ['PAY7-1', '082001', '1234567', 100_001, '2026-11-27'],
        ['PAY7-2', '082001', '1234567', 100_002, '2026-11-27'],
      ]);
    }
  });

  it('refuses what is damaged, with the place', () => {
    const lines = content.split('\r\n').slice(0, -1);
    const damaged = (line: number, column: number, instead: string): string =>
      lines
        .map((text, at) => (at === line ? text.slice(0, column - 1) + instead + text.slice(column - 1 + instead.length) : text))
        .join('\r\n');
    // Bank, user, day, BSB, account, transaction, amount, payer's account, debit, totals, count.
    for (const [line, column, instead] of [
      [0, 21, '9'],
      [0, 57, 'X'],
      [0, 75, '99'],
      [1, 2, 'X'],
      [1, 9, 'X'],
      [1, 19, '99'],
      [1, 30, '9'],
      [2, 81, '9'],
      [2, 31, ' '.repeat(32)],
      [3, 30, '9'],
      [3, 2, '9'],
      [4, 30, '9'],
      [4, 40, '9'],
      [4, 50, '9'],
      [4, 80, '9'],
      [4, 2, '1'],
    ] as const)
      expect(faultsOf(damaged(line, column, instead)).map((fault) => fault.line))
        .withContext(`line ${line + 1}, column ${column}`)
        .not.toEqual([]);
    expect(faultsOf(`${lines.join('\r\n')}X`)).not.toEqual([]);
    expect(faultsOf(lines.slice(0, -1).join('\r\n'))).not.toEqual([]);
  });

  it('is not written without a user number, or where nobody knows which bank the paying account is at', () => {
    const payer = { name: 'X', number: '301500', bankName: 'The bank', bank: '999000', account: '1' };
    const of = (more: object) => () =>
      aba!.write({
        number: 1,
        made: { on: '2026-11-25', at: '10:15' },
        payer: { ...payer, ...more },
        effective: '2026-11-27',
        balanced: false,
        payments: [],
      });
    expect(of({ number: '' })).toThrowError(RangeError, /user number/);
    expect(of({})).toThrowError(RangeError, /three letters/);
    expect(of({ bankName: 'qwl' })).not.toThrow();
  });
});
