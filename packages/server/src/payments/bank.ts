/** What a bank is to Woodruff: it takes files, and it gives statements. A stand-in or a real connection may stand behind it. */
export interface Bank {
  /** The same file again gets the same answer, and pays nothing twice. */
  submit(file: BankFile): Promise<{ taken: true } | { taken: false; faults: { line: number; column: number; what: string }[] }>;
  /** Statements of the days with movements (ISO 20022, camt.053), earliest first. */
  statements(account: BankAccount, from: string, to: string): Promise<string[]>;
}

export interface BankFile {
  name: string;
  content: string;
  /** The day on which it is handed in. */
  on: string;
  /** The time of day, such as 14:30. */
  at: string;
}

export interface BankAccount {
  bank: string;
  account: string;
  currency: string;
}
