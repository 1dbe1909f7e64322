import { computed, DestroyRef, effect, inject, type Signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import type { WireProblem } from '../api/api';
import { readsFeature, readsPage } from './reads';

export interface ShownPages<P> {
  /** The pages read so far, the newest first. */
  readonly pages: Signal<readonly P[]>;
  /** There is another page that is not here yet. */
  readonly reading: Signal<boolean>;
  readonly problem: Signal<WireProblem | null>;
  again(): void;
}

/**
 * Shows a list that comes in pages, each asked for by the key the one before ended with, until all are here. All stay
 * fresh as long as the calling component lives. Without an address nothing is asked.
 */
export function shownPages<P extends { readonly next: string | null }>(url: Signal<string | null>): ShownPages<P> {
  const store = inject(Store);
  const byUrl = store.selectSignal(readsFeature.selectByUrl);
  const chain = computed(() => {
    const first = url();
    const [urls, pages] = [first === null ? [] : [first], [] as P[]];
    if (first === null) return { urls, pages };
    for (;;) {
      const page = byUrl()[urls.at(-1)!]?.data as P | null | undefined;
      if (!page) return { urls, pages };
      pages.push(page);
      if (page.next === null) return { urls, pages };
      urls.push(`${first}&before=${page.next}`);
    }
  });
  const standing = new Set<string>();
  const leave = (one: string): void => {
    standing.delete(one);
    store.dispatch(readsPage.leaves({ url: one }));
  };
  effect(() => {
    const { urls } = chain();
    untracked(() => {
      [...standing].filter((one) => !urls.includes(one)).forEach(leave);
      for (const one of urls.filter((url) => !standing.has(url))) {
        standing.add(one);
        store.dispatch(readsPage.shows({ url: one }));
      }
    });
  });
  inject(DestroyRef).onDestroy(() => [...standing].forEach(leave));
  const problem = computed(() => {
    const { urls } = chain();
    return urls.map((one) => byUrl()[one]?.problem ?? null).find((one) => one !== null) ?? null;
  });
  return {
    pages: computed(() => chain().pages),
    reading: computed(() => chain().pages.length < chain().urls.length && problem() === null),
    problem,
    again: () => chain().urls.forEach((one) => store.dispatch(readsPage.asksAgain({ url: one }))),
  };
}
