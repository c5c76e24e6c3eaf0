import { writtenDate, yearOf, type IsoDate } from '../../calendar/dates';
import { CannotCompute, type CountryPack, type TaxContext, type TaxResult } from '../country-pack';
import { backupWithholding } from './federal/backup-withholding';
import { groupTermLife } from './federal/group-term-life';
import { federalIncomeTax } from './federal/income-tax';
import { minimumWage } from './federal/minimum-wage';
import { planLimit } from './federal/plan-limits';
import { ADDITIONAL_MEDICARE, employeeSocialTaxes, employerSocialTaxes, MEDICARE, SOCIAL_SECURITY } from './federal/social-security';
import { federalUnemployment } from './federal/unemployment';
import { disposableEarnings, orderLimit } from './federal/wage-attachment';
import { filings } from './forms';
import { isFederalHoliday, isLegalHoliday } from './holidays';
import { bank, person, words } from './identity';
import { leaving } from './leaving';
import { moneyOwed } from './owed';
import { stateOf } from './states';
import { stateIncomeTaxes } from './states/income';
import { programmeTaxes } from './states/programmes';
import { readyItems } from './ready-items';
import { tables } from './tables';
import { yearAhead, yearTurns } from './year';
import type { UsEmployer, UsTax } from './facts';
import { usEmployerForm, usEmployerSchema, usTaxForm, usTaxSchema } from './tax-details';
import { bases, treatments } from './treatments';

function employeeTaxes(context: TaxContext<UsTax, UsEmployer>): TaxResult[] {
  const work = stateOf(`US-${context.tax.workState}`);
  const home = stateOf(`US-${context.tax.residentState}`);
  return [
    federalIncomeTax(context),
    ...employeeSocialTaxes(context),
    ...stateIncomeTaxes(context),
    ...programmeTaxes(work, 'employee', context),
    ...[...new Set([home, work])].flatMap((state) => state.local?.(context) ?? []),
  ];
}

function employerTaxes(context: TaxContext<UsTax, UsEmployer>): TaxResult[] {
  const work = stateOf(`US-${context.tax.workState}`);
  return [...employerSocialTaxes(context), federalUnemployment(context), ...programmeTaxes(work, 'employer', context)];
}

export const unitedStates: CountryPack<UsTax, UsEmployer> = {
  code: 'US',
  name: 'United States',
  currency: 'USD',
  minorUnits: 2,
  locale: 'en-US',
  paper: 'LETTER',
  timeZones: [
    'America/New_York',
    'America/Chicago',
    'America/Denver',
    'America/Phoenix',
    'America/Los_Angeles',
    'America/Anchorage',
    'Pacific/Honolulu',
    'America/Puerto_Rico',
  ],
  words,
  person,
  bank,
  taxYearOf: (date) => ({ label: date.slice(0, 4), from: `${date.slice(0, 4)}-01-01`, to: `${date.slice(0, 4)}-12-31` }),
  // The District's own holidays move deposits and returns; banks there keep the federal ones too.
  isHoliday: (date, place) => isFederalHoliday(date) || (place === 'US-DC' && isLegalHoliday(date)),
  treatments,
  bases,
  placesOf: ({ states }) => Object.keys((states as object | undefined) ?? {}).map((state) => `US-${state}`),
  taxableBase: 'us.fit.wages',
  publishedTables: { 'us.group-term-life': groupTermLife },
  taxSchema: usTaxSchema,
  employerSchema: usEmployerSchema,
  taxForm: usTaxForm,
  employerForm: usEmployerForm,
  tables,
  assertTables(date: IsoDate) {
    if (tables.has('us.fit.schedule.standard.single', date) && tables.has('us.oasdi.wage-base', date)) return;
    throw new CannotCompute(
      'no-table',
      `There are no United States tables for pay dates in ${yearOf(date)} (${writtenDate(date)}). An administrator loads the year's published tables under Tables; or choose another pay date.`,
    );
  },
  legalLimit: planLimit,
  employeeTaxes,
  employerTaxes,
  overtimeRules: {
    weekly: {
      label: 'Over 40 hours a week',
      weeklyOver: '40',
      source: { publication: '29 U.S.C. 207(a)(1)', section: 'One and one-half times the regular rate over forty hours in a workweek' },
    },
    daily: {
      label: 'Over 8 and 12 a day, 40 a week, seventh day',
      weeklyOver: '40',
      dailyOver: '8',
      dailyDoubleOver: '12',
      seventhDayDoubleOver: '8',
      source: { publication: 'California Labor Code 510(a)' },
    },
    none: { label: 'None: everybody is exempt', source: { publication: '29 U.S.C. 213(a)' } },
  },
  contractorBase: { code: 'us.nonemployee', label: 'Nonemployee compensation' },
  contractorTaxes: backupWithholding,
  wageLaw: {
    regularRate: { publication: '29 CFR 778.109, 778.115', section: 'Regular rate: all pay of the workweek over all hours worked' },
    tipCredit: { publication: '29 U.S.C. 203(m)(2); 29 CFR 531.59, 531.60', section: 'Tip credit, and overtime of tipped employees' },
    kept: { publication: '29 CFR 531.35', section: 'The minimum wage is paid free and clear' },
  },
  plainRates: [SOCIAL_SECURITY, MEDICARE],
  newTaxDetails: { federal: { certificate: '2020' } },
  tipsBase: 'us.tips',
  minimumWage,
  paidBeside: {
    label: 'Tax on supplemental pay',
    treatment: 'supplemental',
    methods: [
      { code: 'flat', label: 'at the flat rate' },
      { code: 'aggregate', label: 'together with the latest regular pay', withEarlierPay: true },
    ],
  },
  exemptions: {
    [SOCIAL_SECURITY]: {
      also: ['us.oasdi.employer'],
      uncounted: ['us.oasdi.pay', 'us.oasdi.wages'],
      source: { publication: '26 U.S.C. 3121(b)', section: 'Employment that is excepted' },
    },
    [MEDICARE]: {
      also: ['us.medicare.employer', ADDITIONAL_MEDICARE],
      uncounted: ['us.medicare.wages', 'us.medicare.additional.wages'],
      source: { publication: '26 U.S.C. 3121(b)', section: 'Employment that is excepted' },
    },
    'us.futa': {
      also: [],
      uncounted: ['us.futa.pay', 'us.futa.wages'],
      source: { publication: '26 U.S.C. 3306(c)', section: 'Employment that is excepted' },
    },
  },
  disposable: disposableEarnings,
  orderLimit,
  readyItems,
  employerNumber: ({ federalNumber }) => (typeof federalNumber === 'string' ? federalNumber : ''),
  moneyOwed: (employer) => moneyOwed(employer),
  leaving,
  yearTurns,
  yearAhead: (facts) => yearAhead(facts),
  whole: true,
  filings: (employer) => filings(employer),
};
