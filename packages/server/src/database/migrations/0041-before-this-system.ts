/**
 * The day from which an agency has refused somebody's number. Deposits that were made of pay before this system, which was entered as sums: each by the pay date whose liability it was.
 * And files of several employers of one number, which go to their agency as one.
 */
export const beforeThisSystem = `
alter table people add column number_refused date;

create table earlier_deposits (
  id uuid primary key default gen_random_uuid(),
  employer_id uuid not null references employers (id),
  filing text not null,
  counts_on date not null,
  paid_on date not null,
  amount bigint not null check (amount > 0),
  reference text not null,
  user_id uuid not null references users (id),
  at timestamptz not null default now(),
  undone text,
  undone_by uuid references users (id)
);
create index on earlier_deposits (employer_id, filing, counts_on);

-- The file that it goes along with, as a part of that one; it is there before that one is made.
alter table filing_files add column goes_with uuid;
create index on filing_files (goes_with);
`;
