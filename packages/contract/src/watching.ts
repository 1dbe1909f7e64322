import { CHECK_KIND_KEYS, GATE_KEYS, VERDICTS } from '@clear-tally/core';
import { z } from 'zod';
import { checkAsks, formulaCheck } from './formulas.js';
import { openHold } from './holds.js';
import {
  entryOf,
  grams,
  gramsOrNone,
  houseBandOf,
  id,
  iso,
  ms,
  photoId,
  saltFigure,
  text,
  unreadable,
} from './shape.js';
import { shelfVessel } from './vessels.js';

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
    /** Of a swelling 0 to 4; of a measured salt the fraction of the water phase; of an own check what it asks for. */
    figure: z.number().min(-99_999).max(99_999).nullish(),
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

const dueCheck = z.strictObject({
  key: z.string(),
  what: z.enum(CHECK_KIND_KEYS),
  words: z.string().nullable(),
  name: z.string(),
  rule: z.string(),
  from: ms,
  due: ms,
  late: ms,
  state: z.enum(['due', 'late', 'later', 'waits']),
  missed: z.int(),
  mayBeQuiet: z.boolean(),
  asks: checkAsks.nullable(),
  why: z.string().nullable(),
});

const temperatureOf = z.strictObject({ verdict: z.enum(['met', 'open', 'watch', 'act']), words: z.string() });

/** `ph` is the last reading of any kind; `counts` the last that may make something milder. */
const trendOf = z.strictObject({
  direction: z.enum(['none', 'falling', 'steady', 'rising']),
  ph: z.number().nullable(),
  at: ms.nullable(),
  rise: z.number(),
  sample: z.enum(SAMPLES).nullable(),
  counts: z.strictObject({ ph: z.number(), at: ms }).nullable(),
});

const latenessOf = z.strictObject({
  state: z.enum(['met', 'metLate', 'pending', 'late', 'throwOut']),
  deadline: ms,
  reachedAt: ms.nullable(),
  words: z.string(),
  hours: z.number(),
  unread: z.boolean(),
});

/** A meter or strip lot, and whether its readings count for release now. */
export const meterReply = z.strictObject({
  meterId: id,
  tag: z.string(),
  name: z.string(),
  kind: z.enum(['meter', 'strips']),
  fit: z.boolean(),
  reasons: z.array(z.string()).readonly(),
  since: iso.nullable(),
  until: iso.nullable(),
  calibrations: z.array(
    z.strictObject({
      at: iso,
      by: z.string(),
      buffers: z.array(z.number()),
      slopePercent: z.number(),
      offsetMillivolts: z.number(),
      check: z.strictObject({ buffer: z.number(), read: z.number() }).nullable(),
    }),
  ),
});

export const metersReply = z.strictObject({ meters: z.array(meterReply) });

const windowOf = z.strictObject({
  why: z.string(),
  says: z.string(),
  tasteDay: z.int().nullable(),
  coldOn: ms.nullable(),
  best: z.strictObject({ from: ms.nullable(), until: ms.nullable(), chilled: z.boolean() }).nullable(),
});

/** Every live vessel in walking order, with what it needs. */
export const floorReply = z.strictObject({
  now: iso,
  rooms: z.array(z.strictObject({ id, name: z.string(), celsius: z.number().nullable() })),
  vessels: z.array(
    shelfVessel.extend({
      batchId: id,
      checks: z.array(dueCheck).readonly(),
      holds: z.array(openHold),
      trend: trendOf,
      lateness: latenessOf,
      temperature: temperatureOf,
      ready: z.boolean(),
      readyFrom: ms,
      readyTo: ms,
      window: windowOf,
      lastDay: z.int().nullable(),
      odd: z.boolean(),
    }),
  ),
  faults: z.array(unreadable),
});

/** All that is watched on one vessel: conditions, holds, sisters, pictures, plan. */
export const watchReply = z.strictObject({
  lotId: id,
  code: z.string(),
  now: iso,
  day: z.int(),
  closed: z.boolean(),
  checks: z.array(dueCheck).readonly(),
  holds: z.array(openHold),
  trend: trendOf,
  lateness: latenessOf,
  temperature: temperatureOf,
  /** Those with a key are the gate before packing. */
  conditions: z.array(
    z.strictObject({
      gate: z.enum(GATE_KEYS).nullable(),
      words: z.string(),
      state: z.enum(['met', 'open', 'watch', 'hold']),
      now: z.string(),
    }),
  ),
  /** Why it is not packed now; null when it may be. */
  packable: z.string().nullable(),
  salt: saltFigure,
  houseBand: houseBandOf,
  ready: z.boolean(),
  readyFrom: ms,
  readyTo: ms,
  /** Which window that is and why; what else it says. */
  window: windowOf,
  lastDay: z.int().nullable(),
  mayTaste: z.string().nullable(),
  sisters: z.array(
    z.strictObject({
      code: z.string(),
      vesselTag: z.string(),
      ph: z.number().nullable(),
      at: ms.nullable(),
      counts: z.boolean(),
      celsius: z.number().nullable(),
      odd: z.boolean(),
      hold: z.boolean(),
      closed: z.boolean(),
    }),
  ),
  pictures: z.array(z.strictObject({ photo: z.string(), at: iso, day: z.int(), words: z.string() })),
  findings: z.array(
    z.strictObject({
      entryId: id,
      name: z.string(),
      place: z.string(),
      verdict: z.enum(VERDICTS),
      guide: z.enum(VERDICTS),
      reasons: z.array(z.string()),
      at: iso,
      by: z.string(),
    }),
  ),
  pastHolds: z.array(z.strictObject({ reason: z.string(), placedAt: iso, liftedAt: iso, liftReason: z.string() })),
  plan: z.array(formulaCheck).readonly(),
  /** What its state and the house’s ways ask beside the plan. */ asked: z
    .array(formulaCheck.extend({ what: z.enum(CHECK_KIND_KEYS) }))
    .readonly(),
  planSince: iso.nullable(),
  batchId: id,
  /** Salt and water that stand in it; null when nobody knows what went in. */
  waterPhase: z.strictObject({ saltGrams: z.number(), waterGrams: z.number() }).nullable(),
});

export const calendarReply = z.strictObject({ made: iso.nullable() });

export type FloorReply = z.infer<typeof floorReply>;

export type FloorVessel = FloorReply['vessels'][number];

export type WatchReply = z.infer<typeof watchReply>;

export type MeterReply = z.infer<typeof meterReply>;

export type MetersReply = z.infer<typeof metersReply>;

export type CalendarReply = z.infer<typeof calendarReply>;
