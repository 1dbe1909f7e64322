import { inject, Injectable } from '@angular/core';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { catchError, map, mergeMap, of, retry, throwError, timer } from 'rxjs';
import { Api, type WireProblem } from '../api/api';
import { recordingPage, recordingWire } from './recording';

@Injectable()
export class RecordingEffects {
  private readonly actions = inject(Actions);
  private readonly api = inject(Api);

  readonly record = createEffect(() => this.actions.pipe(
    ofType(recordingPage.submitted),
    mergeMap(({ form, entries }) => this.api.record(entries).pipe(
      // The ids are the client's: sending again records nothing twice.
      retry({ count: 2, delay: (problem: WireProblem, attempt) => (problem.code === 'offline' || problem.code === 'server.busy' ? timer(400 * attempt) : throwError(() => problem)) }),
      map(({ recorded }) => recordingWire.recorded({ form, recorded })),
      catchError((problem: WireProblem) => of(recordingWire.refused({ form, problem }))),
    )),
  ));
}
