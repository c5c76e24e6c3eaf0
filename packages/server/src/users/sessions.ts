import { createHash } from 'node:crypto';
import type { OwnSessions } from '@woodruff/contract';
import Bowser from 'bowser';
import { execute, select, type Database } from '../database/connection';

/** A session is named by a hash of its id: the id itself opens it. */
const nameOf = (sid: string): string => createHash('sha256').update(sid).digest('hex').slice(0, 16);

/** A browser as its owner calls it: "Firefox on Windows"; empty where it does not say. */
function browserOf(agent: string | undefined): string {
  if (!agent) return '';
  const { browser, os } = Bowser.parse(agent);
  return [browser.name, os.name && `on ${os.name}`].filter(Boolean).join(' ');
}

interface Stored {
  sid: string;
  sess: { agent?: string; address?: string; signedInAt?: number };
  expire: Date;
}

export async function sessionsOf(database: Database, userId: string, current: string): Promise<OwnSessions> {
  const rows = await select<Stored>(
    database,
    `select sid, sess, expire from user_sessions where sess->>'userId' = :userId and expire > now() order by expire desc`,
    { userId },
  );
  return rows.map(({ sid, sess, expire }) => ({
    id: nameOf(sid),
    agent: browserOf(sess.agent),
    address: sess.address ?? '',
    signedInAt: new Date(sess.signedInAt ?? 0).toISOString(),
    seenUntil: expire.toISOString(),
    current: sid === current,
  }));
}

/** Ends the sessions of a user, all or all but one. */
export const endSessionsOf = (database: Database, userId: string, keep = ''): Promise<unknown> =>
  execute(database, `delete from user_sessions where sess->>'userId' = :userId and sid <> :keep`, { userId, keep });

export async function sessionStands(database: Database, sid: string): Promise<boolean> {
  return (await select(database, 'select 1 as one from user_sessions where sid = :sid and expire > now()', { sid })).length > 0;
}
