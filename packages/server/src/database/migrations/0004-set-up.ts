/** The employer's set-up on screen: a version against two people changing it, the account that pays, worksites with their state. */
export const setUp = `
alter table employers add column version integer not null default 1, add column bank jsonb, add column account_sealed bytea;
update employers set facts = facts || jsonb_build_object('worksites',
  (select coalesce(jsonb_agg(case when jsonb_typeof(w) = 'string' then jsonb_build_object('name', w) else w end), '[]') from jsonb_array_elements(facts->'worksites') w));
alter table pay_runs drop constraint pay_runs_kind_check, add constraint pay_runs_kind_check check (kind in ('regular', 'correction', 'opening'));
create table import_columns (employer_id uuid primary key references employers, columns jsonb not null);
create index people_search on people (employer_id, lower(given_name || ' ' || family_name) text_pattern_ops);
`;
