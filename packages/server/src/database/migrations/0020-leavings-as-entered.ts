/** A leaving as it was entered, for changing it, and the one-offs that it put before the regular run, which go with it. */
export const leavingsAsEntered = `
alter table leavings add column entered jsonb;
alter table leavings add column one_offs uuid[] not null default '{}';
`;
