import {
  createActionGroup,
  createFeature,
  createReducer,
  createSelector,
  on,
  props,
  type MemoizedSelector,
} from '@ngrx/store';
import type { Change, Entry, Recorded } from '@clear-tally/contract';
import type { WireProblem } from '../api/api';

/** How the entries of one form stand. What was typed stays in the form until they are recorded. */
export type Progress =
  | { readonly state: 'idle' }
  | { readonly state: 'saving' }
  | { readonly state: 'recorded'; readonly recorded: readonly Recorded[] }
  | { readonly state: 'refused'; readonly problem: WireProblem };

export const recordingPage = createActionGroup({
  source: 'Form',
  events: { Submitted: props<{ form: string; entries: readonly Entry[] }>(), Edited: props<{ form: string }>() },
});

export const recordingWire = createActionGroup({
  source: 'Recording wire',
  events: {
    Recorded: props<{ form: string; recorded: readonly Recorded[]; changes: readonly Change[] }>(),
    Refused: props<{ form: string; problem: WireProblem }>(),
  },
});

export interface RecordingState {
  readonly byForm: Readonly<Record<string, Progress>>;
}

const set = (state: RecordingState, form: string, progress: Progress): RecordingState => ({
  byForm: { ...state.byForm, [form]: progress },
});

export const recordingFeature = createFeature({
  name: 'recording',
  reducer: createReducer(
    { byForm: {} } as RecordingState,
    on(recordingPage.submitted, (state, { form }) => set(state, form, { state: 'saving' })),
    on(recordingPage.edited, (state, { form }) =>
      state.byForm[form] && state.byForm[form].state !== 'saving' ? set(state, form, IDLE) : state,
    ),
    on(recordingWire.recorded, (state, { form, recorded }) => set(state, form, { state: 'recorded', recorded })),
    on(recordingWire.refused, (state, { form, problem }) => set(state, form, { state: 'refused', problem })),
  ),
});

const IDLE: Progress = { state: 'idle' };

export const selectProgress = (form: string): MemoizedSelector<object, Progress> =>
  createSelector(recordingFeature.selectByForm, (byForm) => byForm[form] ?? IDLE);
