import { sessionSchema, signInSchema } from '../session';
import { nothing, type Endpoint } from './endpoint';

/** Of signing in and out. */
export const sessionEndpoints = {
  signIn: { method: 'post', path: '/session', needs: 'nobody', summary: 'Sign in', body: signInSchema, answer: sessionSchema },
  session: { method: 'get', path: '/session', needs: 'user', summary: 'Who is signed in, and for which employers', answer: sessionSchema },
  signOut: { method: 'delete', path: '/session', needs: 'user', summary: 'Sign out', answer: nothing },
} as const satisfies Record<string, Endpoint>;
