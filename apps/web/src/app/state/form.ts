import {
  computed,
  DestroyRef,
  effect,
  inject,
  type Signal,
  signal,
  untracked,
  type WritableSignal,
} from '@angular/core';
import { form as tree, type FieldTree } from '@angular/forms/signals';
import { Store } from '@ngrx/store';
import { v7 } from 'uuid';
import type { BodyOf, Entry, EntryKind, Recorded } from '@clear-tally/contract';
import { type Progress, recordingPage, selectProgress } from './recording';
import { sessionFeature } from './session';
import { House } from './house';
import { isMade, keepMade, newId } from './made';
import { keepTyped, type TypedBefore } from './typed';
import { Unsaved } from './unsaved';
import { isOfNow, When } from './when';
import { keepUnanswered, saying, unansweredOf } from './unanswered';

export { newId } from './made';

/** How long a button says that its form was recorded. */
const SAVED_MS = 4000;

export interface RecordingForm {
  readonly progress: Signal<Progress>;
  readonly saving: Signal<boolean>;
  /** Recorded a moment ago. */
  readonly saved: Signal<boolean>;
  /** The message of a refusal, for a field or for the whole form. */
  problemAt(...fields: string[]): string | null;
  readonly problem: Signal<string | null>;
  readonly facts: Signal<Record<string, unknown> | null>;
  record(...entries: readonly Entry[]): void;
  entry<K extends EntryKind>(kind: K, body: BodyOf<K>, at?: Date): Entry;
  /** Why the person signed in would be refused it for want of a training; null: nothing is asked, or they have it. */
  readonly untrained: Signal<string | null>;
  /** Whether what it records can have happened before now. */
  readonly takesWhen: boolean;
  /** Call when somebody types: an old refusal goes. */
  edited(): void;
}

export interface TypedForm<T extends object> extends RecordingForm {
  /** The fields, for `[formField]`. */
  readonly fields: FieldTree<T>;
  /** What stands in each field: read it, set it. */
  readonly values: { readonly [K in keyof T]: WritableSignal<T[K]> };
  /** What was typed here before, and neither recorded nor thrown away. */
  readonly typed: TypedBefore;
}

export interface TypedOptions<T extends object> {
  /** What stands in the fields of an empty form. Never a PIN, never a file: what is typed is kept on the tablet. */
  readonly fields: T;
  /** What the form is about: its lot, its batch. What is typed is kept under it; null: it is about nothing yet. */
  readonly about?: Signal<string | null>;
  /** Once for each success; what was typed is forgotten after it. */
  readonly recorded?: (recorded: readonly Recorded[]) => void;
}

/**
 * One form's line to the recorder, with the fields somebody types into. `recorded` runs once for each success. Call in
 * an injection context.
 */
export function recordingForm(name: string, whenRecorded?: (recorded: readonly Recorded[]) => void): RecordingForm;
export function recordingForm<T extends object>(name: string, options: TypedOptions<T>): TypedForm<T>;
export function recordingForm<T extends object>(
  name: string,
  given?: ((recorded: readonly Recorded[]) => void) | TypedOptions<T>,
): RecordingForm | TypedForm<T> {
  const typing = typeof given === 'object' ? fieldsOf(name, given) : null;
  const whenRecorded = typeof given === 'object' ? given.recorded : given;
  const line = lineToRecorder(name, (recorded) => {
    whenRecorded?.(recorded);
    typing?.done();
  });
  if (!typing) return line;
  inject(Unsaved).watch(typing.unsaved);
  let before = untracked(typing.model);
  effect(() => {
    const now = typing.model();
    if (now === before) return;
    before = now;
    line.edited();
  });
  return { ...line, fields: typing.fields, values: typing.values, typed: typing.typed };
}

function fieldsOf<T extends object>(name: string, options: TypedOptions<T>) {
  const model = signal<T>(options.fields);
  const fields = tree(model);
  const keys = Object.keys(options.fields) as (keyof T & string)[];
  const field = fields as unknown as Record<string, () => { value: WritableSignal<unknown> }>;
  const values = Object.fromEntries(keys.map((key) => [key, field[key]!().value]));
  const about = options.about;
  const typed = keepTyped(
    computed(() => (about ? about() && `${name} ${about()}` : name)),
    values,
  );
  /** As it stood when it was opened, or recorded last. */
  const stood = signal(JSON.stringify(options.fields));
  return {
    model,
    fields,
    values: values as TypedForm<T>['values'],
    typed,
    unsaved: computed(() => JSON.stringify(model()) !== stood()),
    done: () => {
      stood.set(JSON.stringify(untracked(model)));
      typed.done();
    },
  };
}

/** What forms record that are not called by it: for what a house asks a training for. */
const RECORDS: Readonly<Record<string, EntryKind>> = {
  calibrate: 'meter.calibrate',
  cleaning: 'equipment.clean',
  equipment: 'equipment.check',
  lift: 'hold.lift',
  measure: 'acid.titrate',
  'past readings': 'ph.read',
  reading: 'ph.read',
  ready: 'lot.ready',
  sanitiser: 'sanitiser.mix',
  taste: 'taste.record',
  'top up': 'vessel.topUp',
};

function lineToRecorder(name: string, whenRecorded: (recorded: readonly Recorded[]) => void): RecordingForm {
  const store = inject(Store);
  const when = inject(When);
  const house = inject(House, { optional: true });
  // Two forms of one name on one page must not answer for each other.
  const form = `${name}#${v7()}`;
  const progress = store.selectSignal(selectProgress(form));
  const person = store.selectSignal(sessionFeature.selectPerson);
  const handled = signal<Progress | null>(null);
  const saved = signal(false);
  let fades: ReturnType<typeof setTimeout> | undefined;
  effect(() => {
    const now = progress();
    if (now.state !== 'recorded' || handled() === now) return;
    handled.set(now);
    saved.set(true);
    clearTimeout(fades);
    fades = setTimeout(() => saved.set(false), SAVED_MS);
    whenRecorded(now.recorded);
  });
  inject(DestroyRef).onDestroy(() => {
    clearTimeout(fades);
    store.dispatch(recordingPage.edited({ form }));
  });
  const refusal = computed(() => {
    const now = progress();
    return now.state === 'refused' ? now.problem : null;
  });
  return {
    progress,
    saving: computed(() => progress().state === 'saving'),
    saved: saved.asReadonly(),
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
    untrained: computed(() => house?.untrained()[RECORDS[name] ?? name] ?? null),
    takesWhen: !isOfNow(name),
    entry: (kind, body, at = isOfNow(kind) ? new Date() : when.next()) =>
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
