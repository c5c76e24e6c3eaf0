import { z } from 'zod';
import { clockSchema, periodOfTimeSchema, punchSchema, takenFromClockSchema } from '../clock';
import { timeImportSchema, timePageSchema, timeStateSchema, timesheetSchema } from '../time';
import { id, isoDate } from '../values';
import { at, nothing, reason, type Endpoint } from './endpoint';

/** Of timesheets and the time clock. */
export const timeEndpoints = {
  timePage: {
    method: 'get',
    path: `${at}/time`,
    needs: 'read',
    summary: "The timesheets of a schedule's period, with the hours as the rules pay them",
    query: z.object({ scheduleId: id.optional(), from: isoDate.optional(), person: id.optional() }),
    answer: timePageSchema,
  },
  saveTime: {
    method: 'put',
    path: `${at}/time`,
    needs: 'prepare',
    summary: 'Save timesheets whole; an approved one is open again',
    body: timesheetSchema,
    answer: nothing,
  },
  setTimeState: {
    method: 'post',
    path: `${at}/time/state`,
    needs: 'prepare',
    summary: 'Submit, approve or return timesheets; approved ones are brought into the open run',
    body: timeStateSchema,
    answer: z.object({ changed: z.number().int() }),
  },
  importTime: {
    method: 'post',
    takesFile: true,
    path: `${at}/time/import`,
    needs: 'prepare',
    summary: 'Time from a file (docs/formats.md): all rows or none',
    body: timeImportSchema,
    answer: z.object({ people: z.number().int(), lines: z.number().int() }),
  },
  lockTime: {
    method: 'post',
    path: `${at}/time/lock`,
    needs: 'prepare',
    summary: "Lock a period's time",
    body: z.object({ scheduleId: id, from: isoDate }),
    answer: nothing,
  },
  unlockTime: {
    method: 'post',
    path: `${at}/time/unlock`,
    needs: 'prepare',
    summary: "Unlock a period's time; the reason is recorded",
    body: reason.extend({ scheduleId: id, from: isoDate }),
    answer: nothing,
  },
  answerTimeChange: {
    method: 'post',
    path: `${at}/time/changes/:id`,
    needs: 'prepare',
    summary: "Accept or decline a change of a day's time; an approved sheet is open again, and of a paid period it is for back pay",
    body: z.object({ accept: z.boolean(), answer: z.string().trim().max(300).default('') }),
    answer: z.object({ paid: z.boolean() }),
  },
  timeCsv: {
    method: 'get',
    path: `${at}/time/export.csv`,
    needs: 'export',
    summary: 'The hours of a period as the rules pay them',
    query: z.object({ scheduleId: id, from: isoDate }),
    file: 'text/csv',
  },
  clock: {
    method: 'get',
    path: `${at}/clock`,
    needs: 'read',
    summary: 'The time clock stand-in: what it recorded on a day',
    query: z.object({ date: isoDate.optional() }),
    answer: clockSchema,
  },
  punch: {
    method: 'post',
    path: `${at}/clock/punches`,
    needs: 'prepare',
    summary: 'A punch at the time clock stand-in',
    body: punchSchema,
    answer: z.object({ name: z.string(), at: z.string() }),
  },
  simulatePunches: {
    method: 'post',
    path: `${at}/clock/simulation`,
    needs: 'prepare',
    summary: 'Let the time clock stand-in record an ordinary period, with forgotten and doubled punches',
    body: periodOfTimeSchema,
    answer: z.object({ punches: z.number().int() }),
  },
  takeFromClock: {
    method: 'post',
    path: `${at}/time/from-clock`,
    needs: 'prepare',
    summary: "Take a period's time from the clock; punches without their other half are listed",
    body: periodOfTimeSchema,
    answer: takenFromClockSchema,
  },
} as const satisfies Record<string, Endpoint>;
