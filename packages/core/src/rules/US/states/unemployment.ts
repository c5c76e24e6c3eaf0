import type { Otherwise, Programme } from './state';

/** The employer's unemployment contribution at the rate that the state assigned to it, up to the state's ceiling. */
export const unemployment = (state: string, otherwise?: Otherwise): Programme => ({
  code: 'us.unemployment',
  label: `${state} unemployment`,
  from: 'employer',
  rate: { assigned: 'unemploymentRate', label: 'Unemployment rate' },
  ceiling: { table: 'unemployment.ceiling', pay: 'us.unemployment.pay', label: `${state} unemployment wages` },
  ...(otherwise ? { otherwise } : {}),
});
