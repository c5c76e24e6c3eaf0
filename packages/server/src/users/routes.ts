import type { Database } from '../database/connection';
import type { Handle } from '../http/route';
import { newCsrfToken } from '../http/session';
import { sessionOf, signIn } from './service';

export function userRoutes(handle: Handle, database: Database): void {
  handle('signIn', async ({ body, request }) => {
    const user = await signIn(body.email, body.password);
    // A new session id at every sign-in: one planted before is worth nothing.
    await new Promise<void>((resolve, reject) => request.session.regenerate((error?: Error) => (error ? reject(error) : resolve())));
    request.session.userId = user.id;
    request.session.csrfToken = newCsrfToken();
    return sessionOf(database, user.id, request.session.csrfToken);
  });
  handle('session', async ({ request }) => sessionOf(database, request.session.userId ?? '', request.session.csrfToken ?? ''));
  handle('signOut', async ({ request, response }) => {
    await new Promise<void>((resolve) => request.session.destroy(() => resolve()));
    response.clearCookie('woodruff');
    return {};
  });
}
