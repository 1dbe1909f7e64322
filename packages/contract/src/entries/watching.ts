import { z } from 'zod';
import { SINKS } from '@clear-tally/core';
import { entryOf, grams, id, text } from './shape.js';

export const SAMPLES = ['blended', 'brine'] as const;

export const phRead = entryOf('ph.read', z.strictObject({ lotId: id, ph: z.number(), sample: z.enum(SAMPLES), confirmedUnusual: z.boolean().optional() }));

export const temperatureRead = entryOf('temperature.read', z.strictObject({ lotId: id, celsius: z.number() }));

export const holdPlace = entryOf('hold.place', z.strictObject({ lotId: id, reason: text(500) }));
export const holdLift = entryOf('hold.lift', z.strictObject({ lotId: id, reason: text(500) }));

/** A weighed loss: every gram that is gone has a reason. */
export const lossRecord = entryOf('loss.record', z.strictObject({ lotId: id, sink: z.enum(SINKS), grams, note: text(300).nullable() }));

/** What stands there by weighing, with the one sink that may take a plausible difference. */
export const lotCount = entryOf('lot.count', z.strictObject({ lotId: id, grams: z.number().min(0), byDifference: z.enum(['gas', 'drip']).nullable() }));
