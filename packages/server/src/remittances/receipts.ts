import type { ParsedBodyOf } from '@woodruff/contract';
import { execute, select } from '../database/connection';
import { invalid, notFound } from '../errors';
import type { Scope } from '../scope';
import { changing } from '../users/changing';

/** What a receipt can be, by how its content begins. */
const TYPES: { type: string; begins: string }[] = [
  { type: 'application/pdf', begins: '%PDF-' },
  { type: 'image/png', begins: '\x89PNG' },
  { type: 'image/jpeg', begins: '\xff\xd8\xff' },
];

/** Keeps a receipt with a payment to a payee; nothing is put over it later. */
export async function addReceipt(scope: Scope, remittance: string, { name, content }: ParsedBodyOf<'addReceipt'>): Promise<{ id: string }> {
  const bytes = Buffer.from(content, 'base64');
  const head = bytes.subarray(0, 8).toString('latin1');
  const type = TYPES.find(({ begins }) => head.startsWith(begins))?.type;
  if (!type) throw invalid('A receipt is a PDF, or a picture as PNG or JPEG.', [{ path: 'content', expected: 'PDF, PNG or JPEG' }]);
  return changing(scope, async (transaction) => {
    const [made] = (await execute(
      scope.database,
      `insert into remittance_receipts (remittance_id, name, type, content, user_id) select id, :name, :type, :bytes, :user from remittances where id = :remittance and employer_id = :employer returning id`,
      { remittance, employer: scope.employer.id, name, type, bytes, user: scope.user.id },
      transaction,
    )) as { id: string }[];
    if (!made) throw notFound('payment');
    return made;
  });
}

export async function receiptOf(scope: Scope, id: string): Promise<{ name: string; type: string; content: Buffer }> {
  const [row] = await select<{ name: string; type: string; content: Buffer }>(
    scope.database,
    'select r.name, r.type, r.content from remittance_receipts r join remittances m on m.id = r.remittance_id and m.employer_id = :employer where r.id = :id',
    { id, employer: scope.employer.id },
  );
  if (!row) throw notFound('receipt');
  return row;
}
