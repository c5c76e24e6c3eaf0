import type { z } from 'zod';
import { sessionEndpoints } from './session';
import { employersEndpoints } from './employers';
import { peopleEndpoints } from './people';
import { groupsEndpoints } from './groups';
import { payItemsEndpoints } from './pay-items';
import { timeEndpoints } from './time';
import { leaveEndpoints } from './leave';
import { enrolmentEndpoints } from './enrolment';
import { noticesEndpoints } from './notices';
import { oneOffsEndpoints } from './one-offs';
import { payRunsEndpoints } from './pay-runs';
import { correctionsEndpoints } from './corrections';
import { ownEndpoints } from './own';
import { filingsEndpoints } from './filings';
import { heldEndpoints } from './held';
import { paymentsEndpoints } from './payments';
import { journalEndpoints } from './journal';
import { tablesEndpoints } from './tables';
import type { Endpoint } from './endpoint';

export type { Endpoint, Needs } from './endpoint';
export type { HeldChanges } from './held';

/** The HTTP interface, below /api. The server's routes, the browser's calls and the OpenAPI document are made from this table. */
export const endpoints = {
  ...sessionEndpoints,
  ...employersEndpoints,
  ...peopleEndpoints,
  ...groupsEndpoints,
  ...payItemsEndpoints,
  ...timeEndpoints,
  ...leaveEndpoints,
  ...enrolmentEndpoints,
  ...noticesEndpoints,
  ...oneOffsEndpoints,
  ...payRunsEndpoints,
  ...correctionsEndpoints,
  ...ownEndpoints,
  ...filingsEndpoints,
  ...heldEndpoints,
  ...paymentsEndpoints,
  ...journalEndpoints,
  ...tablesEndpoints,
} as const satisfies Record<string, Endpoint>;

export type EndpointName = keyof typeof endpoints;
type Of<N extends EndpointName> = (typeof endpoints)[N];
export type BodyOf<N extends EndpointName> = Of<N> extends { body: infer B extends z.ZodType } ? z.input<B> : undefined;
export type ParsedBodyOf<N extends EndpointName> = Of<N> extends { body: infer B extends z.ZodType } ? z.output<B> : undefined;
export type ParsedQueryOf<N extends EndpointName> = Of<N> extends { query: infer Q extends z.ZodType } ? z.output<Q> : undefined;
export type AnswerOf<N extends EndpointName> = Of<N> extends { answer: infer A extends z.ZodType } ? z.output<A> : void;
