/** What working a run out again changed the last time, payslip by payslip, the largest differences first. */
export const recalculations = `
create table recalculations (
  run_id uuid primary key references pay_runs on delete cascade,
  at timestamptz not null default now(),
  changed int not null,
  unchanged int not null,
  people jsonb not null
);
`;
