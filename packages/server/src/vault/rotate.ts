import { execute, select, type Database } from '../database/connection';
import { theVault } from './vault';

/** Where sealed values are, and what each is bound to. */
const SEALED: { table: string; column: string; of: (id: string) => string; fingerprint?: string }[] = [
  { table: 'people', column: 'number_sealed', of: (id) => `number:${id}`, fingerprint: 'number_fingerprint' },
  { table: 'people', column: 'account_sealed', of: (id) => `account:${id}` },
  { table: 'employers', column: 'account_sealed', of: (id) => `bank:${id}` },
  { table: 'paying_accounts', column: 'account_sealed', of: (id) => `paying:${id}` },
  { table: 'users', column: 'totp_sealed', of: (id) => `totp:${id}` },
  { table: 'net_payments', column: 'destination_sealed', of: (id) => `destination:${id}` },
  { table: 'transfers', column: 'destination_sealed', of: (id) => `transfer:${id}` },
  { table: 'payment_batches', column: 'file_sealed', of: (id) => `batch:${id}` },
  { table: 'filing_files', column: 'content_sealed', of: (id) => `filing:${id}` },
  { table: 'payees', column: 'account_sealed', of: (id) => `payee:${id}` },
  { table: 'held_changes', column: 'sealed', of: (id) => `held:${id}` },
];
const PORTION = 500;

/** Seals everything under the newest key; cut off at any moment, the rest is opened with the older ones and sealed at the next start. */
export async function rotate(database: Database): Promise<number> {
  let done = 0;
  for (const { table, column, of, fingerprint } of SEALED) {
    let after = '00000000-0000-0000-0000-000000000000';
    for (;;) {
      const rows = await select<{ id: string; sealed: Buffer }>(
        database,
        `select id, ${column} as sealed from ${table} where ${column} is not null and id > :after order by id limit ${PORTION}`,
        { after },
      );
      await database.transaction(async () => {
        for (const { id, sealed } of rows) {
          if (theVault().isCurrent(sealed)) continue;
          const value = openedOf(sealed, of(id));
          // Changed meanwhile, it is sealed under the newest key already.
          await execute(
            database,
            `update ${table} set ${column} = :now${fingerprint ? `, ${fingerprint} = :fingerprint` : ''} where id = :id and ${column} = :before`,
            {
              id,
              now: theVault().seal(value, of(id)),
              before: sealed,
              ...(fingerprint ? { fingerprint: theVault().fingerprint(value) } : {}),
            },
          );
          done += 1;
        }
      });
      if (rows.length < PORTION) break;
      after = rows[rows.length - 1]?.id ?? after;
    }
  }
  return done;
}

function openedOf(sealed: Buffer, of: string): string {
  try {
    return theVault().open(sealed, of);
  } catch {
    return theVault().open(sealed);
  }
}
