import { writtenDate, yearOf, type IsoDate } from '../../calendar/dates';
import { CannotCompute, type CountryPack, type TaxContext, type TaxResult } from '../country-pack';
import { groupTermLife } from './federal/group-term-life';
import { federalIncomeTax } from './federal/income-tax';
import { minimumWage } from './federal/minimum-wage';
import { planLimit } from './federal/plan-limits';
import { ADDITIONAL_MEDICARE, employeeSocialTaxes, employerSocialTaxes, MEDICARE, SOCIAL_SECURITY } from './federal/social-security';
import { federalUnemployment } from './federal/unemployment';
import { disposableEarnings, orderLimit } from './federal/wage-attachment';
import { dueDates } from './forms/due-dates';
import { LIABILITY, quarterlyReturn } from './forms/quarterly-return';
import { checkStatement, isSocialSecurityNumber, WAGE_STATEMENT_SOURCE, wageStatement } from './forms/wage-statement';
import { isFederalHoliday } from './holidays';
import { localEarnedIncomeTax, localServicesTax, pennsylvaniaIncomeTax, pennsylvaniaUnemploymentOfEmployee } from './states/pennsylvania';
import { stateUnemployment } from './states/unemployment';
import { virginiaIncomeTax } from './states/virginia';
import readyItems from './ready-items.json';
import { tables } from './tables';
import { usEmployerForm, usEmployerSchema, usTaxForm, usTaxSchema, type UsEmployer, type UsTax } from './tax-details';
import { bases, treatments } from './treatments';

/** Pennsylvania and Virginia tax each other's residents only at home (agreement under 61 Pa. Code 121.12). */
const TAXED_AT_HOME = new Set(['PA>VA', 'VA>PA']);

/** The state whose income tax is withheld, if it has one. */
export function incomeTaxState(tax: UsTax): 'PA' | 'VA' | undefined {
  if (TAXED_AT_HOME.has(`${tax.residentState}>${tax.workState}`)) return tax.residentState as 'PA' | 'VA';
  if (tax.workState !== 'TX') return tax.workState;
  return tax.residentState === 'TX' ? undefined : tax.residentState;
}

function employeeTaxes(context: TaxContext<UsTax, UsEmployer>): TaxResult[] {
  const taxes: (TaxResult | undefined)[] = [federalIncomeTax(context), ...employeeSocialTaxes(context)];
  const state = incomeTaxState(context.tax);
  if (state === 'PA') taxes.push(pennsylvaniaIncomeTax(context));
  if (state === 'VA') taxes.push(virginiaIncomeTax(context));
  if (context.tax.workState === 'PA') {
    taxes.push(pennsylvaniaUnemploymentOfEmployee(context), localEarnedIncomeTax(context), localServicesTax(context));
  }
  return taxes.filter((tax) => tax !== undefined);
}

export const unitedStates: CountryPack<UsTax, UsEmployer> = {
  code: 'US',
  name: 'United States',
  currency: 'USD',
  locale: 'en-US',
  taxYearOf: (date) => ({ label: date.slice(0, 4), from: `${date.slice(0, 4)}-01-01`, to: `${date.slice(0, 4)}-12-31` }),
  isHoliday: isFederalHoliday,
  treatments,
  bases,
  taxableBase: 'us.fit.wages',
  publishedTables: { 'us.group-term-life': groupTermLife },
  taxSchema: usTaxSchema,
  employerSchema: usEmployerSchema,
  taxForm: usTaxForm,
  employerForm: usEmployerForm,
  assertTables(date: IsoDate) {
    if (tables.has('us.fit.schedule.standard.single', date) && tables.has('us.oasdi.wage-base', date)) return;
    throw new CannotCompute(
      'no-table',
      `There are no United States tables for pay dates in ${yearOf(date)} (${writtenDate(date)}). Load the year's published tables, or choose another pay date.`,
    );
  },
  legalLimit: planLimit,
  employeeTaxes,
  employerTaxes: (context) => [...employerSocialTaxes(context), federalUnemployment(context), stateUnemployment(context)],
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
  tipsBase: 'us.tips',
  minimumWage,
  supplementalMethods: ['flat', 'aggregate'],
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
  readyItems: readyItems.items as CountryPack['readyItems'],
  filings: {
    returnForm: '941',
    statementForm: 'W-2',
    statementSource: WAGE_STATEMENT_SOURCE,
    quarterlyReturn,
    liabilityCodes: LIABILITY,
    dueDates,
    statement: wageStatement,
    checkStatement,
    isPersonalNumber: isSocialSecurityNumber,
  },
};
