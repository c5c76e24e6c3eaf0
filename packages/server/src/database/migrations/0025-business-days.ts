/** The business day that a record counted for, beside the moment at which it was made. */
export const businessDays = 'alter table audit_entries add column business_date date';
