import type { Base, Treatment } from '../country-pack';

/** What pay can count for. Bases marked `byTax` are posted by the tax after its ceiling or its place. */
export const bases: readonly Base[] = [
  { code: 'us.fit.wages', label: 'Federal income-tax wages' },
  { code: 'us.fit.supplemental', label: 'Supplemental wages' },
  { code: 'us.oasdi.pay', label: 'Pay counted for social security' },
  { code: 'us.medicare.wages', label: 'Medicare wages' },
  { code: 'us.futa.pay', label: 'Pay counted for federal unemployment' },
  { code: 'us.suta.pay', label: 'Pay counted for state unemployment' },
  { code: 'us.pa.income.wages', label: 'Pay counted for Pennsylvania income tax', byTax: true },
  { code: 'us.pa.uc.wages', label: 'Pay counted for Pennsylvania unemployment', byTax: true },
  { code: 'us.pa.local.wages', label: 'Pay counted for local taxes', byTax: true },
  { code: 'us.va.income.wages', label: 'Pay counted for Virginia income tax', byTax: true },
  { code: 'us.elective-deferrals', label: 'Elective deferrals' },
  { code: 'us.box12.D', label: 'Deferrals to a 401(k) plan' },
  { code: 'us.box12.AA', label: 'Roth contributions to a 401(k) plan' },
  { code: 'us.box12.DD', label: 'Cost of employer-sponsored health coverage' },
  { code: 'us.box14.vehicle', label: 'Use of a company vehicle' },
  { code: 'us.box14.dues', label: 'Union dues' },
];

const FEDERAL = { 'us.fit.wages': 1, 'us.oasdi.pay': 1, 'us.medicare.wages': 1, 'us.futa.pay': 1, 'us.suta.pay': 1 } as const;
const PENNSYLVANIA = { 'us.pa.income.wages': 1, 'us.pa.uc.wages': 1, 'us.pa.local.wages': 1 } as const;
const EVERYWHERE = { ...FEDERAL, ...PENNSYLVANIA, 'us.va.income.wages': 1 } as const;

const list: Treatment[] = [
  { code: 'wages', label: 'Wages', for: ['earning'], counts: EVERYWHERE },
  { code: 'supplemental', label: 'Supplemental wages', for: ['earning'], counts: { ...EVERYWHERE, 'us.fit.supplemental': 1 } },
  {
    code: 'company-vehicle',
    label: 'Use of a company vehicle',
    for: ['benefit-in-kind'],
    counts: { ...FEDERAL, 'us.va.income.wages': 1, 'us.box14.vehicle': 1 },
    source: {
      publication: '26 U.S.C. 61(a)(1); 61 Pa. Code 101.6',
      section: "Pennsylvania leaves out the use of the employer's property",
      unconfirmed: true,
    },
  },
  {
    code: 'expenses',
    label: 'Expenses paid back (accountable plan)',
    for: ['reimbursement'],
    counts: {},
    source: { publication: '26 CFR 1.62-2(c)' },
  },
  {
    code: 'deferral',
    label: 'Elective deferral (401(k), before tax)',
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.elective-deferrals',
    counts: { 'us.fit.wages': -1, 'us.va.income.wages': -1, 'us.elective-deferrals': 1, 'us.box12.D': 1 },
    source: {
      publication: '26 U.S.C. 402(e)(3), 3121(v)(1)',
      section: 'Pennsylvania and its localities tax deferrals (61 Pa. Code 101.6)',
    },
  },
  {
    code: 'roth-deferral',
    label: 'Roth deferral (401(k), after tax)',
    for: ['deduction'],
    taken: 'after-tax',
    limitedBy: 'us.elective-deferrals',
    counts: { 'us.elective-deferrals': 1, 'us.box12.AA': 1 },
    source: { publication: '26 U.S.C. 402A' },
  },
  {
    code: 'health-premium',
    label: 'Health premium (cafeteria plan)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: {
      'us.fit.wages': -1,
      'us.oasdi.pay': -1,
      'us.medicare.wages': -1,
      'us.futa.pay': -1,
      'us.suta.pay': -1,
      'us.pa.income.wages': -1,
      'us.pa.uc.wages': -1,
      'us.pa.local.wages': -1,
      'us.va.income.wages': -1,
      'us.box12.DD': 1,
    },
    source: { publication: '26 U.S.C. 125, 3121(a)(5)(G)', section: 'State unemployment wages follow the federal rule', unconfirmed: true },
  },
  { code: 'after-tax', label: 'After tax', for: ['deduction'], taken: 'after-tax', counts: {} },
  { code: 'union-dues', label: 'Union dues', for: ['deduction'], taken: 'after-tax', counts: { 'us.box14.dues': 1 } },
  {
    code: 'child-support',
    label: 'Child-support order',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    source: { publication: '15 U.S.C. 1673(b)' },
  },
  {
    code: 'creditor',
    label: "Ordinary creditor's order",
    for: ['deduction'],
    taken: 'order',
    counts: {},
    source: { publication: '15 U.S.C. 1673(a)' },
  },
  { code: 'employer-plan', label: "Employer's contribution to a plan", for: ['employer-contribution'], counts: {} },
  {
    code: 'employer-health',
    label: "Employer's health premium",
    for: ['employer-contribution'],
    counts: { 'us.box12.DD': 1 },
    source: { publication: '26 U.S.C. 106, 6051(a)(14)' },
  },
  { code: 'employer-levy', label: "Employer's levy or insurance", for: ['employer-contribution'], counts: {} },
];

export const treatments: Readonly<Record<string, Treatment>> = Object.fromEntries(list.map((treatment) => [treatment.code, treatment]));
