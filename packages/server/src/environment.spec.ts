import { spawnSync } from 'node:child_process';
import { readFileSync, writeFileSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { readEnvironment } from './environment';

describe('The environment', () => {
  it('is validated as a whole: every variable at fault is named', () => {
    expect(() => readEnvironment({ PORT: '99999', WOODRUFF_KEY: 'short' })).toThrowError(
      /PORT[\s\S]*DATABASE_URL[\s\S]*WOODRUFF_KEY[\s\S]*SESSION_SECRET/,
    );
  });
});

describe('The payslip command', () => {
  const command = fileURLToPath(new URL('./payslip-command.ts', import.meta.url));
  const example = fileURLToPath(new URL('../../../docs/examples/payslip-glassblower.json', import.meta.url));
  const run = (file: string) => spawnSync(process.execPath, ['--import', 'tsx', command, file], { encoding: 'utf8' });

  it('prints the payslip with its workings', () => {
    const { stdout, status } = run(example);
    const payslip = JSON.parse(stdout) as { totals: { net: number }; workings: Record<string, { amount: string }> };
    expect(status).toBe(0);
    expect(payslip.workings['us.fit']?.amount).toBe('100.24');
  }, 30_000);

  it('names the field and what was expected, with exit code 2', () => {
    const input = JSON.parse(readFileSync(example, 'utf8')) as { pay: { date: string }; tax: { workState: string } };
    const folder = mkdtempSync(join(tmpdir(), 'woodruff-'));
    const wrong = (name: string, content: object) => {
      writeFileSync(join(folder, name), JSON.stringify(content));
      return run(join(folder, name));
    };
    const date = wrong('date.json', { ...input, pay: { ...input.pay, date: '2026-02-30' } });
    expect([date.status, date.stderr.trim()]).toEqual([2, 'pay.date: expected a date such as 2026-11-27']);
    const state = wrong('state.json', { ...input, tax: { ...input.tax, workState: 'ZZ' } });
    expect([state.status, state.stderr.trim()]).toEqual([2, 'tax.workState: expected a state with rules: CA, IL, NJ, NY, PA, TX, VA, WA']);
  }, 30_000);
});
