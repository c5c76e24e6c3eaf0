import type { CountryPack } from '../country-pack';
import { taxMonth, taxWeek } from './tax-year';

/** Of a category letter what is stated, whichever letter it is. */
const ofLetter = (what: string): RegExp => new RegExp(`^gb\\.ni\\.[A-Z]\\.${what}$`);

/** What is kept of pay, tax and contributions (Income Tax (PAYE) Regulations 2003, regulation 66). */
export const deductionSheet: NonNullable<CountryPack['deductionSheet']> = {
  name: 'Deductions working sheet',
  period: (date, frequency) =>
    ['weekly', 'fortnightly', 'four-weekly'].includes(frequency) ? `week ${taxWeek(date)}` : `month ${taxMonth(date)}`,
  parts: [
    {
      title: 'Pay and tax',
      columns: [
        { label: 'Pay', codes: /^gb\.paye\.pay$/ },
        { label: 'Pay to date', codes: /^gb\.paye\.pay$/, toDate: true },
        { label: 'Tax', codes: /^gb\.paye$/ },
        { label: 'Tax to date', codes: /^gb\.paye$/, toDate: true },
        { label: 'Student loan', codes: /^gb\.student-loan$/ },
        { label: 'Postgrad loan', codes: /^gb\.postgraduate-loan$/ },
      ],
    },
    {
      title: 'National insurance',
      columns: [
        { label: 'At lower limit', codes: ofLetter('to-lower') },
        { label: 'To primary', codes: ofLetter('to-primary') },
        { label: 'To upper limit', codes: ofLetter('to-upper') },
        { label: 'Employee', codes: /^gb\.ni$/ },
        { label: 'Employer', codes: /^gb\.ni\.employer$/ },
        { label: 'Statutory pay', codes: /^gb\.(ssp|smp|sap|spp|shpp|spbp|sncp)$/ },
      ],
    },
  ],
  source: {
    publication: 'Income Tax (PAYE) Regulations 2003, regulation 66; Social Security (Contributions) Regulations 2001, schedule 4',
  },
};
