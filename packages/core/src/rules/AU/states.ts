/** States and territories, by whose law long service leave, public holidays and payroll tax go. */
export const STATES = {
  ACT: 'Australian Capital Territory',
  NSW: 'New South Wales',
  NT: 'Northern Territory',
  QLD: 'Queensland',
  SA: 'South Australia',
  TAS: 'Tasmania',
  VIC: 'Victoria',
  WA: 'Western Australia',
} as const;
export type StateCode = keyof typeof STATES;

export const stateCodes = Object.keys(STATES) as [StateCode, ...StateCode[]];
export const stateChoices = Object.entries(STATES).map(([value, label]) => ({ value, label }));
/** As ledger codes write a place. */
export const placeOf = (state: string): string => `AU-${state}`;
