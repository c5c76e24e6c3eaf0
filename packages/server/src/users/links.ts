import { createHash, randomBytes } from 'node:crypto';
import type { TokenView } from '@woodruff/contract';
import { execute, select, type Database } from '../database/connection';
import { invalid, Refusal } from '../errors';
import { User } from './models';
import { setPassword } from './passwords';
import { endSessionsOf } from './sessions';

const HOURS = { reset: 1, invitation: 7 * 24 };
type Kind = keyof typeof HOURS;

const hashOf = (token: string): string => createHash('sha256').update(token).digest('hex');

/** A link for one user, used once; a new one of the same kind takes the place of those before it. Only its hash is kept. */
export async function newLink(database: Database, kind: Kind, userId: string, employerId: string | null): Promise<string> {
  const token = randomBytes(24).toString('base64url');
  await execute(
    database,
    `update user_links set used_at = now() where user_id = :userId and kind = :kind and employer_id is not distinct from cast(:employerId as uuid) and used_at is null`,
    { userId, kind, employerId },
  );
  await execute(
    database,
    `insert into user_links (token_hash, kind, user_id, employer_id, expires_at) values (:hash, :kind, :userId, :employerId, now() + make_interval(hours => :hours))`,
    { hash: hashOf(token), kind, userId, employerId, hours: HOURS[kind] },
  );
  return `/link/${token}`;
}

interface Link {
  kind: Kind;
  userId: string;
  employerId: string | null;
  employer: string | null;
  hasPassword: boolean;
}

async function linkOf(database: Database, token: string, lock: boolean): Promise<Link> {
  const [link] = await select<Link>(
    database,
    `select l.kind, l.user_id as "userId", l.employer_id as "employerId", e.name as employer, u.password_hash <> '' as "hasPassword"
     from user_links l join users u on u.id = l.user_id left join employers e on e.id = l.employer_id
     where l.token_hash = :hash and l.used_at is null and l.expires_at > now() ${lock ? 'for update of l' : ''}`,
    { hash: hashOf(token) },
  );
  if (!link)
    throw new Refusal(
      410,
      'link-gone',
      'This link was used already, or its time is over. Ask for a new one: on the sign-in page, or at your office.',
    );
  return link;
}

const choosesPassword = (link: Link): boolean => link.kind === 'reset' || !link.hasPassword;

export async function lookAtLink(database: Database, token: string): Promise<TokenView> {
  const link = await linkOf(database, token, false);
  const user = await User.findByPk(link.userId);
  return {
    kind: link.kind,
    email: user?.email ?? '',
    name: user?.name ?? '',
    employer: link.employer,
    choosesPassword: choosesPassword(link),
  };
}

/** Accepts an invitation, or sets a new password; both end what was open before. */
export async function useLink(database: Database, token: string, password: string | undefined): Promise<Record<string, never>> {
  return database.transaction(async () => {
    const link = await linkOf(database, token, true);
    const user = await User.findByPk(link.userId);
    if (!user) throw invalid('There is nobody for this link any more.');
    if (choosesPassword(link)) {
      if (!password) throw invalid('Choose a password.', [{ path: 'password', expected: 'a password that is hard to guess' }]);
      await setPassword(database, user, password);
      await endSessionsOf(database, user.id);
    }
    await execute(database, 'update user_links set used_at = now() where token_hash = :hash', { hash: hashOf(token) });
    if (link.kind === 'reset')
      // Whatever else was sent for this account is worth nothing any more.
      await execute(database, `update user_links set used_at = now() where user_id = :id and kind = 'reset' and used_at is null`, {
        id: user.id,
      });
    if (link.employerId)
      await execute(
        database,
        'update memberships set accepted_at = coalesce(accepted_at, now()) where user_id = :id and employer_id = :employer',
        {
          id: user.id,
          employer: link.employerId,
        },
      );
    return {};
  });
}

/** A link for a new password, to an address that is known; the answer is the same for one that is not. */
export async function askReset(database: Database, email: string): Promise<void> {
  await database.transaction(async () => {
    const user = await User.findOne({ where: { email: email.toLowerCase() } });
    if (!user) return;
    const link = await newLink(database, 'reset', user.id, null);
    await execute(
      database,
      `insert into outbox (employer_id, kind, to_address, to_name, subject, body)
       values ((select employer_id from memberships where user_id = :id order by accepted_at limit 1), 'reset', :email, :name, 'A new password for Woodruff', :body)`,
      {
        id: user.id,
        email: user.email,
        name: user.name,
        body: `Choose a new password within an hour: ${link} . If you did not ask for it, leave this letter as it is; your password stays.`,
      },
    );
  });
}
