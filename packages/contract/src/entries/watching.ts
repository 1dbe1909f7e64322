import { z } from 'zod';
import { CHECK_KIND_KEYS, FINDING_KEYS, PLACE_KEYS, SINKS, VERDICTS } from '@clear-tally/core';
import { entryOf, grams, id, photoId, text, gramsOrNone } from './shape.js';
import { formulaCheck } from './formulas.js';

export const SAMPLES = ['blended', 'brine'] as const;

export const phRead = entryOf(
  'ph.read',
  z.strictObject({
    lotId: id,
    ph: z.number(),
    sample: z.enum(SAMPLES),
    confirmedUnusual: z.boolean().optional(),
    /** The meter or strip lot; without one a reading is for watching only. */
    meterId: id.nullish(),
    /** °C of the sample; the meter corrects for it. */
    sampleCelsius: z.number().min(-2).max(60).nullish(),
    /** Off the trend, and said to be so all the same: its repeat is asked for at once. */
    confirmedJump: z.boolean().optional(),
  }),
);

export const temperatureRead = entryOf('temperature.read', z.strictObject({ lotId: id, celsius: z.number() }));

export const meterAdd = entryOf(
  'meter.add',
  z.strictObject({
    meterId: id,
    tag: z.string().regex(/^[A-Z][A-Z0-9]{0,5}$/, 'a capital letter and up to five letters or digits'),
    name: text(80),
    kind: z.enum(['meter', 'strips']),
  }),
);

const buffer = z.number().min(1).max(13);
/** Two buffers read in millivolts, or the slope and offset a meter shows of itself; then a buffer read again. */
export const meterCalibrate = entryOf(
  'meter.calibrate',
  z.strictObject({
    meterId: id,
    celsius: z.number().min(0).max(50),
    by: z.discriminatedUnion('how', [
      z.strictObject({
        how: z.literal('buffers'),
        buffers: z.tuple([
          z.strictObject({ ph: buffer, millivolts: z.number().min(-600).max(600) }),
          z.strictObject({ ph: buffer, millivolts: z.number().min(-600).max(600) }),
        ]),
      }),
      z.strictObject({
        how: z.literal('shown'),
        buffers: z.array(buffer).min(1).max(4),
        slopePercent: z.number().min(0).max(200),
        offsetMillivolts: z.number().min(-200).max(200),
      }),
    ]),
    check: z.strictObject({ buffer, read: z.number().min(0).max(14) }).nullable(),
  }),
);

/** A check of the round that is no reading. `quiet`: nothing to see, no gas. */
export const checkMake = entryOf(
  'check.make',
  z.strictObject({
    lotId: id,
    what: z.enum(CHECK_KIND_KEYS),
    words: text(80).nullable(),
    quiet: z.boolean(),
    /** Of a swelling 0 to 4; of a measured salt the fraction of the water phase. */
    figure: z.number().min(0).max(100).nullish(),
    note: text(300).nullish(),
    photo: photoId.nullish(),
  }),
);

/** "All quiet" for several vessels at once, where a look alone answers the check. */
export const roundQuiet = entryOf(
  'round.quiet',
  z.strictObject({
    lots: z
      .array(
        z.strictObject({
          lotId: id,
          checks: z
            .array(z.strictObject({ what: z.enum(CHECK_KIND_KEYS), words: text(80).nullable() }))
            .min(1)
            .max(12),
        }),
      )
      .min(1)
      .max(60),
  }),
);

/** A plan changed on the way, for one vessel or for all of its batch. What was done stays done. */
export const planChange = entryOf(
  'plan.change',
  z.strictObject({ lotId: id, checks: z.array(formulaCheck).max(24), reason: text(300) }),
);

export const TASTE_MARKS = ['salt', 'sour', 'fizz', 'crunch', 'heat'] as const;
const mark = z.int().min(0).max(4).nullable();
export const tasteRecord = entryOf(
  'taste.record',
  z.strictObject({
    lotId: id,
    marks: z.strictObject({ salt: mark, sour: mark, fizz: mark, crunch: mark, heat: mark }),
    offNotes: text(200).nullable(),
    colourThrough: z.boolean().nullable(),
    /** Signed off, wait, or back to the warmer room. */
    says: z.enum(['signedOff', 'wait', 'backToRoom']),
    grams: gramsOrNone.max(5000),
    note: text(300).nullable(),
  }),
);

export const acidTitrate = entryOf(
  'acid.titrate',
  z.strictObject({ lotId: id, millilitres: z.number(), normality: z.number(), sampleGrams: grams }),
);

/** "Ready" is said by a person, and can be taken back. */
export const lotReady = entryOf(
  'lot.ready',
  z.strictObject({ lotId: id, ready: z.boolean(), note: text(300).nullable() }),
);

export const holdPlace = entryOf(
  'hold.place',
  z.strictObject({
    lotId: id,
    reason: text(500),
    /** Also on everything made of it. */ downstream: z.boolean().optional(),
    /** Also on these, chosen of what it went into. */ also: z.array(id).max(500).optional(),
  }),
);
export const holdLift = entryOf(
  'hold.lift',
  z.strictObject({
    lotId: id,
    reason: text(500),
    /** One hold of several; without it the one there is. */ holdId: id.optional(),
  }),
);
/** Written by the house’s rules themselves. */
export const holdByRule = entryOf(
  'hold.byRule',
  z.strictObject({ lotId: id, rule: z.enum(['late', 'rising', 'throwOut']), reason: text(500) }),
);

/** A rule's hold decided anew, because a reading it rests on was corrected: it does not stand. */
export const holdAnew = entryOf(
  'hold.anew',
  z.strictObject({ lotId: id, holdId: id, rule: z.enum(['late', 'rising', 'throwOut']), reason: text(500) }),
);

export const findRecord = entryOf(
  'find.record',
  z.strictObject({
    lotId: id,
    finding: z.enum(FINDING_KEYS),
    place: z.enum(PLACE_KEYS),
    verdict: z.enum(VERDICTS),
    reason: text(500).nullable(),
    note: text(500).nullable(),
    photo: photoId.nullable(),
    /** What was taken from the vessel and is held with it; without this everything since its last reading in order. */
    reach: z.strictObject({ hold: z.array(id).max(500), leftOutReason: text(300).nullable() }).optional(),
  }),
);

/** All that stands in it goes out, and the vessel is empty. */
export const vesselThrowOut = entryOf(
  'vessel.throwOut',
  z.strictObject({ lotId: id, cause: text(200), note: text(500).nullable() }),
);

/** What ran over or dried away, and the brine that takes its place. */
export const vesselTopUp = entryOf(
  'vessel.topUp',
  z.strictObject({
    lotId: id,
    how: z.enum(['overflow', 'evaporation']),
    lostGrams: grams,
    saltLotId: id.nullable(),
    saltGrams: gramsOrNone,
    waterLotId: id,
    waterGrams: gramsOrNone,
    /** A reviewer's reason for a vessel thinned under 1.5 % salt in the water phase. */
    weakSaltReason: text(500).optional(),
  }),
);

/** Part of a vessel into a free one, followed on its own from here on. */
export const vesselSplit = entryOf(
  'vessel.split',
  z.strictObject({ fromLotId: id, fillLotId: id, vesselId: id, grams }),
);

/** A weighed loss: every gram that is gone has a reason. */
export const lossRecord = entryOf(
  'loss.record',
  z.strictObject({ lotId: id, sink: z.enum(SINKS), grams, note: text(300).nullable() }),
);

/** What stands there by weighing, with the one sink that may take a plausible difference. */
export const lotCount = entryOf(
  'lot.count',
  z.strictObject({ lotId: id, grams: gramsOrNone, byDifference: z.enum(['gas', 'drip']).nullable() }),
);
