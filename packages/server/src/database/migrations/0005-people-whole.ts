/** Groups, dated changes of facts, taxes that stand otherwise than by their rules, the logo, more pay schedules, any number of rates. */
export const peopleWhole = `
alter table pay_schedules drop constraint pay_schedules_frequency_check,
  add constraint pay_schedules_frequency_check check (frequency in ('daily', 'weekly', 'fortnightly', 'four-weekly', 'twice-a-month', 'monthly', 'quarterly', 'yearly'));
alter table employers add column logo bytea, add column logo_type text;

create table pay_groups (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers,
  name text not null check (name <> ''),
  defaults jsonb not null default '{}',
  version integer not null default 1,
  unique (employer_id, name)
);
alter table people add column group_id uuid references pay_groups, add column manager_id uuid references people, add column absence jsonb;
create index people_group on people (group_id);

-- What of a person's facts changed from which day: counted already, or coming.
create table dated_changes (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  from_date date not null,
  facts jsonb not null,
  before jsonb,
  reason text not null default '',
  user_id uuid not null references users,
  entered_at timestamptz not null default now(),
  counted_at timestamptz
);
create index dated_changes_person on dated_changes (person_id, from_date);
create index dated_changes_coming on dated_changes (from_date) where counted_at is null;

create table standing_taxes (
  id uuid primary key default gen_random_uuid(),
  person_id uuid not null references people,
  tax text not null,
  instead text not null check (instead in ('exempt', 'amount', 'percent')),
  value numeric check ((value is null) = (instead = 'exempt')),
  reason text not null check (reason <> ''),
  from_date date not null,
  to_date date,
  check (to_date is null or to_date >= from_date)
);
create index standing_taxes_person on standing_taxes (person_id);

update pay_rates set series = '2' where series = 'second';
`;
