import { setAgency } from '../standins/agencies/books';
import { EMPLOYER_FACTS, Workplace } from './workplace';

/** The agencies answer at once, once, and know everybody. */
export const CALM = { answersAfter: 0, doubles: false, loses: false, knownAs: '' };

/** A workplace with all that filing by file needs, under a number that no agency has seen before. */
export async function readyToFile(): Promise<Workplace> {
  const own = `9${String(Math.floor(Math.random() * 1e8)).padStart(8, '0')}`;
  const place = await Workplace.make({
    address: { line1: '1 Test Lane', line2: '', city: 'Corbel Falls', state: 'PA', postcode: '17999' },
    contact: { name: 'A. Signatory', email: 'a@example.test', phone: '570-555-0101' },
    country: {
      ...EMPLOYER_FACTS.country,
      federalNumber: `${own.slice(0, 2)}-${own.slice(2)}`,
      signerPin: '40117',
      submitterId: 'TEST0001',
    },
  });
  await setAgency(await place.scope(), CALM);
  return place;
}

/** A number for each of some people, all different. */
export const numbered = <T>(people: readonly T[]): { one: T; number: string }[] =>
  people.map((one, index) => {
    const written = String(213456001 + index);
    return { one, number: `${written.slice(0, 3)}-${written.slice(3, 5)}-${written.slice(5)}` };
  });
