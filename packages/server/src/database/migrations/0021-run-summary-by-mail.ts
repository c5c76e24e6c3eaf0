/** The summary of a run goes out by mail beside its register. */
export const runSummaryByMail = `
alter table outbox drop constraint outbox_kind_check,
  add constraint outbox_kind_check check (kind in ('payslip', 'register', 'summary', 'invitation') and (run_id is null) = (kind = 'invitation'));
`;
