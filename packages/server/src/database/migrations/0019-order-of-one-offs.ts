/** One-offs of one paste or of one back pay have the same moment; the number keeps the order in which they were entered. */
export const orderOfOneOffs = `
alter table one_offs add column number bigint generated always as identity;
`;
