import type { Comparison, Difference, PayslipView } from '@woodruff/contract';
import {
  packOf,
  asPosted,
  CannotCompute,
  causesOf,
  computePayslip,
  grossForNet,
  type Compared,
  type PayItem,
  type PayslipInput,
  type PayslipLine,
  type Totals,
} from '@woodruff/core';
import { historyOf } from '../../audit/audit';
import { select } from '../../database/connection';
import { invalid, notFound } from '../../errors';
import type { Scope } from '../../scope';
import { takenBy } from '../../one-offs/service';
import { openRun } from '../../calculation/calculation';

interface Stored {
  id: string;
  runId: string;
  personId: string;
  name: string;
  code: string;
  state: PayslipView['state'];
  included: boolean;
  version: number;
  payDate: string;
  from: string;
  to: string;
  edits: PayslipView['edits'];
  lines: PayslipLine[];
  problems: PayslipView['problems'];
  input: PayslipInput;
  comparedWith: string | null;
  replaces: string | null;
}

const STORED = `select y.id, y.run_id as "runId", y.person_id as "personId", p.given_name || ' ' || p.family_name as name, p.code, y.state, y.included, y.version, r.pay_date as "payDate",
    r.period_from as "from", r.period_to as "to", y.edits, x.lines, x.problems, x.input, r.compared_with as "comparedWith", y.replaces
  from payslips y join pay_runs r on r.id = y.run_id join people p on p.id = y.person_id join payslip_results x on x.payslip_id = coalesce(y.reverses, y.id)`;

async function storedPayslip(scope: Scope, id: string): Promise<Stored> {
  const [stored] = await select<Stored>(scope.database, `${STORED} where y.id = :id and r.employer_id = :employer`, {
    id,
    employer: scope.employer.id,
  });
  if (!stored) throw notFound('payslip');
  return stored;
}

export const payslipsOfRun = (scope: Scope, runId: string): Promise<Stored[]> =>
  select<Stored>(
    scope.database,
    `${STORED} where y.run_id = :runId and y.included and r.employer_id = :employer order by p.family_name, p.given_name, p.code`,
    { runId, employer: scope.employer.id },
  );

export const payslipInputOf = async (scope: Scope, id: string): Promise<PayslipInput> => (await storedPayslip(scope, id)).input;

/** One payslip with the working of every figure, made again from its stored input; what was posted is held against it. */
export async function payslipView(scope: Scope, id: string): Promise<PayslipView> {
  const stored = await storedPayslip(scope, id);
  const { workings, notDue } = stored.state === 'draft' ? computePayslip(stored.input, { workings: true }) : workingsAsPosted(stored);
  const taken = await takenBy(scope, id);
  return { ...viewOf(stored, workings), notDue, taken, history: await historyOf(scope.database, id) };
}

function workingsAsPosted({ input, lines: posted }: Stored): Pick<ReturnType<typeof computePayslip>, 'workings' | 'notDue'> {
  try {
    const { workings, notDue, lines } = computePayslip(input, { workings: true });
    return { workings: asPosted(posted, lines, workings), notDue };
  } catch (error) {
    if (!(error instanceof CannotCompute)) throw error;
    return { workings: asPosted(posted, [], {}), notDue: [] };
  }
}

/** A stored payslip as people see it; a reversal shows the amounts it takes back. */
export function viewOf(stored: Stored, workings: PayslipView['workings'] = {}): PayslipView {
  const sign = stored.state === 'reversal' ? -1 : 1;
  const here = new Map<string, number>();
  for (const line of stored.lines) here.set(line.code, (here.get(line.code) ?? 0) + line.amount);
  const { input, comparedWith: _compared, replaces: _replaces, ...rest } = stored;
  return {
    ...rest,
    lines: stored.lines.map((line) => ({
      ...line,
      amount: sign * line.amount,
      yearToDate: (input.balances[line.code]?.year ?? 0) + (here.get(line.code) ?? 0),
    })),
    totals: totalsOf(stored.lines, sign),
    ...printedOf(input),
    notDue: [],
    leave: (input.leave ?? []).map(({ plan, balance }) => ({
      plan: plan.name,
      figure: `leave:${plan.code}`,
      balance: stored.lines.reduce((sum, line) => (line.code.startsWith(`leave:${plan.code}:`) ? sum + sign * line.amount : sum), balance),
    })),
    taken: [],
    workings,
    history: [],
  };
}

/** What the law of the country wants said beside the figures. */
function printedOf({ country, employer, tax }: PayslipInput): Pick<PayslipView, 'printed'> {
  const printed = packOf(country).onPayslip?.(employer as Record<string, unknown>, tax as Record<string, unknown>);
  return printed ? { printed: [...printed] } : {};
}

function totalsOf(lines: readonly PayslipLine[], sign: 1 | -1): Totals {
  const sum = (...kinds: string[]) => sign * lines.reduce((all, line) => (kinds.includes(line.kind) ? all + line.amount : all), 0);
  const [gross, reimbursements, deductions, taxes] = [
    sum('earning'),
    sum('reimbursement'),
    sum('deduction-before-tax', 'deduction-after-tax'),
    sum('tax'),
  ];
  const [employerTaxes, employerContributions] = [sum('employer-tax'), sum('employer-contribution')];
  return {
    gross,
    reimbursements,
    benefitsInKind: sum('benefit-in-kind'),
    deductions,
    taxes,
    net: gross + reimbursements - deductions - taxes,
    employerTaxes,
    employerContributions,
    employerCost: gross + reimbursements + employerTaxes + employerContributions,
  };
}

/** Why an amount of a payslip differs from the person's payslip in the run it is compared with. */
export async function whyDifferent(scope: Scope, id: string, compared: string): Promise<Difference> {
  const later = await storedPayslip(scope, id);
  const earlier = await earlierOf(scope, later);
  const what = comparedOf(compared);
  const laterAmount = storedAmount(later, what);
  if (!earlier) return { compared, earlier: 0, later: laterAmount, difference: laterAmount, earlierPayDate: null, causes: [] };
  const earlierAmount = storedAmount(earlier, what);
  const { difference, causes } = causesOf(
    what,
    { input: earlier.input, stored: earlierAmount },
    { input: later.input, stored: laterAmount },
  );
  return { compared, earlier: earlierAmount, later: laterAmount, difference, earlierPayDate: earlier.payDate, causes };
}

async function earlierOf(scope: Scope, later: Stored): Promise<Stored | undefined> {
  if (later.replaces) return storedPayslip(scope, later.replaces);
  if (!later.comparedWith) return undefined;
  const [earlier] = await select<Stored>(
    scope.database,
    `${STORED} where y.run_id = :run and y.person_id = :person and y.included and y.state <> 'reversal'`,
    { run: later.comparedWith, person: later.personId },
  );
  return earlier;
}

const TOTAL_NAMES = new Set([
  'gross',
  'reimbursements',
  'benefitsInKind',
  'deductions',
  'taxes',
  'net',
  'employerTaxes',
  'employerContributions',
  'employerCost',
]);
const comparedOf = (name: string): Compared => (TOTAL_NAMES.has(name) ? (name as keyof Totals) : { code: name });

function storedAmount(stored: Stored, compared: Compared): number {
  if (typeof compared === 'string') return totalsOf(stored.lines, 1)[compared];
  return stored.lines.reduce((sum, line) => (line.code === compared.code ? sum + line.amount : sum), 0);
}

/** How many people's differences are explained one by one; the largest come first. */
const EXPLAINED = 300;

/** The run's net against the run it is compared with: person by person, largest difference first, each with its causes. */
export async function compareRun(scope: Scope, runId: string): Promise<Comparison> {
  const run = await openRun(scope, runId);
  const later = (await payslipsOfRun(scope, runId)).filter((payslip) => payslip.state !== 'reversal');
  const earlierAll = run.comparedWith
    ? (await payslipsOfRun(scope, run.comparedWith)).filter((payslip) => payslip.state !== 'reversal')
    : [];
  const earlierByPerson = new Map(earlierAll.map((payslip) => [payslip.personId, payslip]));
  const nets = later.map((payslip) => {
    const earlier = earlierByPerson.get(payslip.personId);
    earlierByPerson.delete(payslip.personId);
    const net = totalsOf(payslip.lines, 1).net;
    const before = earlier ? totalsOf(earlier.lines, 1).net : 0;
    return { payslip, earlier, net, before, difference: net - before };
  });
  const gone = [...earlierByPerson.values()].map((payslip) => ({
    payslipId: payslip.id,
    name: payslip.name,
    net: totalsOf(payslip.lines, 1).net,
  }));
  const changed = nets.filter((entry) => entry.difference !== 0).sort((a, b) => Math.abs(b.difference) - Math.abs(a.difference));
  const people: Comparison['people'] = changed.map(({ payslip, earlier, net, before, difference }, index) => ({
    payslipId: payslip.id,
    name: payslip.name,
    earlier: before,
    later: net,
    difference,
    causes: !earlier
      ? [{ group: 'new', sentences: ['Was not in the last run'], share: difference }]
      : index < EXPLAINED
        ? causesOf('net', { input: earlier.input, stored: before }, { input: payslip.input, stored: net }).causes
        : [],
  }));
  people.push(
    ...gone.map(({ payslipId, name, net }) => ({
      payslipId,
      name,
      earlier: net,
      later: 0,
      difference: -net,
      causes: [{ group: 'gone', sentences: ['Was in the last run and is not in this one'], share: -net }],
    })),
  );
  const groups = new Map<string, { group: string; share: number; people: number }>();
  for (const person of people) {
    for (const cause of person.causes) {
      const group = groups.get(cause.group) ?? { group: cause.group, share: 0, people: 0 };
      groups.set(cause.group, { ...group, share: group.share + cause.share, people: group.people + 1 });
    }
  }
  return {
    earlierPayDate: earlierAll[0]?.payDate ?? null,
    difference: people.reduce((sum, person) => sum + person.difference, 0),
    groups: [...groups.values()].sort(
      (a, b) => Number(b.group === 'unexplained') - Number(a.group === 'unexplained') || Math.abs(b.share) - Math.abs(a.share),
    ),
    people: people.sort((a, b) => Math.abs(b.difference) - Math.abs(a.difference)),
  };
}

export async function netWanted(scope: Scope, id: string, itemCode: string, net: string): Promise<{ amount: string; missing: number }> {
  const stored = await storedPayslip(scope, id);
  const [row] = await select<{ definition: PayItem }>(
    scope.database,
    'select definition from pay_items where employer_id = :employer and code = :itemCode',
    { employer: scope.employer.id, itemCode },
  );
  if (!row || row.definition.kind !== 'earning')
    throw invalid('Choose an earning, for example a bonus, that brings net pay to the amount wanted.', [
      { path: 'item', expected: 'an earning' },
    ]);
  try {
    const found = grossForNet(
      { ...stored.input, oneOffs: stored.input.oneOffs.filter((oneOff) => oneOff.id !== 'net-wanted') },
      row.definition,
      net,
    );
    return { amount: found.oneOff.amount, missing: found.missing };
  } catch (error) {
    if (error instanceof RangeError) throw invalid(error.message, [{ path: 'net', expected: 'a net that can be reached' }]);
    throw error;
  }
}
