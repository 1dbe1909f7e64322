import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  on,
  props,
  type MemoizedSelector,
} from '@ngrx/store';
import type { WireProblem } from '../api/api';
import { sessionWire } from './session';

/** One thing read from the server, by its address. The last good data stay while it is read again. */
export interface Read {
  readonly state: 'loading' | 'ready' | 'refused';
  readonly data: object | null;
  readonly problem: WireProblem | null;
}

export interface ReadsState {
  readonly byUrl: Readonly<Record<string, Read>>;
  /** Addresses that some open page shows, and how often: they are read again when something was recorded. */
  readonly shown: Readonly<Record<string, number>>;
}

export const readsPage = createActionGroup({
  source: 'Page',
  events: { Shows: props<{ url: string }>(), Leaves: props<{ url: string }>(), 'Asks again': props<{ url: string }>() },
});

export const readsWire = createActionGroup({
  source: 'Reads wire',
  events: {
    Arrived: props<{ url: string; data: object }>(),
    Refused: props<{ url: string; problem: WireProblem }>(),
    'Something recorded': props<{ note: string }>(),
  },
});

const KEPT = 40;

/** Only what is shown and the newest of the rest are kept: a long day must not fill a tablet. */
function prune(byUrl: Record<string, Read>, shown: Readonly<Record<string, number>>): Record<string, Read> {
  const idle = Object.keys(byUrl).filter((url) => !shown[url]);
  idle.slice(0, Math.max(0, idle.length - KEPT)).forEach((url) => delete byUrl[url]);
  return byUrl;
}

/** What is read again after every entry mostly says what it said: then nothing that shows it is drawn anew. */
const unlessSame = (before: Read | undefined, data: object): object =>
  before?.data && JSON.stringify(before.data) === JSON.stringify(data) ? before.data : data;

const loading = (read: Read | undefined): Read => ({ state: 'loading', data: read?.data ?? null, problem: null });

export const readsFeature = createFeature({
  name: 'reads',
  reducer: createReducer(
    { byUrl: {}, shown: {} } as ReadsState,
    on(readsPage.shows, (state, { url }): ReadsState => {
      const shown = { ...state.shown, [url]: (state.shown[url] ?? 0) + 1 };
      return { shown, byUrl: prune({ ...state.byUrl, [url]: loading(state.byUrl[url]) }, shown) };
    }),
    on(readsPage.leaves, (state, { url }): ReadsState => {
      const { [url]: count = 0, ...rest } = state.shown;
      return { ...state, shown: count > 1 ? { ...rest, [url]: count - 1 } : rest };
    }),
    on(readsPage.asksAgain, (state, { url }): ReadsState => ({
      ...state,
      byUrl: { ...state.byUrl, [url]: loading(state.byUrl[url]) },
    })),
    on(readsWire.arrived, (state, { url, data }): ReadsState => ({
      ...state,
      byUrl: { ...state.byUrl, [url]: { state: 'ready', data: unlessSame(state.byUrl[url], data), problem: null } },
    })),
    // Nothing of the house stays on a tablet that nobody is signed in on.
    on(sessionWire.signedOut, sessionWire.sessionEnded, (state): ReadsState => ({ ...state, byUrl: {} })),
    on(readsWire.refused, (state, { url, problem }): ReadsState => ({
      ...state,
      byUrl: { ...state.byUrl, [url]: { state: 'refused', data: state.byUrl[url]?.data ?? null, problem } },
    })),
  ),
});

const NOTHING: Read = { state: 'loading', data: null, problem: null };

/** The read at an address. */
export const selectRead = (url: string): MemoizedSelector<object, Read> =>
  createSelector(readsFeature.selectByUrl, (byUrl) => byUrl[url] ?? NOTHING);
