/** Savings schemes that the law wants people to be enrolled in, what happened to each membership, and the days of enrolling again. */
export const enrolment = `
create table savings_schemes (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  name text not null,
  provider text not null,
  reference text not null,
  member_group text not null,
  choices jsonb not null,
  tiers jsonb not null,
  employer_at_most text not null,
  employee_item uuid not null references pay_items (id),
  employer_item uuid not null references pay_items (id),
  version integer not null default 1
);
create index on savings_schemes (employer_id);

create table enrolment_steps (
  id uuid primary key default gen_random_uuid(),
  number bigint generated always as identity,
  employer_id uuid not null references employers (id),
  person_id uuid not null references people (id),
  step text not null,
  on_day date not null,
  about jsonb not null default '{}',
  -- A step that takes another back names it; each is taken back once.
  undoes uuid unique references enrolment_steps (id),
  user_id uuid not null references users (id),
  at timestamptz not null default now(),
  check ((step = 'undone') = (undoes is not null))
);
create index on enrolment_steps (person_id, number);
create index on enrolment_steps (employer_id, number);
create trigger enrolment_steps_are_append_only before update or delete on enrolment_steps for each row execute function refuse_change();
create trigger enrolment_steps_are_not_emptied before truncate on enrolment_steps for each statement execute function refuse_change();

create table enrolment_rounds (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  on_day date not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now()
);
create index on enrolment_rounds (employer_id);
`;
