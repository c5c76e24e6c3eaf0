import { addDays, packOf, periodsDue, periodsPaidWithin, type PayPeriod, type PaySchedule } from '@woodruff/core';
import { personFactsSchema, personItemSchema, rateSchema } from '@woodruff/contract';
import {
  addPayItem,
  addPerson,
  addPersonItem,
  addRate,
  addTaxDetails,
  calculateRun,
  filingEvents,
  formConsent,
  giveCopies,
  ladderOf,
  listOfFilings,
  moveToday,
  openEmployer,
  reversePayslip,
  select,
  setItemBoxes,
  setNationalNumber,
  setPayment,
  sayYearStep,
  startRun,
  startSpecialRun,
  type Database,
  type Scope,
} from '@woodruff/server';
import { begin, payDue } from './employer';
import { fileByFile } from './filings';
import { sendBatch } from './money';
import { approve } from './play';
import employerFile from './tamarind/employer.json';
import yearFile from './tamarind/year.json';

interface PersonFile {
  code: string;
  givenName: string;
  familyName: string;
  born: string;
  hired: string;
  department: string;
  number: string | null;
  yearly?: string;
  status?: string;
  contractor?: boolean;
  electronic?: boolean;
  items: { item: string; amount?: string; percent?: string }[];
}

/**
 * A second, small employer: the year before is closed to its last paper, with a statement corrected after it was filed, and
 * the year that runs has a quarter amended and another one whose amendment waits.
 */
export async function playLampWorks(database: Database, until: string, users: Record<string, string>): Promise<void> {
  const { employerId, schedules, as } = await begin(database, employerFile, yearFile, users);
  const people = await setUp(await as('clerk'), schedules['Monthly'] ?? '');

  const steps = calendar(until);
  for (const [index, step] of steps.entries()) {
    const next = steps[index + 1]?.date ?? until;
    if (step.date > (await as('clerk')).employer.today) await moveToday(await as('clerk'), step.date);
    const [clerk, approver] = [await as('clerk'), await as('approver')];
    await fileDue(clerk, approver, next);
    await payDue(clerk, await as('administrator'), next);
    if (step.kind === 'run') await run(clerk, approver, schedules['Monthly'] ?? '', step.period);
    else if (step.kind === 'bonus') await bonus(clerk, approver, schedules['Monthly'] ?? '', people);
    else await correct(clerk, approver, step.correction, people);
    for (const { kind, date } of (await ladderOf(clerk)).rungs)
      if (kind === 'pay') await sendBatch(clerk, await as('administrator'), 'pay', date);
  }
  await moveToday(await as('clerk'), until);
  for (const day of yearFile.reminded) await sayYearStep(await as('clerk'), '2025', `turn-${day}`, { done: true, note: '' });
  await payDue(await as('clerk'), await as('administrator'), until);
  await openEmployer(database, employerId);
}

async function setUp(scope: Scope, scheduleId: string): Promise<Map<string, string>> {
  const items = new Map<string, string>();
  for (const item of yearFile.items as Parameters<typeof addPayItem>[1][]) items.set(item.code, (await addPayItem(scope, item)).id);
  const codes = new Map<string, string>();
  for (const [index, file] of (yearFile.people as PersonFile[]).entries()) {
    const { code, givenName, familyName, born, hired, department } = file;
    const { id } = await addPerson(
      scope,
      personFactsSchema.parse({
        code,
        givenName,
        familyName,
        born,
        hired,
        department,
        scheduleId,
        worksite: 'Wick Street',
        kind: file.contractor ? 'contractor' : 'regular',
        email: `${givenName.toLowerCase()}@tamarind.example`,
        ...(file.number ? { address: { line1: `${20 + index * 7} Wick Street`, city: 'Saltgrass', state: 'TX', postcode: '78999' } } : {}),
      }),
    );
    codes.set(code, id);
    const rate = file.yearly ? { per: 'year', amount: file.yearly } : { per: 'hour', amount: '40.00' };
    await addRate(
      scope,
      id,
      rateSchema.parse({ label: 'Pay', ...rate, from: hired < yearFile.begins ? yearFile.begins : hired, primary: true }),
    );
    if (file.status)
      await addTaxDetails(scope, id, {
        from: hired < yearFile.begins ? yearFile.begins : hired,
        facts: { federal: { certificate: '2020', status: file.status, onFileSince: hired }, residentState: 'TX', workState: 'TX' },
      });
    if (file.number) await setNationalNumber(scope, id, file.number);
    await setPayment(scope, id, { method: 'deposit', bank: '123456780', account: `8801${String(4400 + index)}` });
    if (file.electronic) await formConsent(scope, id, { step: 'given', means: 'in writing, with the contract' });
    for (const { item, ...held } of file.items)
      await addPersonItem(scope, id, personItemSchema.parse({ ...held, itemId: items.get(item), from: yearFile.begins }));
  }
  const boxes = yearFile.boxes.map(({ item, ...put }) => ({ id: items.get(item) ?? '', put: { ...put, label: '' } }));
  await setItemBoxes(scope, { year: '2025', items: boxes });
  return codes;
}

type Step =
  | { date: string; kind: 'run'; period: PayPeriod }
  | { date: string; kind: 'bonus' }
  | { date: string; kind: 'correction'; correction: (typeof yearFile.corrections)[number] };

function calendar(until: string): Step[] {
  const pack = packOf('US');
  const schedule = employerFile.schedules[0] as PaySchedule;
  const runs = periodsPaidWithin(schedule, yearFile.begins, until, (date) => pack.isHoliday(date)).map((period): Step => ({
    date: addDays(period.payDate, -3),
    kind: 'run',
    period,
  }));
  const corrections = yearFile.corrections.map((correction): Step => ({ date: correction.on, kind: 'correction', correction }));
  return [...runs, ...corrections, { date: yearFile.bonus.on, kind: 'bonus' } as Step].sort((a, b) =>
    a.date < b.date ? -1 : a.date > b.date ? 1 : 0,
  );
}

async function run(clerk: Scope, approver: Scope, scheduleId: string, period: PayPeriod): Promise<void> {
  const { id } = await startRun(clerk, { scheduleId, ...period });
  await calculateRun(clerk, id);
  await approve(clerk, approver, id);
}

/** A bonus beside the regular pay. */
async function bonus(clerk: Scope, approver: Scope, scheduleId: string, people: ReadonlyMap<string, string>): Promise<void> {
  const { payDate, person, amount } = yearFile.bonus;
  const rules = { ordinaryDeductions: false, takesWaiting: false, items: [], taxMethod: 'flat' };
  const paid = [{ personId: people.get(person) ?? '', amounts: [{ item: 'bonus', amount }] }];
  const { id } = await startSpecialRun(clerk, { scheduleId, name: 'Bonus of the year', payDate, rules, people: paid });
  await calculateRun(clerk, id);
  await approve(clerk, approver, id);
}

/** A payslip is taken back, and filings that it reaches into follow. */
async function correct(
  clerk: Scope,
  approver: Scope,
  { payDate, person, reason, amended }: (typeof yearFile.corrections)[number],
  people: ReadonlyMap<string, string>,
): Promise<void> {
  const [payslip] = await select<{ id: string }>(
    clerk.database,
    `select y.id from payslips y join pay_runs r on r.id = y.run_id where y.person_id = :person and r.pay_date = :payDate and y.state = 'posted'`,
    { person: people.get(person), payDate },
  );
  if (!payslip) throw new Error(`nothing was paid to ${person} on ${payDate}`);
  await reversePayslip(clerk, payslip.id, reason, false);
  if (!amended) return;
  for (const { filing, periods } of await listOfFilings(clerk))
    for (const { key, differs } of periods)
      if (differs) await fileByFile(clerk, approver, employerFile.facts.signatory, filing, key, reason);
  await give(clerk, '2025');
}

/** Files what is due before the next day on which anything happens, and gives people their copies. */
async function fileDue(clerk: Scope, approver: Scope, until: string): Promise<void> {
  const { today, country, facts } = clerk.employer;
  const begun = new Set((await filingEvents(clerk)).map(({ filing, period }) => `${filing} ${period}`));
  const wanted = new Set((await listOfFilings(clerk)).map(({ filing }) => filing));
  for (const filing of packOf(country)
    .filings(facts.country)
    .filter(({ code }) => wanted.has(code)))
    for (const { key, to } of periodsDue(filing, yearFile.begins, until)) {
      if (to < yearFile.begins || to >= today || begun.has(`${filing.code} ${key}`)) continue;
      await fileByFile(clerk, approver, employerFile.facts.signatory, filing.code, key, '');
      if (filing.copies) await give(clerk, key);
    }
}

async function give(clerk: Scope, year: string): Promise<void> {
  for (const filing of ['w-2', '1099-nec', '1099-misc']) {
    if (!(await filingEvents(clerk, filing, year)).length) continue;
    await giveCopies(clerk, filing, year, { how: 'inbox', people: [] });
    await giveCopies(clerk, filing, year, { how: 'paper', people: [] });
  }
}
