import { whatOf } from '../ledger/codes';
import type { PayItem } from '../pay-items/pay-item';
import { basesAt, countsOf, type Base, type CountryPack } from '../rules/country-pack';
import type { ItemBox } from './boxes';
import type { Filing } from './filing';

/** Where an item stands on the statements of one filing, and why. */
export interface ItemPlace {
  /** Boxes that its tax treatment puts it into. */
  byTreatment: { box: string; label: string; lowers: boolean }[];
  /** Why the law has it in no box; absent where it has not said so. */
  none?: string;
  /** Boxes that it can be put into. */
  offered: readonly ItemBox[];
}

/** Where an item of the employer stands on the statements of a filing. */
export function placeOfItem(
  pack: CountryPack,
  filing: Filing,
  item: Pick<PayItem, 'kind' | 'treatment' | 'countsInstead'>,
  places: readonly string[],
): ItemPlace {
  const { copies } = filing;
  if (!copies) return { byTreatment: [], offered: [] };
  const treatment = pack.treatments[item.treatment];
  const counts = { ...(treatment ? countsOf(pack, treatment, places) : {}), ...item.countsInstead };
  const signs = new Map(Object.entries(counts).map(([base, sign]) => [whatOf(base), sign]));
  const none = copies.noBox?.[item.treatment];
  return {
    byTreatment: copies.boxes.flatMap(({ box, label, codes, bases, kinds }) => {
      const sign = kinds ? Number(kinds.includes(item.kind)) : (bases ?? codes).map((code) => signs.get(code)).find(Boolean);
      return sign ? [{ box, label, lowers: sign < 0 }] : [];
    }),
    ...(none ? { none } : {}),
    offered: copies.itemBoxes?.filter((one) => one.for.includes(item.kind)) ?? [],
  };
}

/**
 * What another treatment of an item changes on the statements of a year: bases shown just as payslips post them, whose sums
 * can be moved, and boxes that taxes work out, whose sums cannot.
 */
export function statedBases(
  pack: CountryPack,
  filings: readonly Filing[],
  places: readonly string[],
): { posted: Base[]; workedOut: { label: string; bases: readonly string[] }[] } {
  const boxes = filings.filter(({ every }) => every === 'year').flatMap(({ copies }) => copies?.boxes ?? []);
  const stated = new Set(boxes.filter(({ bases }) => !bases).flatMap(({ codes }) => codes));
  const ofTax = new Set(pack.bases.filter(({ byTax }) => byTax).map(({ code }) => code));
  return {
    posted: basesAt(pack, places).filter(({ code, byTax, place }) => !byTax && place === undefined && stated.has(code)),
    workedOut: boxes.flatMap(({ label, bases, codes }) => {
      const from = bases ?? codes.filter((code) => ofTax.has(code));
      return from.length ? [{ label, bases: from }] : [];
    }),
  };
}

/** What posted sums of an item come to for a base; its own adjustment goes before its treatment. */
export function countedFor(
  pack: CountryPack,
  item: Pick<PayItem, 'treatment' | 'countsInstead'>,
  base: string,
  places: readonly string[],
): 1 | -1 | 0 {
  const treatment = pack.treatments[item.treatment];
  return item.countsInstead?.[base] ?? (treatment ? (countsOf(pack, treatment, places)[base] ?? 0) : 0);
}
