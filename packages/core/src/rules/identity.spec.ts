import { packOf } from './registry';

describe('Numbers as countries write them', () => {
  const gb = packOf('GB');
  const us = packOf('US');

  it('of people are told apart by shape and by what can have been given', () => {
    const gbNumber = (text: string) => gb.person.number.isOne(gb.person.number.bare(text));
    expect(['AB 12 34 56 C', 'ab123456c', 'JG103759A'].map(gbNumber)).toEqual([true, true, true]);
    // No prefix with D, F, I, Q, U or V, no BG, GB, NK, KN, TN, NT, ZZ; a suffix from A to D.
    expect(['DA123456A', 'GB123456A', 'AB123456E', 'AB12345C', '123-45-6789'].map(gbNumber)).toEqual([false, false, false, false, false]);
    const usNumber = (text: string) => us.person.number.isOne(us.person.number.bare(text));
    expect(['123-45-6789', '123 45 6789'].map(usNumber)).toEqual([true, true]);
    expect(['000-12-3456', '666-12-3456', '900-12-3456', '123-00-4567', '123-45-0000', 'AB123456C'].map(usNumber)).toEqual(
      Array(6).fill(false),
    );
  });

  it('of banks and accounts have their check digit, or their length', () => {
    expect([us.bank.code.isOne('031000503'), us.bank.code.isOne('031000504'), us.bank.account.isOne('123')]).toEqual([true, false, false]);
    const sortCode = gb.bank.code.bare('12-34-56');
    expect([
      gb.bank.code.isOne(sortCode),
      gb.bank.code.isOne('12345'),
      gb.bank.account.isOne('12345678'),
      gb.bank.account.isOne('1234567'),
    ]).toEqual([true, false, true, false]);
  });

  it('of places', () => {
    expect(['SW1A 1AA', 'M1 1AE', 'B33 8TH', '17999'].map((code) => gb.person.address.postcode.isOne(code))).toEqual([
      true,
      true,
      true,
      false,
    ]);
    expect(['17999', '17999-1234', '1799', 'SW1A 1AA'].map((code) => us.person.address.postcode.isOne(code))).toEqual([
      true,
      true,
      false,
      false,
    ]);
    const address = { line1: '1 Furnace Lane', line2: '', city: 'Corbel Falls', state: 'PA', postcode: '17999' };
    expect(us.person.address.line(address)).toBe('1 Furnace Lane, Corbel Falls, PA 17999');
    expect(gb.person.address.line({ ...address, state: '', postcode: 'M1 1AE' })).toBe('1 Furnace Lane, Corbel Falls, M1 1AE');
  });
});
