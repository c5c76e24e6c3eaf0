import { z } from 'zod';
import { SECOND_PERSON } from '../second-person';
import { id } from '../values';
import { at, nothing, reason, type Endpoint } from './endpoint';

export const heldChangesSchema = z.array(
  z.object({
    id,
    kind: z.enum(SECOND_PERSON),
    what: z.string(),
    entries: z.array(z.string()),
    who: z.string(),
    at: z.string(),
    own: z.boolean(),
  }),
);
export type HeldChanges = z.infer<typeof heldChangesSchema>;

/** Of changes that wait for a second person. */
export const heldEndpoints = {
  heldChanges: {
    method: 'get',
    path: `${at}/held`,
    needs: 'read',
    summary: 'Changes that wait for a second person',
    answer: heldChangesSchema,
  },
  confirmHeld: {
    method: 'post',
    path: `${at}/held/:id/confirmation`,
    needs: 'approve',
    summary: 'Confirm what somebody else asked for: it is done now',
    body: nothing,
    answer: z.unknown(),
  },
  declineHeld: {
    method: 'delete',
    path: `${at}/held/:id`,
    needs: 'read',
    summary: 'Decline what waits (who may approve), or withdraw it (who asked for it)',
    body: reason,
    answer: nothing,
  },
} as const satisfies Record<string, Endpoint>;
