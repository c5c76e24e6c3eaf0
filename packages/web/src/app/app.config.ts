import { provideHttpClient, withFetch, withInterceptors } from '@angular/common/http';
import { provideBrowserGlobalErrorListeners, type ApplicationConfig } from '@angular/core';
import { provideRouter, withComponentInputBinding, withInMemoryScrolling } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import { sessionInterceptor } from './session/session.http';
import { sessionFeature } from './session/session.store';
import { sessionEffects } from './session/session.effects';
import { timelineStore } from './shell/timeline.store';
import { workingEffects, workingFeature } from './working/working.store';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withInMemoryScrolling({ anchorScrolling: 'enabled', scrollPositionRestoration: 'enabled' }),
    ),
    provideHttpClient(withFetch(), withInterceptors([sessionInterceptor])),
    provideStore(),
    provideState(sessionFeature),
    provideState(workingFeature),
    provideState(timelineStore.name, timelineStore.reducer),
    provideEffects(sessionEffects, workingEffects, timelineStore.effects),
  ],
};
