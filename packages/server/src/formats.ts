import type { CountryPack } from '@woodruff/core';
import { isPossiblePhoneNumber, type CountryCode } from 'libphonenumber-js/min';
import { invalid } from './errors';

/** An address and telephone numbers, each with the path under which it was sent. */
export interface Contacts {
  address: { path: string; state: string; postcode: string };
  phones: Readonly<Record<string, string>>;
}

/**
 * Refuses what cannot be an address or a telephone number of the country. A number of another country begins with + and its
 * code; what is empty, or stands as it did before, is left alone.
 */
export function checkContacts({ code, name, person }: CountryPack, now: Contacts, before?: Contacts): void {
  const fields: { path: string; expected: string }[] = [];
  const changed = (value: string, was: string | undefined): boolean => value !== '' && value !== was;
  const { state, postcode } = person.address;
  const { address } = now;
  if (state && changed(address.state, before?.address.state) && !state.isOne(address.state.toUpperCase()))
    fields.push({ path: `${address.path}.state`, expected: state.expected });
  if (changed(address.postcode, before?.address.postcode) && !postcode.isOne(address.postcode.toUpperCase()))
    fields.push({ path: `${address.path}.postcode`, expected: postcode.expected });
  for (const [path, phone] of Object.entries(now.phones))
    if (changed(phone, before?.phones[path]) && !isPossiblePhoneNumber(phone, code as CountryCode))
      fields.push({ path, expected: 'a telephone number with its area code, or with + and the code of its country' });
  const [first] = fields;
  if (!first) return;
  const what = first.path.endsWith('.state')
    ? `${state?.label ?? ''}: expected ${first.expected}`
    : first.path.endsWith('.postcode')
      ? `${postcode.label}: expected ${first.expected}`
      : `${now.phones[first.path]} is no telephone number of the ${name}: expected ${first.expected}`;
  throw invalid(`${what}.`, fields);
}
