import { DestroyRef, inject, type Signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { Keys } from '../kit/keys';
import { workingActions, workingFeature, type Frame } from './working.store';

/** For pages that show the panel: it is closed when they open and when they are left, and by Escape. Gives the frame shown. */
export function panelOfPage(): Signal<Frame | null> {
  const store = inject(Store);
  const close = () => store.dispatch(workingActions.close());
  const takeBack = inject(Keys).add({ keys: 'Escape', label: 'Close the panel', run: close });
  close();
  inject(DestroyRef).onDestroy(() => {
    takeBack();
    close();
  });
  return store.selectSignal(workingFeature.selectFrame);
}
