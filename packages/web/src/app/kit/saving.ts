import { signal, type Signal } from '@angular/core';
import type { ProblemDetail } from '@woodruff/contract';
import type { Observable } from 'rxjs';
import { problemOf } from '../api/api';

/** Changes that a page asks for, and what is wrong with the latest one. */
export interface Saving {
  problem: Signal<ProblemDetail | null>;
  say(problem: ProblemDetail): void;
  /** What is taken clears what was wrong before it; what is not taken says why, and nothing that was entered is lost. */
  save(request: Observable<unknown>, then?: () => void): void;
}

/** @param done follows every change that was taken, such as reading the page again */
export function saving(done: () => void): Saving {
  const problem = signal<ProblemDetail | null>(null);
  return {
    problem: problem.asReadonly(),
    say: (one) => problem.set(one),
    save: (request, then) =>
      void request.subscribe({
        next: () => {
          problem.set(null);
          then?.();
          done();
        },
        error: (error: unknown) => problem.set(problemOf(error)),
      }),
  };
}
