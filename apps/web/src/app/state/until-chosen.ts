import { linkedSignal, untracked, type WritableSignal } from '@angular/core';

interface Choice<T> {
  readonly of: unknown;
  readonly value: T;
  readonly chosen: boolean;
}

/**
 * What is proposed until somebody chooses: a proposal that comes late, or changes with what a colleague records, never
 * takes the place of a choice. `of` says what it is about; about something else it is proposed anew.
 */
export function untilChosen<T>(proposed: () => T, of: () => unknown = () => null): WritableSignal<T> {
  const inner = linkedSignal<Omit<Choice<T>, 'chosen'>, Choice<T>>({
    source: () => ({ of: of(), value: proposed() }),
    computation: (now, before) =>
      before?.value.chosen && before.value.of === now.of ? before.value : { ...now, chosen: false },
  });
  const choose = (value: T): void => inner.set({ of: untracked(of), value, chosen: true });
  const read = (): T => inner().value;
  return Object.assign(linkedSignal(read), {
    set: choose,
    update: (change: (value: T) => T) => choose(change(untracked(read))),
  });
}
