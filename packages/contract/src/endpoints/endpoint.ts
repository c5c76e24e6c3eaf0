import { z } from 'zod';
import type { Right } from '../session';
import { id } from '../values';
import type { SecondPersonFor } from '../second-person';

/** What an endpoint needs: nothing (public), a signed-in user, or a permission at the employer of the path. */
export type Needs = 'nobody' | 'user' | 'own' | Right;

export interface Endpoint {
  method: 'get' | 'post' | 'put' | 'patch' | 'delete';
  path: string;
  needs: Needs;
  summary: string;
  /** Nothing is saved, whatever the method: what is sent is looked at. */
  looks?: true;
  body?: z.ZodType;
  query?: z.ZodType;
  answer?: z.ZodType;
  /** With `?rehearse=true` nothing is saved, and the answer is what the change would do to the open runs: to everybody's payslips, or to those of the person of the path. */
  rehearsable?: 'everybody' | 'the-person';
  /** Where the employer wants it, the change waits for a second person (202 with `held`). */
  second?: SecondPersonFor;
  /** What is sent carries a file, and may be as large as one. */
  takesFile?: true;
  /** Media type of answers that are files. */
  file?: string;
}

export const reason = z.object({ reason: z.string().trim().min(3, 'a reason of at least three letters').max(300) });
/** Where an employer's endpoints are. */
export const at = '/employers/:employer';
export const made = z.object({ id });
export const nothing = z.object({});
