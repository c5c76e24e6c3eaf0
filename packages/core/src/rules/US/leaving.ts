import { addDays } from '../../calendar/dates';
import type { LeavingRules } from '../../leaving/final-pay';
import { STATES } from './states';

/** Whose act ends the employment; the states tell discharge and resignation apart. */
const BY_EMPLOYER = ['dismissed', 'laid-off', 'contract-ended'];

/** Federal law knows no day for final pay (29 CFR 778.106: the regular pay date); states do. */
export const leaving: LeavingRules = {
  kinds: [
    { code: 'resigned', label: 'resigned' },
    { code: 'dismissed', label: 'dismissed' },
    { code: 'laid-off', label: 'laid off' },
    { code: 'contract-ended', label: 'contract or season ended' },
    { code: 'retired', label: 'retired' },
    { code: 'died', label: 'died' },
  ],
  finalPayBy(kind, lastDay, { workState }) {
    const rule = STATES.find(({ code }) => code === workState)?.finalPay;
    if (!rule) return undefined;
    const byEmployer = kind === '' || BY_EMPLOYER.includes(kind);
    const days = byEmployer ? rule.discharged : rule.resigned;
    if (days === undefined) return undefined;
    const words = `${days === 0 ? 'on the last day' : `within ${days} days`} of ${byEmployer ? 'a discharge' : 'a resignation'}`;
    return { by: addDays(lastDay, days), words, source: rule.source };
  },
};
