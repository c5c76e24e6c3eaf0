import { randomBytes, timingSafeEqual } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';
import type { Environment } from '../environment';
import { Refusal } from '../errors';

declare module 'express-session' {
  interface SessionData {
    userId: string;
    csrfToken: string;
  }
}

/** Server sessions in PostgreSQL behind a SameSite cookie that scripts can not read. */
export function sessions(pool: Pool, environment: Environment): RequestHandler {
  const Store = connectPgSimple(session);
  return session({
    store: new Store({ pool, tableName: 'user_sessions', pruneSessionInterval: 900 }),
    name: 'woodruff',
    secret: environment.SESSION_SECRET,
    resave: false,
    saveUninitialized: false,
    rolling: true,
    cookie: { httpOnly: true, sameSite: 'lax', secure: environment.SECURE_COOKIES, maxAge: 8 * 3600_000 },
  });
}

export const newCsrfToken = (): string => randomBytes(24).toString('base64url');

/** Every request that changes something must carry the session's token; signing in begins a session and can not. */
export const csrfProtection: RequestHandler = (request, _response, next) => {
  const reads = ['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const signsIn = request.method === 'POST' && request.path === '/session';
  if (reads || signsIn || !request.session.userId) return next();
  const sent = Buffer.from(request.get('x-csrf-token') ?? '');
  const expected = Buffer.from(request.session.csrfToken ?? '');
  if (sent.length === expected.length && sent.length > 0 && timingSafeEqual(sent, expected)) return next();
  next(new Refusal(403, 'csrf', 'This page is from an earlier session. Load it again and repeat what you did.'));
};
