import type { Person } from '@woodruff/contract';
import { part, refused } from '../../testing/part';
import { itemChoicesStore, payItemsStore } from '../pay-items/pay-items.store';
import { PersonRates } from './person-rates';

const rate = (id: string, amount: string, from: string, more: object = {}) => ({
  id,
  series: 'primary',
  label: 'Hot shop',
  per: 'hour',
  amount,
  from,
  reason: '',
  primary: true,
  yearly: null,
  ...more,
});
const person = (rates: object[], payslips: object[] = []) => ({ id: 'p', rates, payslips }) as unknown as Person;
const PAID = { id: 'y', state: 'posted', from: '2026-10-25', to: '2026-11-07', payDate: '2026-11-13' };
const NO_EFFECT = { people: [], unchanged: 22, runs: [] };
const typed = () => new Promise((resolve) => setTimeout(resolve, 700));

describe('What a person is paid', () => {
  const shown = (of: Person, role: 'clerk' | 'viewer' = 'clerk') =>
    part(PersonRates, { person: of }, { role, stores: [payItemsStore as never, itemChoicesStore as never] });

  it('has each change with its share of the rate before, per series', async () => {
    const one = await shown(
      person([
        rate('3', '31.00', '2026-06-01'),
        rate('2', '24.75', '2026-01-01', { series: '2', label: 'Cold shop', primary: false }),
        rate('1', '30.00', '2025-01-01', { reason: 'On file at the start' }),
      ]),
    );
    expect(one.text).toContain('Hot shop 31.00 an hour +3.3%');
    expect(one.text).toMatch(/Cold shop, second rate 24\.75 an hour Correct/);
    expect(one.text).toContain('On file at the start');
  });

  it('shows what is to come, which can be withdrawn', async () => {
    const one = await shown(person([rate('2', '32.00', '2026-12-06'), rate('1', '31.00', '2025-01-01')]));
    expect(one.text).toContain('Sun 6 Dec 2026 coming');
    await one.press('Withdraw the rate from 2026-12-06');
    await one.answer('DELETE', '/people/p/rates/2', {});
    expect(one.buttons().filter((name) => name.startsWith('Withdraw'))).toEqual(['Withdraw the rate from 2026-12-06']);
  });

  it('from a date on begins with what is paid now, and shows its effect before it is saved', async () => {
    const one = await shown(person([rate('1', '31.00', '2025-01-01')]));
    const saved = one.given(one.fixture.componentInstance.saved);
    await one.press('New rate');
    expect([one.field('Name').value, one.field('Per').value, one.field('From').value]).toEqual(['Hot shop', 'hour', '2026-11-23']);
    await one.fill('Amount', '33.00');
    await typed();
    await one.answer('POST', '/people/p/rates?rehearse=true', NO_EFFECT);
    expect(one.text).toContain('No payslip in the open runs changes.');
    await one.press('Pay this from that date on');
    expect(await one.answer('POST', '/people/p/rates', { id: 'n' })).toEqual({
      label: 'Hot shop',
      amount: '33.00',
      from: '2026-11-23',
      reason: '',
      per: 'hour',
      primary: true,
    });
    expect(saved.length).toBe(1);
  });

  it('that reaches a paid period offers back pay for it', async () => {
    const one = await shown(person([rate('1', '31.00', '2025-01-01')], [PAID]));
    await one.press('New rate');
    await one.fill('Amount', '33.00');
    await one.fill('From', '2026-11-01');
    await typed();
    await one.answer('POST', '/people/p/rates?rehearse=true', NO_EFFECT);
    await one.press('Pay this from that date on');
    await one.answer('POST', '/people/p/rates', { id: 'n' });
    expect(await one.answer('POST', '/back-pay', { total: 0, people: [] })).toEqual({ from: '2026-11-01', personIds: ['p'], hours: {} });
    expect(one.text).toContain('No paid period reaches that day.');
  });

  it('corrected says that what was paid stays, and keeps what was typed when it is refused', async () => {
    const one = await shown(person([rate('1', '31.00', '2025-01-01')]));
    await one.press('Correct the rate from 2025-01-01');
    expect(one.text).toContain('What was paid stays as it was paid.');
    await one.fill('Amount', '0');
    await one.press('Correct the entry');
    await one.answer('PUT', '/people/p/rates/1', refused('A rate must be more than zero.'), 422);
    expect(one.text).toContain('A rate must be more than zero.');
    expect(one.field('Amount').value).toBe('0');
  });

  it('folds a long history', async () => {
    const one = await shown(person(Array.from({ length: 12 }, (_none, index) => rate(String(index), '30.00', `20${25 - index}-01-01`))));
    const folded = one.buttons().find((name) => name.endsWith('earlier'))!;
    const rows = () => one.element.querySelectorAll('tr').length - 1;
    const before = rows();
    await one.press(folded);
    expect(rows()).toBe(12);
    expect(before).toBeLessThan(12);
  });

  it('is read only by who may not prepare', async () => {
    expect((await shown(person([rate('1', '31.00', '2025-01-01')], [PAID]), 'viewer')).buttons()).toEqual([]);
  });
});
