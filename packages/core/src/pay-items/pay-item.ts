/** What a pay item is on a payslip. */
export const PAY_ITEM_KINDS = ['earning', 'reimbursement', 'benefit-in-kind', 'deduction', 'employer-contribution'] as const;
export type PayItemKind = (typeof PAY_ITEM_KINDS)[number];

/** One step of a match: what is put in up to so much per cent of pay is matched at so much per cent. */
export interface MatchTier {
  /** Per cent of pay up to which this tier reaches. */
  upTo: string;
  /** Per cent of what the employee puts in within this tier. */
  match: string;
}

/** How an item's amount is worked out. Decimals are texts; amounts are in the currency's major unit. */
export type Method =
  | { by: 'salary' }
  | { by: 'hours'; multiple: string }
  | { by: 'amount' }
  | { by: 'percent'; of: 'gross' }
  | { by: 'match'; of: string; tiers: MatchTier[] };

/** Caps of an item. A person's own cap, where there is one, stands in place of the item's. */
export interface Limits {
  perPayslip?: string;
  perYear?: string;
  /** A sum after which the item ends: a savings target, or a debt paid off. */
  inAll?: string;
}

/** What happens when pay does not cover a deduction. */
export type Shortfall = 'skip' | 'take-part' | 'carry-forward';

/** Facts of a court order that its limit depends on; which ones matter is the country pack's. */
export interface OrderFacts {
  reference?: string;
  supportsOthers?: boolean;
  arrearsOver12Weeks?: boolean;
}

/** A pay item as the employer has set it up. */
export interface PayItem {
  code: string;
  name: string;
  kind: PayItemKind;
  /** A treatment of the country's pack: which taxes and bases it counts for. */
  treatment: string;
  method: Method;
  limits?: Limits;
  /** Smaller is taken first. */
  order: number;
  shortfall?: Shortfall;
}

/** An item as it stands on one payslip: the employer's item and the person's own values. */
export interface ItemOnPayslip {
  item: PayItem;
  amount?: string;
  percent?: string;
  limits?: Limits;
  orderFacts?: OrderFacts;
  /** What earlier payslips could not take. */
  carried?: string;
  /** Key of its figure where the same item stands on the payslip twice. */
  figure?: string;
  /** Identifies the person's recurring item, for links back to it. */
  id?: string;
}
