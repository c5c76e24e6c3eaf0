import { z } from 'zod';
import { groupChangeSchema, groupEffectSchema, groupMoveSchema, groupSchema, newGroupSchema } from '../groups';
import { at, made, nothing, type Endpoint } from './endpoint';

/** Of groups of people. */
export const groupsEndpoints = {
  groups: {
    method: 'get',
    path: `${at}/groups`,
    needs: 'read',
    summary: 'Groups, what they supply, and who is in them',
    answer: z.array(groupSchema),
  },
  addGroup: {
    method: 'post',
    path: `${at}/groups`,
    needs: 'prepare',
    summary: 'A group of people with defaults',
    body: newGroupSchema,
    answer: made,
  },
  changeGroup: {
    method: 'put',
    path: `${at}/groups/:id`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Change a group, and pass the change on to its people from a day on',
    body: groupChangeSchema,
    answer: nothing,
  },
  checkGroupChange: {
    method: 'post',
    looks: true,
    path: `${at}/groups/:id/check`,
    needs: 'read',
    summary: 'Who would follow a change of a group, and who keeps a value of their own; nothing is saved',
    body: groupChangeSchema,
    answer: groupEffectSchema,
  },
  moveToGroup: {
    method: 'post',
    path: `${at}/groups/:id/people`,
    needs: 'prepare',
    rehearsable: 'everybody',
    summary: 'Move people into a group: they take over what it supplies',
    body: groupMoveSchema,
    answer: groupEffectSchema,
  },
  checkMove: {
    method: 'post',
    looks: true,
    path: `${at}/groups/:id/people/check`,
    needs: 'read',
    summary: 'What moving people into a group would do to each; nothing is saved',
    body: groupMoveSchema,
    answer: groupEffectSchema,
  },
  removeGroup: {
    method: 'delete',
    path: `${at}/groups/:id`,
    needs: 'prepare',
    summary: 'Remove a group that nobody is in',
    answer: nothing,
  },
} as const satisfies Record<string, Endpoint>;
