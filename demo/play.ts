import { addDays, periodsPaidWithin, packOf, type PayPeriod, type PaySchedule } from '@woodruff/core';
import {
  groupDefaultsSchema,
  newLeavePlanSchema,
  personFactsSchema,
  personItemSchema,
  positionSchema,
  rateSchema,
  type Edits,
} from '@woodruff/contract';
import {
  acceptPoint,
  addGroup,
  addEmployer,
  agreeFiling,
  answerFiling,
  prepareFiling,
  sendFiling,
  addLeavePlan,
  addPayItem,
  addPerson,
  addPersonItem,
  addPosition,
  addRate,
  addTaxDetails,
  addUser,
  adjustBalances,
  approveRun,
  askLeave,
  calculateRun,
  changePayslip,
  decideLeave,
  ladderOf,
  leavePlansOf,
  moveToday,
  moveToGroup,
  openPoints,
  openRun,
  Payslip,
  reversePayslip,
  runView,
  scopeOf,
  select,
  setLeaveMembers,
  setNationalNumber,
  setBank,
  setPayment,
  startRun,
  type Database,
  type Scope,
  accrueWhenDue,
} from '@woodruff/server';
import { fileWhatIsDue } from './filings';
import { enterNotices, payOwed, sendPay, settle, setUpMoney } from './money';
import employerFile from './quillmere/employer.json';
import groupsFile from './quillmere/groups.json';
import itemsFile from './quillmere/pay-items.json';
import leaveFile from './quillmere/leave.json';
import peopleFile from './quillmere/people.json';
import yearFile from './quillmere/year.json';

/** The business day on which the demo stands. */
export const DEMO_DAY = yearFile.today;
export const DEMO_PASSWORD = 'glasshouse-26';

type ItemFile = Parameters<typeof addPayItem>[1];
interface PersonFile {
  code: string;
  schedule: string;
  nationalNumber?: string;
  rates: { from: string }[];
  positions?: { job: string }[];
  tax?: { from: string; facts: Record<string, unknown> };
  payment?: Parameters<typeof setPayment>[2];
  items: { item: string; from: string }[];
}
interface YearFile {
  begins: string;
  today: string;
  filings: { on: string; filing: string; period: string; reference: string; accepted?: boolean }[];
  events: { payDate: string; person: string; edits: Edits }[];
  corrections: { on: string; payDate: string; person: string; reason: string; replace: boolean; edits: Edits | null }[];
}

/**
 * Sets up Quillmere Glassworks and plays its year through the real services: every run started, edited, calculated,
 * approved and posted, every correction made, each on its business day. Gives the users by their role.
 */
export async function playDemo(database: Database, say: (sentence: string) => void): Promise<Record<string, string>> {
  const year = yearFile as YearFile;
  const { id: employerId, schedules } = await addEmployer(database, {
    name: employerFile.name,
    country: employerFile.country,
    today: year.begins,
    demo: true,
    facts: employerFile.facts as Parameters<typeof addEmployer>[1]['facts'],
    schedules: employerFile.schedules as Parameters<typeof addEmployer>[1]['schedules'],
  });
  const users: Record<string, string> = {};
  for (const user of employerFile.users)
    users[user.role] = await addUser(user.email, user.name, DEMO_PASSWORD, { [employerId]: user.role as 'clerk' });
  const scopeAs = (role: 'administrator' | 'clerk' | 'approver') => scopeOf(database, users[role] ?? '', employerId);

  await setBank(await scopeAs('administrator'), employerFile.bank);
  const codes = await setUp(await scopeAs('clerk'), schedules);
  await setUpLeave(await scopeAs('clerk'), year.begins, codes);
  await setUpMoney(await scopeAs('administrator'));
  say(`Set up ${codes.size} people.`);

  const steps = calendar(year);
  for (const [index, step] of steps.entries()) {
    const clerk = await scopeAs('clerk');
    const moves = step.date > clerk.employer.today;
    if (moves) await moveToday(clerk, step.date);
    const scope = await scopeAs('clerk');
    const releaser = await scopeAs('administrator');
    if (moves) await settle(scope, releaser, codes);
    await accrueWhenDue(scope);
    await fileWhatIsDue(scope, await scopeAs('approver'), steps[index + 1]?.date ?? year.today);
    await payOwed(scope, releaser, steps[index + 1]?.date ?? year.today);
    if (step.kind === 'run') await playRun(scope, await scopeAs('approver'), step, schedules, year, codes, say);
    else if (step.kind === 'filing') await playFiling(scope, await scopeAs('approver'), step.filing);
    else await playCorrection(scope, await scopeAs('approver'), step.correction, codes);
    // What was approved is sent.
    for (const { kind, date } of (await ladderOf(scope)).rungs) if (kind === 'pay') await sendPay(scope, releaser, date);
  }
  const clerk = await scopeAs('clerk');
  await payOwed(clerk, await scopeAs('administrator'), year.today);
  if (year.today > clerk.employer.today) await moveToday(clerk, year.today);
  await settle(await scopeAs('clerk'), await scopeAs('administrator'), codes);
  await accrueWhenDue(await scopeAs('clerk'));
  await enterNotices(await scopeAs('administrator'));
  await setUpGroups(await scopeAs('clerk'), schedules, codes);
  await askForLeave(await scopeAs('clerk'), codes);
  return users;
}

/** Plans with their people, and what everybody brought along into the year. */
async function setUpLeave(scope: Scope, date: string, codes: Map<string, string>): Promise<void> {
  for (const { people, ...plan } of leaveFile.plans) {
    const { id } = await addLeavePlan(scope, newLeavePlanSchema.parse(plan));
    await setLeaveMembers(scope, id, { personIds: people.map((code) => codes.get(code) ?? ''), from: plan.from, end: false });
  }
  const planOf = (person: string) => leaveFile.plans.find((plan) => plan.people.includes(person))?.code ?? '';
  await adjustBalances(scope, {
    date,
    reason: 'Brought along from last year',
    entries: Object.entries(leaveFile.opening).map(([person, amount]) => ({ person, balance: `leave:${planOf(person)}`, amount })),
  });
}

async function askForLeave(scope: Scope, codes: Map<string, string>): Promise<void> {
  const plans = await leavePlansOf(scope);
  for (const { person, plan, from, to, note = '', approved = false } of leaveFile.requests) {
    const planId = plans.find((one) => one.code === plan)?.id ?? '';
    const { id } = await askLeave(scope, { personId: codes.get(person) ?? '', planId, from, to, note });
    if (approved) await decideLeave(scope, id, { state: 'approved', version: 1, comment: '' });
  }
}

async function setUpGroups(scope: Scope, schedules: Record<string, string>, codes: Map<string, string>): Promise<void> {
  const items = await select<{ id: string; code: string }>(scope.database, 'select id, code from pay_items where employer_id = :employer', {
    employer: scope.employer.id,
  });
  for (const group of groupsFile.groups) {
    const defaults = groupDefaultsSchema.parse({
      ...group.defaults,
      scheduleId: schedules[group.schedule],
      items: group.items.map(({ item, ...value }) => ({ itemId: items.find((one) => one.code === item)?.id, ...value })),
    });
    const { id } = await addGroup(scope, { name: group.name, defaults });
    await moveToGroup(scope, id, { personIds: group.people.map((code) => codes.get(code) ?? ''), from: scope.employer.today });
  }
}

async function setUp(scope: Scope, schedules: Record<string, string>): Promise<Map<string, string>> {
  const items = new Map<string, string>();
  for (const item of itemsFile.items as ItemFile[]) items.set(item.code, (await addPayItem(scope, item)).id);
  const codes = new Map<string, string>();
  for (const file of peopleFile.people as unknown as PersonFile[]) {
    const { id } = await addPerson(scope, personFactsSchema.parse({ ...file, scheduleId: schedules[file.schedule] }));
    codes.set(file.code, id);
    for (const rate of file.rates) await addRate(scope, id, rateSchema.parse(rate));
    for (const position of file.positions ?? []) await addPosition(scope, id, positionSchema.parse(position));
    if (file.tax)
      await addTaxDetails(scope, id, {
        ...file.tax,
        facts: { ...file.tax.facts, federal: { ...(file.tax.facts['federal'] as object), onFileSince: file.tax.from } },
      });
    if (file.nationalNumber) await setNationalNumber(scope, id, file.nationalNumber);
    if (file.payment) await setPayment(scope, id, file.payment);
    for (const { item, ...held } of file.items)
      await addPersonItem(scope, id, personItemSchema.parse({ ...held, itemId: items.get(item) }));
  }
  return codes;
}

type Step =
  | { date: string; kind: 'run'; schedule: string; period: PayPeriod }
  | { date: string; kind: 'filing'; filing: YearFile['filings'][number] }
  | { date: string; kind: 'correction'; correction: YearFile['corrections'][number] };

/** What happens on which business day: runs three days before their pay date, corrections on theirs. */
function calendar(year: YearFile): Step[] {
  const pack = packOf('US');
  const steps: Step[] = [
    ...year.corrections.map((correction): Step => ({ date: correction.on, kind: 'correction', correction })),
    ...year.filings.map((filing): Step => ({ date: filing.on, kind: 'filing', filing })),
  ];
  for (const schedule of employerFile.schedules as (PaySchedule & { name: string })[]) {
    for (const period of periodsPaidWithin(schedule, year.begins, year.today, (date) => pack.isHoliday(date))) {
      steps.push({ date: addDays(period.payDate, -3), kind: 'run', schedule: schedule.name, period });
    }
  }
  return steps.sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

async function playRun(
  clerk: Scope,
  approver: Scope,
  step: Extract<Step, { kind: 'run' }>,
  schedules: Record<string, string>,
  year: YearFile,
  codes: Map<string, string>,
  say: (sentence: string) => void,
): Promise<void> {
  const { period } = step;
  const { id } = await startRun(clerk, { scheduleId: schedules[step.schedule] ?? '', ...period });
  await calculateRun(clerk, id);
  const payslips = new Map((await Payslip.findAll({ where: { runId: id } })).map((payslip) => [payslip.personId, payslip]));
  for (const event of year.events.filter((candidate) => candidate.payDate === period.payDate)) {
    const payslip = payslips.get(codes.get(event.person) ?? '');
    if (payslip) await changePayslip(clerk, id, payslip.id, { version: payslip.version, edits: event.edits });
  }
  await approve(clerk, approver, id);
  say(`Paid ${period.payDate}, ${step.schedule.toLowerCase()}.`);
}

async function playCorrection(
  clerk: Scope,
  approver: Scope,
  correction: YearFile['corrections'][number],
  codes: Map<string, string>,
): Promise<void> {
  const [payslip] = await select<{ id: string }>(
    clerk.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where y.person_id = :person and r.pay_date = :payDate and r.kind = 'regular'`,
    { person: codes.get(correction.person), payDate: correction.payDate },
  );
  if (!payslip) throw new Error(`nothing was paid to ${correction.person} on ${correction.payDate}`);
  const { replacementRun } = await reversePayslip(clerk, payslip.id, correction.reason, correction.replace);
  if (!replacementRun) return;
  const replacement = await Payslip.findOne({ where: { runId: replacementRun } });
  if (replacement && correction.edits)
    await changePayslip(clerk, replacementRun, replacement.id, { version: replacement.version, edits: correction.edits });
  await approve(clerk, approver, replacementRun);
}

async function playFiling(
  clerk: Scope,
  approver: Scope,
  { filing, period, reference, accepted }: YearFile['filings'][number],
): Promise<void> {
  await prepareFiling(clerk, filing, period, { reason: '' });
  const { name, title } = employerFile.facts.signatory;
  await agreeFiling(approver, filing, period, { signer: name, title });
  await sendFiling(approver, filing, period, { how: 'portal', reference });
  if (accepted) await answerFiling(clerk, filing, period, { answer: 'accepted', reference, reasons: '' });
}

/** Looks at what is to be looked at, and approves. */
export async function approve(clerk: Scope, approver: Scope, runId: string): Promise<void> {
  for (const point of await openPoints(clerk, await openRun(clerk, runId))) {
    if (point.weight === 'look' && !point.accepted) await acceptPoint(clerk, runId, point.key, 'Looked at, as expected');
  }
  const run = await runView(approver, runId);
  await approveRun(approver, runId, run.version, `demo-${runId}`);
}
