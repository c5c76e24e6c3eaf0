import { RIGHTS_OF, type AnyRole, type Needs, type Right } from '@woodruff/contract';

/** Who may do what: the one place where it is said. A role is a ready set of rights. */
const SETS: Record<AnyRole, readonly Needs[]> = { employee: ['own'], ...RIGHTS_OF };

/** Whether the ready set of a role, or rights given singly in its place, holds what is needed. */
export const may = (role: AnyRole, needs: Needs, rights: readonly Right[] | null = null): boolean =>
  (role !== 'employee' && rights ? ([...rights, 'read'] as readonly Needs[]) : SETS[role]).includes(needs);

export const rightsOf = (role: AnyRole, rights: readonly Right[] | null): Right[] =>
  (role === 'employee' ? [] : (rights ?? SETS[role])).filter(
    (right): right is Right => right !== 'own' && right !== 'nobody' && right !== 'user',
  );

/** What a second factor can be required for: pay that goes out, and numbers that are protected. */
export const SENSITIVE: readonly Needs[] = ['approve', 'pay-out', 'bank', 'reveal'];

/** For refusals: what was asked, in words. */
export const NEEDS_IN_WORDS: Record<Needs, string> = {
  nobody: 'see this',
  user: 'see this',
  read: 'see this',
  export: 'export this',
  prepare: 'change pay',
  approve: 'approve or reverse pay',
  'pay-out': 'pay out',
  bank: 'change bank details',
  administer: 'change settings',
  reveal: 'see protected numbers',
  own: 'see a view of their own',
};
