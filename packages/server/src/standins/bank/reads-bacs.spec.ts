import { addDays, packOf } from '@woodruff/core';
import { readBacsFile } from './reads-bacs';

const [bacs] = packOf('GB').bank.files;
const content = bacs!.write({
  number: 7,
  made: { on: '2026-11-25', at: '10:15' },
  payer: { name: 'Tide & Slate Ltd', number: '123456', bankName: 'The bank', bank: '401234', account: '87654321' },
  effective: '2026-11-27',
  balanced: true,
  payments: ['1', '2'].map((one) => ({
    reference: `PAY7-${one}`,
    name: `Person ${one}`,
    bank: '400100',
    account: '12345678',
    kind: '' as const,
    amount: 100_000 + Number(one),
    purpose: 'pay' as const,
  })),
});
const read = (text: string) => readBacsFile(text, (date) => addDays(date, 1));
const faultsOf = (text: string) => {
  const found = read(text);
  return 'faults' in found ? found.faults : [];
};

describe('The bank’s reader of Bacs files', () => {
  it('takes what the product writes: whose money, to whom, when', () => {
    const found = read(content);
    if (!('order' in found)) return fail(JSON.stringify(found.faults));
    const { payerBank, payerAccount, payments } = found.order;
    expect([payerBank, payerAccount]).toEqual(['401234', '87654321']);
    expect(payments.map(({ reference, amount, effective }) => [reference, amount, effective])).toEqual([
      ['PAY7-1', 100_001, '2026-11-27'],
      ['PAY7-2', 100_002, '2026-11-27'],
    ]);
  });

  it('refuses what is damaged, with the place', () => {
    const lines = content.split('\r\n').slice(0, -1);
    const damaged = (line: number, column: number, instead: string): string =>
      lines
        .map((text, at) => (at === line ? text.slice(0, column - 1) + instead + text.slice(column - 1 + instead.length) : text))
        .join('\r\n');
    // Service user, processing day, sort code, amount, transaction, payer’s account, contra, totals, counts.
    for (const [line, column, instead] of [
      [1, 6, '9'],
      [3, 5, 'X'],
      [4, 1, 'X'],
      [4, 46, '9'],
      [4, 16, '01'],
      [5, 24, '1'],
      [6, 7, '1'],
      [6, 46, '9'],
      [7, 22, '9'],
      [9, 17, '9'],
      [9, 30, '9'],
      [9, 37, '2'],
      [9, 44, '9'],
    ] as const) {
      const faults = faultsOf(damaged(line, column, instead));
      expect(faults.length)
        .withContext(`line ${line + 1}, column ${column}`)
        .toBeGreaterThan(0);
    }
    for (const at of lines.keys())
      expect(faultsOf(lines.filter((_line, index) => index !== at).join('\r\n')).length)
        .withContext(`without line ${at + 1}`)
        .toBeGreaterThan(0);
    expect(faultsOf(content.slice(0, 300)).length).toBeGreaterThan(0);
  });
});
