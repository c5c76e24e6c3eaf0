import PgBoss from 'pg-boss';
import { execute, select, type Database } from './connection';

/** Queues there are; their tables are made by the owner. */
export const QUEUES = { calculation: 'calculate-run', mail: 'send-mail' } as const;

/** What is only ever added to. */
const APPEND_ONLY = [
  'ledger_lines',
  'audit_entries',
  'filing_events',
  'filing_entries',
  'transfer_events',
  'statement_lines',
  'journal_entries',
  'journal_lines',
  'journal_maps',
  'tax_differences',
  'reckonings',
  'remittance_receipts',
  'enrolment_steps',
  'tax_notices',
  'item_moves',
];

/** The product's own, the queue's, and the stand-ins' books. */
const SCHEMAS = 'public, pgboss, bank, agency';

/**
 * Lets the application's role work with the tables, own none of them, and change nothing of what is only added to. The
 * queue's schema is brought up to date here, too: the role may not make tables.
 */
export async function letWork(owner: Database, url: string, role: string): Promise<void> {
  const boss = new PgBoss({ connectionString: url, max: 1 });
  await boss.start();
  for (const queue of Object.values(QUEUES)) await boss.createQueue(queue);
  await boss.stop({ graceful: false, wait: true });
  const [quoted] = await select<{ name: string }>(owner, 'select quote_ident(:role) as name', { role });
  const name = quoted?.name ?? '';
  await execute(
    owner,
    `grant usage on schema ${SCHEMAS} to ${name};
     grant select, insert, update, delete on all tables in schema ${SCHEMAS} to ${name};
     grant usage, select on all sequences in schema ${SCHEMAS} to ${name};
     grant execute on all functions in schema pgboss to ${name};
     revoke truncate, references, trigger on all tables in schema public from ${name};
     revoke update, delete on ${APPEND_ONLY.join(', ')} from ${name};
     revoke insert, update, delete on migrations from ${name}`,
  );
}
