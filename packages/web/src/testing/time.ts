import type { TimeRow } from '@woodruff/contract';

/** One person's time of a period: an open sheet without lines. */
export const timeRow = (personId: string, name: string, more: object = {}): TimeRow => ({
  personId,
  name,
  code: personId,
  department: 'Hot shop',
  rates: [],
  state: 'open',
  comment: '',
  version: 1,
  lines: [],
  leave: [],
  asked: [],
  paid: [],
  workings: {},
  points: [],
  rules: '',
  ...more,
});
