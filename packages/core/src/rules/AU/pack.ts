import { CannotCompute, type CountryPack } from '../country-pack';
import { byState } from './employer-taxes';
import { auEmployerForm, auEmployerSchema, type AuEmployer } from './employer';
import { auTaxSchema, type AuTax } from './facts';
import { activityStatement } from './forms/activity-statement';
import { finalisation } from './forms/finalisation';
import { payEvent } from './forms/pay-event';
import { payrollTaxReturn } from './forms/payroll-tax-return';
import { superContributions } from './forms/super-contributions';
import { isPublicHoliday } from './holidays';
import { bank, person, words } from './identity';
import { leaveGranted } from './leave-granted';
import { leaving } from './leaving';
import { notices } from './notices';
import { onPayslip } from './on-payslip';
import { disposable, orderLimit } from './orders';
import { owedSuper, owedToStates, owedWithheld } from './owed';
import { payAsYouGo } from './paygw';
import { payrollTax } from './payroll-tax';
import { readyItems } from './ready-items';
import { placeOf, stateCodes, type StateCode } from './states';
import { superGuarantee } from './super';
import { tables } from './tables';
import { auTaxForm } from './tax-details';
import { taxYearLabel, yearEnd, yearStart } from './tax-year';
import { bases, treatments } from './treatments';
import { PAY } from './withholding';
import { yearAhead, yearTurns } from './year';

const registeredStates = (employer: Readonly<Record<string, unknown>>): StateCode[] =>
  stateCodes.filter((state) => (employer['states'] as Record<string, unknown> | undefined)?.[state] !== undefined);

export const australia: CountryPack<AuTax, AuEmployer> = {
  code: 'AU',
  name: 'Australia',
  currency: 'AUD',
  minorUnits: 2,
  locale: 'en-AU',
  paper: 'A4',
  timeZones: [
    'Australia/Sydney',
    'Australia/Melbourne',
    'Australia/Brisbane',
    'Australia/Perth',
    'Australia/Adelaide',
    'Australia/Hobart',
    'Australia/Darwin',
  ],
  words,
  person,
  bank,
  taxYearOf: (date) => ({ label: taxYearLabel(date), from: yearStart(date), to: yearEnd(date) }),
  isHoliday: isPublicHoliday,
  treatments: Object.fromEntries(treatments.map((treatment) => [treatment.code, treatment])),
  bases,
  placesOf: (employer) => registeredStates(employer).map(placeOf),
  countsPayDates: true,
  looksAtQuarter: true,
  taxableBase: PAY,
  taxSchema: auTaxSchema,
  employerSchema: auEmployerSchema,
  taxForm: auTaxForm,
  employerForm: auEmployerForm,
  tables,
  assertTables(date) {
    if (!tables.has('au.paygw.scale-2', date))
      throw new CannotCompute('no-table', `There are no Australian tables for the pay date ${date}.`);
  },
  legalLimit(limit) {
    throw new CannotCompute('no-limit', `There is no legal limit for ${limit}.`);
  },
  employeeTaxes: payAsYouGo,
  employerTaxes(context) {
    const contributed = superGuarantee(context);
    return [...contributed, ...byState(context, contributed)];
  },
  overtimeRules: {
    weekly: { label: 'Over 38 hours a week', weeklyOver: '38', source: { publication: 'Fair Work Act 2009, section 62' } },
    none: { label: 'None, or by the award', source: { publication: 'The award or agreement of the employer' } },
  },
  plainRates: [],
  newTaxDetails: {
    status: 'resident',
    threshold: true,
    numberQuoted: 'yes',
    medicare: 'full',
    medicareReduction: 'no',
    seniors: 'no',
    surcharge: 'no',
    basis: 'F',
    fundChoice: 'default',
  },
  minimumWage({ paper, input }) {
    const rate = tables.value('au.minimum-wage', input.pay.date);
    return paper.reckon('minimum-wage', 'National minimum wage').start('Adults, an hour', rate.value).source(rate.source).done();
  },
  paidBeside: {
    label: 'Withholding',
    treatment: 'bonus',
    methods: [{ code: 'spread', label: 'spread over the year, beside usual pay', withEarlierPay: true }],
  },
  exemptions: {},
  disposable,
  orderLimit,
  readyItems,
  countsDaysEarned: true,
  employerNumber: ({ abn }) => (typeof abn === 'string' ? abn : ''),
  reckonings: payrollTax,
  moneyOwed: (employer) => [owedWithheld(employer), ...owedSuper(employer), ...owedToStates(employer)],
  leaveGranted,
  onPayslip,
  notices,
  leaving,
  yearAhead,
  yearTurns,
  whole: true,
  filings: (employer) => [
    payEvent,
    superContributions,
    activityStatement(employer),
    ...registeredStates(employer).map(payrollTaxReturn),
    finalisation,
  ],
};
