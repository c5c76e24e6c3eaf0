import { placeOfCode, whatOf } from '../../../ledger/codes';
import type { BoxRule, ItemBox, ItemInBox, MarkRule } from '../../../filings/boxes';
import type { Box } from '../../../filings/filing';
import type { Minor } from '../../../money/amounts';
import type { PayItemKind } from '../../../pay-items/pay-item';

/** Boxes of Form W-2 that the ledger makes by itself: General Instructions for Forms W-2 and W-3. */
export const BOXES: readonly BoxRule[] = [
  { box: '1', label: 'Wages, tips, other compensation', codes: ['us.fit.wages', 'us.fit.not-withheld'], always: true },
  { box: '2', label: 'Federal income tax withheld', codes: ['us.fit'], always: true },
  { box: '3', label: 'Social security wages', codes: ['us.oasdi.wages'], bases: ['us.oasdi.pay'], always: true },
  { box: '4', label: 'Social security tax withheld', codes: ['us.oasdi'], always: true },
  { box: '5', label: 'Medicare wages and tips', codes: ['us.medicare.wages'], always: true },
  { box: '6', label: 'Medicare tax withheld', codes: ['us.medicare', 'us.medicare.additional'], always: true },
  { box: '7', label: 'Social security tips', codes: ['us.oasdi.tips'], bases: ['us.tips'] },
  { box: '10', label: 'Dependent care benefits', codes: ['us.dependent-care'] },
  { box: '12 C', label: 'Cost of group term life insurance over 50,000', codes: ['us.box12.C'] },
  { box: '12 D', label: 'Deferrals to a 401(k) plan', codes: ['us.box12.D'] },
  { box: '12 E', label: 'Deferrals to a 403(b) plan', codes: ['us.box12.E'] },
  { box: '12 S', label: 'Deferrals to a SIMPLE plan', codes: ['us.simple-deferrals'] },
  { box: '12 W', label: 'Contributions to a health savings account', codes: ['us.hsa'] },
  { box: '12 AA', label: 'Roth contributions to a 401(k) plan', codes: ['us.box12.AA'] },
  { box: '12 BB', label: 'Roth contributions to a 403(b) plan', codes: ['us.box12.BB'] },
  { box: '12 DD', label: 'Cost of employer-sponsored health coverage', codes: ['us.box12.DD'] },
  // Public Law 119-21, sections 70201 and 70202; codes of the form of 2026.
  { box: '12 TP', label: 'Cash tips reported', codes: ['us.tips'], since: 2026 },
  { box: '12 TT', label: 'Qualified overtime', codes: ['us.box12.TT'], bases: ['us.overtime', 'us.overtime-premium'], since: 2026 },
  { box: '14 vehicle', label: 'Use of a company vehicle', codes: ['us.box14.vehicle'] },
  { box: '14 dues', label: 'Union dues', codes: ['us.box14.dues'] },
];

/** Boxes that each state and locality has of its own: 14 for programmes withheld, 16 and 17, 18 and 19. */
const PLACED: readonly { box: string; label: string; what: string }[] = [
  { box: '14', label: 'Unemployment withheld', what: 'us.unemployment.employee' },
  { box: '14', label: 'Workforce development withheld', what: 'us.workforce' },
  { box: '14', label: 'Disability insurance withheld', what: 'us.disability' },
  { box: '14', label: 'Family leave withheld', what: 'us.family-leave' },
  { box: '14', label: 'Long-term care withheld', what: 'us.long-term-care' },
  { box: '14', label: 'Local services tax', what: 'us.local-services' },
  { box: '16', label: 'State wages', what: 'us.state-income.wages' },
  { box: '17', label: 'State income tax', what: 'us.state-income' },
  { box: '18', label: 'Local wages', what: 'us.local-income.wages' },
  { box: '19', label: 'Local income tax', what: 'us.local-income' },
];

const OF_PAY: readonly PayItemKind[] = ['earning', 'benefit-in-kind'];
const TAKEN: readonly PayItemKind[] = ['deduction'];
const GIVEN: readonly PayItemKind[] = ['employer-contribution', 'benefit-in-kind'];
const ANY: readonly PayItemKind[] = ['earning', 'reimbursement', 'benefit-in-kind', 'deduction', 'employer-contribution'];

/** Boxes for items of the employer's own: the codes of box 12 that its treatments do not reach, and what has a box by agreement. */
export const ITEM_BOXES: readonly ItemBox[] = [
  { box: '8', label: 'Allocated tips', for: OF_PAY },
  { box: '10', label: 'Dependent care benefits', for: ANY },
  { box: '11', label: 'Nonqualified plans', for: OF_PAY },
  { box: '12 A', label: 'Uncollected social security tax on tips', for: TAKEN },
  { box: '12 B', label: 'Uncollected Medicare tax on tips', for: TAKEN },
  { box: '12 C', label: 'Cost of group term life insurance over 50,000', for: GIVEN },
  { box: '12 D', label: 'Deferrals to a 401(k) plan', for: TAKEN },
  { box: '12 E', label: 'Deferrals to a 403(b) plan', for: TAKEN },
  { box: '12 F', label: 'Deferrals to a section 408(k)(6) plan', for: TAKEN },
  { box: '12 G', label: 'Deferrals and contributions to a section 457(b) plan', for: ['deduction', 'employer-contribution'] },
  { box: '12 H', label: 'Deferrals to a section 501(c)(18)(D) plan', for: TAKEN },
  { box: '12 J', label: 'Nontaxable sick pay', for: OF_PAY },
  { box: '12 K', label: 'Excise tax on excess golden parachute payments', for: TAKEN },
  { box: '12 L', label: 'Substantiated business expense over the allowance', for: ['reimbursement'] },
  { box: '12 M', label: 'Uncollected social security tax on group term life, former employees', for: TAKEN },
  { box: '12 N', label: 'Uncollected Medicare tax on group term life, former employees', for: TAKEN },
  { box: '12 P', label: 'Moving expenses of the Armed Forces, not taxed', for: ['reimbursement'] },
  { box: '12 Q', label: 'Nontaxable combat pay', for: OF_PAY },
  { box: '12 R', label: "Employer's contributions to an Archer MSA", for: GIVEN },
  { box: '12 S', label: 'Deferrals to a SIMPLE plan', for: TAKEN },
  { box: '12 T', label: 'Adoption benefits', for: ANY },
  { box: '12 V', label: 'Income from nonstatutory stock options', for: OF_PAY },
  { box: '12 W', label: 'Contributions to a health savings account', for: ['deduction', 'employer-contribution'] },
  { box: '12 Y', label: 'Deferrals under section 409A', for: TAKEN },
  { box: '12 Z', label: 'Income under section 409A', for: OF_PAY },
  { box: '12 AA', label: 'Roth contributions to a 401(k) plan', for: TAKEN },
  { box: '12 BB', label: 'Roth contributions to a 403(b) plan', for: TAKEN },
  { box: '12 DD', label: 'Cost of employer-sponsored health coverage', for: ['deduction', 'employer-contribution'] },
  { box: '12 EE', label: 'Roth contributions to a section 457(b) plan', for: TAKEN },
  { box: '12 FF', label: 'Small employer health reimbursement (QSEHRA)', for: ['reimbursement', 'benefit-in-kind'] },
  { box: '12 GG', label: 'Income from qualified equity grants', for: OF_PAY },
  { box: '12 HH', label: 'Deferrals of qualified equity grants', for: OF_PAY },
  { box: '12 II', label: 'Medicaid waiver payments left out of income', for: OF_PAY },
  { box: '14', label: 'Other', for: ANY, words: true },
];

/** Why the law wants none of what counts so on a wage statement. */
export const NO_BOX: Readonly<Record<string, string>> = {
  expenses: 'Repaid under an accountable plan: no wages, and on no statement (26 CFR 1.62-2(c)(4))',
  'child-support': 'Taken out of pay that is stated in full',
  creditor: 'Taken out of pay that is stated in full',
  'tax-levy': 'Taken out of pay that is stated in full',
  'federal-agency': 'Taken out of pay that is stated in full',
  'employer-plan': "An employer's contribution to a qualified plan is on no wage statement",
  'employer-levy': 'Owed by the employer alone',
  'premium-before-tax': 'Left out of every box by the cafeteria plan',
  commuting: 'Left out of every box (26 U.S.C. 132(f))',
  'health-fsa': 'Left out of every box by the cafeteria plan',
};

export const MARKS: readonly MarkRule[] = [
  {
    box: '13 statutory',
    label: 'Statutory employee',
    kind: 'yes-no',
    help: 'A worker whose pay is under social security and Medicare, and not under income tax withholding (26 U.S.C. 3121(d)(3))',
  },
  {
    box: '13 plan',
    label: 'Retirement plan',
    kind: 'yes-no',
    help: 'Marked by itself where anything was deferred; also for who took part in a plan of the employer in another way',
  },
  { box: '13 sick pay', label: 'Third-party sick pay', kind: 'yes-no', help: 'A third party paid sick pay and told the employer of it' },
];

/** A place as a box names it: the state's letters, and the locality's code or name. */
const written = (place: string): string => place.replace(/^US-/, '').replace('/', ' ');

/** Boxes in the order of the form: by their number, then as they are listed. */
const numberOf = ({ box }: { box: string }): number => Number.parseInt(box, 10);

/** Rules of a year, with the items that the employer has put into boxes by themselves. */
function rulesOf(year: number, items: readonly ItemInBox[]): BoxRule[] {
  const rules = BOXES.filter(({ since }) => since === undefined || year >= since).map((rule) => ({ ...rule, codes: [...rule.codes] }));
  for (const { code, box, label } of items.filter(({ filing }) => filing === 'w-2')) {
    const named = label ? `${box} ${label}` : box;
    const known = rules.find((rule) => rule.box === named);
    if (known) known.codes.push(code);
    else rules.push({ box: named, label: label || (ITEM_BOXES.find((one) => one.box === box)?.label ?? box), codes: [code] });
  }
  return rules
    .map((rule, index) => ({ rule, index }))
    .sort((a, b) => numberOf(a.rule) - numberOf(b.rule) || a.index - b.index)
    .map(({ rule }) => rule);
}

/** Boxes of one person's wage statement (Form W-2) from the sums of the year's posted lines by code. */
export const boxesOf = (year: number, sums: Readonly<Record<string, Minor>>, items: readonly ItemInBox[]): Box[] => [
  ...rulesOf(year, items)
    .map(({ box, label, codes, always }) => ({
      box,
      label,
      codes: [...codes],
      amount: codes.reduce((sum, code) => sum + (sums[code] ?? 0), 0),
      always,
    }))
    .filter((box) => box.always || box.amount !== 0)
    .map(({ box, label, codes, amount }) => ({ box, label, codes, amount })),
  ...PLACED.flatMap(({ box, label, what }) =>
    Object.keys(sums)
      .filter((code) => whatOf(code) === what && sums[code] !== 0)
      .sort()
      .map((code) => ({
        box: `${box} ${written(placeOfCode(code))}`,
        label: `${label}, ${written(placeOfCode(code))}`,
        codes: [code],
        amount: sums[code] ?? 0,
      })),
  ),
];
