import {
  type ApplicationConfig,
  ErrorHandler,
  inject,
  isDevMode,
  provideBrowserGlobalErrorListeners,
} from '@angular/core';
import {
  provideRouter,
  withComponentInputBinding,
  withNavigationErrorHandler,
} from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { provideServiceWorker } from '@angular/service-worker';
import { routes } from './app.routes';
import { MissingPart, TellingErrorHandler } from './missing-part';
import { afterSounds } from './live/after-sounds';
import * as loadingEffects from './state/loading/loading.effects';
import * as undoEffects from './state/editing/undo.effects';
import * as goneEffects from './state/session/gone.effects';
import * as keepingEffects from './state/keeping/keeping.effects';
import * as machineEffects from './state/machine/machine.effects';
import * as preferencesEffects from './state/machine/preferences.effects';
import { rememberPlace, restorePlace } from './state/session/bookmark';
import * as recordingsEffects from './state/recordings/recordings.effects';
import * as statusEffects from './state/session/status.effects';
import * as playingEffects from './state/session/playing.effects';
import { metaReducers, reducers } from './state/reducers';
import * as savingEffects from './state/saving/saving.effects';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideRouter(
      routes,
      withComponentInputBinding(),
      withNavigationErrorHandler(({ error }) => inject(MissingPart).notice(error)),
    ),
    { provide: ErrorHandler, useClass: TellingErrorHandler },
    provideStore(reducers, { metaReducers }),
    provideServiceWorker('show-worker.js', {
      enabled: !isDevMode(),
      registrationStrategy: afterSounds,
    }),
    provideEffects(
      loadingEffects,
      savingEffects,
      playingEffects,
      machineEffects,
      preferencesEffects,
      undoEffects,
      goneEffects,
      keepingEffects,
      statusEffects,
      recordingsEffects,
      { restorePlace, rememberPlace },
    ),
  ],
};
