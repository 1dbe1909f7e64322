import { computed, inject, type Signal, signal } from '@angular/core';
import { formatForScale } from '@clear-tally/core';
import type { DeviceReply, HouseReply } from '@clear-tally/contract';
import { House } from './house';
import { remember, remembered } from './tablet';

export type HouseScale = HouseReply['scales'][number];

const KEY = 'ct.weighed-on';

/** Which scale of the register is meant: by the one that speaks, or by what is weighed where none does. */
const chosen = signal<Readonly<Record<string, string>>>(remembered(KEY, {}));

export interface WhichScale {
  /** What may be weighed on; one that was found wrong stands among them and says so. */
  readonly offered: Signal<readonly HouseScale[]>;
  /** The one that is weighed on, where somebody said so, or where the house has one alone. */
  readonly scale: Signal<HouseScale | null>;
  /** Its smallest step, grams; of the scale that speaks, or of the house's bench scale where nobody said. */
  readonly step: Signal<number>;
  /** `null`: not said. */
  choose(id: string | null): void;
  /** For the entry: nothing where it is not said. */
  used(): { scaleId?: string };
  /** A reckoned mass as this scale weighs it. */
  said(grams: number): string;
}

/** The scale of the register behind what is weighed here. Call in an injection context. */
export function injectWhichScale(device: Signal<DeviceReply | null>, what: string): WhichScale {
  const house = inject(House, { optional: true });
  const offered = computed(() => (house?.house()?.scales ?? []).filter(({ inUse }) => inUse));
  const of = computed(() => device()?.id ?? `typed: ${what}`);
  const scale = computed(() => {
    const said = chosen()[of()];
    if (said !== undefined) return offered().find(({ id }) => id === said) ?? null;
    return offered().length === 1 ? offered()[0]! : null;
  });
  const step = computed(
    () => scale()?.stepGrams ?? device()?.ranges[0]?.stepGrams ?? house?.house()?.settings.scaleStepGrams ?? 1,
  );
  return {
    offered,
    scale,
    step,
    choose: (id) => {
      chosen.update((now) => ({ ...now, [of()]: id ?? '' }));
      remember(KEY, chosen());
    },
    used: () => (scale() ? { scaleId: scale()!.id } : {}),
    said: (grams) => formatForScale(grams, step()),
  };
}
