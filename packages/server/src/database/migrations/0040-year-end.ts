/**
 * Year end: the boxes that items are put into, what is marked by hand on somebody's statement, whether people want their
 * statements electronically and how that was said, what was given to whom, steps of a year's plan that
 * somebody did, and tables of the law that were loaded.
 */
export const yearEnd = `
create table item_boxes (
  item_id uuid not null references pay_items (id),
  -- Of this tax year and of those after it, until another one says otherwise.
  from_year text not null,
  primary key (item_id, from_year),
  employer_id uuid not null references employers (id),
  derived boolean not null default false,
  filing text not null default '',
  box text not null default '',
  label text not null default '',
  check ((filing = '') = (box = ''))
);
create index on item_boxes (employer_id);

create table copy_marks (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  filing text not null,
  period text not null,
  person_id uuid not null references people (id),
  box text not null,
  text text,
  reason text not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on copy_marks (employer_id, filing, period, person_id, box, id);
create trigger copy_marks_are_append_only before update or delete on copy_marks for each row execute function refuse_change();
create trigger copy_marks_are_not_emptied before truncate on copy_marks for each statement execute function refuse_change();

create table form_consents (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  person_id uuid not null references people (id),
  step text not null check (step in ('asked', 'given', 'withdrawn')),
  means text not null,
  on_day date not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on form_consents (person_id, id);
create trigger form_consents_are_append_only before update or delete on form_consents for each row execute function refuse_change();

create table copies_given (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  filing text not null,
  period text not null,
  attempt integer not null,
  person_id uuid not null references people (id),
  how text not null check (how in ('inbox', 'mail', 'paper')),
  on_day date not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now(),
  unique (employer_id, filing, period, attempt, person_id, how)
);
create index on copies_given (person_id);
create trigger copies_given_are_append_only before update or delete on copies_given for each row execute function refuse_change();

alter table outbox add column copy_given_id uuid references copies_given (id);
alter table outbox drop constraint outbox_kind_check,
  add constraint outbox_kind_check check (kind in ('payslip', 'register', 'summary', 'invitation', 'reset', 'filing', 'consent', 'statement')
    and (run_id is null) = (kind in ('invitation', 'reset', 'filing', 'consent', 'statement')) and (copy_given_id is null) = (kind <> 'statement'));

create table year_steps (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  year text not null,
  step text not null,
  done boolean not null,
  note text not null default '',
  on_day date not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on year_steps (employer_id, year, step, id);
create trigger year_steps_are_append_only before update or delete on year_steps for each row execute function refuse_change();

-- Tables of the law that were loaded into this installation. What counted once is never changed; another file goes on from a later date.
create table table_files (
  id uuid primary key default gen_random_uuid(),
  country text not null,
  title text not null,
  entries jsonb not null,
  counts_from date not null,
  proposed_by uuid not null references users (id),
  proposed_at timestamptz not null default now(),
  decided_by uuid references users (id),
  decided_at timestamptz,
  approved boolean,
  reason text not null default '',
  check ((decided_by is null) = (approved is null) and (decided_by is null) = (decided_at is null)),
  check (approved is not true or decided_by <> proposed_by)
);
create index on table_files (country);
create function refuse_change_of_decided() returns trigger language plpgsql as $$
begin
  if old.approved is not null then raise exception 'what was decided of a table file stays as it is'; end if;
  if new.entries <> old.entries or new.country <> old.country then raise exception 'the entries of a table file stay as they were proposed'; end if;
  return new;
end $$;
create trigger table_files_stay before update on table_files for each row execute function refuse_change_of_decided();
create trigger table_files_are_kept before delete on table_files for each row execute function refuse_change();
`;
