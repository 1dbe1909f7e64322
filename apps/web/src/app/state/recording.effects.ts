import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, mergeMap, type Observable, of, retry, throwError, timer } from 'rxjs';
import type { EntriesReply, Entry } from '@clear-tally/contract';
import { Api, type WireProblem } from '../api/api';
import { recordingPage, recordingWire } from './recording';

/** A short stumble is made up for unseen; a long one is said. */
const PATIENCE_MS = 3000;

@Injectable()
export class RecordingEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);

  readonly record = createEffect(() =>
    this.actions.pipe(
      ofType(recordingPage.submitted),
      mergeMap(({ form, entries }) =>
        this.sent(entries).pipe(
          map(({ recorded }) => recordingWire.recorded({ form, recorded })),
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
    return this.api.record(entries).pipe(
      retry({
        count: 2,
        delay: (problem: WireProblem, attempt) => (again(problem) ? timer(400 * attempt) : throwError(() => problem)),
      }),
    );
  }
}
