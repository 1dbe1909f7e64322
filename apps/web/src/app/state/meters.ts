import { computed, inject, signal, type Signal, type WritableSignal } from '@angular/core';
import type { MeterReply, MetersReply } from '@clear-tally/contract';
import { meterFitness } from '@clear-tally/core';
import { shown } from './shown';
import { When } from './when';

const KEY = 'ct.meter';

/**
 * A meter as it was at a moment past: by the last calibration before it, as the server judges what is read then.
 * @param at ms
 * @param ph what was read: a buffer near it is wanted; without it, it is told for an acid reading
 */
export function meterAsOf(meter: MeterReply, at: number, ph?: number): MeterReply {
  const last = meter.calibrations.find((one) => Date.parse(one.at) <= at);
  const { fit, reasons } = meterFitness({
    kind: meter.kind,
    at,
    ...(ph === undefined ? {} : { ph }),
    calibration: last ? { ...last, at: Date.parse(last.at) } : null,
  });
  return {
    ...meter,
    fit,
    reasons: !last && meter.kind === 'meter' ? ['no calibration before then is known'] : reasons,
  };
}

/**
 * The meter in hand on this tablet, as it is or was when it is read: it stays chosen from vessel to vessel and from day to
 * day. Until somebody chooses it is one that is fit, or the only one there is.
 */
export function injectMeters(): {
  meters: Signal<readonly MeterReply[]>;
  /** As they are now, whatever moment is recorded. */
  all: Signal<readonly MeterReply[]>;
  chosen: WritableSignal<string | null>;
  meter: Signal<MeterReply | null>;
  choose(id: string | null): void;
} {
  const read = shown<MetersReply>(signal('/api/meters'));
  const when = inject(When);
  const all = computed(() => read.data()?.meters ?? []);
  const meters = computed(() => {
    const at = when.at();
    return at === null ? all() : all().map((one) => meterAsOf(one, at));
  });
  const chosen = signal<string | null>(kept());
  const meter = computed(
    () => meters().find(({ meterId }) => meterId === chosen()) ?? meters().find(({ fit }) => fit) ?? theOnly(meters()),
  );
  return {
    meters,
    all,
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

/** In a house of one meter nobody asks which. */
function theOnly(meters: readonly MeterReply[]): MeterReply | null {
  return meters.length === 1 && meters[0]!.kind === 'meter' ? meters[0]! : null;
}

function kept(): string | null {
  try {
    return localStorage.getItem(KEY) || null;
  } catch {
    return null;
  }
}
