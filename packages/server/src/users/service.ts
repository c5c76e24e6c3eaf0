import type { AnyRole, ParsedBodyOf, Right, Role, Session } from '@woodruff/contract';
import type { Request, Response } from 'express';
import { select, type Database } from '../database/connection';
import { notFound, Refusal } from '../errors';
import { Membership, User } from './models';
import { hashOf, isRight } from './passwords';
import { rightsOf } from './permissions';
import { challengeOf, passkeyIsRight } from './passkeys';
import { codeIsRight, factorsOf } from './second-factor';
import type { Throttle } from './throttle';
import type { Employer, EmployerFacts, Scope } from '../scope';

/** The business date. Nothing else reads a clock. */
const TODAY = 'today_of(e)';

/**
 * The user of an e-mail address, password and, where there is one, second factor. One sentence for either of the first two being
 * wrong; attempts are counted before they are looked at.
 */
export async function signIn(
  database: Database,
  throttle: Throttle,
  { email: typed, password, code, passkey }: ParsedBodyOf<'signIn'>,
  request: Request,
  response: Response,
): Promise<{ user: User; secondFactor: boolean }> {
  const email = typed.toLowerCase();
  const user = await User.findOne({ where: { email } });
  const attempt = await throttle.attempt(request, email, user?.id);
  // Who was invited and has not chosen a password yet has none.
  const right = await isRight(user?.passwordHash || undefined, password);
  if (!user || !right)
    throw new Refusal(
      401,
      'sign-in',
      'The e-mail address or the password is not right. Try again, or have a link for a new password sent to you.',
    );
  const { authenticator, passkeys } = await factorsOf(database, user.id);
  const secondFactor = authenticator || passkeys;
  if (secondFactor && code === undefined && !passkey) {
    // The password alone is no success: who has only that must not begin to guess codes anew.
    await attempt.givenBack();
    const asked = await challengeOf(database, user.id, request);
    throw new Refusal(401, 'second-factor', asksFor(authenticator, passkeys), asked ? { passkey: asked } : {});
  }
  if (secondFactor && passkey && !(await passkeyIsRight(database, user.id, passkey, request)))
    throw new Refusal(401, 'wrong-passkey', 'The passkey did not open. Sign in once more, or with one of your recovery codes.');
  if (secondFactor && !passkey && !(await codeIsRight(database, user.id, code ?? '')))
    throw new Refusal(
      401,
      'wrong-code',
      'The code is not right, or was used already. Enter the newest one, or one of your recovery codes.',
    );
  await attempt.succeeded(response);
  return { user, secondFactor };
}

function asksFor(authenticator: boolean, passkeys: boolean): string {
  const code = authenticator ? 'the code that your authenticator shows, or one of your recovery codes' : 'one of your recovery codes';
  return passkeys ? `Use your passkey, or enter ${code}.` : `Enter ${code}.`;
}

export async function addUser(email: string, name: string, password: string, roles: Record<string, Role>): Promise<string> {
  const user = await User.create({ email: email.toLowerCase(), name, passwordHash: await hashOf(password) });
  await Membership.bulkCreate(Object.entries(roles).map(([employerId, role]) => ({ userId: user.id, employerId, role })));
  return user.id;
}

/** Lets a user work at another employer, too. */
export async function addUserTo(userId: string, employerId: string, role: Role): Promise<void> {
  await Membership.create({ userId, employerId, role });
}

export async function sessionOf(database: Database, userId: string, csrfToken: string): Promise<Session> {
  const user = await User.findByPk(userId);
  if (!user) throw new Refusal(401, 'signed-out', 'You are signed out. Sign in again.');
  const { authenticator, passkeys } = await factorsOf(database, userId);
  const employers = await select<Session['employers'][number]>(
    database,
    `select e.id, e.name, m.role, m.rights, e.country, e.currency, ${TODAY} as today, e.demo, e.being_played as "beingPlayed"
     from memberships m join employers e on e.id = m.employer_id where m.user_id = :userId and m.accepted_at is not null order by e.being_played, e.name`,
    { userId },
  );
  return {
    user: { id: user.id, name: user.name, email: user.email },
    csrfToken,
    secondFactor: authenticator || passkeys,
    authenticator,
    employers: employers.map((employer) => ({ ...employer, rights: rightsOf(employer.role, employer.rights) })),
  };
}

/** The scope of a user at an employer. Another employer's id is answered as one that does not exist. */
export async function scopeOf(database: Database, userId: string, employerId: string): Promise<Scope> {
  const [row] = await select<
    Omit<Employer, 'facts'> & { facts: EmployerFacts; role: AnyRole; rights: Right[] | null; personId: string | null; userName: string }
  >(
    database,
    `select e.id, e.name, e.country, e.currency, ${TODAY} as today, e.demo, e.being_played as "beingPlayed", e.facts, e.facts_version as "factsVersion", m.role, m.rights, m.person_id as "personId", u.name as "userName"
     from employers e join memberships m on m.employer_id = e.id join users u on u.id = m.user_id
     where e.id = :employerId and m.user_id = :userId and m.accepted_at is not null`,
    { employerId, userId },
  );
  if (!row) throw notFound('employer');
  const { role, rights, personId, userName, ...employer } = row;
  return { database, employer, role, rights, personId, user: { id: userId, name: userName } };
}
