import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import type { ScaleReading } from './deviceLine.js';
import { HOME_UNITS } from './scaleUnits.js';

/** How old a reading may be before the scale counts as silent, ms. A scale speaks several times a second. */
export const SILENT_AFTER_MS = 1500;

export type ScaleStanding =
  | { readonly state: 'silent' }
  | { readonly state: 'over' }
  | { readonly state: 'reading'; readonly reading: ScaleReading };

/**
 * Takes the figure that is on the scale. Only a settled figure in grams or kilograms is taken as it stands; a
 * scale that speaks ounces is asked about, because a number without its unit is how batches are lost.
 */
export function takeReading(input: {
  standing: ScaleStanding;
  unitConfirmed?: boolean;
  what?: string;
}): Outcome<{ grams: number; tareGrams: number }> {
  const { standing, what = 'it' } = input;
  if (standing.state === 'silent')
    return refuse('device.silent', 'The scale says nothing. Look at its cable and its switch, or type the figure.', {
      field: 'grams',
    });
  if (standing.state === 'over')
    return refuse(
      'quantity.range',
      `More is on the scale than it can weigh. Weigh ${what} in portions: they add up here.`,
      { field: 'grams' },
    );
  const { reading } = standing;
  if (!HOME_UNITS.has(reading.unit) && !input.unitConfirmed) {
    return refuse(
      'device.wrongUnit',
      `The scale is switched to ${reading.unit}: ${reading.value} ${reading.unit} are ${formatGrams(reading.grams)}. Switch it to grams, or say that ${formatGrams(reading.grams)} is meant.`,
      { field: 'grams', facts: { grams: reading.grams, unit: reading.unit } },
    );
  }
  if (!reading.settled)
    return refuse('device.refused', 'The scale still moves. Wait until it stands.', { field: 'grams' });
  if (!(reading.grams > 0))
    return refuse(
      'mass.notPositive',
      `The scale shows ${reading.value} ${reading.unit}. Put ${what} on it; a figure below zero means its tare was taken with a heavier bowl.`,
      { field: 'grams' },
    );
  return accept({ grams: reading.grams, tareGrams: reading.tareGrams });
}

/** The finest range that still takes a mass; null when none does. */
export function rangeFor(
  ranges: readonly { capacityGrams: number; stepGrams: number }[],
  grossGrams: number,
): number | null {
  const index = ranges.findIndex((range) => grossGrams <= range.capacityGrams);
  return index === -1 ? null : index;
}
