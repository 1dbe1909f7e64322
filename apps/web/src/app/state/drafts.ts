import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  on,
  props,
  type MemoizedSelector,
} from '@ngrx/store';

/** Something written over a while, with its way back. What it is, its page knows. */
export interface Draftbook<T = unknown> {
  readonly past: readonly T[];
  readonly now: T;
  readonly future: readonly T[];
  /** What was changed last: typing on in one field is one step back, not one for each letter. */
  readonly field: string | null;
}

export const draftPage = createActionGroup({
  source: 'Draft',
  events: {
    Opened: props<{ key: string; draft: object }>(),
    Edited: props<{ key: string; draft: object; field: string }>(),
    Undone: props<{ key: string }>(),
    Redone: props<{ key: string }>(),
    Closed: props<{ key: string }>(),
  },
});

export const KEPT_STEPS = 100;
/** Where unsaved work waits through a reload, on this device. */
export const DRAFTS_KEY = 'ct.drafts';

export interface DraftsState {
  readonly byKey: Readonly<Record<string, Draftbook<object>>>;
}

const set = (state: DraftsState, key: string, book: Draftbook<object>): DraftsState => ({
  byKey: { ...state.byKey, [key]: book },
});

export const draftsFeature = createFeature({
  name: 'drafts',
  reducer: createReducer(
    { byKey: {} } as DraftsState,
    on(draftPage.opened, (state, { key, draft }) => set(state, key, { past: [], now: draft, future: [], field: null })),
    on(draftPage.edited, (state, { key, draft, field }) => {
      const book = state.byKey[key];
      if (!book) return set(state, key, { past: [], now: draft, future: [], field });
      const past = book.field === field ? book.past : [...book.past, book.now].slice(-KEPT_STEPS);
      return set(state, key, { past, now: draft, future: [], field });
    }),
    on(draftPage.undone, (state, { key }) => {
      const book = state.byKey[key];
      if (!book || book.past.length === 0) return state;
      return set(state, key, {
        past: book.past.slice(0, -1),
        now: book.past.at(-1)!,
        future: [book.now, ...book.future],
        field: null,
      });
    }),
    on(draftPage.redone, (state, { key }) => {
      const book = state.byKey[key];
      if (!book || book.future.length === 0) return state;
      return set(state, key, {
        past: [...book.past, book.now],
        now: book.future[0]!,
        future: book.future.slice(1),
        field: null,
      });
    }),
    on(draftPage.closed, (state, { key }) => {
      const { [key]: _, ...rest } = state.byKey;
      return { byKey: rest };
    }),
  ),
});

export const selectDraft = (key: string): MemoizedSelector<object, Draftbook<object> | null> =>
  createSelector(draftsFeature.selectByKey, (byKey) => byKey[key] ?? null);
