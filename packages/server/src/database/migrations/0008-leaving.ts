/** Who leaves, with what was ended for it, so that it can come back. */
export const leaving = `
create table leavings (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  last_day date not null,
  reason text not null check (reason <> ''),
  notice jsonb not null,
  -- The run of the final pay; without one the amounts are among the one-offs.
  run_id uuid references pay_runs on delete set null,
  -- Recurring items that were ended, with the end they had before.
  ended jsonb not null,
  facts_before jsonb not null,
  user_id uuid not null references users,
  entered_at timestamptz not null default now(),
  undone_at timestamptz
);
create unique index leavings_once on leavings (person_id) where undone_at is null;
`;
