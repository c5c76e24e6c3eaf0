import type { AnyRole, Needs } from '@woodruff/contract';

/** Who may do what: the one place where it is said. */
const MAY: Record<AnyRole, ReadonlySet<Needs>> = {
  employee: new Set<Needs>(['own']),
  viewer: new Set<Needs>(['read']),
  approver: new Set<Needs>(['read', 'approve']),
  clerk: new Set<Needs>(['read', 'prepare', 'approve', 'reveal']),
  administrator: new Set<Needs>(['read', 'prepare', 'approve', 'reveal', 'administer']),
};

export const may = (role: AnyRole, needs: Needs): boolean => MAY[role].has(needs);

/** For refusals: what was asked, in words. */
export const NEEDS_IN_WORDS: Record<Needs, string> = {
  nobody: 'see this',
  user: 'see this',
  read: 'see this',
  prepare: 'change pay',
  approve: 'approve or reverse pay',
  administer: 'change settings',
  reveal: 'see protected numbers',
  own: 'see a view of their own',
};
