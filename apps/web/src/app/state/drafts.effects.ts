import { inject, Injectable } from '@angular/core';
import { createEffect } from '@ngrx/effects';
import { Store } from '@ngrx/store';
import { debounceTime, map, skip, tap } from 'rxjs';
import { DRAFTS_KEY, draftsFeature, type DraftsState } from './drafts';

/** Drafts that waited on this device; nothing when there are none or they cannot be read. */
export function waitingDrafts(): DraftsState {
  try {
    const kept = JSON.parse(localStorage.getItem(DRAFTS_KEY) ?? '{}') as Record<string, object>;
    return {
      byKey: Object.fromEntries(
        Object.entries(kept)
          .filter(([, now]) => typeof now === 'object' && now !== null)
          .map(([key, now]) => [key, { past: [], now, future: [], field: null }]),
      ),
    };
  } catch {
    return { byKey: {} };
  }
}

/** Unsaved work outlives a reload and a closed tablet. */
@Injectable()
export class DraftsEffects {
  private readonly store = inject(Store);

  readonly keep$ = createEffect(
    () =>
      this.store.select(draftsFeature.selectByKey).pipe(
        skip(1),
        debounceTime(150),
        map((byKey) => JSON.stringify(Object.fromEntries(Object.entries(byKey).map(([key, book]) => [key, book.now])))),
        tap((text) => {
          try {
            localStorage.setItem(DRAFTS_KEY, text);
          } catch {
            // A full or forbidden storage: the draft still lives as long as the page does.
          }
        }),
      ),
    { dispatch: false },
  );
}
