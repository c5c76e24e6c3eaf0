import type { AccountMap, Journal, ParsedBodyOf, ParsedQueryOf } from '@woodruff/contract';
import { decimalOf } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { invalid } from '../errors';
import { csvOf, workbookOf } from '../files/write';
import { payingAccounts } from '../employers/paying-accounts';
import { owedBy } from '../remittances/owed';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { accountsOf, BOOKS } from './accounts';

/** Entries of a range, this tax year's where none is asked for, latest first. */
export async function journalOf(scope: Scope, asked: ParsedQueryOf<'journal'>): Promise<Journal> {
  const from = asked.from ?? packFor(scope).taxYearOf(scope.employer.today).from;
  const to = asked.to ?? '2199-12-31';
  const entries = await select<Journal['entries'][number]>(
    scope.database,
    `select e.id, e.on_day as "on", e.kind, e.words, e.source_id as "sourceId", l.debit, l.lines
     from journal_entries e join lateral (select coalesce(sum(amount) filter (where amount > 0), 0)::bigint as debit,
       json_agg(json_build_object('account', account, 'side', side, 'amount', amount, 'words', words, 'department', department, 'owed', owed, 'payslipId', payslip_id) order by amount < 0, abs(amount) desc, account) as lines
       from journal_lines where entry_id = e.id) l on true
     where e.employer_id = :employer and e.on_day between :from and :to and l.lines is not null order by e.on_day desc, e.id desc`,
    { employer: scope.employer.id, from, to },
  );
  const sums = new Map<string, Journal['accounts'][number]>();
  for (const { account, side, amount } of entries.flatMap(({ lines }) => lines)) {
    const sum = sums.get(account) ?? { account, side, debit: 0, credit: 0 };
    if (amount > 0) sum.debit += amount;
    else sum.credit -= amount;
    sums.set(account, sum);
  }
  return {
    from,
    to: asked.to ?? scope.employer.today,
    entries,
    accounts: [...sums.values()].sort((a, b) => (a.account < b.account ? -1 : 1)),
  };
}

/** The journal in an open format: a row for each line, or plain-text accounting as hledger, ledger and beancount read it. */
export async function journalFile(
  scope: Scope,
  { format, ...range }: ParsedQueryOf<'journalFile'>,
): Promise<{ name: string; content: Buffer }> {
  const { entries } = await journalOf(scope, range);
  const inOrder = [...entries].reverse();
  if (format === 'json')
    return { name: 'journal.json', content: Buffer.from(JSON.stringify({ format: 'woodruff.journal/1', entries: inOrder }, null, 2)) };
  if (format === 'ledger') return { name: 'journal.ledger', content: Buffer.from(plainText(inOrder, packFor(scope).currency)) };
  const head = ['entry', 'date', 'account', 'debit', 'credit', 'description', 'department', 'entry description'];
  const rows = inOrder.flatMap(({ id, on, words, lines }) =>
    lines.map((line) => [
      String(id),
      on,
      line.account,
      line.amount > 0 ? decimalOf(line.amount) : '',
      line.amount < 0 ? decimalOf(-line.amount) : '',
      line.words,
      line.department,
      words,
    ]),
  );
  if (format === 'csv') return { name: 'journal.csv', content: Buffer.from(csvOf([head, ...rows])) };
  return {
    name: 'journal.xlsx',
    content: await workbookOf({
      name: 'Journal',
      rows: [head, ...rows],
      frozen: { columns: 0, rows: 1 },
      bold: [1],
      widths: [8, 12, 24, 14, 14, 34, 20, 34],
    }),
  };
}

const ROOT = { expense: 'Expenses', liability: 'Liabilities', bank: 'Assets' } as const;

/** Letters, figures and hyphens, beginning with a capital or a figure: what all three programs take for a part of an account. */
const part = (text: string): string => {
  const plain = text
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .replace(/[^A-Za-z0-9]+/g, '-')
    .replace(/^-|-$/g, '');
  return plain.charAt(0).toUpperCase() + plain.slice(1) || 'None';
};

export function plainText(entries: Journal['entries'], currency: string): string {
  return entries
    .map(({ on, words, lines }) =>
      [
        `${on} * "${words.replaceAll('"', "'")}"`,
        ...lines.map(({ side, account, department, amount }) => {
          const name = [ROOT[side], part(account), ...(department ? [part(department)] : [])].join(':');
          return `  ${name}  ${decimalOf(amount)} ${currency}`;
        }),
      ].join('\n'),
    )
    .join('\n\n')
    .concat('\n');
}

/** Where everything that is posted goes: pay items and taxes of the ledger, and whom they are owed to. */
export async function accountMap(scope: Scope): Promise<AccountMap> {
  const { facts } = scope.employer;
  const groups = await select<{ name: string }>(scope.database, 'select name from pay_groups where employer_id = :employer order by name', {
    employer: scope.employer.id,
  });
  const accounts = await accountsOf(scope);
  const posted = await select<{ kind: string; code: string; label: string }>(
    scope.database,
    `select kind, code, min(label) as label from ledger_lines where employer_id = :employer and kind in ('earning', 'reimbursement', 'employer-tax', 'employer-contribution', 'tax', 'deduction-before-tax', 'deduction-after-tax')
     and pay_date >= cast(:today as date) - 120 group by 1, 2 order by 1, 3`,
    { employer: scope.employer.id, today: scope.employer.today },
  );
  const targets: AccountMap['targets'] = [];
  for (const { kind, code, label } of posted) {
    if (['earning', 'reimbursement', 'employer-tax', 'employer-contribution'].includes(kind))
      targets.push({ side: 'expense', code, label, ...accounts.find({ side: 'expense', code }, kind) });
    if (kind !== 'earning' && kind !== 'reimbursement' && !accounts.owedOf(code))
      targets.push({ side: 'liability', code, label, ...accounts.find({ side: 'liability', code }, kind) });
  }
  for (const { code, payee } of await owedBy(scope)) {
    const account = accounts.owedTo(code);
    const { from } = accounts.find({ side: 'liability', code }, 'tax');
    targets.push({
      side: 'liability',
      code,
      label: `Owed to ${payee}`,
      account,
      from: account.endsWith('(no account)') ? 'none' : from === 'rule' ? 'rule' : code.startsWith('payee:') ? 'item' : 'employer',
    });
  }
  targets.push({ side: 'liability', code: 'net', label: 'Net pay owed', ...accounts.find({ side: 'liability', code: 'net' }, 'net') });
  if (facts.accruals === 'month')
    targets.push({
      side: 'liability',
      code: BOOKS.accrued,
      label: 'Accrued pay',
      ...accounts.find({ side: 'liability', code: BOOKS.accrued }, 'accrued'),
    });
  if (facts.leaveOwed) {
    targets.push({
      side: 'liability',
      code: BOOKS.leave,
      label: 'Leave owed',
      ...accounts.find({ side: 'liability', code: BOOKS.leave }, 'leave'),
    });
    targets.push({
      side: 'expense',
      code: BOOKS.leave,
      label: 'Leave owed',
      ...accounts.find({ side: 'expense', code: BOOKS.leave }, 'leave-cost'),
    });
  }
  for (const { id, name, last4 } of await payingAccounts(scope))
    targets.push({
      side: 'bank',
      code: id ?? '',
      label: id ? `Bank, ${name} ending ${last4}` : 'Bank',
      ...accounts.find({ side: 'bank', code: id ?? '' }, 'bank'),
    });
  const rules = await select<AccountMap['rules'][number]>(
    scope.database,
    'select side, code, department, worksite, job, pay_group as "group", account from journal_accounts where employer_id = :employer order by side, code, job, department, pay_group, worksite',
    { employer: scope.employer.id },
  );
  return {
    by: facts.journalBy,
    accruals: facts.accruals,
    leaveOwed: facts.leaveOwed,
    departments: facts.departments,
    worksites: facts.worksites.map(({ name }) => name),
    jobs: facts.jobs,
    groups: groups.map(({ name }) => name),
    targets,
    rules,
    missing: targets.filter(({ from }) => from === 'none').length,
  };
}

/** Changes where something is posted, for what is posted from then on. What is posted stays where it is. */
export async function setAccountRule(scope: Scope, rule: ParsedBodyOf<'setAccountRule'>): Promise<Record<string, never>> {
  if (rule.account.includes('\n') || /\s{2}/.test(rule.account))
    throw invalid('An account is a number or a name on one line.', [{ path: 'account', expected: 'such as 6010 or 6010 Wages' }]);
  return changing(scope, async (transaction) => {
    const { account, ...key } = rule;
    const values = { employer: scope.employer.id, ...key };
    if (account)
      await execute(
        scope.database,
        `insert into journal_accounts (employer_id, side, code, department, worksite, job, pay_group, account) values (:employer, :side, :code, :department, :worksite, :job, :group, :account)
         on conflict (employer_id, side, code, department, worksite, job, pay_group) do update set account = excluded.account returning side`,
        { ...values, account },
        transaction,
      );
    else
      await execute(
        scope.database,
        'delete from journal_accounts where employer_id = :employer and side = :side and code = :code and department = :department and worksite = :worksite and job = :job and pay_group = :group returning side',
        values,
        transaction,
      );
    const where = [rule.code || `every ${rule.side}`, rule.job, rule.department, rule.group, rule.worksite].filter(Boolean).join(', ');
    await record(
      scope,
      {
        action: 'account',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: account ? `${where} is posted to ${account} from now on` : `${where} has no account of its own any more`,
      },
      transaction,
    );
    return {};
  });
}

/** How fine the journal is posted from now on, and whether a month's end is accrued. What is posted stays as it is. */
export async function setJournal(scope: Scope, { by, accruals, leaveOwed }: ParsedBodyOf<'setJournal'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    await execute(
      scope.database,
      'update employers set facts = facts || cast(:settings as jsonb), version = version + 1 where id = :id',
      { id: scope.employer.id, settings: JSON.stringify({ journalBy: by, accruals, leaveOwed }) },
      transaction,
    );
    const fine = { run: 'each run in total', 'pay-date': 'each pay date', payslip: 'each payslip' }[by];
    await record(
      scope,
      {
        action: 'account',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `The journal is posted by ${fine}${accruals === 'month' ? ", a month's end is accrued" : ''}${leaveOwed ? ' with leave owed' : ''}`,
      },
      transaction,
    );
    return {};
  });
}
