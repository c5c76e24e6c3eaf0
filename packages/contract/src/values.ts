import { isDate } from '@woodruff/core';
import { z } from 'zod';

/** A calendar date, YYYY-MM-DD. */
export const isoDate = z.string().refine(isDate, 'a date such as 2026-11-27');
/** A positive or zero amount in the major unit, at most two decimals. */
export const amount = z.string().regex(/^\d{1,9}(\.\d{1,2})?$/, 'an amount such as 1250.00');
/** An amount that may be negative. */
export const signedAmount = z.string().regex(/^-?\d{1,9}(\.\d{1,2})?$/, 'an amount such as 84.20 or -200.00');
/** An amount for a piece, an hour or a payslip, up to six decimals. */
export const fineAmount = z.string().regex(/^-?\d{1,9}(\.\d{1,6})?$/, 'an amount such as 84.20 or 0.875');
/** A rate or per cent with up to six decimals. */
export const decimal = z.string().regex(/^\d{1,9}(\.\d{1,6})?$/, 'a number such as 24.50');
/** Hours, up to two decimals. */
export const hours = z.string().regex(/^\d{1,3}(\.\d{1,2})?$/, 'hours such as 7.50, in figures');
/** Hours or pieces, up to two decimals. */
export const quantity = z.string().regex(/^\d{1,6}(\.\d{1,2})?$/, 'hours such as 7.50, in figures');
/** An amount in minor units (cents). */
export const minor = z.number().int();
export const id = z.uuid();
export const code = z.string().regex(/^[A-Za-z0-9][A-Za-z0-9._-]{0,39}$/, 'letters, figures, dots and hyphens, without spaces');
export const name = z.string().trim().min(1, 'a name').max(120);
