import { inject, Injectable } from '@angular/core';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, exhaustMap, filter, map, of, switchMap, tap } from 'rxjs';
import { Api, type WireProblem } from '../api/api';
import { openLock } from './lock';
import { readsWire } from './reads';
import { recordingWire } from './recording';
import { appOpened, sessionWire, signInPage } from './session';

@Injectable()
export class SessionEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);
  private readonly router = inject(Router);

  readonly ask = createEffect(() =>
    this.actions.pipe(
      ofType(appOpened),
      switchMap(() =>
        this.api.session().pipe(
          map(({ person }) => sessionWire.sessionKnown({ person })),
          catchError(() => of(sessionWire.sessionKnown({ person: null }))),
        ),
      ),
    ),
  );

  readonly choices = createEffect(() =>
    this.actions.pipe(
      ofType(signInPage.opened),
      switchMap(() =>
        this.api.choices().pipe(
          map((choices) => sessionWire.choicesKnown({ choices })),
          catchError((problem: WireProblem) => of(sessionWire.signInRefused({ problem }))),
        ),
      ),
    ),
  );

  readonly signIn = createEffect(() =>
    this.actions.pipe(
      ofType(signInPage.pinTyped),
      exhaustMap(({ personId, pin, stay }) =>
        this.api.signIn(personId, pin).pipe(
          map(({ person }) => sessionWire.signedIn({ person: person!, stay })),
          catchError((problem: WireProblem) => of(sessionWire.signInRefused({ problem }))),
        ),
      ),
    ),
  );

  readonly enter = createEffect(
    () =>
      this.actions.pipe(
        ofType(sessionWire.signedIn),
        filter(({ stay }) => !stay),
        tap(() => {
          openLock();
          const to = this.router.parseUrl(this.router.url).queryParams['to'] as string | undefined;
          // Only a path of our own: a link must not lead a signed-in person elsewhere.
          void this.router.navigateByUrl(to && /^\/[^/]/.test(to) ? to : '/floor');
        }),
      ),
    { dispatch: false },
  );

  readonly signOut = createEffect(() =>
    this.actions.pipe(
      ofType(signInPage.signOutAsked),
      switchMap(() =>
        this.api.signOut().pipe(
          map(() => sessionWire.signedOut()),
          catchError(() => of(sessionWire.signedOut())),
        ),
      ),
    ),
  );

  readonly leave = createEffect(
    () =>
      this.actions.pipe(
        ofType(sessionWire.signedOut),
        tap(() => void this.router.navigateByUrl('/sign-in')),
      ),
    { dispatch: false },
  );

  /** Ended from elsewhere: the page goes dark at once, and leads back when somebody signs in. */
  readonly dark = createEffect(
    () =>
      this.actions.pipe(
        ofType(sessionWire.sessionEnded),
        tap(
          () =>
            void this.router.navigate(['/sign-in'], {
              queryParams: { ended: 'yes', to: this.router.url.startsWith('/sign-in') ? undefined : this.router.url },
            }),
        ),
      ),
    { dispatch: false },
  );

  /** A sign-in that has ended leads to the sign-in page and back. */
  readonly ended = createEffect(
    () =>
      this.actions.pipe(
        ofType(readsWire.refused, recordingWire.refused),
        filter(({ problem }) => problem.code === 'who.signIn'),
        tap(
          () =>
            void this.router.navigate(['/sign-in'], {
              queryParams: { to: this.router.url.startsWith('/sign-in') ? undefined : this.router.url },
            }),
        ),
      ),
    { dispatch: false },
  );
}
