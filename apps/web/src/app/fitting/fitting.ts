import { DestroyRef, effect, inject, Injectable, type Signal, signal } from '@angular/core';
import { type Remote, wrap } from 'comlink';
import type { FitVessel, VesselFit } from '@clear-tally/core';
import type { FittingWorker } from './fit.worker';

/** The one worker that fits vessels, made when it is first asked. */
@Injectable({ providedIn: 'root' })
export class Fitting {
  private remote: Remote<FittingWorker> | null = null;

  fit(batchMl: number, vessels: readonly FitVessel[]): Promise<VesselFit> {
    this.remote ??= wrap<FittingWorker>(new Worker(new URL('./fit.worker', import.meta.url), { type: 'module' }));
    return this.remote.fit(batchMl, vessels);
  }
}

/** The fit of a batch into vessels, asked again whenever either changes; the last one stays until the next is there. */
export function fitted(
  question: Signal<{ batchMl: number; vessels: readonly FitVessel[] } | null>,
): Signal<VesselFit | null> {
  const fitting = inject(Fitting);
  const answer = signal<VesselFit | null>(null);
  let asked = 0;
  let alive = true;
  inject(DestroyRef).onDestroy(() => (alive = false));
  effect((onCleanup) => {
    const now = question();
    const mine = (asked += 1);
    if (!now || !(now.batchMl > 0)) return answer.set(null);
    // Typing goes on: only what still stands after a moment is asked.
    const waiting = setTimeout(
      () =>
        void fitting.fit(now.batchMl, now.vessels).then((fit) => {
          if (alive && mine === asked) answer.set(fit);
        }),
      60,
    );
    onCleanup(() => clearTimeout(waiting));
  });
  return answer;
}
