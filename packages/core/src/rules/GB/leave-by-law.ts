import type { LeaveByLaw } from '../leave-by-law';
import { assessFamily, FAMILY } from './family-leave';
import { assessSickness, SICK_LEAVE } from './sick-pay';

/** Statutory sick pay, and what is paid to parents. */
export const leaveByLaw: LeaveByLaw = {
  kinds: [
    SICK_LEAVE,
    ...FAMILY.map(({ code, label, treatment, fields, refusal }) => ({ code, label, treatment, fields, ...(refusal ? { refusal } : {}) })),
  ],
  earnings: 'gb.ni.earnings',
  assess(facts) {
    if (facts.to < facts.from) throw new RangeError('the last day is before the first');
    const family = FAMILY.find(({ code }) => code === facts.kind);
    return family ? assessFamily(family, facts) : assessSickness(facts);
  },
};
