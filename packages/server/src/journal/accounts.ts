import { capitalized, type PayItem } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { owedBy } from '../remittances/owed';
import type { Scope } from '../scope';

export type Side = 'expense' | 'liability' | 'bank';

interface Rule {
  side: Side;
  code: string;
  department: string;
  worksite: string;
  job: string;
  group: string;
  account: string;
}

/** What is looked for: a code of the ledger or of a payee, where the work is done. */
export interface Place {
  side: Side;
  code: string;
  department?: string;
  worksite?: string;
  job?: string;
  group?: string;
}

/** Where something is posted, and why there. */
export interface Found {
  account: string;
  from: 'rule' | 'item' | 'employer' | 'none';
}

/** Finds the account for what is posted: the most specific rule, then the item's own, then the employer's for all of the kind. */
export interface Accounts {
  find(place: Place, kind: string): Found;
  /** Where what a payee is owed stands: that of its rule, else of the items owed to it. */
  owedTo(owed: string): string;
  /** The payee to whom a code is owed. */
  owedOf(code: string): { owed: string; payee: string } | undefined;
}

/** What the books post beside items and taxes; no item's code has a colon. */
export const BOOKS = { accrued: 'books:accrued', leave: 'books:leave' } as const;

const MISSING: Record<string, string> = {
  earning: 'wages',
  reimbursement: 'reimbursements',
  tax: 'taxes owed',
  'employer-tax': 'employer taxes',
  'employer-contribution': 'contributions',
  'deduction-before-tax': 'deductions',
  'deduction-after-tax': 'deductions',
  net: 'net pay owed',
  accrued: 'accrued pay',
  leave: 'leave owed',
  'leave-cost': 'leave',
  bank: 'bank',
};

/** Under this nothing is lost: what has no account stands in one that says so. */
export const notMapped = (kind: string): string => `${capitalized(MISSING[kind] ?? kind)} (no account)`;

export async function accountsOf(scope: Scope, transaction?: Transaction): Promise<Accounts> {
  const rules = await select<Rule>(
    scope.database,
    'select side, code, department, worksite, job, pay_group as "group", account from journal_accounts where employer_id = :employer',
    { employer: scope.employer.id },
    transaction,
  );
  const items = new Map(
    (
      await select<{ definition: PayItem }>(
        scope.database,
        'select definition from pay_items where employer_id = :employer',
        { employer: scope.employer.id },
        transaction,
      )
    ).map(({ definition }) => [definition.code, definition]),
  );
  const payees = await owedBy(scope);
  const owed = new Map(payees.flatMap(({ code, payee, codes }) => codes.map((one) => [one, { owed: code, payee }] as const)));
  const { accounts } = scope.employer.facts;
  const general = (side: Side, kind: string): string => {
    if (side === 'bank') return accounts.bank;
    if (['accrued', 'leave', 'leave-cost'].includes(kind)) return '';
    if (kind === 'net') return accounts.netPay;
    if (side === 'liability') return kind === 'tax' || kind === 'employer-tax' ? accounts.taxes : accounts.deductions;
    if (kind === 'employer-tax') return accounts.employerTaxes;
    if (kind === 'employer-contribution') return accounts.contributions || accounts.employerTaxes;
    return kind === 'reimbursement' ? accounts.reimbursements : accounts.wages;
  };
  const find = ({ side, code, department = '', worksite = '', job = '', group = '' }: Place, kind: string): Found => {
    const fits = rules
      .filter(
        (rule) =>
          rule.side === side &&
          (rule.code === '' || rule.code === code) &&
          (rule.department === '' || rule.department === department) &&
          (rule.worksite === '' || rule.worksite === worksite) &&
          (rule.job === '' || rule.job === job) &&
          (rule.group === '' || rule.group === group),
      )
      // By what is posted, then by position, department, group and worksite: the more that is said the closer it is.
      .sort((a, b) => weight(b) - weight(a));
    if (fits[0]) return { account: fits[0].account, from: 'rule' };
    const goes = items.get(code)?.goes;
    const own = side === 'expense' ? goes?.expenseAccount : side === 'liability' ? goes?.liabilityAccount : undefined;
    if (own) return { account: own, from: 'item' };
    const all = general(side, kind);
    return all ? { account: all, from: 'employer' } : { account: notMapped(side === 'bank' ? 'bank' : kind), from: 'none' };
  };
  return {
    find,
    owedTo(one) {
      const kind = one.startsWith('payee:') ? 'deduction-after-tax' : 'tax';
      const rule = find({ side: 'liability', code: one }, kind);
      if (rule.from === 'rule') return rule.account;
      const codes = payees.find(({ code }) => code === one)?.codes ?? [];
      return codes.map((code) => find({ side: 'liability', code }, kind)).find(({ from }) => from === 'item')?.account ?? rule.account;
    },
    owedOf: (code) => owed.get(code),
  };
}

const weight = (rule: Rule): number =>
  (rule.code ? 16 : 0) + (rule.job ? 8 : 0) + (rule.department ? 4 : 0) + (rule.group ? 2 : 0) + (rule.worksite ? 1 : 0);

/** Accounts that keep what they found, by what was looked for; and find again what was kept before. */
export function remembering(accounts: Accounts, kept: ReadonlyMap<string, string>): Accounts & { found: ReadonlyMap<string, string> } {
  const found = new Map<string, string>();
  const looked = (key: string, look: () => string): string => {
    const known = kept.get(key) ?? found.get(key);
    if (known !== undefined) return known;
    const account = look();
    found.set(key, account);
    return account;
  };
  return {
    ...accounts,
    found,
    find(place, kind) {
      const { side, code, department = '', worksite = '', job = '', group = '' } = place;
      const key = JSON.stringify([side, kind, code, department, worksite, job, group]);
      return { account: looked(key, () => accounts.find(place, kind).account), from: 'rule' };
    },
    owedTo: (owed) => looked(JSON.stringify(['owed', owed]), () => accounts.owedTo(owed)),
  };
}
