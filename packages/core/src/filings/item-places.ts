import { whatOf } from '../ledger/codes';
import type { PayItem } from '../pay-items/pay-item';
import { countsOf, type CountryPack } from '../rules/country-pack';
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
