/** What the time clock recorded. Punches are never changed; what is taken from them is the timesheets' own. */
export const clock = `
create table punches (
  id bigint generated always as identity primary key,
  employer_id uuid not null references employers,
  person_id uuid not null references people,
  at timestamp not null,
  kind text not null check (kind in ('in', 'out')),
  unique (person_id, at, kind)
);
create index punches_employer on punches (employer_id, at);
`;
