import type { AnswerOf, ParsedBodyOf, Payees, PayeeView } from '@woodruff/contract';
import { minorOf, written, writtenDate, type DueRule } from '@woodruff/core';
import { record } from '../audit/audit';
import { execute, select, type Transaction } from '../database/connection';
import { ownPaying, payingAccounts } from '../employers/paying-accounts';
import { conflict, invalid, notFound } from '../errors';
import { postRemittance } from '../journal/post-payments';
import { takeChequeNumbers } from '../pay-runs/posting/cheque-numbers';
import { packFor, type Scope } from '../scope';
import { changing } from '../users/changing';
import { theVault } from '../vault/vault';
import { tellAgencies, type AgencyPayments } from './agency';
import { obligationsOf, owedBy, sourceWords, type OwedTo } from './owed';

/** Everybody who is owed something, with what is left and by when. */
export async function payeesOf(scope: Scope): Promise<Payees> {
  const obligations = await obligationsOf(scope);
  const { today } = scope.employer;
  return (await owedBy(scope)).map(({ code, payee, what, rule }) => {
    const open = obligations.filter((one) => one.owed === code && one.left > 0);
    return {
      owed: code,
      payee,
      what,
      rule: rule ?? 'no rule of days is in: ask the payee',
      left: open.reduce((sum, { left }) => sum + left, 0),
      next: open[0]?.due ?? null,
      late: open.some(({ due }) => due < today),
    };
  });
}

interface PayeeRow {
  id: string;
  address: Partial<PayeeView['address']>;
  method: PayeeView['method'];
  bank: string;
  last4: string;
  rule: DueRule | null;
  payingAccountId: string | null;
  version: number;
}

async function found(scope: Scope, code: string): Promise<OwedTo> {
  const owed = (await owedBy(scope)).find((one) => one.code === code);
  if (!owed) throw notFound('payee');
  return owed;
}

const rowOf = async (scope: Scope, name: string, transaction?: Transaction): Promise<PayeeRow | undefined> =>
  (
    await select<PayeeRow>(
      scope.database,
      `select id, address, method, bank, last4, rule, paying_account_id as "payingAccountId", version from payees where employer_id = :employer and name = :name ${transaction ? 'for update' : ''}`,
      { employer: scope.employer.id, name },
      transaction,
    )
  )[0];

export async function payeeView(scope: Scope, code: string): Promise<PayeeView> {
  const owed = await found(scope, code);
  const row = await rowOf(scope, owed.payee);
  return {
    owed: code,
    payee: owed.payee,
    what: owed.what,
    reference: owed.reference,
    rule: owed.rule ?? 'no rule of days is in: ask the payee',
    source: sourceWords(owed.source),
    chargesLate: owed.late !== undefined,
    ruleFixed: !code.startsWith('payee:') || owed.source !== undefined,
    agreed: row?.rule ?? null,
    method: row?.method ?? (code.startsWith('payee:') ? 'cheque' : 'agency'),
    bank: row?.bank ?? '',
    last4: row?.last4 ?? '',
    address: { line1: '', line2: '', city: '', state: '', postcode: '', ...row?.address },
    payingAccountId: row?.payingAccountId ?? null,
    accounts: (await payingAccounts(scope)).map(({ id, name, last4 }) => ({ id, name, last4 })),
    version: row?.version ?? 1,
    obligations: await obligationsOf(scope, code),
    cases: owed.byPerson ? await casesOf(scope, owed) : [],
    paid: await select<PayeeView['paid'][number]>(
      scope.database,
      `select m.id, m.due, m.on_day as "on", m.amount, m.method, m.reference, u.name as who, m.undone,
              coalesce((select json_agg(json_build_object('id', r.id, 'name', r.name) order by r.at) from remittance_receipts r where r.remittance_id = m.id), '[]') as receipts,
              m.undone is null and m.method <> 'agency' and not exists (select 1 from transfers t where t.remittance_id = m.id and t.batch_id is not null) as undoable
       from remittances m join users u on u.id = m.user_id where m.employer_id = :employer and m.owed = :code order by m.at desc limit 200`,
      { employer: scope.employer.id, code },
    ),
  };
}

/** What is open for each person of an order, with the case it belongs to. */
async function casesOf(scope: Scope, { code, codes }: OwedTo, due?: { from: string; upTo: string }): Promise<PayeeView['cases']> {
  return select(
    scope.database,
    `select p.id as "personId", p.given_name || ' ' || p.family_name as name, sum(l.amount)::bigint as amount,
            coalesce((select pi.order_facts->>'reference' from person_items pi join pay_items i on i.id = pi.item_id where pi.person_id = p.id and i.definition->>'code' in (:codes) and pi.order_facts->>'reference' is not null order by pi.from_date desc limit 1), '') as "caseNumber"
     from ledger_lines l join people p on p.id = l.person_id
     where l.employer_id = :employer and l.code in (:codes) and l.counts_on > coalesce(cast(:from as date), (select max(m.up_to) from remittances m where m.employer_id = :employer and m.owed = :code and m.undone is null), '-infinity')
       and l.counts_on <= coalesce(cast(:upTo as date), 'infinity') and not exists (select 1 from pay_runs r where r.id = l.run_id and r.kind in ('opening', 'adjustment'))
     group by p.id, p.given_name, p.family_name having sum(l.amount) > 0 order by p.family_name`,
    { employer: scope.employer.id, code, codes: [...codes], from: due?.from ?? null, upTo: due?.upTo ?? null },
  );
}

/** Where a payee is paid and by when, where that is agreed with it. */
export async function changePayee(scope: Scope, body: ParsedBodyOf<'changePayee'>): Promise<Record<string, never>> {
  const { bank } = packFor(scope);
  const owed = await found(scope, body.owed);
  const code = body.bank && bank.code.bare(body.bank);
  const account = body.account && bank.account.bare(body.account);
  if (code && !bank.code.isOne(code))
    throw invalid(`The ${bank.code.label.toLowerCase()} is mistyped: it has ${bank.code.expected}.`, [
      { path: 'bank', expected: bank.code.expected },
    ]);
  if (account && !bank.account.isOne(account))
    throw invalid(`The ${bank.account.label.toLowerCase()} is mistyped: it has ${bank.account.expected}.`, [
      { path: 'account', expected: bank.account.expected },
    ]);
  return changing(scope, async (transaction) => {
    const row = await rowOf(scope, owed.payee, transaction);
    if (row && row.version !== body.version)
      throw conflict('changed-meanwhile', 'Somebody else changed this payee meanwhile. Look at it again, then save.');
    if (body.method === 'file' && !(account || row?.last4))
      throw invalid('By file it goes to an account. Enter its number.', [{ path: 'account', expected: bank.account.expected }]);
    if (body.method === 'file' && !(code || row?.bank))
      throw invalid('By file it goes to an account. Enter the number of its bank.', [{ path: 'bank', expected: bank.code.expected }]);
    const [kept] = (await execute(
      scope.database,
      `insert into payees (employer_id, name, address, method, bank, last4, rule, paying_account_id) values (:employer, :name, :address, :method, :bank, :last4, cast(:rule as jsonb), :paying)
       on conflict (employer_id, name) do update set address = excluded.address, method = excluded.method, bank = case when excluded.bank = '' then payees.bank else excluded.bank end,
         last4 = case when excluded.last4 = '' then payees.last4 else excluded.last4 end, rule = excluded.rule, paying_account_id = excluded.paying_account_id, version = payees.version + 1 returning id`,
      {
        employer: scope.employer.id,
        name: owed.payee,
        address: JSON.stringify(body.address),
        method: body.method,
        bank: code,
        last4: account.slice(-4),
        rule: body.rule ? JSON.stringify(body.rule) : null,
        paying: await ownPaying(scope, body.payingAccountId),
      },
      transaction,
    )) as { id: string }[];
    if (account && kept)
      await execute(
        scope.database,
        'update payees set account_sealed = :sealed where id = :id',
        { id: kept.id, sealed: theVault().seal(account, `payee:${kept.id}`) },
        transaction,
      );
    await record(
      scope,
      {
        action: 'payee',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `${owed.payee}: paid by ${body.method === 'cheque' ? packFor(scope).words.cheque : body.method}${account ? `, account ending ${account.slice(-4)}` : ''}`,
      },
      transaction,
    );
    return {};
  });
}

/** Pays one obligation, several, or part of one: by the next batch, through the agency's own service, or as paid elsewhere. */
export async function remit(scope: Scope, body: ParsedBodyOf<'remit'>, agencies: AgencyPayments): Promise<AnswerOf<'remit'>> {
  const made = await order(scope, body);
  const answers = await tellAgencies(scope, agencies);
  return {
    payments: made.map(({ id, reference }) => {
      const answer = answers.get(id);
      return {
        id,
        confirmation: answer?.taken ? answer.confirmation : reference,
        refused: answer && !answer.taken ? answer.why : null,
      };
    }),
  };
}

/** Saves what is to be paid, and lets it wait for a batch or for the agency. */
export function order(scope: Scope, { payments }: ParsedBodyOf<'remit'>): Promise<{ id: string; reference: string }[]> {
  return changing(scope, async (transaction) => {
    const made: { id: string; reference: string }[] = [];
    for (const [index, payment] of payments.entries()) {
      const owed = await found(scope, payment.owed);
      const all = await obligationsOf(scope, payment.owed);
      const at = all.findIndex(({ due }) => due === payment.due);
      const obligation = all[at];
      if (!obligation)
        throw invalid(`Nothing is owed to ${owed.payee} on ${writtenDate(payment.due)}.`, [
          { path: `payments.${index}.due`, expected: 'a day on which something is due' },
        ]);
      const amount = payment.amount === undefined ? obligation.left : minorOf(payment.amount);
      if (amount <= 0) throw conflict('paid-already', `${owed.payee}, ${writtenDate(payment.due)}: nothing is left to be paid.`);
      if (amount > obligation.left)
        throw invalid(
          `${written(amount)} is more than the ${written(obligation.left)} that ${owed.payee} is still owed for ${writtenDate(payment.due)}.`,
          [{ path: `payments.${index}.amount`, expected: `at most ${written(obligation.left)}` }],
        );
      const on = payment.on ?? scope.employer.today;
      if (on > scope.employer.today && payment.method === 'elsewhere')
        throw invalid('What was paid elsewhere was paid on a day that has been.', [
          { path: `payments.${index}.on`, expected: 'today or earlier' },
        ]);
      if (payment.method === 'elsewhere' && !payment.reference)
        throw invalid('Say by which reference the payment is found where it was made.', [
          { path: `payments.${index}.reference`, expected: 'a reference' },
        ]);
      const reference = payment.method === 'agency' ? '' : payment.reference;
      const [row] = (await execute(
        scope.database,
        `insert into remittances (employer_id, owed, due, up_to, payee, what, amount, method, on_day, reference, about, taxpayer, user_id)
         values (:employer, :owed, :due, :upTo, :payee, :what, :amount, :method, :on, :reference, :about, :taxpayer, :user) returning id`,
        {
          employer: scope.employer.id,
          owed: owed.code,
          due: payment.due,
          upTo: obligation.upTo,
          payee: owed.payee,
          what: obligation.what,
          amount,
          method: payment.method,
          on,
          reference,
          taxpayer: owed.reference,
          about: [owed.reference, obligation.what].filter(Boolean).join(', '),
          user: scope.user.id,
        },
        transaction,
      )) as { id: string }[];
      if (!row) throw new Error('no remittance was made');
      if (payment.method === 'elsewhere')
        await postRemittance(scope, { id: row.id, owed: owed.code, payee: owed.payee, amount, on }, transaction);
      if (payment.method === 'file' || payment.method === 'cheque')
        await transfersFor(
          scope,
          owed,
          row.id,
          payment.method,
          amount,
          { obligation, before: all[at - 1]?.upTo ?? '1900-01-01' },
          transaction,
        );
      await record(
        scope,
        {
          action: 'remittance',
          subject: 'employer',
          subjectId: scope.employer.id,
          what: `${written(amount)} to ${owed.payee}, due ${writtenDate(payment.due)}: ${payment.method === 'elsewhere' ? 'paid elsewhere' : payment.method === 'agency' ? "through the agency's own service" : `by ${payment.method === 'cheque' ? packFor(scope).words.cheque : 'file'}`}${reference ? `, ${reference}` : ''}`,
        },
        transaction,
      );
      made.push({ id: row.id, reference });
    }
    return made;
  });
}

/** What goes out for a remittance: one payment, or one for each case of an order. */
async function transfersFor(
  scope: Scope,
  owed: OwedTo,
  remittance: string,
  method: 'file' | 'cheque',
  amount: number,
  { obligation, before }: { obligation: { amount: number; upTo: string }; before: string },
  transaction: Transaction,
): Promise<void> {
  const cases = owed.byPerson && method === 'file' ? await casesOf(scope, owed, { from: before, upTo: obligation.upTo }) : [];
  if (cases.length && cases.reduce((sum, one) => sum + one.amount, 0) !== amount)
    throw invalid(`${owed.payee} is paid by case. Pay all of what is left by file, or a part by ${packFor(scope).words.cheque}.`);
  const rows = cases.length
    ? cases.map(({ personId, caseNumber, amount: part }) => ({ personId, label: caseNumber, amount: part }))
    : [{ personId: null, label: owed.reference, amount }];
  for (const [part, row] of rows.entries()) {
    const number = method === 'cheque' ? await takeChequeNumbers(scope, 1, transaction) : null;
    await execute(
      scope.database,
      `insert into transfers (employer_id, remittance_id, person_id, part, method, purpose, amount, payee, label, cheque_number, user_id, paying_account_id)
       values (:employer, :remittance, :personId, :part, :method, :purpose, :amount, :payee, :label, :number, :user, (select paying_account_id from payees where employer_id = :employer and name = :payee)) returning id`,
      {
        employer: scope.employer.id,
        remittance,
        part,
        method,
        purpose: owed.purpose,
        payee: owed.payee,
        number,
        user: scope.user.id,
        ...row,
      },
      transaction,
    );
  }
}

/** Takes a payment back that was only recorded, or waits for a batch. */
export async function undoRemittance(scope: Scope, id: string, reason: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const [row] = await select<{ payee: string; owed: string; amount: number; method: string; undone: string | null; going: boolean }>(
      scope.database,
      `select m.payee, m.owed, m.amount, m.method, m.undone, exists (select 1 from transfers t where t.remittance_id = m.id and t.batch_id is not null) as going from remittances m where m.id = :id and m.employer_id = :employer for update of m`,
      { id, employer: scope.employer.id },
      transaction,
    );
    if (!row) throw notFound('payment');
    if (row.method === 'agency')
      throw conflict('sent', 'The payee has this payment. What was paid too much is a credit, used by the next one.');
    if (row.undone) throw conflict('undone-already', 'This payment was taken back already.');
    if (row.going) throw conflict('in-a-batch', 'This payment is in a batch. Drop the batch first; what is released cannot be taken back.');
    await execute(scope.database, 'delete from transfers where remittance_id = :id returning id', { id }, transaction);
    await execute(scope.database, 'update remittances set undone = :reason where id = :id', { id, reason }, transaction);
    if (row.method === 'elsewhere')
      await postRemittance(
        scope,
        { id, owed: row.owed, payee: row.payee, amount: row.amount, on: scope.employer.today, undone: true },
        transaction,
      );
    await record(
      scope,
      {
        action: 'remittance',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `${written(row.amount)} to ${row.payee} taken back: ${reason}`,
      },
      transaction,
    );
    return {};
  });
}
