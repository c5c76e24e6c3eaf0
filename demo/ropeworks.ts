import { addDays, Exact, packOf, periodsPaidWithin, round, type PayPeriod, type PaySchedule } from '@woodruff/core';
import { leavingSchema, newLeavePlanSchema, personFactsSchema, personItemSchema, rateSchema, standingTaxSchema } from '@woodruff/contract';
import {
  addLeavePlan,
  addPayItem,
  addPerson,
  addPersonItem,
  addRate,
  addStandingTax,
  addTaxDetails,
  calculateRun,
  giveCopies,
  issueNotice,
  ladderOf,
  leavePerson,
  listOfFilings,
  moveToday,
  openEmployer,
  setLeaveMembers,
  setNationalNumber,
  setPayment,
  startRun,
  undoLeaving,
  type Database,
  type Scope,
} from '@woodruff/server';
import employerFile from './tarrant/employer.json';
import peopleFile from './tarrant/people.json';
import yearFile from './tarrant/year.json';
import { begin, payDue } from './employer';
import { fileByFile, fileAtSite } from './filings';
import { sendBatch } from './money';
import { approve } from './play';

type PersonFile = (typeof peopleFile.people)[number] & { items?: { item: string }[]; hours?: string };
type Event =
  | { on: string; kind: 'letter'; person: string; percent: string; from: string; to: string; reason: string }
  | {
      on: string;
      kind: 'leaving';
      person: string;
      lastDay: string;
      reason: string;
      how: string;
      amounts: { item: string; amount: string; note: string }[];
    }
  | { on: string; kind: 'undone'; person: string; payDate: string; reason: string }
  | { on: string; kind: 'rates'; people: string; left: string[]; from: string; more: string };
type Step = { date: string; schedule: string; period: PayPeriod } | { date: string; event: Event };

/** Filings of the tax year that is closed go out by this day; what came due in the last weeks is left to be seen. */
const LEFT_OPEN = 10;

/**
 * An employer of another country: rope makers in two states, paid by the week, the fortnight and the month. Every pay day is
 * reported with the year so far, super goes with it since it has to, a redundancy stands and another was undone, and the year
 * before is finalised.
 */
export async function playRopeworks(database: Database, until: string, users: Record<string, string>): Promise<void> {
  const { employerId, schedules, as } = await begin(database, employerFile, yearFile, users);
  const people = await setUp(await as('clerk'), schedules);

  for (const step of calendar(until)) {
    if (step.date > (await as('clerk')).employer.today) {
      await moveToday(await as('clerk'), step.date);
      // Until the next weekly step everything has to be paid that falls due before it; once the super was forgotten for a week.
      const { owed, due, until: forgotten } = yearFile.forgotten;
      const leaves = (one: { owed: string; due: string }) => one.owed === owed && one.due === due && step.date < forgotten;
      await payDue(await as('clerk'), await as('administrator'), addDays(step.date, 7), leaves);
      await fileWhatIsOver(await as('clerk'), await as('approver'), step.date < addDays(until, -LEFT_OPEN));
    }
    if ('event' in step) await happen(await as('clerk'), await as('approver'), step.event, people);
    else {
      const { id } = await startRun(await as('clerk'), { scheduleId: schedules[step.schedule] ?? '', ...step.period });
      await calculateRun(await as('clerk'), id);
      await approve(await as('clerk'), await as('approver'), id);
      await report(await as('clerk'), await as('approver'), step.period.payDate);
      for (const { kind, date } of (await ladderOf(await as('clerk'))).rungs)
        if (kind === 'pay') await sendBatch(await as('clerk'), await as('administrator'), 'pay', date);
    }
  }
  await moveToday(await as('clerk'), until);
  for (const notice of yearFile.notices) await issueNotice(database, employerFile.facts.country.abn, notice);
  await payDue(await as('clerk'), await as('administrator'), until);
  await openEmployer(database, employerId);
}

async function setUp(scope: Scope, schedules: Record<string, string>): Promise<Map<string, string>> {
  const pack = packOf(scope.employer.country);
  const ready = new Map(pack.readyItems(yearFile.begins).map(({ item }) => [item.code, item]));
  const items = new Map<string, string>();
  for (const code of yearFile.items) {
    const item = ready.get(code);
    if (item) items.set(code, (await addPayItem(scope, item)).id);
  }
  const codes = new Map<string, string>();
  const onLeavePlans: string[] = [];
  for (const [index, file] of (peopleFile.people as PersonFile[]).entries()) {
    const { rate, number, tax, items: held = [], schedule, hours, leave, ...facts } = file;
    const place = employerFile.facts.worksites.find(({ name }) => name === file.worksite);
    const { id } = await addPerson(
      scope,
      personFactsSchema.parse({
        ...facts,
        scheduleId: schedules[schedule],
        kind: 'regular',
        email: `${file.givenName.toLowerCase()}@tarrant.example`,
        address: { line1: `${4 + index * 3} Windlass Street`, city: place?.city, state: place?.state, postcode: place?.postcode },
        standardHours: hours,
      }),
    );
    codes.set(file.code, id);
    // The first pay dates are for days before the tax year.
    const begun = addDays(yearFile.begins, -35);
    const from = file.hired < begun ? begun : file.hired;
    await addRate(scope, id, rateSchema.parse({ label: 'Pay', ...rate, from, primary: true }));
    await addTaxDetails(scope, id, { from, facts: tax });
    await setNationalNumber(scope, id, number);
    await setPayment(scope, id, { method: 'deposit', bank: '083004', account: `4410${String(2200 + index * 17)}` });
    for (const { item, ...value } of held)
      await addPersonItem(scope, id, personItemSchema.parse({ ...value, itemId: items.get(item), from }));
    if (leave) onLeavePlans.push(id);
  }
  const [annual, , personal] = pack.leaveGranted?.(38) ?? [];
  for (const [code, granted, more] of [
    ['annual', annual, { item: 'annual-leave', payOutItem: 'unused-leave', cashOutItem: 'leave-cashed-out' }],
    ['personal', personal, { item: 'personal-leave' }],
  ] as const) {
    const plan = newLeavePlanSchema.parse({ code, from: yearFile.begins, terms: { ...granted?.terms, ...more } });
    const { id } = await addLeavePlan(scope, plan);
    await setLeaveMembers(scope, id, { personIds: onLeavePlans, from: yearFile.begins, end: false });
  }
  return codes;
}

function calendar(until: string): Step[] {
  const pack = packOf(employerFile.country);
  const steps: Step[] = (yearFile.events as unknown as Event[]).map((event) => ({ date: event.on, event }));
  for (const schedule of employerFile.schedules as (PaySchedule & { name: string })[])
    for (const period of periodsPaidWithin(schedule, yearFile.begins, until, (date) => pack.isHoliday(date)))
      steps.push({ date: addDays(period.payDate, -2), schedule: schedule.name, period });
  return steps
    .filter(({ date }) => date >= yearFile.begins && date <= until)
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

async function happen(clerk: Scope, approver: Scope, event: Event, people: ReadonlyMap<string, string>): Promise<void> {
  const idOf = (code: string): string => people.get(code) ?? '';
  if (event.kind === 'letter') {
    const { percent: value, from, to, reason } = event;
    await addStandingTax(
      clerk,
      idOf(event.person),
      standingTaxSchema.parse({ tax: 'au.paygw', instead: 'percent', value, from, to, reason }),
    );
  } else if (event.kind === 'undone') {
    await undoLeaving(clerk, idOf(event.person), event.reason);
    await report(clerk, approver, event.payDate, event.reason);
  } else if (event.kind === 'rates')
    for (const { code, rate } of peopleFile.people.filter(
      (one) => one.schedule === event.people && one.hired < event.from && !event.left.includes(one.code),
    )) {
      const amount = round(Exact.of(rate.amount).times(Exact.of(`1.0${event.more}`)), 'half-up', 2).toDecimal(2);
      await addRate(
        clerk,
        idOf(code),
        rateSchema.parse({ label: 'Pay', per: 'hour', amount, from: event.from, primary: true, reason: 'The yearly review' }),
      );
    }
  else {
    const payDate = addDays(event.lastDay, 4);
    const { runId } = await leavePerson(
      clerk,
      idOf(event.person),
      leavingSchema.parse({
        lastDay: event.lastDay,
        reason: event.reason,
        kind: event.how,
        notice: { how: 'none' },
        amounts: event.amounts,
        paysLeave: true,
        finalPay: event.amounts.length ? { in: 'own-run', payDate, taxMethod: 'spread', ordinaryDeductions: false } : { in: 'next-run' },
      }),
    );
    if (!runId) return;
    await calculateRun(clerk, runId);
    await approve(clerk, approver, runId);
    await report(clerk, approver, payDate);
  }
}

/** Every pay day is reported on or before it, and what is paid later on it as an update. */
async function report(clerk: Scope, approver: Scope, payDate: string, why = 'The other pay of the day was approved later'): Promise<void> {
  const event = (await listOfFilings(clerk)).find(({ filing }) => filing === 'pay-event')?.periods.find(({ key }) => key === payDate);
  if (!event) return;
  const late = event.state !== 'due' && event.state !== 'not-due-yet';
  await fileByFile(clerk, approver, employerFile.facts.signatory, 'pay-event', payDate, late ? why : '');
}

/** Contributions and statements of what is over, and the year's finalisation with everybody's income statement. */
async function fileWhatIsOver(clerk: Scope, approver: Scope, all: boolean): Promise<void> {
  if (!all) return;
  for (const { filing, periods } of await listOfFilings(clerk))
    for (const { key, to, state } of periods) {
      if (filing === 'pay-event' || to >= clerk.employer.today || state !== 'due') continue;
      if (filing === 'super') await fileByFile(clerk, approver, employerFile.facts.signatory, filing, key, '');
      else if (filing === 'finalisation') {
        await fileByFile(clerk, approver, employerFile.facts.signatory, filing, key, '');
        await giveCopies(clerk, filing, key, { how: 'paper', people: [] });
      } else await fileAtSite(clerk, approver, employerFile.facts.signatory, filing, key, `${filing} ${key}`);
    }
}
