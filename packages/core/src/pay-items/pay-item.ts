/** What a pay item is on a payslip. */
export const PAY_ITEM_KINDS = ['earning', 'reimbursement', 'benefit-in-kind', 'deduction', 'employer-contribution'] as const;
export type PayItemKind = (typeof PAY_ITEM_KINDS)[number];

/** What a per cent is taken of. Net is what is left when the item's turn comes; items are sums of their lines on this payslip. */
export type PercentOf = 'gross' | 'taxable' | 'disposable' | 'net' | { items: string[] };

/** One step of a match: what is put in, up to so much per cent of pay or up to an amount a payslip, is matched at so much per cent. */
export interface MatchTier {
  /** Percentage of the base up to which this tier reaches; give this or `upToAmount`. */
  upTo?: string;
  upToAmount?: string;
  /** Percentage of what the employee puts in within this tier. */
  match: string;
}

/** A row of an employer's own table: from this age, or from this much gross pay, so much. */
export interface TableRow {
  from: string;
  amount: string;
}

/** How an item's amount is calculated. Decimals are texts; amounts are in the currency's major unit. */
export type Method =
  | { by: 'salary' }
  | { by: 'hours'; multiple: string }
  /** The person's amount for each piece entered for the payslip. */
  | { by: 'pieces' }
  | { by: 'amount' }
  | { by: 'percent'; of: PercentOf }
  /** The person's amount for every hour paid, or for those of some items only. */
  | { by: 'per-hour'; items?: string[] }
  | { by: 'match'; of: string; on?: PercentOf; tiers: MatchTier[] }
  /** The employer's own table by the age reached in the year or by gross pay. */
  | { by: 'table'; over: 'age' | 'gross'; rows: TableRow[] }
  /** A statutory table; the person's amount is what it is looked up for (for example the cover). */
  | { by: 'published-table'; table: string };

/** On which payslips an item stands; without it on every one. All that is given must hold. */
export interface When {
  /** Counted in the month of the pay date, 1 for the first; `last` for the month's last pay date. */
  paysOfMonth?: (number | 'last')[];
  /** Months of the pay date, 1 to 12. */
  months?: number[];
  /** Every so-many-th pay date of the year, beginning with the `first`. */
  every?: { pays: number; first: number };
  regularRunsOnly?: boolean;
}

/** Caps of an item. A person's own cap, where there is one, stands in place of the item's. */
export interface Limits {
  perPayslip?: string;
  /** Over all payslips of one pay period. */
  perPeriod?: string;
  perMonth?: string;
  perQuarter?: string;
  perYear?: string;
  /** A sum after which the item ends: a savings target, a debt paid off, a lifetime's cap. */
  inAll?: string;
}

/** Where what is taken or owed goes, for payments and posting; it changes no figure. */
export interface Destination {
  payee?: string;
  /** Case, policy or member number under which the payee knows the payment. */
  reference?: string;
  liabilityAccount?: string;
  expenseAccount?: string;
  /** Left off the payslip that the employee sees (never off the totals). */
  hidden?: boolean;
}

/** What happens when pay does not cover a deduction. */
export type Shortfall = 'skip' | 'take-part' | 'carry-forward';

/** Facts of a court order. Beside those that orders have everywhere, what its treatment asks for (`Treatment.asks`). */
export interface OrderFacts {
  /** Case number. */
  reference?: string;
  /** What it takes each pay for arrears, beside the current amount that the item's is. */
  arrears?: string;
  /** What the employer may keep for each payment, taken beside the order. */
  fee?: string;
  [asked: string]: string | boolean | undefined;
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
  when?: When;
  goes?: Destination;
  /** Bases for which it counts otherwise than its treatment says: 1 adds, −1 lowers, 0 leaves alone. */
  countsInstead?: Record<string, 1 | -1 | 0>;
  /** Paid once, it belongs to the regular rate of overtime in the weeks it is paid for. */
  regularRate?: boolean;
}

/** An item as it stands on one payslip: the employer's item and the person's own values. */
export interface ItemOnPayslip {
  item: PayItem;
  amount?: string;
  percent?: string;
  /** Pieces, for an item paid by the piece. */
  quantity?: string;
  limits?: Limits;
  orderFacts?: OrderFacts;
  /** What earlier payslips could not take. */
  carried?: string;
  /** Overridden for this payslip only, in place of what its method would give and of what was carried; limits hold. */
  once?: { amount: string; note?: string };
  /** Key of its figure where the same item stands on the payslip twice. */
  figure?: string;
  /** Identifies the person's recurring item, for links back to it. */
  id?: string;
}
