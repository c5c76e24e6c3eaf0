/** Until when time is handed in: days after the end of the period. */
export const cutOff = `
alter table pay_schedules add column time_cut_off integer check (time_cut_off between 0 and 31);
`;
