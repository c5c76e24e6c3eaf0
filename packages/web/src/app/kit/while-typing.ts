import { signal, type Signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import type { Effect } from '@woodruff/contract';
import { catchError, debounceTime, of, switchMap, tap, type Observable } from 'rxjs';

/**
 * The effect of what is being entered, asked for again a moment after each entry; null while it is not known
 * or what is entered cannot be saved yet. To be called where injection is possible.
 */
export function effectWhileTyping(entries: Observable<unknown>, ask: () => Observable<Effect> | null): Signal<Effect | null> {
  const effect = signal<Effect | null>(null);
  entries
    .pipe(
      tap(() => effect.set(null)),
      debounceTime(350),
      switchMap(() => ask()?.pipe(catchError(() => of(null))) ?? of(null)),
      takeUntilDestroyed(),
    )
    .subscribe((known) => effect.set(known));
  return effect;
}
