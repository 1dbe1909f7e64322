import { computed, inject, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { Store } from '@ngrx/store';
import { of, switchMap } from 'rxjs';
import { type Draftbook, draftPage, selectDraft } from './drafts';

export interface DraftInHand<T> {
  readonly book: Signal<Draftbook<T> | null>;
  readonly draft: Signal<T | null>;
  readonly canUndo: Signal<boolean>;
  readonly canRedo: Signal<boolean>;
  open(draft: T): void;
  /** `field` names what is being typed: changes of one field in a row are one step back. */
  edit(field: string, change: Partial<T>): void;
  undo(): void;
  redo(): void;
  close(): void;
}

/** Unsaved work under a key: kept on this device until it is saved or thrown away. Call in an injection context. */
export function draftInHand<T extends object>(key: Signal<string>): DraftInHand<T> {
  const store = inject(Store);
  const book = toSignal(toObservable(key).pipe(switchMap((now) => (now ? store.select(selectDraft(now)) : of(null)))), {
    initialValue: null,
  }) as Signal<Draftbook<T> | null>;
  return {
    book,
    draft: computed(() => book()?.now ?? null),
    canUndo: computed(() => (book()?.past.length ?? 0) > 0),
    canRedo: computed(() => (book()?.future.length ?? 0) > 0),
    open: (draft) => store.dispatch(draftPage.opened({ key: key(), draft })),
    edit: (field, change) => {
      const now = book()?.now;
      if (now) store.dispatch(draftPage.edited({ key: key(), draft: { ...now, ...change }, field }));
    },
    undo: () => store.dispatch(draftPage.undone({ key: key() })),
    redo: () => store.dispatch(draftPage.redone({ key: key() })),
    close: () => store.dispatch(draftPage.closed({ key: key() })),
  };
}
