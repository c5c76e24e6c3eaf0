/** Employees see what is their own; they are invited by mail. */
export const ownView = `
alter table memberships add column person_id uuid references people,
  drop constraint memberships_role_check,
  add constraint memberships_role_check check (role in ('administrator', 'clerk', 'approver', 'viewer', 'employee')),
  add constraint memberships_person check ((role = 'employee') = (person_id is not null));
create unique index memberships_of_person on memberships (person_id) where person_id is not null;
alter table people add column electronic_forms date;
alter table outbox alter column run_id drop not null,
  drop constraint outbox_kind_check,
  add constraint outbox_kind_check check (kind in ('payslip', 'register', 'invitation') and (run_id is null) = (kind = 'invitation'));
`;
