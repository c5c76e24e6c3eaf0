import { createRequire } from 'node:module';

type LookUp = (code: string) => { city: string; state: string } | undefined;
let lookUp: LookUp | undefined;

/** City and state of a postcode from the packaged data set, which is read when it is first asked for; empty when unknown. */
export function placeOf(code: string): { city: string; state: string } {
  lookUp ??= (createRequire(import.meta.url)('zipcodes') as { lookup: LookUp }).lookup;
  const found = lookUp(code);
  return { city: found?.city ?? '', state: found?.state ?? '' };
}
