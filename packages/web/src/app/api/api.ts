import { HttpClient, HttpErrorResponse, HttpHeaders } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import { Store } from '@ngrx/store';
import {
  endpoints,
  type AnswerOf,
  type BodyOf,
  type Effect,
  type Endpoint,
  type EndpointName,
  type ProblemDetail,
} from '@woodruff/contract';
import { catchError, mergeMap, of, throwError, type Observable } from 'rxjs';
import { selectEmployerId } from '../session/session.store';

export interface CallInput<N extends EndpointName> {
  /** Parts of the address; the employer is the one that is chosen unless another one is named. */
  path?: Record<string, string | number>;
  query?: Record<string, string | number | undefined>;
  body?: BodyOf<N>;
  headers?: Record<string, string>;
}

/** A change that a second person has to confirm is no failure, and is not done yet either. */
const HELD = 'This waits for a second person, who finds it on Today. Nothing is changed until they confirm it.';
const held: ProblemDetail = { type: '/problems/held', title: HELD, detail: HELD, status: 202, code: 'held' };

/** Calls the HTTP interface by the names of the contract. Errors arrive as problem details. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly employerId = inject(Store).selectSignal(selectEmployerId);

  call<N extends EndpointName>(name: N, input: CallInput<N> = {}): Observable<AnswerOf<N>> {
    const endpoint: Endpoint = endpoints[name];
    return this.http
      .request<AnswerOf<N>>(endpoint.method, this.url(name, input), {
        ...(input.body === undefined ? {} : { body: input.body }),
        headers: new HttpHeaders(input.headers ?? {}),
        observe: 'response',
      })
      .pipe(
        mergeMap((response) => (response.status === 202 ? throwError(() => held) : of(response.body as AnswerOf<N>))),
        catchError((error: unknown) => throwError(() => problemOf(error))),
      );
  }

  /** What a change would do to the open runs; nothing is saved. */
  rehearse<N extends EndpointName>(name: N, input: CallInput<N> = {}): Observable<Effect> {
    return this.call(name, { ...input, query: { ...input.query, rehearse: 'true' } }) as Observable<unknown> as Observable<Effect>;
  }

  /** The address of an endpoint, for downloads and event streams. */
  url<N extends EndpointName>(name: N, input: Pick<CallInput<N>, 'path' | 'query'> = {}): string {
    const path = endpoints[name].path.replace(/:(\w+)/g, (_all, part: string) =>
      encodeURIComponent(String(input.path?.[part] ?? (part === 'employer' ? this.employerId() : ''))),
    );
    const query = Object.entries(input.query ?? {}).filter(([, value]) => value !== undefined);
    return `/api${path}${query.length ? `?${new URLSearchParams(query.map(([key, value]) => [key, String(value)])).toString()}` : ''}`;
  }
}

export function problemOf(error: unknown): ProblemDetail {
  if (error instanceof HttpErrorResponse) {
    const body: unknown = error.error;
    if (body && typeof body === 'object' && 'detail' in body) return body as ProblemDetail;
    const sentence =
      error.status === 0
        ? 'The server does not answer. What you typed is kept on this page; try again in a moment.'
        : 'The server answered in a way this page does not understand. Load the page again.';
    return { type: '/problems/connection', title: sentence, detail: sentence, status: error.status, code: 'connection' };
  }
  if (error && typeof error === 'object' && 'detail' in error) return error as ProblemDetail;
  const sentence = 'Something went wrong on this page. Load it again.';
  return { type: '/problems/page', title: sentence, detail: sentence, status: 0, code: 'page' };
}
