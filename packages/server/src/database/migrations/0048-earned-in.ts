/** The days in which a one-off was earned, where that is not the pay period that pays it. */
export const earnedIn = `
alter table one_offs add column earned jsonb check (earned is null or (earned ? 'from' and earned ? 'to'));
`;
