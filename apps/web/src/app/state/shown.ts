import { computed, effect, inject, type Signal, untracked } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { of, switchMap } from 'rxjs';
import type { WireProblem } from '../api/api';
import { type Read, readsPage, selectRead } from './reads';

export interface Shown<T> {
  readonly data: Signal<T | null>;
  readonly loading: Signal<boolean>;
  readonly problem: Signal<WireProblem | null>;
  again(): void;
}

/** Shows what an address answers, as long as the calling component lives, and keeps it fresh. */
export function shown<T extends object>(url: Signal<string | null>): Shown<T> {
  const store = inject(Store);
  effect((onCleanup) => {
    const now = url();
    if (now === null) return;
    untracked(() => store.dispatch(readsPage.shows({ url: now })));
    onCleanup(() => store.dispatch(readsPage.leaves({ url: now })));
  });
  const none: Read = { state: 'ready', data: null, problem: null };
  const read = toSignal(
    toObservable(url).pipe(switchMap((now) => (now === null ? of(none) : store.select(selectRead(now))))),
    { initialValue: { state: 'loading', data: null, problem: null } as Read },
  );
  return {
    data: computed(() => read().data as T | null),
    loading: computed(() => read().state === 'loading' && read().data === null),
    problem: computed(() => read().problem),
    again: () => {
      const now = url();
      if (now !== null) store.dispatch(readsPage.asksAgain({ url: now }));
    },
  };
}
