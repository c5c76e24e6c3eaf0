import { CannotCompute, type CountryPack } from './country-pack';
import { australia } from './AU/pack';
import { unitedKingdom } from './GB/pack';
import { unitedStates } from './US/pack';

/** What is looked up by a name that somebody sent has no names of its own beside it, as objects otherwise have. */
const bare = <T extends object>(table: T): T => Object.assign(Object.create(null) as T, table);
const isTable = (value: unknown): value is object =>
  typeof value === 'object' && value !== null && Object.getPrototypeOf(value) === Object.prototype;
const looked = (pack: CountryPack): CountryPack =>
  Object.fromEntries(
    Object.entries(pack).map(([key, value]: [string, unknown]) => [key, isTable(value) ? bare(value) : value]),
  ) as unknown as CountryPack;

const PACKS: Readonly<Record<string, CountryPack>> = bare({
  US: looked(unitedStates),
  GB: looked(unitedKingdom),
  AU: looked(australia),
});

/** The rules of a country. Throws CannotCompute `no-country` for one that has no pack. */
export function packOf(country: string): CountryPack {
  const pack = PACKS[country];
  if (!pack)
    throw new CannotCompute('no-country', `There are no rules for the country "${country}". Known: ${Object.keys(PACKS).join(', ')}.`);
  return pack;
}

/** Countries in which an employer can be set up. */
export const countriesToSetUp = (): readonly CountryPack[] => Object.values(PACKS).filter(({ whole }) => whole);
