import { hash, verify } from '@node-rs/argon2';
import type { AnyRole, Role, Session } from '@woodruff/contract';
import { select, type Database } from '../database/connection';
import { notFound, Refusal } from '../errors';
import { Membership, User } from './models';
import type { Employer, EmployerFacts, Scope } from './scope';

/** The business date: a demo's own, which can be moved; otherwise the day itself. Nothing else reads a clock. */
const TODAY = 'case when e.demo then e.business_date else current_date end';

/** Compared with when the e-mail is unknown, so that both answers take the same time. */
const NOBODY = hash('nobody has this password');

/** The user of an e-mail address and password. One sentence for either being wrong. */
export async function signIn(email: string, password: string): Promise<{ id: string; name: string; email: string }> {
  const user = await User.findOne({ where: { email: email.toLowerCase() } });
  const right = await verify(user?.passwordHash ?? (await NOBODY), password);
  if (!user || !right)
    throw new Refusal(
      401,
      'sign-in',
      'The e-mail address or the password is not right. Try again, or ask your administrator for a new password.',
    );
  return { id: user.id, name: user.name, email: user.email };
}

export async function addUser(email: string, name: string, password: string, roles: Record<string, Role>): Promise<string> {
  const user = await User.create({ email: email.toLowerCase(), name, passwordHash: await hash(password) });
  await Membership.bulkCreate(Object.entries(roles).map(([employerId, role]) => ({ userId: user.id, employerId, role })));
  return user.id;
}

export async function sessionOf(database: Database, userId: string, csrfToken: string): Promise<Session> {
  const user = await User.findByPk(userId);
  if (!user) throw new Refusal(401, 'signed-out', 'You are signed out. Sign in again.');
  const employers = await select<Session['employers'][number]>(
    database,
    `select e.id, e.name, m.role, e.country, e.currency, ${TODAY} as today, e.demo
     from memberships m join employers e on e.id = m.employer_id where m.user_id = :userId order by e.name`,
    { userId },
  );
  return { user: { id: user.id, name: user.name, email: user.email }, csrfToken, employers };
}

/** The scope of a user at an employer. Another employer's id is answered as one that does not exist. */
export async function scopeOf(database: Database, userId: string, employerId: string): Promise<Scope> {
  const [row] = await select<Omit<Employer, 'facts'> & { facts: EmployerFacts; role: AnyRole; personId: string | null; userName: string }>(
    database,
    `select e.id, e.name, e.country, e.currency, ${TODAY} as today, e.demo, e.facts, e.facts_version as "factsVersion", m.role, m.person_id as "personId", u.name as "userName"
     from employers e join memberships m on m.employer_id = e.id join users u on u.id = m.user_id
     where e.id = :employerId and m.user_id = :userId`,
    { employerId, userId },
  );
  if (!row) throw notFound('employer');
  const { role, personId, userName, ...employer } = row;
  return { database, employer, role, personId, user: { id: userId, name: userName } };
}
