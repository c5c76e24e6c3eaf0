/**
 * What happened to returns, reports and statements: only ever added to, so that what was prepared, agreed to and sent is
 * kept as it was. Schedules may be half-yearly. How the employer deposits is one of its registrations, in the terms of its country.
 */
export const filings = `
create table filing_events (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers (id),
  filing text not null,
  period text not null,
  attempt integer not null check (attempt > 0),
  step text not null check (step in ('prepared', 'withdrawn', 'agreed', 'sent', 'received', 'accepted', 'rejected')),
  on_day date not null,
  at timestamptz not null default now(),
  user_id uuid references users (id),
  words text not null default '',
  content jsonb,
  unique (employer_id, filing, period, attempt, step)
);
create trigger filing_events_are_append_only before update or delete on filing_events for each row execute function refuse_change();
create trigger filing_events_are_not_emptied before truncate on filing_events for each statement execute function refuse_change();

alter table pay_schedules drop constraint pay_schedules_frequency_check,
  add constraint pay_schedules_frequency_check check (frequency in ('daily', 'weekly', 'fortnightly', 'four-weekly', 'twice-a-month', 'monthly', 'quarterly', 'half-yearly', 'yearly'));

update employers set facts = (facts - 'depositor') || jsonb_build_object('country', coalesce(facts->'country', '{}'::jsonb) || jsonb_build_object('depositor', facts->'depositor'))
where facts ? 'depositor';
`;
