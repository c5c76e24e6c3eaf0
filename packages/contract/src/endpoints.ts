import { z } from 'zod';
import { auditSchema, employerPageSchema, foundSchema, timelineSchema, todaySchema } from './today';
import { behindSchema, returnSchema, yearEndSchema } from './filings';
import { holdersChangeSchema, itemChoicesSchema, payItemPageSchema, payItemRowSchema, readyItemsSchema } from './pay-items';
import { payItemSchema } from './payslip-input';
import {
  importCheckSchema,
  importSchema,
  paymentSchema,
  personFactsSchema,
  personItemSchema,
  personRowSchema,
  personSchema,
  rateSchema,
  secretSchema,
  taxDetailsSchema,
} from './people';
import {
  changedSchema,
  comparisonSchema,
  differenceSchema,
  lossSchema,
  payslipChangeSchema,
  payslipSchema,
  progressSchema,
  reversalPreviewSchema,
  runSchema,
  sheetSchema,
} from './pay-runs';
import { bankSchema, memberSchema, payDatesSchema, scheduleSchema, setUpChangeSchema, setUpSchema } from './employers';
import { ROLES, sessionSchema, signInSchema } from './session';
import { id, isoDate, name, signedAmount } from './values';

/** What an endpoint needs: nothing (public), a signed-in user, or a permission at the employer of the path. */
export type Needs = 'nobody' | 'user' | 'read' | 'prepare' | 'approve' | 'administer' | 'reveal';

export interface Endpoint {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  path: string;
  needs: Needs;
  summary: string;
  body?: z.ZodType;
  query?: z.ZodType;
  answer?: z.ZodType;
  /** With `?rehearse=true` nothing is saved, and the answer is what the change would do to the open runs: to everybody's payslips, or to those of the person of the path. */
  rehearsable?: 'everybody' | 'the-person';
  /** Media type of answers that are files. */
  file?: string;
}

const reason = z.object({ reason: z.string().trim().min(3, 'a reason of at least three letters').max(300) });
const at = '/employers/:employer';
const made = z.object({ id });
const nothing = z.object({});

/** The HTTP interface, below /api. The server's routes, the browser's calls and the OpenAPI document are made from this table. */
export const endpoints = {
  signIn: { method: 'post', path: '/session', needs: 'nobody', summary: 'Sign in', body: signInSchema, answer: sessionSchema },
  session: { method: 'get', path: '/session', needs: 'user', summary: 'Who is signed in, and for which employers', answer: sessionSchema },
  signOut: { method: 'delete', path: '/session', needs: 'user', summary: 'Sign out', answer: nothing },

  addEmployer: {
    method: 'post',
    path: '/employers',
    needs: 'user',
    summary: 'A new employer, from its name alone; whoever adds it administers it',
    body: z.object({ name, country: z.string().length(2) }),
    answer: made,
  },
  setUp: {
    method: 'get',
    path: `${at}/set-up`,
    needs: 'read',
    summary: "The employer's set-up, and what is missing before the first run",
    answer: setUpSchema,
  },
  changeSetUp: {
    method: 'put',
    path: `${at}/set-up`,
    needs: 'administer',
    rehearsable: 'everybody',
    summary: "Change the employer's set-up",
    body: setUpChangeSchema,
    answer: nothing,
  },
  setBank: { method: 'put', path: `${at}/bank`, needs: 'administer', summary: 'The account that pays', body: bankSchema, answer: nothing },
  addSchedule: {
    method: 'post',
    path: `${at}/schedules`,
    needs: 'administer',
    summary: 'A pay schedule',
    body: scheduleSchema,
    answer: made,
  },
  changeSchedule: {
    method: 'put',
    path: `${at}/schedules/:id`,
    needs: 'administer',
    rehearsable: 'everybody',
    summary: 'Change a pay schedule; its dates only while no run was started',
    body: scheduleSchema,
    answer: nothing,
  },
  payDates: {
    method: 'post',
    path: `${at}/schedules/pay-dates`,
    needs: 'read',
    summary: 'Periods and pay dates of a year by a schedule as entered, before it is saved',
    body: scheduleSchema.omit({ name: true }).extend({ year: z.number().int().min(2000).max(2100) }),
    answer: payDatesSchema,
  },
  addMember: {
    method: 'post',
    path: `${at}/members`,
    needs: 'administer',
    summary: 'Let somebody work here; the first password of a new user is told once',
    body: memberSchema,
    answer: z.object({ password: z.string().nullable() }),
  },
  changeMember: {
    method: 'put',
    path: `${at}/members/:id`,
    needs: 'administer',
    summary: 'Change what somebody may do here, or end it',
    body: z.object({ role: z.enum(ROLES).nullable() }),
    answer: nothing,
  },

  employer: { method: 'get', path: at, needs: 'read', summary: 'The employer, its schedules and places', answer: employerPageSchema },
  moveToday: {
    method: 'put',
    path: `${at}/today`,
    needs: 'prepare',
    summary: 'Move the business date forward (demo only)',
    body: z.object({ date: isoDate }),
    answer: z.object({ today: isoDate }),
  },
  today: { method: 'get', path: `${at}/today`, needs: 'read', summary: 'What is due and what is waiting', answer: todaySchema },
  timeline: {
    method: 'get',
    path: `${at}/timeline`,
    needs: 'read',
    summary: 'Periods, pay dates and due dates in a range',
    query: z.object({ from: isoDate, to: isoDate }),
    answer: timelineSchema,
  },
  find: {
    method: 'get',
    path: `${at}/find`,
    needs: 'read',
    summary: 'Find people, pay items and runs',
    query: z.object({ text: z.string().max(80) }),
    answer: foundSchema,
  },
  audit: { method: 'get', path: `${at}/audit`, needs: 'read', summary: 'The latest entries of the audit trail', answer: auditSchema },

  people: { method: 'get', path: `${at}/people`, needs: 'read', summary: 'All people', answer: z.array(personRowSchema) },
  addPerson: {
    method: 'post',
    path: `${at}/people`,
    needs: 'prepare',
    summary: 'Add a person; the record may be unfinished',
    body: personFactsSchema,
    answer: made,
  },
  checkImport: {
    method: 'post',
    path: `${at}/people/import/check`,
    needs: 'prepare',
    summary: 'What importing a file of people would do, and what keeps it from being taken; nothing is saved',
    body: importSchema,
    answer: importCheckSchema,
  },
  importPeople: {
    method: 'post',
    path: `${at}/people/import`,
    needs: 'prepare',
    summary: 'Import a file of people (docs/formats.md): all of it or nothing',
    body: importSchema,
    answer: z.object({ added: z.number().int(), changed: z.number().int(), unchanged: z.number().int() }),
  },
  importProgress: {
    method: 'get',
    path: `${at}/people/import/progress`,
    needs: 'read',
    summary: 'How far the import is',
    answer: z.object({ done: z.number().int(), of: z.number().int() }),
  },
  peopleCsv: {
    method: 'get',
    path: `${at}/people/export.csv`,
    needs: 'read',
    summary: 'All people in the format of the import',
    file: 'text/csv',
  },
  peopleXlsx: {
    method: 'get',
    path: `${at}/people/export.xlsx`,
    needs: 'read',
    summary: 'All people in the format of the import',
    file: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  person: { method: 'get', path: `${at}/people/:id`, needs: 'read', summary: 'One person', answer: personSchema },
  changePerson: {
    method: 'put',
    path: `${at}/people/:id`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: "Change a person's facts",
    body: z.object({ version: z.number().int(), facts: personFactsSchema }),
    answer: nothing,
  },
  addRate: {
    method: 'post',
    path: `${at}/people/:id/rates`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'A rate of pay from a date on',
    body: rateSchema,
    answer: made,
  },
  correctRate: {
    method: 'put',
    path: `${at}/people/:id/rates/:rate`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Correct an entry of a rate that was wrong from its first day; what was paid with it stays',
    body: rateSchema,
    answer: nothing,
  },
  withdrawRate: {
    method: 'delete',
    path: `${at}/people/:id/rates/:rate`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Withdraw a rate that nobody was paid with yet',
    answer: nothing,
  },
  addTaxDetails: {
    method: 'post',
    path: `${at}/people/:id/tax-details`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Tax details from a date on',
    body: taxDetailsSchema,
    answer: made,
  },
  correctTaxDetails: {
    method: 'put',
    path: `${at}/people/:id/tax-details/:details`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Correct tax details that were wrong from their first day',
    body: taxDetailsSchema,
    answer: nothing,
  },
  addPersonItem: {
    method: 'post',
    path: `${at}/people/:id/items`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'A recurring item',
    body: personItemSchema,
    answer: made,
  },
  changePersonItem: {
    method: 'put',
    path: `${at}/people/:id/items/:item`,
    needs: 'prepare',
    rehearsable: 'the-person',
    summary: 'Change a recurring item',
    body: personItemSchema.extend({ version: z.number().int() }),
    answer: nothing,
  },
  setPayment: {
    method: 'put',
    path: `${at}/people/:id/payment`,
    needs: 'prepare',
    summary: 'How a person is paid',
    body: paymentSchema,
    answer: nothing,
  },
  setNationalNumber: {
    method: 'put',
    path: `${at}/people/:id/national-number`,
    needs: 'prepare',
    summary: 'The national number',
    body: secretSchema,
    answer: nothing,
  },
  reveal: {
    method: 'post',
    path: `${at}/people/:id/reveal`,
    needs: 'reveal',
    summary: 'Show the national number or the account in full; recorded',
    body: z.object({ what: z.enum(['national-number', 'account']) }),
    answer: z.object({ value: z.string() }),
  },

  payItems: { method: 'get', path: `${at}/pay-items`, needs: 'read', summary: 'All pay items', answer: z.array(payItemRowSchema) },
  itemChoices: {
    method: 'get',
    path: `${at}/item-choices`,
    needs: 'read',
    summary: "The country pack's tax treatments, bases and published tables",
    answer: itemChoicesSchema,
  },
  payItem: { method: 'get', path: `${at}/pay-items/:id`, needs: 'read', summary: 'One pay item and who has it', answer: payItemPageSchema },
  addPayItem: { method: 'post', path: `${at}/pay-items`, needs: 'prepare', summary: 'Add a pay item', body: payItemSchema, answer: made },
  changePayItem: {
    method: 'put',
    path: `${at}/pay-items/:id`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Change a pay item',
    body: z.object({ version: z.number().int(), item: payItemSchema }),
    answer: nothing,
  },
  changeHolders: {
    method: 'put',
    path: `${at}/pay-items/:id/holders`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Give an item to many people, change it or take it away, from a date on: all of them or none',
    body: holdersChangeSchema,
    answer: z.object({ given: z.number().int(), changed: z.number().int(), ended: z.number().int() }),
  },
  retirePayItem: {
    method: 'post',
    path: `${at}/pay-items/:id/retire`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Retire an item that nobody holds, or end it for all first',
    body: z.object({ endForAll: z.boolean().default(false) }),
    answer: nothing,
  },
  bringBackPayItem: {
    method: 'post',
    path: `${at}/pay-items/:id/bring-back`,
    needs: 'prepare',
    summary: 'Bring a retired item back',
    answer: nothing,
  },
  readyItems: {
    method: 'get',
    path: `${at}/ready-items`,
    needs: 'read',
    summary: "The country pack's ordinary items, and which of them the employer has",
    answer: readyItemsSchema,
  },
  takeReadyItems: {
    method: 'post',
    path: `${at}/ready-items`,
    needs: 'prepare',
    summary: 'Take ordinary items into the list of pay items',
    body: z.object({ codes: z.array(z.string()).min(1) }),
    answer: z.object({ added: z.number().int() }),
  },

  runs: { method: 'get', path: `${at}/pay-runs`, needs: 'read', summary: 'All pay runs, latest first', answer: z.array(runSchema) },
  startRun: {
    method: 'post',
    path: `${at}/pay-runs`,
    needs: 'prepare',
    summary: 'Start the run of a schedule and period',
    body: z.object({ scheduleId: id, from: isoDate, to: isoDate, payDate: isoDate }),
    answer: made,
  },
  sheet: { method: 'get', path: `${at}/pay-runs/:id`, needs: 'read', summary: 'The sheet of a run', answer: sheetSchema },
  calculateRun: {
    method: 'post',
    path: `${at}/pay-runs/:id/calculate`,
    needs: 'prepare',
    summary: 'Work out the whole run again, as a job',
    body: nothing,
    answer: nothing,
  },
  progress: {
    method: 'get',
    path: `${at}/pay-runs/:id/progress`,
    needs: 'read',
    summary: 'How far the calculation is',
    answer: progressSchema,
  },
  deleteRun: {
    method: 'delete',
    path: `${at}/pay-runs/:id`,
    needs: 'prepare',
    summary: 'Delete a run that is not approved',
    answer: nothing,
  },
  changePayslip: {
    method: 'patch',
    path: `${at}/pay-runs/:id/payslips/:payslip`,
    needs: 'prepare',
    summary: 'Change one payslip; worked out at once',
    body: payslipChangeSchema,
    answer: changedSchema,
  },
  importHours: {
    method: 'post',
    path: `${at}/pay-runs/:id/hours`,
    needs: 'prepare',
    summary: 'Hours from a CSV file (docs/formats.md): all rows or none',
    body: z.object({ csv: z.string().max(1_900_000) }),
    answer: z.object({ people: z.number().int() }),
  },
  wouldLose: {
    method: 'get',
    path: `${at}/pay-runs/:id/rebuild`,
    needs: 'read',
    summary: 'What rebuilding from set-up would discard',
    query: z.object({ payslip: id.optional() }),
    answer: lossSchema,
  },
  rebuild: {
    method: 'post',
    path: `${at}/pay-runs/:id/rebuild`,
    needs: 'prepare',
    summary: 'Discard edits and rebuild from set-up',
    body: z.object({ payslip: id.optional() }),
    answer: nothing,
  },
  acceptPoint: {
    method: 'post',
    path: `${at}/pay-runs/:id/points`,
    needs: 'prepare',
    summary: 'Accept an open point with a reason',
    body: reason.extend({ key: z.string().max(200) }),
    answer: nothing,
  },
  comparison: {
    method: 'get',
    path: `${at}/pay-runs/:id/comparison`,
    needs: 'read',
    summary: 'Differences from the last run and their causes',
    answer: comparisonSchema,
  },
  approve: {
    method: 'post',
    path: `${at}/pay-runs/:id/approve`,
    needs: 'approve',
    summary: 'Approve and post; idempotent by Idempotency-Key',
    body: z.object({ version: z.number().int() }),
    answer: runSchema,
  },
  register: { method: 'get', path: `${at}/pay-runs/:id/register.csv`, needs: 'read', summary: 'The register as CSV', file: 'text/csv' },
  registerSheet: {
    method: 'get',
    path: `${at}/pay-runs/:id/register.xlsx`,
    needs: 'read',
    summary: 'The register as XLSX',
    file: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  },
  runPdf: {
    method: 'get',
    path: `${at}/pay-runs/:id/payslips.pdf`,
    needs: 'read',
    summary: 'All payslips of a run as PDF',
    file: 'application/pdf',
  },

  payslip: {
    method: 'get',
    path: `${at}/payslips/:id`,
    needs: 'read',
    summary: 'One payslip with the working of every figure',
    answer: payslipSchema,
  },
  payslipPdf: {
    method: 'get',
    path: `${at}/payslips/:id/payslip.pdf`,
    needs: 'read',
    summary: 'One payslip as PDF',
    file: 'application/pdf',
  },
  payslipInput: {
    method: 'get',
    path: `${at}/payslips/:id/input.json`,
    needs: 'read',
    summary: 'What the payslip was worked out from, in the open format',
    file: 'application/json',
  },
  whyDifferent: {
    method: 'get',
    path: `${at}/payslips/:id/difference`,
    needs: 'read',
    summary: 'Why an amount differs from the last payslip',
    query: z.object({ compared: z.string().default('net') }),
    answer: differenceSchema,
  },
  grossForNet: {
    method: 'post',
    path: `${at}/payslips/:id/gross-for-net`,
    needs: 'prepare',
    summary: 'The amount of an item that brings net pay to the net wanted',
    body: z.object({ item: z.string(), net: signedAmount }),
    answer: z.object({ amount: z.string(), missing: z.number() }),
  },
  reversalPreview: {
    method: 'get',
    path: `${at}/payslips/:id/reversal`,
    needs: 'read',
    summary: 'What reversing a payslip would touch',
    answer: reversalPreviewSchema,
  },
  reverse: {
    method: 'post',
    path: `${at}/payslips/:id/reversal`,
    needs: 'approve',
    summary: 'Reverse a posted payslip, with or without replacement',
    body: reason.extend({ replace: z.boolean() }),
    answer: z.object({ replacementRun: id.nullable() }),
  },

  quarterlyReturn: {
    method: 'get',
    path: `${at}/returns/quarterly`,
    needs: 'read',
    summary: "The quarter's federal return",
    query: z.object({ year: z.coerce.number().int(), quarter: z.coerce.number().int().min(1).max(4) }),
    answer: returnSchema,
  },
  quarterlyPdf: {
    method: 'get',
    path: `${at}/returns/quarterly.pdf`,
    needs: 'read',
    summary: 'The same as PDF',
    query: z.object({ year: z.coerce.number().int(), quarter: z.coerce.number().int().min(1).max(4) }),
    file: 'application/pdf',
  },
  behind: {
    method: 'get',
    path: `${at}/ledger`,
    needs: 'read',
    summary: 'Posted lines behind a figure',
    answer: behindSchema,
    query: z.object({ codes: z.string(), from: isoDate, to: isoDate, person: id.optional() }),
  },
  yearEnd: {
    method: 'get',
    path: `${at}/year-end/:year`,
    needs: 'read',
    summary: 'Wage statements of a year with their checks',
    answer: yearEndSchema,
  },
  statementsPdf: {
    method: 'get',
    path: `${at}/year-end/:year/statements.pdf`,
    needs: 'read',
    summary: 'Trial print of the statements, of all or one',
    query: z.object({ person: id.optional() }),
    file: 'application/pdf',
  },
  statementsCsv: {
    method: 'get',
    path: `${at}/year-end/:year/statements.csv`,
    needs: 'read',
    summary: 'The statements as CSV',
    file: 'text/csv',
  },
} as const satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof endpoints;
type Of<N extends EndpointName> = (typeof endpoints)[N];
export type BodyOf<N extends EndpointName> = Of<N> extends { body: infer B extends z.ZodType } ? z.input<B> : undefined;
export type ParsedBodyOf<N extends EndpointName> = Of<N> extends { body: infer B extends z.ZodType } ? z.output<B> : undefined;
export type ParsedQueryOf<N extends EndpointName> = Of<N> extends { query: infer Q extends z.ZodType } ? z.output<Q> : undefined;
export type AnswerOf<N extends EndpointName> = Of<N> extends { answer: infer A extends z.ZodType } ? z.output<A> : void;
