import { provideHttpClient, withFetch } from '@angular/common/http';
import {
  type ApplicationConfig,
  inject,
  isDevMode,
  provideEnvironmentInitializer,
  provideZonelessChangeDetection,
} from '@angular/core';
import { provideRouter, withComponentInputBinding } from '@angular/router';
import { provideEffects } from '@ngrx/effects';
import { provideState, provideStore, Store } from '@ngrx/store';
import { routes } from './routes';
import { devicesFeature } from './state/devices';
import { draftsFeature } from './state/drafts';
import { DraftsEffects, waitingDrafts } from './state/drafts.effects';
import { ReadsEffects } from './state/reads.effects';
import { readsFeature } from './state/reads';
import { RecordingEffects } from './state/recording.effects';
import { recordingFeature } from './state/recording';
import { SessionEffects } from './state/session.effects';
import { appOpened, sessionFeature } from './state/session';
import { provideWords } from './ui/locale';

const strict = isDevMode();

export const appConfig: ApplicationConfig = {
  providers: [
    provideWords(),
    provideZonelessChangeDetection(),
    provideHttpClient(withFetch()),
    provideRouter(routes, withComponentInputBinding()),
    provideStore(
      {
        [sessionFeature.name]: sessionFeature.reducer,
        [readsFeature.name]: readsFeature.reducer,
        [recordingFeature.name]: recordingFeature.reducer,
        [devicesFeature.name]: devicesFeature.reducer,
      },
      {
        runtimeChecks: {
          strictStateImmutability: strict,
          strictActionImmutability: strict,
          strictStateSerializability: strict,
        },
      },
    ),
    provideState(draftsFeature.name, draftsFeature.reducer, { initialState: waitingDrafts }),
    provideEffects(SessionEffects, ReadsEffects, RecordingEffects, DraftsEffects),
    provideEnvironmentInitializer(() => inject(Store).dispatch(appOpened())),
  ],
};
