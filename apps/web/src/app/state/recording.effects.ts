import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, mergeMap, type Observable, of, retry, switchMap, tap, throwError, timer } from 'rxjs';
import type { EntriesReply, Entry } from '@clear-tally/contract';
import { Api, type WireProblem } from '../api/api';
import { CHECK } from './checked';
import { known } from './made';
import { answered } from './unanswered';
import { recordingPage, recordingWire } from './recording';

/** Nobody knows whether it was recorded: no answer, or a server that did not know in time. */
const UNKNOWN: ReadonlySet<string> = new Set(['offline', 'server.busy']);

/** A short stumble is made up for unseen; a long one is said. */
const PATIENCE_MS = 3000;

@Injectable()
export class RecordingEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);
  private readonly check = inject(CHECK);

  readonly record = createEffect(() =>
    this.actions.pipe(
      ofType(recordingPage.submitted),
      mergeMap(({ form, entries }) =>
        this.sent(entries).pipe(
          // Also when the page that sent it is left by now.
          tap({
            next: () => {
              known(entries);
              answered(entries);
            },
            error: (problem: WireProblem) => {
              if (!UNKNOWN.has(problem.code)) answered(entries);
            },
          }),
          map(({ recorded, changes }) => recordingWire.recorded({ form, recorded, changes })),
          catchError((problem: WireProblem) => of(recordingWire.refused({ form, problem }))),
        ),
      ),
    ),
  );

  /** The ids are the client's: sending again records nothing twice. Who has waited for long is told instead. */
  private sent(entries: readonly Entry[]): Observable<EntriesReply> {
    const until = Date.now() + PATIENCE_MS;
    const again = (problem: WireProblem): boolean =>
      (problem.code === 'offline' || problem.code === 'server.busy') && Date.now() < until;
    return this.check(entries).pipe(
      switchMap(() => this.api.record(entries)),
      retry({
        count: 2,
        delay: (problem: WireProblem, attempt) => (again(problem) ? timer(400 * attempt) : throwError(() => problem)),
      }),
    );
  }
}
