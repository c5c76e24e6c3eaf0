import { z } from 'zod';
import { auditSchema, employerPageSchema, foundSchema, timelineSchema, todaySchema } from '../today';
import { bankSchema, logoSchema, memberSchema, payDatesSchema, scheduleSchema, setUpChangeSchema, setUpSchema } from '../employers';
import { ROLES } from '../session';
import { isoDate, name } from '../values';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of an employer: set-up, schedules, members, what is due, search. */
export const employersEndpoints = {
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
  setLogo: {
    method: 'put',
    path: `${at}/logo`,
    needs: 'administer',
    summary: 'The logo on payslips and forms, PNG or JPEG',
    body: logoSchema,
    answer: nothing,
  },
  logo: { method: 'get', path: `${at}/logo`, needs: 'read', summary: 'The logo', file: 'image/png' },
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
  postcode: {
    method: 'get',
    path: '/postcodes/:code',
    needs: 'user',
    summary: 'City and state of a postcode, empty when it is not in the data set',
    answer: z.object({ city: z.string(), state: z.string() }),
  },
} as const satisfies Record<string, Endpoint>;
