import { addDays, dateOf, yearOf } from '../../calendar/dates';
import { CannotCompute, type CountryPack, type Treatment } from '../country-pack';
import { nationalInsuranceOfEmployee, nationalInsuranceOfEmployer } from './national-insurance';
import { incomeTax } from './income-tax';
import { loanRepayments } from './student-loans';
import { attachable, attachments, attachmentTables, orderLimit } from './attachments';
import { ukEmployerForm, ukEmployerSchema, type UkEmployer } from './employer';
import { employerReckonings } from './employer-reckonings';
import { employerPaymentSummary } from './forms/employer-payment-summary';
import { fullPaymentSubmission } from './forms/full-payment-submission';
import { bank, person, words } from './identity';
import { leaveByLaw } from './leave-by-law';
import { leaving } from './leaving';
import { yearAhead, yearTurns } from './year';
import { AWARD, class1aOnAward } from './termination';
import { class1aReturn } from './forms/class-1a-return';
import { certificateOfYear } from './forms/certificate-of-year';
import { notices } from './notices';
import { minimumWage } from './minimum-wage';
import { isBankHoliday } from './holidays';
import { BASIC, pensionTables, pensionTreatments, QUALIFYING } from './pension-contributions';
import { deductionSheet } from './deduction-sheet';
import { enrolment } from './enrolment';
import { averageHour, holidayGranted } from './holiday-pay';
import { readyItems } from './ready-items';
import { owedClass1a, owedToHmrc } from './owed';
import { earningsPeriod, taxYearLabel, yearStart } from './tax-year';
import { ukTaxSchema, type UkTax } from './facts';
import { tables } from './tables';
import { ukTaxForm } from './tax-details';
import { RECOVERED, SICK } from './statutory-codes';

/** Statutory payments by the treatment of the item that pays them. */
const statutory: Treatment[] = Object.entries({ [SICK]: 'Statutory sick pay', ...RECOVERED }).map(([base, label]) => ({
  code: base.slice('gb.'.length),
  label,
  for: ['earning'],
  counts: { 'gb.paye.pay': 1, 'gb.ni.earnings': 1, [QUALIFYING]: 1, [BASIC]: 1, [base]: 1 },
}));

const list: Treatment[] = [
  { code: 'pay', label: 'Pay', for: ['earning'], counts: { 'gb.paye.pay': 1, 'gb.ni.earnings': 1, [QUALIFYING]: 1, [BASIC]: 1 } },
  {
    code: 'extra-pay',
    label: 'Pay beside basic pay (overtime, bonus, commission)',
    for: ['earning'],
    counts: { 'gb.paye.pay': 1, 'gb.ni.earnings': 1, [QUALIFYING]: 1 },
  },
  ...pensionTreatments,
  { code: 'termination-award', label: 'Termination award (redundancy)', for: ['earning'], counts: { [AWARD]: 1 } },
  { code: 'notice-pay', label: 'Post-employment notice pay', for: ['earning'], counts: { 'gb.paye.pay': 1, 'gb.ni.earnings': 1 } },
  {
    code: 'benefit-payrolled',
    label: 'Benefit in kind, payrolled',
    for: ['benefit-in-kind'],
    counts: { 'gb.paye.pay': 1, 'gb.benefits': 1 },
  },
  {
    code: 'sacrifice',
    label: 'Salary sacrifice',
    givesUpPay: true,
    for: ['deduction'],
    taken: 'before-tax',
    counts: { 'gb.paye.pay': -1, 'gb.ni.earnings': -1, [QUALIFYING]: -1, [BASIC]: -1 },
  },
  ...statutory,
  ...attachments,
  { code: 'after-tax', label: 'After tax', for: ['deduction'], taken: 'after-tax', counts: {} },
  { code: 'expenses', label: 'Expenses paid back', for: ['reimbursement'], counts: {} },
];

export const unitedKingdom: CountryPack<UkTax, UkEmployer> = {
  code: 'GB',
  name: 'United Kingdom',
  currency: 'GBP',
  minorUnits: 2,
  locale: 'en-GB',
  paper: 'A4',
  timeZones: ['Europe/London'],
  words,
  person,
  bank,
  taxYearOf(date) {
    const from = yearStart(date);
    return { label: taxYearLabel(date), from, to: addDays(dateOf(yearOf(from) + 1, 4, 6), -1) };
  },
  earningsPeriod,
  isHoliday: isBankHoliday,
  treatments: Object.fromEntries(list.map((treatment) => [treatment.code, treatment])),
  bases: [
    { code: 'gb.paye.pay', label: 'Pay subject to income tax' },
    { code: 'gb.ni.earnings', label: 'Earnings for national insurance' },
    ...Object.entries({ [SICK]: 'Statutory sick pay', ...RECOVERED }).map(([code, label]) => ({ code, label })),
    { code: AWARD, label: 'Termination award' },
    { code: QUALIFYING, label: 'Earnings for workplace pensions' },
    { code: BASIC, label: 'Basic pay for workplace pensions' },
    { code: 'gb.benefits', label: 'Benefits in kind' },
  ],
  placesOf: () => [],
  taxableBase: 'gb.paye.pay',
  taxSchema: ukTaxSchema,
  employerSchema: ukEmployerSchema,
  taxForm: ukTaxForm,
  assertTables(date) {
    if (!tables.has('gb.paye.bands', date))
      throw new CannotCompute('no-table', `There are no United Kingdom tables for the pay date ${date}.`);
  },
  legalLimit(base) {
    throw new CannotCompute('no-limit', `There is no legal limit for ${base}.`);
  },
  employeeTaxes: (context) => [incomeTax(context), nationalInsuranceOfEmployee(context), ...loanRepayments(context)],
  employerTaxes: (context) => [nationalInsuranceOfEmployer(context), ...class1aOnAward(context)],
  overtimeRules: {},
  paidBeside: { label: 'Tax', treatment: 'pay', methods: [{ code: 'ordinary', label: 'as on every payment' }] },
  plainRates: [],
  newTaxDetails: { basis: 'cumulative', category: 'A', director: 'no', studentLoan: 'none' },
  exemptions: {},
  disposable: attachable,
  minimumWage,
  employerForm: ukEmployerForm,
  tables,
  readyItems: () => readyItems,
  employerNumber: ({ payeReference }) => (typeof payeReference === 'string' ? payeReference : ''),
  reckonings: employerReckonings,
  moneyOwed: (employer) => [owedToHmrc(employer), owedClass1a(employer)],
  leaveByLaw,
  enrolment,
  paysAhead: true,
  deductionSheet,
  notices,
  averageLeavePay: { earnings: QUALIFYING, away: [SICK, ...Object.keys(RECOVERED)], hourly: averageHour },
  leaveGranted: holidayGranted,
  leaving,
  yearAhead,
  yearTurns,

  whole: true,
  filings: () => [fullPaymentSubmission, employerPaymentSummary, certificateOfYear, class1aReturn],
  orderLimit,
  publishedTables: { ...attachmentTables, ...pensionTables },
};
