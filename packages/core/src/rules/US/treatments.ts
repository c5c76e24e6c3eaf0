import { atPlace, whatOf } from '../../ledger/codes';
import type { Base, Treatment } from '../country-pack';
import { STATES } from './states';
import { payCodeOf } from './states/programmes';
import type { Otherwise } from './states/state';

const PLAN_PAY = 'us.plan-pay';
const UNREDUCED: Otherwise = Object.fromEntries(
  ['health-premium', 'hsa-self-only', 'hsa-family', 'health-fsa', 'dependent-care', 'premium-before-tax', 'commuting'].map((code) => [
    code,
    0,
  ]),
);

/** What pay can count for. Bases marked `byTax` are posted by the tax after its ceiling or its place. */
const federal: readonly Base[] = [
  { code: 'us.fit.wages', label: 'Federal income-tax wages' },
  { code: 'us.fit.supplemental', label: 'Supplemental wages' },
  { code: 'us.oasdi.pay', label: 'Social security wages' },
  { code: 'us.tips', label: 'Tips' },
  { code: 'us.medicare.wages', label: 'Medicare wages' },
  { code: 'us.futa.pay', label: 'Federal unemployment wages' },
  { code: 'us.elective-deferrals', label: 'Elective deferrals' },
  { code: 'us.box12.D', label: 'Deferrals to a 401(k) plan' },
  { code: 'us.box12.AA', label: 'Roth contributions to a 401(k) plan' },
  { code: 'us.box12.DD', label: 'Cost of employer-sponsored health coverage' },
  { code: 'us.fit.not-withheld', label: 'Wages from which no income tax is withheld' },
  { code: 'us.simple-deferrals', label: 'Deferrals to a SIMPLE plan' },
  { code: 'us.hsa', label: 'Contributions to a health savings account' },
  { code: 'us.health-fsa', label: 'Health flexible spending arrangement' },
  { code: 'us.dependent-care', label: 'Dependent care' },
  { code: 'us.box12.C', label: 'Cost of group term life insurance over 50,000' },
  { code: 'us.box12.E', label: 'Deferrals to a 403(b) plan' },
  { code: 'us.box12.BB', label: 'Roth contributions to a 403(b) plan' },
  // What is taken through a cafeteria plan is pay that a plan counts (26 U.S.C. 415(c)(3)(D)).
  { code: PLAN_PAY, label: 'Pay that retirement plans count', follows: 'us.oasdi.pay', otherwise: UNREDUCED },
  { code: 'us.overtime', label: 'Overtime at one and a half', byTax: true },
  { code: 'us.overtime-premium', label: 'Overtime premium', byTax: true },
  { code: 'us.box14.vehicle', label: 'Use of a company vehicle' },
  { code: 'us.box14.dues', label: 'Union dues' },
];

/** Income tax and programmes of the states and places count what the federal taxes count, unless their file says otherwise. */
const ofStates: readonly Base[] = STATES.flatMap((state) => {
  const { incomeTax, localPay, programmes } = state;
  const base = (what: string, label: string, follows: string, otherwise?: Otherwise): Base => ({
    code: atPlace(what, state.place),
    label,
    byTax: true,
    place: state.place,
    follows,
    ...(otherwise ? { otherwise } : {}),
  });
  const paid = new Map(programmes.filter((one) => !one.perHour).map((one) => [payCodeOf(state, one), one]));
  return [
    ...(incomeTax ? [base('us.state-income.pay', `${state.name} income-tax wages`, 'us.fit.wages', incomeTax.otherwise)] : []),
    ...(localPay ? [base(localPay.code, localPay.label, 'us.fit.wages', localPay.otherwise)] : []),
    ...[...paid].map(([code, one]) =>
      base(whatOf(code), one.ceiling?.label ?? `${one.label} wages, ${one.from}'s share`, 'us.futa.pay', one.otherwise),
    ),
  ];
});

export const bases: readonly Base[] = [...federal, ...ofStates];

const EVERYWHERE = { 'us.fit.wages': 1, 'us.oasdi.pay': 1, 'us.medicare.wages': 1, 'us.futa.pay': 1 } as const;

/** Taken through a cafeteria plan: lowers every base. */
const CAFETERIA = Object.fromEntries(Object.keys(EVERYWHERE).map((base) => [base, -1 as const]));
const STATES_FOLLOW = 'State bases follow the federal rule';

const OVERTIME = {
  publication: '26 U.S.C. 225; 29 U.S.C. 207',
  section: 'Of what the federal law wants; the premium is stated to the employee',
};

const list: Treatment[] = [
  { code: 'wages', label: 'Wages', for: ['earning'], counts: EVERYWHERE },
  { code: 'supplemental', label: 'Supplemental wages', for: ['earning'], counts: { ...EVERYWHERE, 'us.fit.supplemental': 1 } },
  {
    code: 'overtime',
    label: 'Overtime at one and a half times the regular rate',
    for: ['earning'],
    counts: { ...EVERYWHERE, 'us.overtime': 1 },
    source: OVERTIME,
  },
  {
    code: 'overtime-premium',
    label: 'Overtime premium alone (the half over the regular rate)',
    for: ['earning'],
    counts: { ...EVERYWHERE, 'us.overtime-premium': 1 },
    source: OVERTIME,
  },
  {
    code: 'tips',
    label: 'Tips paid with wages',
    for: ['earning'],
    counts: { ...EVERYWHERE, 'us.tips': 1 },
    source: { publication: '26 U.S.C. 3121(q), 3401(f)' },
  },
  {
    code: 'tips-reported',
    label: 'Tips that the employee received and reported',
    for: ['benefit-in-kind'],
    counts: { ...EVERYWHERE, 'us.tips': 1 },
    source: { publication: '26 U.S.C. 6053(a); 26 CFR 31.3402(k)-1', section: 'Form 4070: tax on reported tips is withheld from wages' },
  },
  {
    code: 'company-vehicle',
    label: 'Use of a company vehicle',
    for: ['benefit-in-kind'],
    counts: { ...EVERYWHERE, 'us.box14.vehicle': 1 },
    source: {
      publication: '26 U.S.C. 61(a)(1); 61 Pa. Code 101.6',
      section: "Pennsylvania leaves out the use of the employer's property",
      unconfirmed: true,
    },
  },
  {
    code: 'expenses',
    label: 'Reimbursed expenses (accountable plan)',
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
    limit: 'us.elective-deferrals.before-tax',
    counts: { 'us.fit.wages': -1, 'us.elective-deferrals': 1, 'us.box12.D': 1 },
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
    counts: { ...CAFETERIA, 'us.box12.DD': 1 },
    source: { publication: '26 U.S.C. 125, 3121(a)(5)(G)', section: 'State unemployment wages follow the federal rule', unconfirmed: true },
  },
  {
    code: 'deferral-403b',
    label: 'Elective deferral (403(b), before tax)',
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.elective-deferrals',
    limit: 'us.elective-deferrals.before-tax',
    counts: { 'us.fit.wages': -1, 'us.elective-deferrals': 1, 'us.box12.E': 1 },
    source: { publication: '26 U.S.C. 402(g)(3)(C), 403(b)', section: 'Pennsylvania and its localities tax deferrals (61 Pa. Code 101.6)' },
  },
  {
    code: 'roth-403b',
    label: 'Roth deferral (403(b), after tax)',
    for: ['deduction'],
    taken: 'after-tax',
    limitedBy: 'us.elective-deferrals',
    counts: { 'us.elective-deferrals': 1, 'us.box12.BB': 1 },
    source: { publication: '26 U.S.C. 402A' },
  },
  {
    code: 'simple-deferral',
    label: 'Deferral to a SIMPLE plan (before tax)',
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.simple-deferrals',
    counts: { 'us.fit.wages': -1, 'us.simple-deferrals': 1 },
    source: { publication: '26 U.S.C. 408(p)', section: 'Pennsylvania and its localities tax deferrals (61 Pa. Code 101.6)' },
  },
  ...(['self-only', 'family'] as const).map((cover): Treatment => ({
    code: `hsa-${cover}`,
    label: `Health savings account, ${cover} cover (cafeteria plan)`,
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.hsa',
    limit: `us.hsa.${cover}`,
    counts: { ...CAFETERIA, 'us.hsa': 1 },
    source: { publication: '26 U.S.C. 125(d)(2)(D), 223(b)', section: STATES_FOLLOW, unconfirmed: true },
  })),
  {
    code: 'health-fsa',
    label: 'Health flexible spending (cafeteria plan)',
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.health-fsa',
    counts: { ...CAFETERIA, 'us.health-fsa': 1 },
    source: { publication: '26 U.S.C. 125(i)', section: STATES_FOLLOW, unconfirmed: true },
  },
  {
    code: 'dependent-care',
    label: 'Dependent care (cafeteria plan)',
    for: ['deduction'],
    taken: 'before-tax',
    limitedBy: 'us.dependent-care',
    counts: { ...CAFETERIA, 'us.dependent-care': 1 },
    source: { publication: '26 U.S.C. 129', section: STATES_FOLLOW, unconfirmed: true },
  },
  {
    code: 'premium-before-tax',
    label: 'Other premium (cafeteria plan)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: CAFETERIA,
    source: { publication: '26 U.S.C. 125, 3121(a)(5)(G)', section: STATES_FOLLOW, unconfirmed: true },
  },
  {
    code: 'commuting',
    label: 'Transit pass or parking (before tax)',
    for: ['deduction'],
    taken: 'before-tax',
    counts: CAFETERIA,
    source: { publication: '26 U.S.C. 132(f)(4)', section: 'Pennsylvania taxes it', unconfirmed: true },
  },
  {
    code: 'group-term-life',
    label: 'Group term life insurance over 50,000',
    for: ['benefit-in-kind'],
    counts: { 'us.oasdi.pay': 1, 'us.medicare.wages': 1, 'us.fit.not-withheld': 1, 'us.box12.C': 1 },
    source: {
      publication: '26 U.S.C. 79, 3121(a)(2)(C), 3306(b)(5), 3401(a)(14)',
      section: 'States that count it say so',
      unconfirmed: true,
    },
  },
  {
    code: 'taxed-benefit',
    label: 'Benefit taxed as wages',
    for: ['benefit-in-kind'],
    counts: EVERYWHERE,
    source: { publication: '26 CFR 1.61-21' },
  },
  { code: 'after-tax', label: 'After tax', for: ['deduction'], taken: 'after-tax', counts: {} },
  { code: 'union-dues', label: 'Union dues', for: ['deduction'], taken: 'after-tax', counts: { 'us.box14.dues': 1 } },
  {
    code: 'child-support',
    label: 'Child-support order',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    shared: {
      publication: '45 CFR 303.100(a)(5)',
      section: 'Shared by what each order asks for; some states share equally',
      unconfirmed: true,
    },
    asks: [
      { key: 'supportsOthers', label: 'Supports another spouse or child', kind: 'yes-no' },
      { key: 'arrearsOver12Weeks', label: 'Arrears over 12 weeks', kind: 'yes-no' },
      { key: 'arrears', label: 'For arrears, each pay', help: 'Beside the current support', kind: 'amount' },
    ],
    remitted: {
      rule: { by: 'pay-date', days: 7, business: true },
      purpose: 'support',
      source: { publication: '42 U.S.C. 666(b)(6)(A)(i); 45 CFR 303.100(e)(1)(ix)', section: 'Within seven business days' },
    },
    source: { publication: '15 U.S.C. 1673(b)' },
  },
  {
    code: 'creditor',
    label: "Ordinary creditor's order",
    for: ['deduction'],
    taken: 'order',
    counts: {},
    asks: [{ key: 'excepted', label: 'Rent, taxes, student loan or the like', kind: 'yes-no' }],
    source: { publication: '15 U.S.C. 1673(a)' },
  },
  {
    code: 'tax-levy',
    label: 'Federal tax levy',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    asks: [{ key: 'exemptPerPayslip', label: 'Left free each pay', help: "From the notice's table", kind: 'amount' }],
    source: { publication: '26 U.S.C. 6331, 6334' },
  },
  {
    code: 'federal-agency',
    label: 'Debt to a federal agency',
    for: ['deduction'],
    taken: 'order',
    counts: {},
    source: { publication: '31 U.S.C. 3720D; 31 CFR 285.11' },
  },
  {
    code: 'employer-hsa',
    label: "Employer's contribution to a health savings account",
    for: ['employer-contribution'],
    counts: { 'us.hsa': 1 },
    source: { publication: '26 U.S.C. 106(d)' },
  },
  {
    code: 'employer-plan',
    label: "Employer's contribution to a plan",
    for: ['employer-contribution'],
    counts: {},
    countsPayUpTo: { base: PLAN_PAY, limit: PLAN_PAY },
    source: { publication: '26 U.S.C. 401(a)(17)' },
  },
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
