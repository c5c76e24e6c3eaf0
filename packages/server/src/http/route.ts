import {
  boundCrossed,
  endpoints,
  type AnswerOf,
  type Endpoint,
  type EndpointName,
  type ParsedBodyOf,
  type ParsedQueryOf,
} from '@woodruff/contract';
import { json, type Request, type Response, type Router } from 'express';
import { z } from 'zod';
import type { Database } from '../database/connection';
import { invalid, notFound, Refusal } from '../errors';
import { rehearse } from '../pay-runs/rehearsal';
import { changing } from '../users/changing';
import { may, NEEDS_IN_WORDS } from '../users/permissions';
import type { Scope } from '../users/scope';
import { scopeOf } from '../users/service';

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
const HELD_BY_ITSELF: ReadonlySet<EndpointName> = new Set<EndpointName>(['changePayslip']);

/** Registers handlers for endpoints of the contract: parses input, checks the permission, binds the employer. */
export function handlerFor(router: Router, database: Database): Handle {
  return (name, handler) => {
    const endpoint: Endpoint = endpoints[name];
    router[endpoint.method](endpoint.path, async (request: Request, response: Response) => {
      const scope = endpoint.needs === 'nobody' ? undefined : await authorize(endpoint, request, database);
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
      const handled = () => handler({ ...call, scope: scope as Scope });
      const answer = await (!scope || !saves(endpoint)
        ? handled()
        : rehearsing
          ? rehearse(scope, handled, rehearsing.of)
          : HELD_BY_ITSELF.has(name)
            ? handled()
            : // What decides and what saves is one use case, whatever the handler puts together.
              changing(scope, () => {
                refuseUnless(scope, endpoint);
                return handled();
              }));
      if (!response.headersSent && !endpoint.file) response.json(answer);
    });
  };
}

async function authorize(endpoint: Endpoint, request: Request, database: Database): Promise<Scope | undefined> {
  const { userId } = request.session;
  if (!userId)
    throw new Refusal(
      401,
      'signed-out',
      'You are signed out, or your session has ended. Sign in again; what you typed is kept on this page.',
    );
  if (endpoint.needs === 'user') return undefined;
  const scope = await scopeOf(database, userId, pathPart(request, 'employer'));
  refuseUnless(scope, endpoint);
  return scope;
}

function refuseUnless(scope: Scope, { needs }: Endpoint): void {
  if (!may(scope.role, needs))
    throw new Refusal(403, 'not-allowed', `A ${scope.role} may not ${NEEDS_IN_WORDS[needs]} here. Ask somebody who may.`);
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

function pathPart(request: Request, name: string): string {
  const value = request.params[name];
  const text = typeof value === 'string' ? value : '';
  if (name === 'code' ? !/^\d{5}$/.test(text) : name !== 'year' && !UUID.test(text)) throw notFound('page');
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
