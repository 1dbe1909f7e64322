import { computed, effect, inject, Injectable, signal, untracked } from '@angular/core';
import { Store } from '@ngrx/store';
import { selectThermometer } from './devices';

/** A probe speaks many times a second; a log is a point every so often, ms. Short beside the longest gap that counts. */
export const POINT_EVERY_MS = 15_000;

/**
 * Takes the temperature in the kettle down while it is heated, whatever page is open meanwhile. A probe that falls
 * silent leaves a gap: nothing is filled in.
 */
@Injectable({ providedIn: 'root' })
export class KettleLog {
  private readonly probe = inject(Store).selectSignal(selectThermometer);
  /** What the log is of: the id of a run. */
  private readonly of = signal<string | null>(null);
  private readonly points = signal<readonly { of: string; at: number; celsius: number }[]>([]);
  private clock: ReturnType<typeof setInterval> | null = null;
  private lastAt = 0;
  private readonly speaks = computed(() => this.probe() !== null);
  readonly celsius = computed(() => this.probe()?.celsius ?? null);
  readonly name = computed(() => this.probe()?.name ?? null);

  constructor() {
    // Spoken again after a silence: the first figure is taken at once.
    effect(() => {
      if (this.speaks() && this.of()) untracked(() => this.take());
    });
  }

  isOf = (runLotId: string): boolean => this.of() === runLotId;
  /** Of which run something is taken down; null: nothing is. */
  readonly running = this.of.asReadonly();

  start(runLotId: string): void {
    this.stop();
    this.of.set(runLotId);
    this.lastAt = 0;
    this.take();
    this.clock = setInterval(() => this.take(), POINT_EVERY_MS);
  }

  stop(): void {
    if (this.clock) clearInterval(this.clock);
    this.clock = null;
    this.take();
    this.of.set(null);
  }

  /** What was taken down of a run and not asked for yet, as lines of a log: `14:05:15 60.2`. */
  lines(runLotId: string, clockOf: (at: number) => string): string[] {
    const mine = this.points().filter(({ of }) => of === runLotId);
    return mine.map(({ at, celsius }) => `${clockOf(at)} ${celsius.toFixed(1)}`);
  }

  taken(runLotId: string): void {
    this.points.update((points) => points.filter(({ of }) => of !== runLotId));
  }

  private take(): void {
    const [of, celsius] = [this.of(), this.celsius()];
    const now = Date.now();
    if (celsius === null || of === null || now - this.lastAt < 1000) return;
    this.lastAt = now;
    this.points.update((points) => [...points, { of, at: now, celsius }]);
  }
}
