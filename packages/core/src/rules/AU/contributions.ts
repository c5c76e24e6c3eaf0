import { sacrificeCode, SUPER, SUPER_EXTRA, SUPER_FIRST, SUPER_MEMBER } from './codes';

/** What is contributed for somebody: by the guarantee, out of salary sacrificed, and beyond the guarantee. */
export const CONTRIBUTIONS = {
  guarantee: { label: 'Super guarantee', codes: [SUPER, SUPER_FIRST] },
  sacrificed: { label: 'Salary sacrificed', codes: [sacrificeCode('S')] },
  extra: { label: 'Beyond the guarantee', codes: [SUPER_EXTRA] },
  member: { label: "Member's own", codes: [SUPER_MEMBER] },
} as const;
export type Contribution = keyof typeof CONTRIBUTIONS;
