import type { Request } from 'express';
import { execute, type Database } from '../database/connection';
import type { Handle } from '../http/route';
import { newCsrfToken } from './session-cookie';
import { askReset, lookAtLink, useLink } from './links';
import { changePassword } from './passwords';
import { addPasskey, beginPasskey, passkeysOf, removePasskey } from './passkeys';
import { beginSecondFactor, confirmSecondFactor, factorsOf, removeSecondFactor } from './second-factor';
import { endSessionsOf, sessionsOf } from './sessions';
import { sessionOf, signIn } from './service';
import type { Throttle } from './throttle';

export function userRoutes(handle: Handle, database: Database, throttle: Throttle): void {
  const own = (request: Request): string => request.session.userId ?? '';
  const begin = async (request: Request, userId: string, secondFactor: boolean) => {
    // A new session id at every sign-in: one planted before is worth nothing.
    await new Promise<void>((resolve, reject) => request.session.regenerate((error?: Error) => (error ? reject(error) : resolve())));
    Object.assign(request.session, {
      userId,
      csrfToken: newCsrfToken(),
      signedInAt: Date.now(),
      agent: (request.get('user-agent') ?? '').slice(0, 160),
      address: request.ip ?? '',
      secondFactor,
    });
  };
  /** Who signs in or out, or opens the door otherwise, stands in the trail of every employer they work for. */
  const told = (userId: string, action: string, what: string) =>
    execute(
      database,
      `insert into audit_entries (employer_id, user_id, action, subject, subject_id, what) select employer_id, user_id, :action, 'user', user_id, :what from memberships where user_id = :userId and accepted_at is not null`,
      { userId, action, what },
    );

  handle('signIn', async ({ body, request, response }) => {
    const { user, secondFactor } = await signIn(database, throttle, body, request, response);
    await begin(request, user.id, secondFactor);
    await told(user.id, 'sign-in', secondFactor ? 'Signed in with a second factor' : 'Signed in');
    return sessionOf(database, user.id, request.session.csrfToken ?? '');
  });
  handle('session', async ({ request }) => sessionOf(database, own(request), request.session.csrfToken ?? ''));
  handle('signOut', async ({ request, response }) => {
    await new Promise<void>((resolve) => request.session.destroy(() => resolve()));
    response.clearCookie('woodruff');
    return {};
  });
  handle('changePassword', async ({ body, request }) => {
    await changePassword(database, own(request), body.current, body.password, request.sessionID);
    await told(own(request), 'password', 'Changed their password; other sessions ended');
    return {};
  });
  handle('sessions', ({ request }) => sessionsOf(database, own(request), request.sessionID));
  handle('endSessions', async ({ request }) => {
    await endSessionsOf(database, own(request), request.sessionID);
    await told(own(request), 'sessions', 'Ended their other sessions');
    return {};
  });
  handle('beginSecondFactor', ({ body, request }) => beginSecondFactor(database, own(request), body.password));
  handle('confirmSecondFactor', async ({ body, request }) => {
    const codes = await confirmSecondFactor(database, own(request), body.code);
    request.session.secondFactor = true;
    await endSessionsOf(database, own(request), request.sessionID);
    await told(own(request), 'second-factor', 'Signs in with a second factor from now on');
    return codes;
  });
  handle('removeSecondFactor', async ({ body, request }) => {
    await removeSecondFactor(database, own(request), body.password);
    request.session.secondFactor = Object.values(await factorsOf(database, own(request))).some(Boolean);
    await told(own(request), 'second-factor', 'Removed their authenticator');
    return {};
  });
  handle('passkeys', ({ request }) => passkeysOf(database, own(request)));
  handle('beginPasskey', ({ body, request }) => beginPasskey(database, own(request), body.password, request));
  handle('addPasskey', async ({ body, request }) => {
    const codes = await addPasskey(database, own(request), body, request);
    request.session.secondFactor = true;
    await endSessionsOf(database, own(request), request.sessionID);
    await told(own(request), 'second-factor', `Added the passkey ${body.label}`);
    return codes;
  });
  handle('removePasskey', async ({ body, path, request }) => {
    await removePasskey(database, own(request), path('key'), body.password);
    request.session.secondFactor = Object.values(await factorsOf(database, own(request))).some(Boolean);
    await told(own(request), 'second-factor', 'Removed a passkey');
    return {};
  });
  handle('askReset', async ({ body }) => {
    await throttle.letter(body.email.toLowerCase());
    await askReset(database, body.email);
    return {};
  });
  handle('lookAtLink', ({ body }) => lookAtLink(database, body.token));
  handle('useLink', ({ body }) => useLink(database, body.token, body.password));
}
