import { computed, DestroyRef, effect, inject, type Signal, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { v7 } from 'uuid';
import type { BodyOf, Entry, EntryKind, Recorded } from '@clear-tally/contract';
import { type Progress, recordingPage, selectProgress } from './recording';
import { sessionFeature } from './session';
import { isMade, keepMade, newId } from './made';
import { keepUnanswered, saying, unansweredOf } from './unanswered';

export { newId } from './made';

export interface RecordingForm {
  readonly progress: Signal<Progress>;
  readonly saving: Signal<boolean>;
  /** The message of a refusal, for a field or for the whole form. */
  problemAt(...fields: string[]): string | null;
  readonly problem: Signal<string | null>;
  readonly facts: Signal<Record<string, unknown> | null>;
  record(...entries: readonly Entry[]): void;
  entry<K extends EntryKind>(kind: K, body: BodyOf<K>, at?: Date): Entry;
  /** Call when somebody types: an old refusal goes. */
  edited(): void;
}

/**
 * One form's line to the recorder. `whenRecorded` runs once for each success. Call in an injection context.
 */
export function recordingForm(name: string, whenRecorded?: (recorded: readonly Recorded[]) => void): RecordingForm {
  const store = inject(Store);
  // Two forms of one name on one page must not answer for each other.
  const form = `${name}#${v7()}`;
  const progress = store.selectSignal(selectProgress(form));
  const person = store.selectSignal(sessionFeature.selectPerson);
  const handled = signal<Progress | null>(null);
  effect(() => {
    const now = progress();
    if (now.state !== 'recorded' || handled() === now) return;
    handled.set(now);
    whenRecorded?.(now.recorded);
  });
  inject(DestroyRef).onDestroy(() => store.dispatch(recordingPage.edited({ form })));
  const refusal = computed(() => {
    const now = progress();
    return now.state === 'refused' ? now.problem : null;
  });
  return {
    progress,
    saving: computed(() => progress().state === 'saving'),
    problem: computed(() => refusal()?.detail ?? null),
    facts: computed(() => refusal()?.facts ?? null),
    problemAt: (...fields) => {
      const now = refusal();
      return now?.field !== undefined &&
        fields.some((field) => now.field === field || now.field!.startsWith(`${field}.`))
        ? now.detail
        : null;
    },
    record: (...entries) => {
      if (untracked(progress).state === 'saving') return;
      const mine = { person: person()!.id, form: name, says: saying(entries, isMade) };
      // Sent, and never answered: it may stand in the book. Pressed again it is the same entry, and is recorded once.
      const sent = unansweredOf(mine)?.entries ?? entries;
      keepUnanswered({ ...mine, entries: sent, at: Date.now() });
      keepMade();
      store.dispatch(recordingPage.submitted({ form, entries: sent }));
    },
    entry: (kind, body, at = new Date()) =>
      ({
        id: newId(),
        kind,
        happenedAt: at.toISOString(),
        by: person()!.id,
        device: deviceName(),
        body,
      }) as unknown as Entry,
    edited: () => store.dispatch(recordingPage.edited({ form })),
  };
}

/** A short name of this tablet, the same every day. */
function deviceName(): string {
  const key = 'ct.device';
  try {
    const known = localStorage.getItem(key);
    if (known) return known;
    const name = `tablet ${v7().slice(-4)}`;
    localStorage.setItem(key, name);
    return name;
  } catch {
    return 'tablet';
  }
}
