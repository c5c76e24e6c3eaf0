import {
  boundCrossed,
  endpoints,
  type AnswerOf,
  type Endpoint,
  type EndpointName,
  type Needs,
  type ParsedBodyOf,
  type ParsedQueryOf,
  type SecondPersonFor,
} from '@woodruff/contract';
import { writtenDate } from '@woodruff/core';
import { json, type Request, type Response, type Router } from 'express';
import { z } from 'zod';
import type { Database } from '../database/connection';
import { invalid, notFound, Refusal } from '../errors';
import { rehearse } from '../calculation/rehearsal';
import { changing } from '../users/changing';
import { may, NEEDS_IN_WORDS, SENSITIVE } from '../users/permissions';
import type { Scope } from '../scope';
import { scopeOf } from '../users/service';
import { record } from '../audit/audit';
import { SecondPersonNeeded, wantsSecond } from '../users/second-person';
import { inTurn } from './in-turn';
import { hold, type HeldCall } from './held';
import { signedIn } from '../users/session-cookie';

/** What a handler gets: parsed input and, below an employer, the scope it is bound to. */
export interface Call<N extends EndpointName> {
  scope: Scope;
  body: ParsedBodyOf<N>;
  query: ParsedQueryOf<N>;
  /** A part of the path; ids are checked to be such. */
  path: (name: string) => string;
  request: Request;
  response: Response;
}

export type Handle = <N extends EndpointName>(name: N, handler: (call: Call<N>) => Promise<AnswerOf<N>>) => void;

/** Bodies are read when it is known who sends them, and no further than their endpoint takes. */
const READ = { file: json({ limit: '45mb' }), typed: json({ limit: '2mb' }), signingIn: json({ limit: '10kb' }) };

const read = ({ takesFile, needs }: Endpoint, request: Request, response: Response): Promise<void> =>
  new Promise((resolve, reject) =>
    READ[takesFile ? 'file' : needs === 'nobody' ? 'signingIn' : 'typed'](request, response, (error?: unknown) =>
      error ? reject(error instanceof Error ? error : new Error('unreadable')) : resolve(),
    ),
  );

/** Whether what an endpoint is called for is saved. */
const saves = ({ method, looks }: Endpoint): boolean => method !== 'get' && !looks;

/** Use cases that hold less than the whole employer. */
const HELD_BY_ITSELF: ReadonlySet<EndpointName> = new Set<EndpointName>(['changePayslip', 'exchange']);

export interface Door {
  router: Router;
  database: Database;
  /** How many hours a session lasts at most. */
  hours: number;
}

/**
 * Registers handlers for endpoints of the contract: who asks, with what right, at which employer; then what is sent is
 * read and parsed; what saves is one use case, held for a second person where the employer wants one.
 */
export function handlerFor({ router, database, hours }: Door): {
  handle: Handle;
  carryOut: (scope: Scope, held: HeldCall) => Promise<unknown>;
} {
  const handlers = new Map<EndpointName, (call: never) => Promise<unknown>>();

  /** What was held, done by the one who confirms it. */
  const carryOut = (scope: Scope, { endpoint: name, path, body }: HeldCall): Promise<unknown> => {
    const endpoint: Endpoint = endpoints[name];
    refuseUnless(scope, endpoint.needs);
    const call = {
      scope: { ...scope, secondPerson: true },
      body: parsed(endpoint.body, body),
      query: {},
      path: (part: string) => path[part] ?? '',
      request: { query: {} },
    };
    const handler = handlers.get(name);
    if (!handler) throw notFound('page');
    return handler(call as never);
  };

  const handle: Handle = (name, handler) => {
    const endpoint: Endpoint = endpoints[name];
    handlers.set(name, handler);
    router[endpoint.method](endpoint.path, async (request: Request, response: Response) => {
      const scope = endpoint.needs === 'nobody' ? undefined : await authorize(endpoint.needs, request, database, hours);
      if (endpoint.body) await read(endpoint, request, response);
      const call = {
        body: parsed(endpoint.body, request.body) as never,
        query: parsed(endpoint.query, request.query) as never,
        path: (part: string) => pathPart(request, part),
        request,
        response,
      };
      const rehearsing =
        endpoint.rehearsable && request.query['rehearse'] === 'true'
          ? { of: endpoint.rehearsable === 'the-person' ? pathPart(request, 'id') : undefined }
          : undefined;
      const handled = (as = scope) => handler({ ...call, scope: as as Scope });
      /** Tried, taken back, and kept for a second person. */
      const held = async (of: Scope, kind: SecondPersonFor) => {
        const path = Object.fromEntries(Object.keys(request.params).map((part) => [part, pathPart(request, part)]));
        const asked = { endpoint: name, path, body: request.body as unknown };
        response.status(202);
        answer(response, endpoint, await hold(of, kind, asked, endpoint.summary, () => handled({ ...of, secondPerson: true })));
      };
      if (scope && endpoint.needs === 'export') await exported(scope, endpoint.summary);
      if (!scope || endpoint.file) return answer(response, endpoint, await handled());
      if (!saves(endpoint)) return answer(response, endpoint, await inTurn(handled));
      if (rehearsing) return answer(response, endpoint, await rehearse(scope, handled, rehearsing.of));
      if (wantsSecond(scope, endpoint.second)) return held(scope, endpoint.second);
      // What decides and what saves is one use case, whatever the handler puts together.
      const done = () => {
        refuseUnless(scope, endpoint.needs);
        return handled();
      };
      try {
        answer(response, endpoint, await (HELD_BY_ITSELF.has(name) ? handled() : changing(scope, done)));
      } catch (error) {
        if (!(error instanceof SecondPersonNeeded)) throw error;
        await held(scope, error.kind);
      }
    });
  };
  return { handle, carryOut };
}

function answer(response: Response, endpoint: Endpoint, value: unknown): void {
  if (!response.headersSent && !endpoint.file) response.json(value);
}

const exported = (scope: Scope, what: string): Promise<void> =>
  scope.database.transaction((transaction) =>
    record(scope, { action: 'export', subject: 'employer', subjectId: scope.employer.id, what: `Exported: ${what}` }, transaction),
  );

/** Who asks, bound to the employer of the path, with the right that is needed. Event streams ask here too. */
export async function authorize(needs: Needs, request: Request, database: Database, hours: number): Promise<Scope | undefined> {
  const userId = signedIn(request, hours);
  if (needs === 'user') return undefined;
  const scope = await scopeOf(database, userId, pathPart(request, 'employer'));
  if (scope.employer.beingPlayed)
    throw new Refusal(
      409,
      'being-played',
      `The demo is still playing the years of ${scope.employer.name}, at ${writtenDate(scope.employer.today)}. It opens by itself when they are done.`,
    );
  refuseUnless(scope, needs);
  if (scope.employer.facts.secondFactor && SENSITIVE.includes(needs) && !request.session.secondFactor)
    throw new Refusal(
      403,
      'second-factor-needed',
      'This employer wants a second factor for this. Set up an authenticator under your name at the top right, then repeat what you did.',
    );
  return scope;
}

function refuseUnless(scope: Scope, needs: Needs): void {
  if (!may(scope.role, needs, scope.rights))
    throw new Refusal(403, 'not-allowed', `A ${scope.role} may not ${NEEDS_IN_WORDS[needs]} here. Ask somebody who may.`);
}

/** Parts of paths that are no ids of ours. */
const SHAPES: Record<string, RegExp> = {
  year: /^(now|20\d\d(-\d\d)?)$/,
  step: /^[a-z0-9-]{1,60}$/,
  code: /^\d{5}$/,
  filing: /^[a-z0-9-]{1,30}$/,
  period: /^[\w-]{1,20}$/,
  key: /^[\w-]{1,1400}$/,
};
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

export function pathPart(request: Request, name: string): string {
  const value = request.params[name];
  const text = typeof value === 'string' ? value : '';
  const shape = SHAPES[name] ?? UUID;
  if (!shape.test(text)) throw notFound('page');
  return text;
}

function parsed(schema: z.ZodType | undefined, value: unknown): unknown {
  if (!schema) return undefined;
  const crossed = boundCrossed(value);
  if (crossed) throw invalid(`${crossed.path || 'What was sent'}: expected ${crossed.expected}.`, [crossed]);
  const result = schema.safeParse(value ?? {});
  if (result.success) return result.data;
  const fields = result.error.issues.map((issue) => ({ path: issue.path.join('.'), expected: issue.message }));
  const first = fields[0];
  throw invalid(first ? `${first.path || 'What was sent'}: expected ${first.expected}.` : 'What was sent is not complete.', fields);
}
