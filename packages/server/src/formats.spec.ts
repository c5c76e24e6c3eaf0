import { packOf } from '@woodruff/core';
import { checkContacts, type Contacts } from './formats';

const contacts = (address: Partial<Contacts['address']>, phone = ''): Contacts => ({
  address: { path: 'address', state: '', postcode: '', ...address },
  phones: { phone },
});
const refused = (country: string, now: Contacts, before?: Contacts): string => {
  try {
    checkContacts(packOf(country), now, before);
    return '';
  } catch (error) {
    return (error as Error).message;
  }
};

describe('Addresses and telephone numbers', () => {
  it('are those of the country', () => {
    expect(refused('US', contacts({ state: 'PA', postcode: '17999-0001' }, '570 555 0114'))).toBe('');
    expect(refused('US', contacts({ state: 'pa' }, '(570) 555-0114 ext. 12'))).toBe('');
    expect(refused('GB', contacts({ postcode: 'SW1A 1AA' }, '020 7946 0018'))).toBe('');
    expect(refused('US', contacts({ state: 'XX' }))).toContain('State: expected two letters such as PA');
    expect(refused('US', contacts({ postcode: 'SW1A 1AA' }))).toContain('ZIP code: expected five figures');
    expect(refused('GB', contacts({ postcode: '17999' }))).toContain('Postcode: expected a postcode such as');
    expect(refused('US', contacts({}, '555'))).toContain('555 is no telephone number of the United States');
    expect(refused('GB', contacts({}, '12'))).toContain('is no telephone number of the United Kingdom');
  });
  it('of other countries begin with + and the code', () => {
    expect(refused('US', contacts({}, '+44 20 7946 0018'))).toBe('');
    expect(refused('US', contacts({}, '+44 20'))).not.toBe('');
  });
  it('are left alone where they stood before or are empty', () => {
    const old = contacts({ state: 'Penn.', postcode: '?' }, 'ask Odile');
    expect(refused('US', old, old)).toBe('');
    expect(refused('US', contacts({}), old)).toBe('');
    expect(refused('US', contacts({ state: 'Penn.', postcode: '??' }, 'ask Odile'), old)).toContain('ZIP code');
  });
});
