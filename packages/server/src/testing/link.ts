import { select } from '../database/connection';
import { testDatabase } from './database';

/** The token of the latest link that was sent to an address, as its addressee reads it. */
export async function linkTo(email: string): Promise<string> {
  const [letter] = await select<{ body: string }>(
    testDatabase(),
    `select body from outbox where to_address = :email and kind in ('invitation', 'reset') order by queued_at desc, id limit 1`,
    { email },
  );
  return /\/link\/(\S+)/.exec(letter?.body ?? '')?.[1] ?? '';
}
