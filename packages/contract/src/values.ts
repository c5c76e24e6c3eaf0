import { isDate } from '@woodruff/core';
import { z } from 'zod';

export const FIRST_DATE = '1900-01-01';
export const LAST_DATE = '2199-12-31';
/** A calendar date, YYYY-MM-DD, within the centuries that payroll has to do with. */
export const isoDate = z
  .string()
  .refine(isDate, 'a date such as 2026-11-27')
  .refine((text) => text >= FIRST_DATE && text <= LAST_DATE, 'a date from 1900 to 2199');
export const year = z.coerce
  .number('a year such as 2026')
  .int('a year such as 2026')
  .min(1900, 'a year such as 2026')
  .max(2199, 'a year such as 2026');
/** How often something was changed, for telling whether it is still as it was seen. */
export const version = z.number().int().min(0).max(2_147_483_647);
/** A positive or zero amount in the major unit, at most two decimals. */
export const amount = z.string().regex(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1250.00');
/** An amount that may be negative. */
export const signedAmount = z.string().regex(/^-?\d{1,9}(\.\d{1,2})?$/, 'an amount such as 84.20 or -200.00');
/** An amount for a piece, an hour or a payslip, up to six decimals. */
export const fineAmount = z.string().regex(/^-?\d{1,9}(\.\d{1,6})?$/, 'an amount such as 84.20 or 0.875');
/** A rate or per cent with up to six decimals. */
export const decimal = z.string().regex(/^\d{1,8}(\.\d{1,6})?$/, 'a number such as 24.50');
/** Hours, up to two decimals. */
export const hours = z.string().regex(/^\d{1,3}(\.\d{1,2})?$/, 'hours such as 7.50, in figures');
/** Hours or pieces, up to two decimals. */
export const quantity = z.string().regex(/^\d{1,6}(\.\d{1,2})?$/, 'hours such as 7.50, in figures');
/** An amount in minor units (cents). */
export const minor = z.number().int();
export const id = z.uuid();
export const code = z
  .string()
  .regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/, 'letters, figures, dots and hyphens, without spaces')
  .refine((text) => !(text in {}), 'another code: this is a word of the program');
export const name = z.string().trim().min(1, 'a name').max(120);

/** How the letters of a text file are written; asked for where a file is not UTF-8. */
export const FILE_ENCODINGS = ['utf-8', 'windows-1252', 'windows-1250', 'windows-1251', 'windows-1253'] as const;
export type FileEncoding = (typeof FILE_ENCODINGS)[number];
/** A file as it is sent: its content in base64. */
/** Which comes first in dates with strokes between, such as 03/04/2026; asked for where a file does not tell. */
export const DATE_ORDERS = ['month-first', 'day-first'] as const;
export type DateOrder = (typeof DATE_ORDERS)[number];

export const sentFile = z.object({
  name: z.string().min(1).max(200),
  content: z.string().min(1).max(40_000_000),
  encoding: z.enum(FILE_ENCODINGS).optional(),
  dates: z.enum(DATE_ORDERS).optional(),
});

/** What was done, when it was recorded by the machine, and the business day that it counted for. */
export const recordedSchema = z.object({ at: z.string(), on: isoDate.nullish(), who: z.string(), what: z.string() });
export type Recorded = z.infer<typeof recordedSchema>;
