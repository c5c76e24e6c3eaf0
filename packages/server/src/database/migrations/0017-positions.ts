/** Positions that somebody holds beside the main one of their record, each with the rate that it is paid at. */
export const positions = `
create table person_positions (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  job text not null,
  department text not null default '',
  worksite text not null default '',
  rate_series text,
  from_date date not null,
  to_date date,
  check (to_date is null or to_date >= from_date)
);
create index person_positions_person on person_positions (person_id, from_date);
`;
