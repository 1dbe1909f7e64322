import { createActionGroup, createFeature, createAction, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Person, SignInReply } from '@clear-tally/contract';
import type { WireProblem } from '../api/api';

export const appOpened = createAction('[App] Opened');

export const signInPage = createActionGroup({
  source: 'Sign-in page',
  events: {
    Opened: emptyProps(),
    /** `stay`: the page beneath stays as it is; a tablet changed hands. */
    'Pin typed': props<{ personId: string; pin: string; stay?: boolean }>(),
    'Sign out asked': emptyProps(),
  },
});

export const sessionWire = createActionGroup({
  source: 'Session wire',
  events: {
    'Session known': props<{ person: Person | null }>(),
    'Signed in': props<{ person: Person; stay?: boolean }>(),
    'Signed out': emptyProps(),
    /** By somebody else, or by time. */
    'Session ended': emptyProps(),
    'Sign in refused': props<{ problem: WireProblem }>(),
    'Choices known': props<{ choices: SignInReply }>(),
  },
});

export interface SessionState {
  readonly state: 'asking' | 'known' | 'signing' | 'refused';
  readonly person: Person | null;
  readonly choices: SignInReply | null;
  readonly problem: WireProblem | null;
}

const start: SessionState = { state: 'asking', person: null, choices: null, problem: null };

export const sessionFeature = createFeature({
  name: 'session',
  reducer: createReducer(
    start,
    on(sessionWire.sessionKnown, (state, { person }): SessionState => ({ ...state, state: 'known', person })),
    on(signInPage.pinTyped, (state): SessionState => ({ ...state, state: 'signing', problem: null })),
    on(sessionWire.signedIn, (state, { person }): SessionState => ({
      ...state,
      state: 'known',
      person,
      problem: null,
    })),
    on(sessionWire.signInRefused, (state, { problem }): SessionState => ({ ...state, state: 'refused', problem })),
    on(sessionWire.signedOut, sessionWire.sessionEnded, (state): SessionState => ({
      ...state,
      state: 'known',
      person: null,
    })),
    on(sessionWire.choicesKnown, (state, { choices }): SessionState => ({ ...state, choices })),
  ),
});
