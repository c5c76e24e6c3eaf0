import type { PayItem, PayItemKind } from '../pay-items/pay-item';
import type { CountryPack } from '../rules/country-pack';
import { countsOf } from '../rules/country-pack';
import { whatOf } from '../ledger/codes';
import type { Filing } from './filing';

/** A box of people's statements, as what is posted makes it. */
export interface BoxRule {
  box: string;
  label: string;
  /** Ledger codes that it is the sum of; of places, the code without its place. */
  codes: readonly string[];
  /** What an item counts for to be in it, where that is not what is posted: a tax posts its base after its ceiling. */
  bases?: readonly string[];
  /** Items of these kinds are in it, whatever they count for. */
  kinds?: readonly PayItemKind[];
  /** Always printed, even when zero. */
  always?: true;
  /** The first year whose form has it. */
  since?: number;
}

/** A box that an item can be put into by itself, beside what its tax treatment does. */
export interface ItemBox {
  box: string;
  label: string;
  for: readonly PayItemKind[];
  /** It carries words of the employer's own. */
  words?: true;
  since?: number;
}

/** Something on a statement that is marked or written by hand, for one person. */
export interface MarkRule {
  box: string;
  label: string;
  kind: 'yes-no' | 'text';
  help: string;
}

/** Where an employer has put an item. In no box on purpose: `filing` and `box` are empty. */
export interface ItemInBox {
  /** The item's code, under which it is posted. */
  code: string;
  filing: string;
  box: string;
  /** Words that the box carries; empty where it has none of its own. */
  label: string;
}

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
