import { packOf, periodOfFiling, type Sender } from '@woodruff/core';

const ADDRESS = { line1: '1 Test Lane', line2: '', city: 'Corbel Falls', state: 'PA', postcode: '17999' };

/** Wage statements of two people, as the product writes them. */
export function efw2Sample(): string {
  const employer = { federalNumber: '98-7654321', submitterId: 'TEST0001', states: { PA: { unemploymentRate: '2.1' } } };
  const formW2 = packOf('US')
    .filings(employer)
    .find(({ code }) => code === 'w-2')!;
  const period = periodOfFiling(formW2, '2026')!;
  const sums = (wages: number) => ({
    'us.fit.wages': wages,
    'us.fit': Math.round(wages * 0.1),
    'us.oasdi.wages': wages,
    'us.oasdi': Math.round(wages * 0.062),
    'us.medicare.wages': wages,
    'us.medicare': Math.round(wages * 0.0145),
    'us.state-income.wages@US-PA': wages,
    'us.state-income@US-PA': Math.round(wages * 0.0307),
  });
  const one = { name: '', shared: false, address: true, details: {}, marked: {} };
  const people = [
    { ...one, personId: 'one', givenName: 'Ines', familyName: 'Halloway', number: '213456789', sums: sums(5_200_000) },
    { ...one, personId: 'two', givenName: 'Ada', familyName: 'Kiln', number: '214456789', sums: sums(6_100_000) },
  ];
  const made = formW2.make({
    period,
    days: [],
    people,
    headcounts: [],
    gross: 0,
    byPlace: {},
    reckoned: {},
    earlier: { days: [], deposits: [] },
    employer,
    paid: 0,
    entered: {},
    items: [],
    filed: {},
  });
  const sender: Sender = {
    name: 'Test works',
    number: '98-7654321',
    address: ADDRESS,
    contact: { name: 'A. Signatory', email: 'a@example.test', phone: '570-555-0101' },
    employer,
    amends: false,
    latest: true,
    people: new Map(
      people.map(({ personId, givenName, familyName, number }) => [personId, { number, givenName, familyName, address: ADDRESS }]),
    ),
    kind: '',
    known: new Map(),
  };
  return formW2.file!.write({ period, ...made }, sender);
}
