import { liabilityByDay } from './earlier';

const day = (payDate: string, tax: number) => ({ payDate, payslips: 1, sums: { tax, pay: 10 * tax } });
const quarter = [day('2026-07-31', 900), day('2026-08-14', 250), day('2026-09-11', 260)];
const entered = [day('2026-07-31', 900)];

describe('A liability by day', () => {
  it('is as it was posted where everything was paid here', () => {
    expect(liabilityByDay({ days: quarter, earlier: { days: [], deposits: [] } }, ['tax']).map(({ amount }) => amount)).toEqual([
      900, 250, 260,
    ]);
  });

  it('of pay entered as sums is by the deposits made of it', () => {
    const deposits = [
      { on: '2026-07-03', amount: 300 },
      { on: '2026-07-17', amount: 290 },
      { on: '2026-07-31', amount: 310 },
    ];
    expect(liabilityByDay({ days: quarter, earlier: { days: entered, deposits } }, ['tax'])).toEqual([
      { date: '2026-07-03', amount: 300 },
      { date: '2026-07-17', amount: 290 },
      { date: '2026-07-31', amount: 310 },
      { date: '2026-08-14', amount: 250 },
      { date: '2026-09-11', amount: 260 },
    ]);
  });

  it('keeps what was deposited less, or more, on the last day of the sums, so that the whole stays', () => {
    const at = (amount: number) =>
      liabilityByDay({ days: entered, earlier: { days: entered, deposits: [{ on: '2026-07-03', amount }] } }, ['tax']);
    expect(at(880)).toEqual([
      { date: '2026-07-03', amount: 880 },
      { date: '2026-07-31', amount: 20 },
    ]);
    expect(at(905)[1]).toEqual({ date: '2026-07-31', amount: -5 });
    expect(at(900)).toEqual([{ date: '2026-07-03', amount: 900 }]);
  });
});
