import { HEAT_KEYS, HEAT_METHODS } from '@clear-tally/core';
import { z } from 'zod';
import { day, entryOf, id, iso, moment, photoId, text } from './shape.js';

const celsius = z.number().min(-10).max(140);
const serial = z.int().min(1).max(99_999);

export const heatLimits = z.strictObject({
  method: z.enum(HEAT_METHODS),
  maxPh: z.number().min(0).max(14),
  sizeMl: z.int().min(1).max(100_000),
  processC: celsius,
  minutes: z.number().gt(0).max(1440),
  fillC: celsius.nullable(),
  initialC: celsius.nullable(),
  headspaceMm: z.number().min(0).max(500).nullable(),
  turnedSeconds: z.number().min(0).max(3600).nullable(),
  coverMm: z.number().min(0).max(500).nullable(),
  restMinutes: z.number().min(0).max(240).nullable(),
  cooledC: celsius.nullable(),
  lethality: z
    .strictObject({
      refC: celsius,
      z: z.number().min(1).max(30),
      minutes: z.number().gt(0).max(100_000),
      countsComeUp: z.boolean(),
    })
    .nullable(),
  altitudeM: z.number().min(-430).max(6000),
});

/** A scheduled process goes on file, as its process authority set it. */
export const heatProcess = entryOf(
  'heat.process',
  z.strictObject({
    processId: id,
    name: text(120),
    /** The formula it was set for; null: what it was set for stands in its name. */
    formulaId: id.nullable(),
    limits: heatLimits,
    /** Other critical factors, in its words. */
    critical: text(300).nullable(),
    issuer: text(120),
    issuedOn: day,
    validUntil: day.nullable(),
    /** The document, as a picture. */
    document: photoId.nullable(),
  }),
);

/** It is used no more. What was heated to it stays as it was. */
export const heatProcessEnd = entryOf('heat.processEnd', z.strictObject({ processId: id, reason: text(300) }));

/** One load of jars, as it was heated. */
export const heatLoad = entryOf(
  'heat.load',
  z.strictObject({
    loadId: id,
    runLotId: id,
    first: serial,
    last: serial,
    processId: id,
    startedAt: moment,
    /** Minutes since it started, and °C at the cold spot, going forward. */
    points: z
      .array(z.strictObject({ minute: z.number().min(0).max(2880), celsius }))
      .max(4000)
      .refine(
        (points) => points.every(({ minute }, i) => i === 0 || minute > points[i - 1]!.minute),
        'a log goes forward: each moment is after the one before it',
      ),
    /** °C in single bottles as they were filled; the last one's among them. */
    fills: z.array(z.strictObject({ serial, celsius })).max(200),
    initialC: celsius.nullable(),
    headspaceMm: z.number().min(0).max(500).nullable(),
    turnedSeconds: z.number().min(0).max(3600).nullable(),
    coverMm: z.number().min(0).max(500).nullable(),
    restMinutes: z.number().min(0).max(240).nullable(),
    cooledC: celsius.nullable(),
    criticalKept: z.boolean().nullable(),
    note: text(300).nullable(),
  }),
);

/** Seals of a load, looked at jar by jar the day after. */
export const heatSeals = entryOf(
  'heat.seals',
  z.strictObject({
    loadId: id,
    failed: z.array(serial).max(2000),
    /** What became of those that failed: kept cold, or thrown out. */
    then: z.enum(['chilled', 'thrownOut']).nullable(),
    note: text(300).nullable(),
  }),
);

const process = z.strictObject({
  processId: id,
  name: z.string(),
  formulaId: id.nullable(),
  formula: z.string().nullable(),
  limits: heatLimits,
  critical: z.string().nullable(),
  issuer: z.string(),
  issuedOn: z.string(),
  validUntil: z.string().nullable(),
  document: z.string().nullable(),
  ended: z.string().nullable(),
  /** Loads heated to it. */
  loads: z.int(),
});

export const processesReply = z.strictObject({ processes: z.array(process) });

export const runHeatReply = z.strictObject({
  /** Processes that may be used for it today. */
  processes: z.array(process),
  loads: z.array(
    z.strictObject({
      loadId: id,
      first: z.int(),
      last: z.int(),
      process: z.string(),
      startedAt: iso,
      by: z.string(),
      note: z.string().nullable(),
      stands: z.enum(['met', 'notMet', 'missing']),
      rows: z.array(
        z.strictObject({
          key: z.enum(HEAT_KEYS),
          words: z.string(),
          state: z.enum(['met', 'notMet', 'missing']),
          now: z.string(),
        }),
      ),
      points: z.array(z.strictObject({ minute: z.number(), celsius: z.number() })),
      processC: z.number(),
      lethality: z.string().nullable(),
      seals: z.boolean(),
      /** Its jars were heated anew since: it decides nothing any more. */
      anew: z.boolean(),
    }),
  ),
  jars: z.array(z.strictObject({ first: z.int(), last: z.int(), words: z.string(), held: z.boolean() })),
});

export type HeatProcessReply = z.infer<typeof process>;
export type ProcessesReply = z.infer<typeof processesReply>;
export type RunHeatReply = z.infer<typeof runHeatReply>;
