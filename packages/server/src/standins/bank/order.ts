/** A file as the bank has read it: whose money, to whom, when. Nothing of it comes from anywhere but the file. */
export interface Order {
  payerBank: string;
  payerAccount: string | null;
  payments: { reference: string; name: string; bank: string; account: string; amount: number; effective: string }[];
}

export interface FileFault {
  line: number;
  column: number;
  what: string;
}

export type Read = { order: Order } | { faults: FileFault[] };
