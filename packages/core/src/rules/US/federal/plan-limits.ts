import { yearOf } from '../../../calendar/dates';
import type { Figure } from '../../../working/reckoning';
import { CannotCompute, type TaxContext } from '../../country-pack';
import type { UsTax } from '../facts';
import { tables } from '../tables';

interface PlanLimit {
  label: string;
  /** The table of the limit, where it is not `x.limit`. */
  table?: string;
  /** Ages reached in the year from which more is allowed, highest first; each names its own table. */
  catchUps: readonly { from: number; to?: number; table: string }[];
}

/** The year's limits on what employees put into plans. The limit of `x` stands in the table `x.limit`. */
const LIMITS: Readonly<Record<string, PlanLimit>> = {
  'us.elective-deferrals': {
    label: "The year's deferral limit",
    catchUps: [
      { from: 60, to: 63, table: 'us.elective-deferrals.catch-up-60' },
      { from: 50, table: 'us.elective-deferrals.catch-up' },
    ],
  },
  // Before tax; what is put in as Roth counts towards the same limit.
  'us.elective-deferrals.before-tax': {
    label: "The year's deferral limit",
    table: 'us.elective-deferrals.limit',
    catchUps: [
      { from: 60, to: 63, table: 'us.elective-deferrals.catch-up-60' },
      { from: 50, table: 'us.elective-deferrals.catch-up' },
    ],
  },
  'us.plan-pay': { label: "The year's pay that a plan may count", catchUps: [] },
  'us.simple-deferrals': {
    label: "The year's limit for a SIMPLE plan",
    catchUps: [
      { from: 60, to: 63, table: 'us.simple-deferrals.catch-up-60' },
      { from: 50, table: 'us.simple-deferrals.catch-up' },
    ],
  },
  'us.hsa.self-only': { label: "The year's limit for self-only coverage", catchUps: [{ from: 55, table: 'us.hsa.catch-up' }] },
  'us.hsa.family': { label: "The year's limit for family coverage", catchUps: [{ from: 55, table: 'us.hsa.catch-up' }] },
  'us.health-fsa': { label: "The year's limit for a health flexible spending arrangement", catchUps: [] },
  'us.dependent-care': { label: "The year's limit for dependent care", catchUps: [] },
};

/** A plan's limit for the year of the pay date, with catch-up by the age reached in it. */
export function planLimit(name: string, context: TaxContext): Figure {
  const plan = LIMITS[name];
  if (!plan) throw new CannotCompute('limit-unknown', `There is no legal limit "${name}".`);
  const { paper, input } = context;
  const { date } = input.pay;
  const limit = tables.value(plan.table ?? `${name}.limit`, date);
  const reckoning = paper.reckon(`${name}.limit`, plan.label).start('Limit', limit.value).source(limit.source);
  const { born } = input.person;
  if (born === undefined) {
    if (plan.catchUps.length) reckoning.note('No date of birth on file: no catch-up is allowed for.');
    return reckoning.done();
  }
  const age = yearOf(date) - yearOf(born);
  const catchUp = plan.catchUps.find(({ from, to }) => age >= from && (to === undefined || age <= to));
  if (catchUp && name === 'us.elective-deferrals.before-tax' && catchUpIsRoth(context)) {
    const roth = context
      .yearToDate('us.box12.AA', 'Roth earlier this year')
      .amount.plus(context.yearToDate('us.box12.BB', 'Roth earlier this year').amount);
    const more = tables.value(catchUp.table, date);
    const threshold = tables.value('us.roth-catch-up.wages', date);
    reckoning
      .plus('Catch-up, only as Roth: put in so earlier this year', roth.atMost(more.value))
      .note(`Wages of the year before were over ${threshold.value.toDecimal()}: before tax no more than the limit without catch-up.`)
      .source(threshold.source);
  } else if (catchUp) {
    const more = tables.value(catchUp.table, date);
    reckoning.plus(`Catch-up, age ${age} in the year`, more.value).source(more.source);
  }
  return reckoning.done();
}

/** Whether catch-up contributions can only be Roth: from 2026, after a year of wages over the threshold (26 U.S.C. 414(v)(7)). */
const catchUpIsRoth = ({ input, tax }: TaxContext): boolean =>
  tables.has('us.roth-catch-up.wages', input.pay.date) && (tax as Partial<UsTax> | undefined)?.rothCatchUp === true;
