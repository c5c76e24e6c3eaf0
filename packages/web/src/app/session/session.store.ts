import { createActionGroup, createFeature, createReducer, createSelector, emptyProps, on, props } from '@ngrx/store';
import type { ProblemDetail, Right, Session } from '@woodruff/contract';

export const sessionActions = createActionGroup({
  source: 'Session',
  events: {
    'Sign in': props<{ email: string; password: string; code?: string; passkey?: Record<string, unknown> }>(),
    'Signed in': props<{ session: Session }>(),
    Restored: props<{ session: Session }>(),
    Refused: props<{ problem: ProblemDetail }>(),
    Expired: emptyProps(),
    'Sign out': emptyProps(),
    'Signed out': emptyProps(),
    'Choose employer': props<{ id: string }>(),
    'Today moved': props<{ today: string }>(),
  },
});

interface State {
  session: Session | null;
  employerId: string | null;
  /** The session ended while a page was open: the page stays, a sign-in opens over it. */
  expired: boolean;
  problem: ProblemDetail | null;
}

/** The employer chosen in this tab, so that loading the page again stays with it. */
export const REMEMBERED = 'woodruff.employer';
const initial: State = { session: null, employerId: sessionStorage.getItem(REMEMBERED), expired: false, problem: null };
const withSession = (state: State, session: Session): State => ({
  session,
  employerId: session.employers.find((employer) => employer.id === state.employerId)?.id ?? session.employers[0]?.id ?? null,
  expired: false,
  problem: null,
});

export const sessionFeature = createFeature({
  name: 'session',
  reducer: createReducer(
    initial,
    on(sessionActions.signIn, (state): State => ({ ...state, problem: null })),
    on(sessionActions.signedIn, sessionActions.restored, (state, { session }): State => withSession(state, session)),
    on(sessionActions.refused, (state, { problem }): State => ({ ...state, problem })),
    on(sessionActions.expired, (state): State => ({ ...state, expired: state.session !== null })),
    on(sessionActions.signedOut, (): State => initial),
    on(sessionActions.chooseEmployer, (state, { id }): State => ({ ...state, employerId: id })),
    on(sessionActions.todayMoved, (state, { today }): State =>
      state.session
        ? {
            ...state,
            session: {
              ...state.session,
              employers: state.session.employers.map((employer) => (employer.id === state.employerId ? { ...employer, today } : employer)),
            },
          }
        : state,
    ),
  ),
});

export const selectEmployerId = createSelector(sessionFeature.selectEmployerId, (id) => id ?? '');
export const selectEmployer = createSelector(
  sessionFeature.selectSession,
  sessionFeature.selectEmployerId,
  (session, id) => session?.employers.find((employer) => employer.id === id) ?? null,
);
/** Whether the user has a right at the employer. */
export const selectMay = (right: Right) => createSelector(selectEmployer, (employer) => employer?.rights.includes(right) ?? false);
export const selectMayPrepare = selectMay('prepare');
