import type { Filing } from '../../../filings/filing';
import type { UsEmployer } from '../facts';
import { STATES } from '../states';
import { form944 } from './annual-return';
import { form1099Misc, form1099Nec } from './nonemployee';
import { form945 } from './nonpayroll-return';
import { form941 } from './quarterly-return';
import { stateReports } from './state-reports';
import { form940 } from './unemployment-return';
import { formW2 } from './wage-statement';

/** What an employer files, out of its registrations: to the United States, to the states where it is registered, and to their places. */
export const filings = (employer: Partial<UsEmployer>): Filing[] => [
  employer.federalReturn === '944' ? form944 : form941,
  form940,
  formW2,
  form1099Nec,
  form1099Misc,
  form945,
  ...STATES.filter(({ code }) => employer.states?.[code]).flatMap((state) => stateReports(state, employer)),
];
