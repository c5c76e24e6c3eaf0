/** What is stated of a payment, and of the year so far, in all: by which element of the submission it goes. */
export const STATED = {
  pay: { code: 'gb.paye.pay', label: 'Taxable pay' },
  tax: { code: 'gb.paye', label: 'Tax' },
  employee: { code: 'gb.ni', label: 'National insurance' },
  employer: { code: 'gb.ni.employer', label: "Employer's" },
  student: { code: 'gb.student-loan', label: 'Student loan' },
  postgraduate: { code: 'gb.postgraduate-loan', label: 'Postgraduate loan' },
} as const;
/** And of each category letter. */
export const OF_LETTER = ['earnings', 'to-lower', 'to-primary', 'to-upper', 'employee', 'employer'] as const;
export const letterKey = (letter: string, what: (typeof OF_LETTER)[number]): string => `${letter} ${what}`;
export const soFar = (key: string): string => `${key}, year`;
/** Lines of the employer's summary that are no sums of codes. */
export const CONSTRUCTION = 'construction';
export const NO_PAYMENT = 'no-payment';
export const FINAL = 'final';
