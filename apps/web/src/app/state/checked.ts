import { InjectionToken } from '@angular/core';
import { catchError, map, type Observable, of, from, switchMap, throwError } from 'rxjs';
import type { Entry } from '@clear-tally/contract';
import type { WireProblem } from '../api/api';

/**
 * Entries as the contract's schemas read them, before they travel: the ones the server checks with, in a part that is
 * loaded when the first form is sent. Errors with what stands against them, at its field. Where that part cannot be
 * loaded the server alone looks.
 */
export function checked(entries: readonly Entry[]): Observable<readonly Entry[]> {
  return from(import('./schemas')).pipe(
    map(({ wrongIn }) => wrongIn(entries)),
    catchError(() => of(null)),
    switchMap((problem: WireProblem | null) => (problem ? throwError(() => problem) : of(entries))),
  );
}

/** Looked at before they are sent. */
export const CHECK = new InjectionToken<typeof checked>('check of entries', { factory: () => checked });
