import { Parameters, type ParameterEntry } from './parameters';

const entry = (code: string, from: string, value: string, more: Partial<ParameterEntry> = {}): ParameterEntry => ({
  code,
  from,
  value,
  publication: 'A publication',
  confirmed: true,
  ...more,
});
const shipped = [entry('x.rate', '2025-01-01', '6', { to: '2025-12-31' }), entry('x.rate', '2026-01-01', '6.5', { to: '2026-12-31' })];
const made = () => new Parameters([{ format: 'woodruff.parameters/1', title: 'Test', entries: shipped }]);
const valueOn = (tables: Parameters, date: string) => tables.value('x.rate', date).value.toDecimal();

describe('Dated tables', () => {
  it('hold from their day to their last, and are missed after it', () => {
    const tables = made();
    expect([valueOn(tables, '2025-12-31'), valueOn(tables, '2026-01-01')]).toEqual(['6.00', '6.50']);
    expect(() => tables.value('x.rate', '2027-01-01')).toThrowError(/no table "x.rate"/);
  });

  it('that were loaded go on where those of the product end', () => {
    const tables = made();
    tables.setLoaded([entry('x.rate', '2027-01-01', '7')]);
    expect([valueOn(tables, '2026-12-31'), valueOn(tables, '2027-01-01'), valueOn(tables, '2029-01-01')]).toEqual(['6.50', '7.00', '7.00']);
    tables.setLoaded([]);
    expect(tables.has('x.rate', '2027-01-01')).toBeFalse();
  });

  it('that were loaded for a day stand in place of the product’s from that day, and a later one of the product in place of them', () => {
    const tables = made();
    tables.setLoaded([entry('x.rate', '2025-07-01', '6.2')]);
    expect([valueOn(tables, '2025-06-30'), valueOn(tables, '2025-07-01'), valueOn(tables, '2026-01-01')]).toEqual(['6.00', '6.20', '6.50']);
    tables.setLoaded([entry('x.rate', '2026-01-01', '6.6')]);
    expect(valueOn(tables, '2026-01-01')).toBe('6.60');
  });

  it('can be tried: what follows is as it was before, whatever happens meanwhile', () => {
    const tables = made();
    tables.setLoaded([entry('x.rate', '2027-01-01', '7')]);
    expect(tables.trying([entry('x.rate', '2027-01-01', '8')], () => valueOn(tables, '2027-01-01'))).toBe('8.00');
    expect(() =>
      tables.trying([entry('y.rate', '2027-01-01', '1')], () => {
        throw new Error('in the middle');
      }),
    ).toThrow();
    expect([valueOn(tables, '2027-01-01'), tables.has('y.rate', '2027-01-01')]).toEqual(['7.00', false]);
  });

  it('say what is in force on a day and where it is from', () => {
    const tables = made();
    tables.setLoaded([entry('x.rate', '2027-01-01', '7')]);
    expect(tables.inForceOn('2026-06-01').map(({ value, loaded }) => [value, loaded])).toEqual([['6.5', false]]);
    expect(tables.inForceOn('2027-06-01').map(({ value, loaded }) => [value, loaded])).toEqual([['7', true]]);
  });
});
