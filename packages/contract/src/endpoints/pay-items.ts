import { z } from 'zod';
import { version } from '../values';
import {
  holdersChangeSchema,
  itemChoicesSchema,
  itemCountedSchema,
  itemMovesSchema,
  moveItemSchema,
  payItemPageSchema,
  payItemRowSchema,
  readyItemsSchema,
} from '../pay-items';
import { payItemSchema } from '../payslip-input';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of pay items. */
export const payItemsEndpoints = {
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
    body: z.object({ version: version, item: payItemSchema }),
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
  itemMoves: {
    method: 'post',
    looks: true,
    path: `${at}/pay-items/:id/moves/check`,
    needs: 'read',
    summary: 'What was posted of an item this tax year and would stand otherwise by a treatment: whose it is, and by how much',
    body: itemCountedSchema,
    answer: itemMovesSchema,
  },
  moveItem: {
    method: 'post',
    second: 'adjustments',
    path: `${at}/pay-items/:id/moves`,
    needs: 'approve',
    summary: 'Move what was posted of an item this tax year to where it counts now, as adjustments without payment',
    body: moveItemSchema,
    answer: z.object({ people: z.number().int() }),
  },
  readyItems: {
    method: 'get',
    path: `${at}/ready-items`,
    needs: 'read',
    summary: "The country pack's standard items, and which of them the employer has",
    answer: readyItemsSchema,
  },
  takeReadyItems: {
    method: 'post',
    path: `${at}/ready-items`,
    needs: 'prepare',
    summary: 'Add standard items into the list of pay items',
    body: z.object({ codes: z.array(z.string()).min(1) }),
    answer: z.object({ added: z.number().int() }),
  },
} as const satisfies Record<string, Endpoint>;
