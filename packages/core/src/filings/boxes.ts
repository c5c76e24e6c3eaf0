import type { PayItemKind } from '../pay-items/pay-item';

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
