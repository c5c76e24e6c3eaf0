import { randomBytes } from 'node:crypto';
import type { ParsedBodyOf, Role } from '@woodruff/contract';
import { hash } from '@node-rs/argon2';
import { record } from '../audit/audit';
import { conflict, notFound } from '../errors';
import { Membership, User } from '../users/models';
import { changing } from '../users/changing';
import type { Scope } from '../users/scope';

/** Lets a user work here; somebody new gets a first password, told once. */
export async function addMember(scope: Scope, body: ParsedBodyOf<'addMember'>): Promise<{ password: string | null }> {
  const password = randomBytes(9).toString('base64url');
  return changing(scope, async (transaction) => {
    const email = body.email.toLowerCase();
    const known = await User.findOne({ where: { email }, transaction });
    const user = known ?? (await User.create({ email, name: body.name, passwordHash: await hash(password) }, { transaction }));
    if (await Membership.findOne({ where: { userId: user.id, employerId: scope.employer.id }, transaction }))
      throw conflict('member-already', `${user.name} works here already. Change what they may do in the list.`);
    await Membership.create({ userId: user.id, employerId: scope.employer.id, role: body.role }, { transaction });
    await record(
      scope,
      {
        action: 'add-member',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: `${user.name} (${email}) may work here as ${body.role}`,
      },
      transaction,
    );
    return { password: known ? null : password };
  });
}

/** An employer always keeps an administrator. */
export async function changeMember(scope: Scope, userId: string, role: Role | null): Promise<Record<string, never>> {
  return changing(scope, async (transaction) => {
    const members = await Membership.findAll({ where: { employerId: scope.employer.id }, transaction, lock: transaction.LOCK.UPDATE });
    const member = members.find((candidate) => candidate.userId === userId && candidate.role !== 'employee');
    const user = await User.findByPk(userId, { transaction });
    if (!member || !user) throw notFound('member');
    if (role !== 'administrator' && !members.some((other) => other.userId !== userId && other.role === 'administrator'))
      throw conflict('last-administrator', `${user.name} is the only administrator here. Make somebody else one first.`);
    if (role) await member.update({ role }, { transaction });
    else await member.destroy({ transaction });
    await record(
      scope,
      {
        action: 'change-member',
        subject: 'employer',
        subjectId: scope.employer.id,
        what: role ? `${user.name} is ${role} from now on` : `${user.name} no longer works here`,
      },
      transaction,
    );
    return {};
  });
}
