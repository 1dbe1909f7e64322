import { linkedSignal, type Signal, type WritableSignal } from '@angular/core';

interface Offered {
  readonly id: string;
  readonly disabled?: boolean;
}

/**
 * A choice out of a list that is read again while somebody works: what was chosen stays for as long as it is
 * offered. `usual` says what stands there before anybody chose.
 */
export function keptChoice<T extends Offered>(
  options: Signal<readonly T[]>,
  usual: (options: readonly T[]) => string | null,
): WritableSignal<string | null> {
  return linkedSignal<readonly T[], string | null>({
    source: options,
    computation: (offered, before) =>
      before?.value != null && offered.some((one) => one.id === before.value && !one.disabled)
        ? before.value
        : usual(offered),
  });
}
