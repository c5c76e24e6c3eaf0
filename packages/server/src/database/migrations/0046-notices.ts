/** Notices of the tax agency that were used, and the stand-in's own that wait for the employer. */
export const notices = `
create table tax_notices (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  person_id uuid not null references people (id),
  kind text not null,
  label text not null,
  issued date not null,
  from_date date not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now(),
  unique (person_id, kind, issued, label)
);
create trigger tax_notices_are_append_only before update or delete on tax_notices for each row execute function refuse_change();
create trigger tax_notices_are_not_emptied before truncate on tax_notices for each statement execute function refuse_change();

create table agency.notices (
  id bigint generated always as identity primary key,
  taxpayer text not null,
  issued_on date not null,
  content text not null
);
`;
