import { type ApplicationConfig, provideBrowserGlobalErrorListeners } from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideStore } from '@ngrx/store';
import { routes } from './app.routes';
import * as loadingEffects from './state/loading.effects';
import * as machineEffects from './state/machine.effects';
import { rememberPlace, restorePlace } from './state/place';
import * as playingEffects from './state/playing.effects';
import { metaReducers, reducers } from './state/reducers';
import * as savingEffects from './state/saving.effects';

export const appConfig: ApplicationConfig = {
  providers: [
    provideBrowserGlobalErrorListeners(),
    provideRouter(routes, withComponentInputBinding()),
    provideStore(reducers, { metaReducers }),
    provideEffects(loadingEffects, savingEffects, playingEffects, machineEffects, {
      restorePlace,
      rememberPlace,
    }),
  ],
};
