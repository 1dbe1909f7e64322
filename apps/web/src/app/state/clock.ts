import { DestroyRef, inject, signal, type Signal } from '@angular/core';

/** The time now, each second, as long as the calling component lives. */
export function ticking(): Signal<number> {
  const now = signal(Date.now());
  const timer = setInterval(() => now.set(Date.now()), 1000);
  inject(DestroyRef).onDestroy(() => clearInterval(timer));
  return now;
}
