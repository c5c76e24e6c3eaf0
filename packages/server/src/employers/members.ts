import type { ParsedBodyOf } from '@woodruff/contract';
import { record } from '../audit/audit';
import { execute, select } from '../database/connection';
import { conflict, notFound } from '../errors';
import { newLink } from '../users/links';
import { forgetSecondFactor } from '../users/second-factor';
import { endSessionsOf } from '../users/sessions';
import { Membership, User } from '../users/models';
import { changing } from '../users/changing';
import type { Scope } from '../scope';

/** Invites a user: nobody gets a right, or somebody's name on their list, before the addressee accepts by the link in the letter. */
export async function addMember(scope: Scope, body: ParsedBodyOf<'addMember'>): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const email = body.email.toLowerCase();
    const known = await User.findOne({ where: { email }, transaction });
    const user = known ?? (await User.create({ email, name: body.name, passwordHash: '' }, { transaction }));
    const member = await Membership.findOne({ where: { userId: user.id, employerId: scope.employer.id }, transaction });
    if (member?.acceptedAt) throw conflict('member-already', `${email} works here already. Change what they may do in the list.`);
    const rights = { role: body.role, rights: body.rights ?? null };
    if (member) await member.update(rights, { transaction });
    else await Membership.create({ userId: user.id, employerId: scope.employer.id, ...rights, acceptedAt: null }, { transaction });
    const link = await newLink(scope.database, 'invitation', user.id, scope.employer.id);
    await execute(
      scope.database,
      `insert into outbox (employer_id, kind, to_address, to_name, subject, body) values (:employer, 'invitation', :email, :name, :subject, :body)`,
      {
        employer: scope.employer.id,
        email,
        name: body.name,
        subject: `${scope.employer.name} invites you`,
        body: `${scope.user.name} invites you to work for ${scope.employer.name} as ${body.role}. Accept within a week: ${link} .`,
      },
    );
    await record(
      scope,
      { action: 'add-member', subject: 'employer', subjectId: scope.employer.id, what: `Invited ${body.name} (${email}) as ${body.role}` },
      transaction,
    );
    return {};
  });
}

/** An employer always keeps an administrator. */
export async function changeMember(
  scope: Scope,
  userId: string,
  { role, rights }: ParsedBodyOf<'changeMember'>,
): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const members = await Membership.findAll({ where: { employerId: scope.employer.id }, transaction, lock: transaction.LOCK.UPDATE });
    const member = members.find((candidate) => candidate.userId === userId && candidate.role !== 'employee');
    const user = await User.findByPk(userId, { transaction });
    if (!member || !user) throw notFound('member');
    if (role !== 'administrator' && !members.some((other) => other.userId !== userId && other.role === 'administrator' && other.acceptedAt))
      throw conflict('last-administrator', `${user.name} is the only administrator here. Make somebody else one first.`);
    if (role) await member.update({ role, rights: rights ?? null }, { transaction });
    else await member.destroy({ transaction });
    await record(
      scope,
      {
        action: 'change-member',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: role
          ? `${user.name} is ${role} from now on${rights ? `, and may ${rights.join(', ')}` : ''}`
          : `${user.name} no longer works here`,
      },
      transaction,
    );
    return {};
  });
}

/** For somebody who lost their authenticator and their recovery codes; who works elsewhere too is not this employer's to open. */
export async function forgetMembersFactor(scope: Scope, userId: string): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const [member] = await select<{ name: string; elsewhere: boolean }>(
      scope.database,
      `select u.name, exists (select 1 from memberships o where o.user_id = m.user_id and o.employer_id <> m.employer_id) as elsewhere
       from memberships m join users u on u.id = m.user_id where m.user_id = :userId and m.employer_id = :employer`,
      { userId, employer: scope.employer.id },
    );
    if (!member) throw notFound('member');
    if (member.elsewhere)
      throw conflict(
        'works-elsewhere',
        `${member.name} works for another employer too. They sign in with a recovery code and set up a new authenticator.`,
      );
    await forgetSecondFactor(scope.database, userId);
    await endSessionsOf(scope.database, userId);
    await record(
      scope,
      {
        action: 'change-member',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `Removed the second factor of ${member.name}, who lost it`,
      },
      transaction,
    );
    return {};
  });
}
