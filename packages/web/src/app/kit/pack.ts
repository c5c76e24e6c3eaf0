import { computed, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { packOf, type CountryPack } from '@woodruff/core';
import { selectEmployer } from '../session/session.store';

/** The pack of the employer's country: its words, and how it writes numbers and addresses. */
export function injectPack(): Signal<CountryPack | null> {
  const employer = inject(Store).selectSignal(selectEmployer);
  return computed(() => {
    const chosen = employer();
    return chosen ? packOf(chosen.country) : null;
  });
}
