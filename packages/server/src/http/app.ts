import compression from 'compression';
import express, { type ErrorRequestHandler, type Express } from 'express';
import helmet from 'helmet';
import onHeaders from 'on-headers';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import type { Pool } from 'pg';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import swagger from 'swagger-ui-express';
import { openApiDocument, type ProblemDetail } from '@woodruff/contract';
import { CannotCompute } from '@woodruff/core';
import { select, type Database } from '../database/connection';
import type { Environment } from '../environment';
import { Refusal } from '../errors';
import { Throttle } from '../users/throttle';
import { confirm, decline, heldChanges } from './held';
import { employerRoutes } from '../employers/routes';
import type { Jobs } from '../jobs/jobs';
import { payItemRoutes } from '../pay-items/routes';
import { timeRoutes } from '../time/routes';
import { clockRoutes } from '../clock/routes';
import { enrolmentRoutes } from '../enrolment/routes';
import { leaveRoutes } from '../leave/routes';
import { mailRoutes } from '../mail/routes';
import { ownRoutes } from '../own/routes';
import { oneOffRoutes } from '../one-offs/routes';
import { payRunRoutes } from '../pay-runs/routes';
import { peopleRoutes } from '../people/routes';
import { filingRoutes } from '../filings/routes';
import { tablesRoutes } from '../tables/routes';
import { journalRoutes } from '../journal/routes';
import { paymentRoutes } from '../payments/routes';
import { tieOutRoutes } from '../tie-outs/routes';
import { groupRoutes } from '../groups/routes';
import { leavingRoutes } from '../leaving/routes';
import { todayRoutes } from '../today/routes';
import { userRoutes } from '../users/routes';
import { handlerFor } from './route';
import { csrfProtection, sessions } from '../users/session-cookie';

export interface Parts {
  environment: Environment;
  database: Database;
  pool: Pool;
  jobs: Jobs;
  logger: Logger;
}

/** The one process: the HTTP interface below /api, its description, and the built web application. */
export function createApp({ environment, database, pool, jobs, logger }: Parts): Express {
  const app = express();
  app.disable('x-powered-by');
  if (environment.TRUST_PROXY)
    app.set('trust proxy', /^\d+$/.test(environment.TRUST_PROXY) ? Number(environment.TRUST_PROXY) : environment.TRUST_PROXY);
  app.use(
    pinoHttp({
      logger,
      autoLogging: { ignore: (request) => request.url === '/health' },
      // What was asked, by whose session, and what came of it: no headers, bodies, or texts of the address bar's query.
      serializers: {
        req: (request: { id: unknown; method: string; url: string }) => ({
          id: request.id,
          method: request.method,
          path: request.url.split('?')[0],
        }),
        res: (response: { statusCode: number }) => ({ status: response.statusCode }),
        err: errorForLog,
      },
    }),
  );
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'script-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:'],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: environment.SECURE_COOKIES,
    }),
  );
  // Lists of thousands are packed lightly: what more packing saves on the way, it costs everybody who waits.
  app.use(
    compression({ level: 1, filter: (request, response) => !request.path.endsWith('/events') && compression.filter(request, response) }),
  );

  app.get('/health', async (_request, response) => {
    try {
      await select(database, 'select 1 as one');
      response.json({ state: 'well' });
    } catch {
      response.status(503).json({ state: 'no database' });
    }
  });
  app.get('/openapi.json', (_request, response) => void response.json(openApiDocument()));
  app.use('/api-docs', swagger.serve, swagger.setup(null, { swaggerOptions: { url: '/openapi.json' } }));

  const api = express.Router();
  api.use((_request, response, next) => {
    response.set('cache-control', 'no-store');
    next();
  });
  // What names the browser is set after the session's own cookie: whoever takes one cookie takes that.
  api.use((_request, response, next) => {
    onHeaders(response, () => (response.locals['device'] as (() => void) | undefined)?.());
    next();
  });
  api.use(sessions(pool, environment), csrfProtection);
  const throttle = new Throttle(
    pool,
    database,
    environment.SECURE_COOKIES,
    environment.NODE_ENV === 'test' ? environment.ATTEMPTS_FACTOR : 1,
  );
  const door = { router: api, database, hours: environment.SESSION_HOURS };
  const { handle, carryOut } = handlerFor(door);
  userRoutes(handle, database, throttle);
  employerRoutes(handle, database);
  peopleRoutes(handle);
  groupRoutes(handle);
  leavingRoutes(handle, jobs);
  payItemRoutes(handle);
  payRunRoutes(handle, door, jobs);
  oneOffRoutes(handle);
  mailRoutes(handle, jobs);
  timeRoutes(handle);
  leaveRoutes(handle);
  enrolmentRoutes(handle);
  clockRoutes(handle);
  ownRoutes(handle);
  filingRoutes(handle, jobs);
  tablesRoutes(handle);
  paymentRoutes(handle);
  journalRoutes(handle);
  tieOutRoutes(handle);
  todayRoutes(handle);
  handle('heldChanges', ({ scope }) => heldChanges(scope));
  handle('confirmHeld', ({ scope, path }) => confirm(scope, path('id'), (held) => carryOut(scope, held)));
  handle('declineHeld', ({ scope, path, body }) => decline(scope, path('id'), body.reason));
  api.use((_request, _response, next) => next(new Refusal(404, 'not-found', 'There is no such page.')));
  app.use('/api', api);

  if (environment.STATIC_DIR && existsSync(environment.STATIC_DIR)) {
    const index = join(environment.STATIC_DIR, 'index.html');
    app.use(express.static(environment.STATIC_DIR, { index: false, maxAge: '1y', immutable: true }));
    app.get('/{*path}', (_request, response) => response.set('cache-control', 'no-cache').sendFile(index));
  }
  app.use(problemDetails(logger));
  return app;
}

/** Where something went wrong, without what it went wrong with: messages and statements of the database carry names and amounts. */
function errorForLog(error: unknown): Record<string, unknown> {
  const { name, stack, original } = error as {
    name?: string;
    stack?: string;
    original?: { code?: string; table?: string; constraint?: string };
  };
  const at = (stack ?? '')
    .split('\n')
    .filter((line) => line.trimStart().startsWith('at '))
    .slice(0, 12);
  return {
    name: name ?? 'unknown',
    ...(original ? { state: original.code, table: original.table, constraint: original.constraint } : {}),
    at,
  };
}

const problemDetails =
  (logger: Logger): ErrorRequestHandler =>
  (error: unknown, request, response, next) => {
    if (response.headersSent) return next(error);
    const problem = problemOf(error);
    if (problem.status >= 500) logger.error({ problem: errorForLog(error), path: request.path }, 'request failed');
    response.status(problem.status).type('application/problem+json').send(JSON.stringify(problem));
  };

function problemOf(error: unknown): ProblemDetail {
  if (error instanceof Refusal)
    return {
      type: `/problems/${error.code}`,
      title: error.message,
      status: error.status,
      detail: error.message,
      code: error.code,
      ...error.more,
    };
  if (error instanceof CannotCompute)
    return { type: `/problems/${error.code}`, title: error.message, status: 422, detail: error.message, code: error.code };
  const status = (error as { status?: unknown }).status;
  if (status === 413)
    return problem(413, 'too-large', 'This is larger than what is taken here. Send it in parts, for example a file with fewer rows.');
  if (status === 400 || status === 415)
    return problem(status, 'unreadable', 'What was sent could not be read. Load the page again and repeat what you did.');
  const refused = refusedByDatabase(error);
  if (refused) return refused;
  if (isConnectionError(error)) {
    return problem(
      503,
      'database',
      'The database does not answer. Nothing was changed. Try again in a minute; if it stays, tell your administrator.',
    );
  }
  return problem(
    500,
    'unexpected',
    'Something went wrong on the server, and nothing was changed. Try again; if it happens again, tell your administrator when it was.',
  );
}

const problem = (status: number, code: string, sentence: string): ProblemDetail => ({
  type: `/problems/${code}`,
  title: sentence,
  status,
  detail: sentence,
  code,
});

/** What the database holds to itself, where a service did not say it first. */
function refusedByDatabase(error: unknown): ProblemDetail | undefined {
  const state = (error as { original?: { code?: string } }).original?.code ?? '';
  if (state === '23505')
    return problem(409, 'exists-already', 'This exists already. Load the page again to see it; nothing was saved twice.');
  if (state === '23503')
    return problem(
      409,
      'gone',
      'Something that this belongs to is not there any more, or is still needed. Load the page again; nothing was changed.',
    );
  if (state === '23514')
    return problem(422, 'invalid', 'This goes beyond what is possible here. Nothing was changed; look at the amounts and dates again.');
  // Numbers that do not fit, texts that cannot be stored, days that do not exist.
  if (/^22/.test(state)) return problem(422, 'invalid', 'A value is larger than can be kept, or cannot be stored. Nothing was changed.');
  return undefined;
}

const isConnectionError = (error: unknown): boolean =>
  /^Sequelize(Connection|HostNot)/.test((error as Error).name ?? '') ||
  ['ECONNREFUSED', '57P01', '57P03'].includes((error as { code?: string }).code ?? '');
