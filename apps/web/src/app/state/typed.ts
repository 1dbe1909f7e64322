import { computed, effect, inject, type Signal, signal, untracked, type WritableSignal } from '@angular/core';
import { Store } from '@ngrx/store';
import { sessionFeature } from './session';
import { remember, remembered } from './tablet';

interface Kept {
  readonly at: number;
  readonly values: Readonly<Record<string, unknown>>;
}

/** What somebody typed into a form before, and neither recorded nor threw away. */
export interface TypedBefore {
  /** When it was typed; null: there is nothing to offer. */
  readonly at: Signal<number | null>;
  takeUp(): void;
  throwAway(): void;
  /** It was recorded: nothing waits any more. */
  done(): void;
}

const KEY = 'ct.typed';
const DAY_MS = 24 * 3_600_000;
/** More would be a drawer nobody looks into. */
const MOST = 60;

/**
 * Keeps what is typed into a form on this tablet, per form and person, through a lost session, a reload and a walk to
 * another page. It is offered again, never put back by itself: the vessel may be another, the hour later.
 * Call in an injection context. `of` names the form and what it is about; null: it is about nothing yet.
 */
export function keepTyped(
  of: Signal<string | null>,
  fields: Readonly<Record<string, WritableSignal<never> | WritableSignal<unknown>>>,
): TypedBefore {
  const person = inject(Store).selectSignal(sessionFeature.selectPerson);
  const key = computed(() => (of() && person() ? `${person()!.id} ${of()}` : null));
  const read = (): Record<string, unknown> =>
    Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, (field as WritableSignal<unknown>)()]));
  const first = JSON.stringify(untracked(read));
  const offered = signal<{ readonly key: string; readonly kept: Kept } | null>(null);
  let opened: { key: string; found: string; wrote: boolean } | null = null;
  effect(() => {
    const [now, values] = [key(), read()];
    if (now === null) return;
    untracked(() => {
      const says = JSON.stringify(values);
      if (opened?.key !== now) {
        // What stands in the fields as the form turns to another vessel was typed for the one before.
        opened = { key: now, found: says, wrote: false };
        const kept = all()[now];
        offered.set(kept ? { key: now, kept } : null);
        return;
      }
      // An untouched form says nothing: what waits from before stays until somebody types anew, or says so.
      if (says !== first && (opened.wrote || says !== opened.found)) {
        opened.wrote = true;
        write(now, { at: Date.now(), values });
      } else if (says === first && opened.wrote) write(now, null);
    });
  });
  const forget = (): void => {
    const now = untracked(key);
    if (now !== null) write(now, null);
    offered.set(null);
    // What is left standing in the fields was not typed anew.
    if (opened) opened = { ...opened, found: JSON.stringify(untracked(read)), wrote: false };
  };
  return {
    at: computed(() => (offered()?.key === key() ? offered()!.kept.at : null)),
    takeUp: () => {
      const waiting = offered();
      offered.set(null);
      if (!waiting) return;
      for (const [name, value] of Object.entries(waiting.kept.values))
        (fields[name] as WritableSignal<unknown> | undefined)?.set(value);
    },
    throwAway: forget,
    done: forget,
  };
}

const all = (): Record<string, Kept> => {
  const now = Date.now();
  return Object.fromEntries(
    Object.entries(remembered<Record<string, Kept>>(KEY, {})).filter(([, { at }]) => now - at < DAY_MS),
  );
};

function write(key: string, kept: Kept | null): void {
  const { [key]: _, ...rest } = all();
  remember(KEY, Object.fromEntries([...Object.entries(rest), ...(kept ? [[key, kept]] : [])].slice(-MOST)));
}
