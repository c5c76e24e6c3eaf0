import type { Sender } from '../../../../filings/sender';

export const ADDRESS = { line1: '4 Kiln Row', line2: '', city: 'Corbel Falls', state: 'PA', postcode: '17001-2345' };

/** Who files in tests: one employer, and the people that are given. */
export const senderOf = (
  people: Record<string, { number: string; givenName: string; familyName: string }>,
  more: Partial<Sender> = {},
): Sender => ({
  name: 'Quillmere Glassworks',
  number: '00-1234567',
  address: ADDRESS,
  contact: { name: 'Bo', email: 'bo@quillmere.example', phone: '555-123-4567' },
  kind: '',
  employer: { federalNumber: '00-1234567' },
  amends: false,
  latest: true,
  people: new Map(Object.entries(people).map(([id, one]) => [id, { ...one, address: ADDRESS }])),
  known: new Map(),
  ...more,
});
