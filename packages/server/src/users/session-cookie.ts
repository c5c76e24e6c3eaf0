import { randomBytes, timingSafeEqual } from 'node:crypto';
import connectPgSimple from 'connect-pg-simple';
import type { Request, RequestHandler } from 'express';
import session from 'express-session';
import type { Pool } from 'pg';
import type { Environment } from '../environment';
import { Refusal } from '../errors';

declare module 'express-session' {
  interface SessionData {
    userId: string;
    csrfToken: string;
    signedInAt: number;
    seenAt: number;
    agent: string;
    address: string;
    secondFactor: boolean;
  }
}

/** Server sessions in PostgreSQL behind a SameSite cookie that scripts can not read. */
export function sessions(pool: Pool, environment: Environment): RequestHandler {
  const Store = connectPgSimple(session);
  return session({
    store: new Store({ pool, tableName: 'user_sessions', pruneSessionInterval: 900, disableTouch: true }),
    name: 'woodruff',
    secret: environment.SESSION_SECRET,
    resave: false,
    saveUninitialized: false,
    proxy: environment.TRUST_PROXY !== '',
    cookie: { httpOnly: true, sameSite: 'lax', secure: environment.SECURE_COOKIES, maxAge: environment.SESSION_IDLE_MINUTES * 60_000 },
  });
}

export const newCsrfToken = (): string => randomBytes(24).toString('base64url');

/** Every request that changes something must carry the session's token; signing in begins a session and can not. */
export const csrfProtection: RequestHandler = (request, _response, next) => {
  const reads = ['GET', 'HEAD', 'OPTIONS'].includes(request.method);
  const signsIn = request.method === 'POST' && ['/session', '/password-resets', '/links/look', '/links/use'].includes(request.path);
  if (reads || signsIn || !request.session.userId) return next();
  const sent = Buffer.from(request.get('x-csrf-token') ?? '');
  const expected = Buffer.from(request.session.csrfToken ?? '');
  if (sent.length === expected.length && sent.length > 0 && timingSafeEqual(sent, expected)) return next();
  next(new Refusal(403, 'csrf', 'This page is from an earlier session. Load it again and repeat what you did.'));
};

/** Who a request is from; a session that has lasted its time has ended, however busy it was. */
export function signedIn(request: Request, hours: number): string {
  const { userId, signedInAt } = request.session;
  if (userId && Date.now() - (signedInAt ?? 0) < hours * 3600_000) {
    // Its idle time begins anew: told once a minute, and not written with every request.
    if (Date.now() - (request.session.seenAt ?? 0) > 60_000) request.session.seenAt = Date.now();
    return userId;
  }
  if (userId) request.session.destroy(() => undefined);
  throw new Refusal(
    401,
    'signed-out',
    'You are signed out, or your session has ended. Sign in again; what you typed is kept on this page.',
  );
}
