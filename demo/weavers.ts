import { addDays, Exact, packOf, periodsPaidWithin, round, type PayPeriod, type PaySchedule } from '@woodruff/core';
import { leavingSchema, personFactsSchema, personItemSchema, rateSchema, savingsSchemeSchema } from '@woodruff/contract';
import {
  addLawLeave,
  addPayItem,
  addPerson,
  addPersonItem,
  addRate,
  addSavingsScheme,
  addTaxDetails,
  agreeFiling,
  calculateRun,
  enrolmentPage,
  giveCopies,
  issueNotice,
  ladderOf,
  leavePerson,
  listOfFilings,
  moveToday,
  openEmployer,
  prepareFiling,
  recordEnrolment,
  sendFiling,
  setNationalNumber,
  setPayment,
  startRun,
  type Database,
  type Scope,
} from '@woodruff/server';
import { begin, payDue } from './employer';
import { fileByFile } from './filings';
import { sendBatch } from './money';
import { approve } from './play';
import employerFile from './rhoslan/employer.json';
import peopleFile from './rhoslan/people.json';
import yearFile from './rhoslan/year.json';

type PersonFile = (typeof peopleFile.people)[number] & { items?: { item: string }[]; hours?: string; pension?: string };
type Event =
  | { on: string; kind: 'leave'; person: string; leave: Parameters<typeof addLawLeave>[2] }
  | { on: string; kind: 'opted-out'; person: string; reference: string }
  | { on: string; kind: 'postponed'; person: string; from: string; until: string }
  | { on: string; kind: 'rates'; people: string; from: string; more: string }
  | { on: string; kind: 'leaving'; person: string; lastDay: string; reason: string; how: string }
  | { on: string; kind: 'tax'; person: string; from: string; facts: Record<string, unknown> };
type Step = { date: string; schedule: string; period: PayPeriod } | { date: string; event: Event };

/** The fine of a court, which no standard item is: each order names its own payee. */
const FINE = {
  code: 'fine',
  name: 'Attachment of earnings, fine',
  kind: 'deduction',
  treatment: 'earnings-order-priority',
  method: { by: 'amount' },
  order: 310,
  shortfall: 'take-part',
  goes: { payee: 'Pont Rhoslan Magistrates', reference: 'PR/2291' },
};

/**
 * An employer of another country: weavers in Wales and Scotland, paid by the week and by the month. The tax year before is
 * closed to its certificates; every pay day is reported, sick pay and maternity pay are made by the law's own rules.
 */
export async function playWeavers(database: Database, until: string, users: Record<string, string>): Promise<void> {
  const { employerId, schedules, as } = await begin(database, employerFile, yearFile, users);
  const people = await setUp(await as('clerk'), schedules);
  const scheme = await beginPensions(await as('clerk'), people);

  for (const step of calendar(until)) {
    if (step.date > (await as('clerk')).employer.today) {
      await moveToday(await as('clerk'), step.date);
      await payDue(await as('clerk'), await as('administrator'), addDays(step.date, 4));
      await fileWhatIsOver(await as('clerk'), await as('approver'));
    }
    const clerk = await as('clerk');
    if ('event' in step) await happen(clerk, step.event, people);
    else {
      const { id } = await startRun(clerk, { scheduleId: schedules[step.schedule] ?? '', ...step.period });
      await calculateRun(clerk, id);
      // What became due in the last weeks is left to be seen.
      if (step.date < addDays(until, -14) && (await enrolWhoIsDue(clerk, scheme))) await calculateRun(await as('clerk'), id);
      await approve(await as('clerk'), await as('approver'), id);
      await report(clerk, await as('approver'), step.period.payDate);
      for (const { kind, date } of (await ladderOf(clerk)).rungs)
        if (kind === 'pay') await sendBatch(clerk, await as('administrator'), 'pay', date);
    }
  }
  await moveToday(await as('clerk'), until);
  for (const notice of yearFile.notices) await issueNotice(database, employerFile.facts.country.payeReference, notice);
  await payDue(await as('clerk'), await as('administrator'), until);
  await openEmployer(database, employerId);
}

async function setUp(scope: Scope, schedules: Record<string, string>): Promise<Map<string, string>> {
  const items = new Map<string, string>();
  const ready = new Map(
    packOf(scope.employer.country)
      .readyItems(yearFile.begins)
      .map(({ item }) => [item.code, item]),
  );
  for (const item of [...yearFile.items.flatMap((code) => ready.get(code) ?? []), FINE] as Parameters<typeof addPayItem>[1][])
    items.set(item.code, (await addPayItem(scope, item)).id);
  const codes = new Map<string, string>();
  for (const [index, file] of (peopleFile.people as PersonFile[]).entries()) {
    const { rate, number, tax, items: held = [], schedule, hours, ...facts } = file;
    const { id } = await addPerson(
      scope,
      personFactsSchema.parse({
        ...facts,
        scheduleId: schedules[schedule],
        kind: 'regular',
        email: `${file.givenName.toLowerCase()}@rhoslan.example`,
        address: {
          line1: `${3 + index * 2} Heol y Nant`,
          city: file.worksite,
          state: '',
          postcode: file.worksite === 'Kirkfell' ? 'DG99 1AB' : 'SA99 1AB',
        },
        ...(schedule === 'Weekly' ? { standardHours: hours ?? '37.5' } : {}),
      }),
    );
    codes.set(file.code, id);
    const from = file.hired < yearFile.begins ? yearFile.begins : file.hired;
    await addRate(
      scope,
      id,
      rateSchema.parse({ label: 'Pay', ...rate, from: addDays(from, -6) < file.hired ? from : addDays(from, -6), primary: true }),
    );
    await addTaxDetails(scope, id, { from, facts: tax });
    await setNationalNumber(scope, id, number);
    await setPayment(scope, id, { method: 'deposit', bank: '309912', account: `4410${String(2200 + index * 17)}` });
    for (const { item, ...value } of held)
      await addPersonItem(scope, id, personItemSchema.parse({ ...value, itemId: items.get(item), from }));
  }
  return codes;
}

/** The scheme, and who is in it by agreement or left out of it from the first day on. */
async function beginPensions(clerk: Scope, people: ReadonlyMap<string, string>): Promise<string> {
  const { id: scheme } = await addSavingsScheme(clerk, savingsSchemeSchema.parse(yearFile.scheme));
  const on = yearFile.begins;
  const whoseIs = (pension: string) =>
    (peopleFile.people as PersonFile[]).filter((one) => one.pension === pension).map(({ code }) => people.get(code) ?? '');
  await recordEnrolment(clerk, { people: whoseIs('agreed'), what: { step: 'enrolled', on, scheme, tier: 'standard', because: 'agreed' } });
  await recordEnrolment(clerk, { people: whoseIs('director'), what: { step: 'exempt', on, reason: 'director' } });
  return scheme;
}

/** Enrols whom the law wants to be, and marks the letters of all as given; says whether anybody came in. */
async function enrolWhoIsDue(clerk: Scope, scheme: string): Promise<boolean> {
  const { people } = await enrolmentPage(clerk);
  let any = false;
  for (const { personId, duty } of people) {
    if (!duty) continue;
    if (duty.what !== 'letter') {
      await recordEnrolment(clerk, {
        people: [personId],
        what: { step: 'enrolled', on: duty.from, scheme, tier: 'standard', because: duty.what === 'enrol' ? 'enrolled' : 're-enrolled' },
      });
      any = true;
    } else if (duty.letter)
      await recordEnrolment(clerk, {
        people: [personId],
        what: { step: 'letter', on: clerk.employer.today, letter: duty.letter, how: 'paper' },
      });
  }
  return any;
}

function calendar(until: string): Step[] {
  const pack = packOf(employerFile.country);
  const steps: Step[] = (yearFile.events as unknown as Event[]).map((event) => ({ date: event.on, event }));
  for (const schedule of employerFile.schedules as (PaySchedule & { name: string })[])
    for (const period of periodsPaidWithin(schedule, yearFile.begins, until, (date) => pack.isHoliday(date)))
      steps.push({ date: addDays(period.payDate, -3), schedule: schedule.name, period });
  return steps
    .filter(({ date }) => date >= yearFile.begins && date <= until)
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : 0));
}

async function happen(clerk: Scope, event: Event, people: ReadonlyMap<string, string>): Promise<void> {
  const idOf = (code: string): string => people.get(code) ?? '';
  if (event.kind === 'leave') await addLawLeave(clerk, idOf(event.person), event.leave);
  else if (event.kind === 'opted-out')
    await recordEnrolment(clerk, {
      people: [idOf(event.person)],
      what: { step: 'opted-out', on: event.on, reference: event.reference },
    });
  else if (event.kind === 'postponed')
    await recordEnrolment(clerk, {
      people: [idOf(event.person)],
      what: { step: 'postponed', on: event.from, kind: 'start', until: event.until },
    });
  else if (event.kind === 'rates')
    for (const { code, rate, schedule } of peopleFile.people.filter((one) => one.schedule === event.people)) {
      const raised = round(Exact.of(rate.amount).times(Exact.of(`1.0${event.more}`)), 'half-up', 2);
      if (schedule === event.people)
        await addRate(
          clerk,
          idOf(code),
          rateSchema.parse({
            label: 'Pay',
            per: 'hour',
            amount: raised.toDecimal(2),
            from: event.from,
            primary: true,
            reason: 'The yearly raise',
          }),
        );
    }
  else if (event.kind === 'tax') {
    const file = peopleFile.people.find(({ code }) => code === event.person);
    await addTaxDetails(clerk, idOf(event.person), { from: event.from, facts: { ...file?.tax, ...event.facts } });
  } else
    await leavePerson(
      clerk,
      idOf(event.person),
      leavingSchema.parse({
        lastDay: event.lastDay,
        reason: event.reason,
        kind: event.how,
        notice: { how: 'none' },
        amounts: [],
        paysLeave: false,
        finalPay: { in: 'next-run' },
      }),
    );
}

/** Every pay day is reported on or before it. */
async function report(clerk: Scope, approver: Scope, payDate: string): Promise<void> {
  const submission = (await listOfFilings(clerk)).find(({ filing }) => filing === 'fps')?.periods.find(({ key }) => key === payDate);
  if (!submission) return;
  const late = submission.state !== 'due' && submission.state !== 'not-due-yet';
  await fileByFile(
    clerk,
    approver,
    employerFile.facts.signatory,
    'fps',
    payDate,
    late ? 'The other pay of the day was approved later' : '',
  );
}

/** Summaries of months that are over, and the certificates of a year. */
async function fileWhatIsOver(clerk: Scope, approver: Scope): Promise<void> {
  for (const { filing, periods } of await listOfFilings(clerk))
    for (const { key, to, state } of periods) {
      if (filing === 'fps' || to >= clerk.employer.today || state !== 'due') continue;
      if (filing === 'eps') await fileByFile(clerk, approver, employerFile.facts.signatory, filing, key, '');
      else {
        const { name, title } = employerFile.facts.signatory;
        await prepareFiling(clerk, filing, key, { reason: '' });
        await agreeFiling(approver, filing, key, { signer: name, title });
        const handedOut = filing === 'p60';
        if (handedOut) await giveCopies(clerk, filing, key, { how: 'paper', people: [] });
        await sendFiling(approver, filing, key, {
          how: 'paper',
          reference: handedOut ? 'handed out with the payslips' : 'by registered post',
        });
      }
    }
}
