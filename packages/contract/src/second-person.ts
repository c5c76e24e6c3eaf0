/** What an employer can want a second person for, beside the approval of runs. */
export const SECOND_PERSON = ['release', 'payments', 'bank', 'reversals', 'openings', 'adjustments'] as const;
export type SecondPersonFor = (typeof SECOND_PERSON)[number];
