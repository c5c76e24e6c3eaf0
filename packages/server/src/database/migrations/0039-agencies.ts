/**
 * Filings that go to their agency by themselves: the file of each attempt, made once; what the agency answers, each answer
 * once. A line that was overridden can be as it is computed again. The agencies' own books stand beside.
 */
export const agencies = `
alter table filing_entries alter column amount drop not null;

create table filing_files (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  filing text not null,
  period text not null,
  attempt integer not null,
  agency text not null,
  name text not null,
  content_sealed bytea,
  hash text not null,
  consents text not null default '',
  made_on date not null,
  told_at timestamptz,
  at timestamptz not null default now(),
  unique (employer_id, filing, period, attempt)
);
create index filing_files_waiting on filing_files (employer_id) where told_at is null;

create table filing_answers (
  employer_id uuid not null references employers (id),
  answer text not null,
  file_id uuid references filing_files (id),
  on_day date not null,
  status text not null,
  told jsonb not null,
  at timestamptz not null default now(),
  primary key (employer_id, answer)
);
create trigger filing_answers_are_append_only before update or delete on filing_answers for each row execute function refuse_change();

alter table outbox drop constraint outbox_kind_check,
  add constraint outbox_kind_check check (kind in ('payslip', 'register', 'summary', 'invitation', 'reset', 'filing') and (run_id is null) = (kind in ('invitation', 'reset', 'filing')));

create table agency.taxpayers (
  number text primary key,
  name text not null
);
create table agency.submissions (
  id bigint generated always as identity primary key,
  file_key text not null unique,
  agency text not null,
  name text not null,
  content bytea not null,
  received_on date not null,
  form text,
  period text,
  taxpayer text,
  corrects boolean not null default false,
  at timestamptz not null default now()
);
create index on agency.submissions (taxpayer, form, period);
create table agency.answers (
  id bigint generated always as identity primary key,
  submission_id bigint not null references agency.submissions (id),
  on_day date not null,
  status text not null check (status in ('received', 'accepted', 'rejected')),
  number text not null,
  faults jsonb not null default '[]'
);
create table agency.settings (
  answers_after integer not null default 0 check (answers_after between 0 and 30),
  doubles boolean not null default false,
  loses boolean not null default false,
  one boolean primary key default true check (one)
);
insert into agency.settings default values;
`;
