import { computed, effect, inject, Injectable, type Signal, signal } from '@angular/core';
import { Store } from '@ngrx/store';
import { formatGrams, takeReading, type ScaleStanding } from '@clear-tally/core';
import type { DeviceReply } from '@clear-tally/contract';
import { Api, type WireProblem } from '../api/api';
import { devicesPage, selectScale, selectScales } from './devices';
import { TabletScale } from './tablet-scale';
import { injectWhichScale, type WhichScale } from './which-scale';

/** A figure this far down is an empty pan: the bowl of the last portion is off, or tared away. */
const EMPTY_SHARE = 0.05;

export interface LiveScale {
  readonly device: Signal<DeviceReply | null>;
  readonly scales: Signal<readonly DeviceReply[]>;
  readonly standing: Signal<ScaleStanding>;
  /** What the beam follows: net grams, moving or not; null when there is nothing to follow. */
  readonly live: Signal<number | null>;
  /** What can be recorded as it stands. */
  readonly ready: Signal<{ readonly grams: number; readonly tareGrams: number } | null>;
  /** Why what is on the scale cannot be recorded yet. */
  readonly why: Signal<string | null>;
  readonly problem: Signal<string | null>;
  readonly unitConfirmed: Signal<boolean>;
  /** Which scale of the register that is. */
  readonly which: WhichScale;
  /** What goes with the entry: the scale it was weighed on, and its tare where the figure is the scale's own. */
  used(typed: number | null): { scaleId?: string; tareGrams?: number };
  /** Typed wins over the scale. */
  orLive(typed: number | null): number | null;
  orReady(typed: number | null): number | null;
  /** The figure that stands there is recorded. */
  readonly isTaken: Signal<boolean>;
  /** Call after recording: the same bowl is not taken twice. */
  taken(): void;
  choose(id: string): void;
  say(line: string): void;
  confirmUnit(): void;
}

interface Taken {
  readonly id: string;
  readonly grams: number;
  readonly tareGrams: number;
  /** Out of an earlier page: another bowl may stand there by now. */ readonly earlier?: boolean;
}
const TAKEN_KEY = 'clear-tally.taken';
/** Two readings of one bowl lie this close. */
const SAME_GRAMS = 2;
const SAME_SHARE = 0.01;

function restored(): Taken | null {
  try {
    const read: unknown = JSON.parse(localStorage.getItem(TAKEN_KEY) ?? 'null');
    const taken = read as Taken | null;
    return taken && typeof taken.id === 'string' && Number.isFinite(taken.grams) && Number.isFinite(taken.tareGrams)
      ? { ...taken, earlier: true }
      : null;
  } catch {
    return null;
  }
}

/** What of the scale's pan is recorded already: known to every step of this tablet, so that no bowl is taken twice. */
@Injectable({ providedIn: 'root' })
class TakenOff {
  /** Kept beyond the page: a bowl that was recorded stays recorded when the tablet is reloaded under it. */
  readonly reading = signal<Taken | null>(restored());

  constructor() {
    effect(() => {
      const now = this.reading();
      try {
        if (now)
          localStorage.setItem(TAKEN_KEY, JSON.stringify({ id: now.id, grams: now.grams, tareGrams: now.tareGrams }));
        else localStorage.removeItem(TAKEN_KEY);
      } catch {
        /* A tablet that keeps nothing still has the page. */
      }
    });
  }
}

/** The scale of this tablet, for one step. Call in an injection context. */
export function injectScale(what = 'it'): LiveScale {
  const store = inject(Store);
  const api = inject(Api);
  const tablet = inject(TabletScale);
  const device = store.selectSignal(selectScale);
  const standing = computed((): ScaleStanding =>
    device()?.connected ? (device()!.scale ?? { state: 'silent' }) : { state: 'silent' },
  );
  const problem = signal<string | null>(null);
  const unitConfirmed = signal(false);
  const takenGrams = inject(TakenOff).reading;
  effect(() => {
    const before = takenGrams();
    const now = standing();
    if (before === null || now.state !== 'reading') return;
    const { grams, tareGrams } = now.reading;
    const other =
      before.earlier &&
      now.reading.settled &&
      Math.abs(grams - before.grams) > Math.max(SAME_GRAMS, before.grams * SAME_SHARE);
    if (device()?.id !== before.id || tareGrams !== before.tareGrams || grams <= before.grams * EMPTY_SHARE || other)
      takenGrams.set(null);
  });
  const outcome = computed(() => takeReading({ standing: standing(), unitConfirmed: unitConfirmed(), what }));
  const ready = computed(() => {
    const now = outcome();
    return now.ok && takenGrams() === null ? now.value : null;
  });
  const live = computed(() => {
    const now = standing();
    if (now.state !== 'reading' || takenGrams() !== null) return null;
    const homely = now.reading.unit === 'g' || now.reading.unit === 'kg' || unitConfirmed();
    return homely && now.reading.grams > 0 ? now.reading.grams : null;
  });
  const which = injectWhichScale(device, what);
  return {
    device,
    which,
    used: (typed) => ({
      ...(typed === null && ready() ? { tareGrams: ready()!.tareGrams } : {}),
      ...which.used(),
    }),
    isTaken: computed(() => takenGrams() !== null),
    scales: store.selectSignal(selectScales),
    standing,
    live,
    ready,
    problem,
    unitConfirmed,
    why: computed(() => {
      if (takenGrams() !== null)
        return `${formatGrams(takenGrams()!.grams)} of this is recorded. Take the bowl off, or tare, for the next portion.`;
      const now = outcome();
      return now.ok ? null : now.refusal.message;
    }),
    orLive: (typed) => typed ?? live(),
    orReady: (typed) => typed ?? ready()?.grams ?? null,
    taken: () => {
      const now = ready();
      if (now && device()) takenGrams.set({ id: device()!.id, ...now });
    },
    choose: (id) => {
      problem.set(null);
      store.dispatch(devicesPage.scaleChosen({ id }));
    },
    confirmUnit: () => unitConfirmed.set(true),
    say: (line) => {
      problem.set(null);
      const id = device()?.id;
      if (id === TabletScale.ID) void tablet.say(line);
      else if (id) api.device(id, line).subscribe({ error: (refusal: WireProblem) => problem.set(refusal.detail) });
    },
  };
}
