/** Where a payment goes, as it stood when it was made: a later change of the account changes nothing about it. Sealed, for it holds bank numbers. */
export const destinations = `
alter table net_payments add column destination_sealed bytea;
`;
