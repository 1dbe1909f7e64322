import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import {
  auditTime,
  catchError,
  exhaustMap,
  filter,
  groupBy,
  map,
  mergeMap,
  of,
  switchMap,
  takeUntil,
  withLatestFrom,
} from 'rxjs';
import { Api, type WireProblem } from '../api/api';
import { devicesWire } from './devices';
import { recordingWire } from './recording';
import { readsFeature, readsPage, readsWire } from './reads';
import { sessionWire, signInPage } from './session';

@Injectable()
export class ReadsEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);
  private readonly store = inject(Store);

  readonly read = createEffect(() =>
    this.actions.pipe(
      ofType(readsPage.shows, readsPage.asksAgain),
      groupBy(({ url }) => url, { duration: (group) => group.pipe(auditTime(60_000)) }),
      mergeMap((group) =>
        group.pipe(
          switchMap(({ url }) =>
            this.api.read(url).pipe(
              map((data) => readsWire.arrived({ url, data })),
              catchError((problem: WireProblem) => of(readsWire.refused({ url, problem }))),
            ),
          ),
        ),
      ),
    ),
  );

  /** What a page shows is read again when something was recorded, here or on another tablet. */
  readonly again = createEffect(() =>
    this.actions.pipe(
      ofType(recordingWire.recorded, readsWire.somethingRecorded),
      auditTime(80),
      withLatestFrom(this.store.select(readsFeature.selectShown)),
      mergeMap(([, shown]) => Object.keys(shown).map((url) => readsPage.asksAgain({ url }))),
    ),
  );

  readonly live = createEffect(() =>
    this.actions.pipe(
      ofType(sessionWire.sessionKnown, sessionWire.signedIn),
      filter(({ person }) => person !== null),
      exhaustMap(() =>
        this.api.notes().pipe(
          map((live) =>
            live.kind === 'ended'
              ? sessionWire.sessionEnded()
              : live.kind === 'recorded'
                ? readsWire.somethingRecorded({ note: live.note })
                : devicesWire.noteArrived({ note: live.note }),
          ),
          // Who signs out here is not told that somebody did.
          takeUntil(
            this.actions.pipe(ofType(signInPage.signOutAsked, sessionWire.signedOut, sessionWire.sessionEnded)),
          ),
        ),
      ),
    ),
  );
}
