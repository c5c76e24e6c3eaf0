import { CannotCompute, type CountryPack } from './country-pack';
import { unitedKingdom } from './uk/pack';
import { unitedStates } from './us/pack';

const PACKS: Readonly<Record<string, CountryPack>> = {
  US: unitedStates,
  UK: unitedKingdom,
};

/** The rules of a country. Throws CannotCompute `no-country` for one that has no pack. */
export function packOf(country: string): CountryPack {
  const pack = PACKS[country];
  if (!pack)
    throw new CannotCompute('no-country', `There are no rules for the country "${country}". Known: ${Object.keys(PACKS).join(', ')}.`);
  return pack;
}
