import type { SupportFacts } from '@woodruff/core';
import { select, type Transaction } from '../database/connection';
import { invalid } from '../errors';
import { packFor, type Scope } from '../scope';
import { theVault } from '../vault/vault';

/** Where payments to payees of a batch go, sealed for each: the account on the payee's page, and what a support agency wants to know. */
export async function remittanceDestinations(
  scope: Scope,
  batch: string,
  transaction: Transaction,
): Promise<{ id: string; sealed: string }[]> {
  const rows = await select<{
    id: string;
    purpose: string;
    amount: number;
    payee: string;
    upTo: string;
    payeeId: string | null;
    bank: string | null;
    account: Buffer | null;
    personId: string | null;
    name: string | null;
    number: Buffer | null;
    left: boolean;
    caseNumber: string | null;
  }>(
    scope.database,
    `select t.id, t.purpose, t.amount, t.payee, m.up_to as "upTo", e.id as "payeeId", e.bank, e.account_sealed as account, p.id as "personId", p.family_name || ', ' || p.given_name as name, p.number_sealed as number,
            coalesce(p.left <= m.on_day, false) as left, t.label as "caseNumber"
     from transfers t join remittances m on m.id = t.remittance_id left join payees e on e.employer_id = t.employer_id and e.name = m.payee left join people p on p.id = t.person_id
     where t.batch_id = :batch and t.method = 'file'`,
    { batch },
    transaction,
  );
  return rows.map((row) => {
    if (!row.payeeId || !row.account)
      throw invalid(`${row.payee} has no account on file. Enter it on the payee’s page, or pay by ${packFor(scope).words.cheque}.`);
    const support: SupportFacts | undefined =
      row.purpose === 'support' && row.personId
        ? {
            caseNumber: row.caseNumber ?? '',
            payDate: row.upTo,
            number: row.number ? (theVault().openIfOf(row.number, `number:${row.personId}`) ?? '') : '',
            name: row.name ?? '',
            ended: row.left,
          }
        : undefined;
    if (support && (!support.caseNumber || !support.number))
      throw invalid(
        `${row.name ?? 'Somebody'}: a support payment by file wants the case number of the order and the national number. Enter what is missing.`,
      );
    const destination = {
      bank: row.bank ?? '',
      account: theVault().open(row.account, `payee:${row.payeeId}`),
      kind: 'checking',
      amount: row.amount,
      ...(support ? { support } : {}),
    };
    return { id: row.id, sealed: theVault().seal(JSON.stringify(destination), `transfer:${row.id}`).toString('base64') };
  });
}
