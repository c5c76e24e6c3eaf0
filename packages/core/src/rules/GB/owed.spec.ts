import { packOf } from '../registry';

describe('PAYE and national insurance', () => {
  const [owed] = packOf('GB').moneyOwed({});
  const due = (...payDates: string[]) =>
    owed?.due?.(payDates.map((payDate) => ({ payDate, amount: 100 }))).map(({ date, amount }) => `${date} ${amount}`);

  // SI 2003/2682: 17 days after the end of the tax month, which runs from the 6th to the 5th.
  it('is paid by the 22nd after the tax month', () => {
    expect(due('2026-06-05')).toEqual(['2026-06-22 100']);
    expect(due('2026-06-06')).toEqual(['2026-07-22 100']);
    expect(due('2026-06-06', '2026-06-30', '2026-07-05')).toEqual(['2026-07-22 300']);
  });
  it('moves back to a working day: 22 August 2026 is a Saturday', () => expect(due('2026-07-31')).toEqual(['2026-08-21 100']));
});
