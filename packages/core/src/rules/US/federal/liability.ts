/** Taxes deposited and reported together: withheld, and the employer's share. */
export const FEDERAL_LIABILITY = [
  'us.fit',
  'us.oasdi',
  'us.oasdi.employer',
  'us.medicare',
  'us.medicare.employer',
  'us.medicare.additional',
];
