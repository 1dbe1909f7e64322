import { computed, signal, type Signal, type WritableSignal } from '@angular/core';
import type { MeterReply, MetersReply } from '@clear-tally/contract';
import { shown } from './shown';

const KEY = 'ct.meter';

/** The meter in hand on this tablet: it stays chosen from vessel to vessel and from day to day. */
export function injectMeters(): {
  meters: Signal<readonly MeterReply[]>;
  chosen: WritableSignal<string | null>;
  meter: Signal<MeterReply | null>;
  choose(id: string | null): void;
} {
  const read = shown<MetersReply>(signal('/api/meters'));
  const meters = computed(() => read.data()?.meters ?? []);
  const chosen = signal<string | null>(kept());
  const meter = computed(
    () => meters().find(({ meterId }) => meterId === chosen()) ?? meters().find(({ fit }) => fit) ?? null,
  );
  return {
    meters,
    chosen,
    meter,
    choose: (id) => {
      chosen.set(id);
      try {
        localStorage.setItem(KEY, id ?? '');
      } catch {
        /* a tablet that keeps nothing asks again */
      }
    },
  };
}

function kept(): string | null {
  try {
    return localStorage.getItem(KEY) || null;
  } catch {
    return null;
  }
}
