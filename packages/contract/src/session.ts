import { z } from 'zod';
import { id, isoDate, name } from './values';

export const ROLES = ['administrator', 'clerk', 'approver', 'viewer'] as const;
export type Role = (typeof ROLES)[number];
/** Employees have a right to what is their own, and to nothing else. */
export type AnyRole = Role | 'employee';

export const signInSchema = z.object({ email: z.email('an e-mail address'), password: z.string().min(1, 'the password').max(200) });

export const sessionSchema = z.object({
  user: z.object({ id, name, email: z.string() }),
  csrfToken: z.string(),
  employers: z.array(
    z.object({
      id,
      name,
      role: z.enum([...ROLES, 'employee']),
      country: z.string(),
      currency: z.string(),
      today: isoDate,
      demo: z.boolean(),
    }),
  ),
});
export type Session = z.infer<typeof sessionSchema>;
