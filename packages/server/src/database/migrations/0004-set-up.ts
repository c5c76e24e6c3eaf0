/** The employer's set-up on screen: a version against two people changing it, the account that pays, worksites with their state. */
export const setUp = `
alter table employers add column version integer not null default 1, add column bank jsonb, add column account_sealed bytea;
update employers set facts = facts || jsonb_build_object('worksites',
  (select coalesce(jsonb_agg(case when jsonb_typeof(w) = 'string' then jsonb_build_object('name', w) else w end), '[]') from jsonb_array_elements(facts->'worksites') w));
alter table pay_runs drop constraint pay_runs_kind_check, add constraint pay_runs_kind_check check (kind in ('regular', 'correction', 'opening'));
alter table people add column phone text not null default '', add column emergency jsonb not null default '{}', add column own jsonb not null default '{}';
create table person_notes (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  on_date date not null,
  user_id uuid not null references users,
  text text not null check (text <> ''),
  written_at timestamptz not null default now()
);
create index person_notes_person on person_notes (person_id);
create table person_documents (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  name text not null check (name <> ''),
  expires_on date,
  unique (person_id, name)
);
create table import_columns (employer_id uuid primary key references employers, columns jsonb not null);
create index people_search on people (employer_id, lower(given_name || ' ' || family_name) text_pattern_ops);
`;
