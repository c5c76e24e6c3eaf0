import fc from 'fast-check';
import { computePayslip } from '../payslip/compute-payslip';
import { anItem, inputOf } from '../payslip/testing/inputs';
import { backPayOf } from './back-pay';

const hourly = (rate: string, hours: string) => inputOf({ hours: { rate, by: { ordinary: hours } } });

describe('Back pay', () => {
  it('a raise that reaches into a paid period: hours of it at the new rate, less what was paid', () => {
    // 80 hours at 1.00 more.
    const [line] = backPayOf(hourly('25.00', '80'), hourly('26.00', '80'));
    expect(line).toEqual(jasmine.objectContaining({ item: 'ordinary', paid: 200_000, now: 208_000, difference: 8_000 }));
    expect(line?.workings['back-pay:ordinary']?.amount).toBe('80.00');
    expect(line?.workings['ordinary']?.steps[0]?.label).toBe('Hours');
  });

  it('late hours, a changed item and a new one; one-offs of the time are not paid again', () => {
    const paid = inputOf({ pay: '1000.00', bonus: '250.00', items: [{ item: anItem('tools', 'earning', 'wages'), amount: '10.00' }] });
    const now = inputOf({
      pay: '1000.00',
      items: [
        { item: anItem('tools', 'earning', 'wages'), amount: '15.00' },
        { item: anItem('first-aid', 'earning', 'wages'), amount: '20.00' },
      ],
    });
    expect(backPayOf(paid, now).map(({ item, difference }) => [item, difference])).toEqual([
      ['tools', 500],
      ['first-aid', 2_000],
    ]);
    expect(backPayOf(hourly('20.00', '72'), hourly('20.00', '76.5'))[0]?.difference).toBe(9_000);
  });

  describe('with time kept by day', () => {
    const byDay = (...days: [date: string, hours: string][]) => ({
      ...inputOf({}),
      items: [],
      rates: [{ id: '1', label: 'Shop', per: 'hour' as const, amount: '20.00', primary: true }],
      hourItems: [
        anItem('ordinary', 'earning', 'wages', { method: { by: 'hours', multiple: '1' } }),
        anItem('overtime', 'earning', 'wages', { method: { by: 'hours', multiple: '1.5' } }),
      ],
      time: {
        rules: {
          code: 'weekly',
          label: 'Over 40',
          weekBegins: 0,
          weeklyOver: '40',
          items: { ordinary: 'ordinary', overtime: 'overtime' },
          source: { publication: '29 U.S.C. 207(a)(1)' },
        },
        entries: days.map(([date, hours]) => ({ date, hours })),
      },
    });
    const { from } = inputOf({}).pay;

    it('a day that was corrected later is paid for', () => {
      expect(backPayOf(byDay([from, '8']), byDay([from, '9.5']))[0]?.difference).toBe(3_000);
    });

    it('a sheet that is open again offers nothing, and takes nothing back, until it is approved', () => {
      const { time: _time, ...open } = byDay();
      expect(backPayOf(byDay([from, '8']), { ...open, hours: [{ item: 'ordinary', rate: '1', hours: '80' }] })).toEqual([]);
    });

    it('time handed in late goes in place of the hours that were typed', () => {
      const { time: _time, ...typed } = byDay();
      const paid = { ...typed, hours: [{ item: 'ordinary', rate: '1', hours: '8' }] };
      expect(backPayOf(paid, byDay([from, '10']))[0]?.difference).toBe(4_000);
    });
  });

  it('what was offered before for the period is not offered twice', () => {
    expect(backPayOf(hourly('25.00', '80'), hourly('26.00', '80'), { ordinary: 8_000 })).toEqual([]);
    expect(backPayOf(hourly('25.00', '80'), hourly('26.50', '80'), { ordinary: 8_000 })[0]?.difference).toBe(4_000);
    // A raise taken back is owed the other way round.
    expect(backPayOf(hourly('25.00', '80'), hourly('25.00', '80'), { ordinary: 8_000 })[0]?.difference).toBe(-8_000);
  });

  it('brings gross pay of any period to what it would have been', () => {
    const cents = fc.integer({ min: 1000, max: 9000 }).map((amount) => (amount / 100).toFixed(2));
    const hours = fc.integer({ min: 0, max: 9000 }).map((amount) => (amount / 100).toFixed(2));
    fc.assert(
      fc.property(cents, cents, hours, hours, (before, after, was, is) => {
        const [paid, now] = [hourly(before, was), hourly(after, is)];
        const offered = backPayOf(paid, now).reduce((sum, line) => sum + line.difference, 0);
        return computePayslip(paid).totals.gross + offered === computePayslip(now).totals.gross;
      }),
    );
  });
});

describe('A one-off for a part of a month', () => {
  it('is so many days of it', () => {
    // 12 of 30 days of November of 300.00, for pay and for a deduction.
    const part = { from: '2026-11-19', to: '2026-11-30' };
    const payslip = computePayslip(
      inputOf({
        pay: '1000.00',
        oneOffs: [
          { id: 'a', item: anItem('allowance', 'earning', 'wages'), amount: '300.00', part },
          { id: 'b', item: anItem('parking', 'deduction', 'after-tax'), amount: '50.00', part },
        ],
      }),
      { workings: true },
    );
    expect(payslip.lines.find((line) => line.code === 'allowance')?.amount).toBe(12_000);
    expect(payslip.lines.find((line) => line.code === 'parking')?.amount).toBe(2_000);
    expect(payslip.workings['once:a']?.steps.map((step) => step.label)).toContain('Days from 19 Nov 2026 to 30 Nov 2026');
  });
});
