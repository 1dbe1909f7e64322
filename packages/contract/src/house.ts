import { BAND_SCALES, FORM_KEYS, MASS_UNITS, PASSPHRASE_FOR, TRAINED_TASKS } from '@clear-tally/core';
import { z } from 'zod';
import { MATERIAL_KINDS, materialDetails } from './materials.js';
import { entryOf, fraction, id, iso, text } from './shape.js';
import { CLOSURES, innerShape, vesselDetails, VESSEL_SHAPES } from './vessels.js';

export const houseFound = entryOf(
  'house.found',
  z.strictObject({
    name: text(),
    /** Two capital letters at the head of every batch code. */
    site: z.string().regex(/^[A-Z]{2}$/, 'two capital letters'),
    timeZone: text(60),
    decimalMark: z.enum(['point', 'comma']),
    acidLimit: z.number().min(2.5).max(4.6),
    saltTolerance: fraction.min(0.001).max(0.2),
  }),
);

/** What else is known of a room. */
export const roomDetails = z
  .strictObject({
    /** What is allowed in it; outside, a temperature is asked about. */
    leastCelsius: z.number().min(-5).max(45).nullable(),
    mostCelsius: z.number().min(-5).max(45).nullable(),
    light: z.enum(['dark', 'lit', 'sun']).nullable(),
    /** Where its logger or thermometer hangs. */
    logger: text(80).nullable(),
  })
  .partial();

const roomBody = z.strictObject({
  roomId: id,
  name: text(80),
  usualCelsius: z.number().min(-5).max(45),
  /** On the round: from the first room to the last. */
  position: z.int().min(0).max(999),
  details: roomDetails.optional(),
});
export const roomAdd = entryOf('room.add', roomBody);

/** As it is from now on. */
export const roomChange = entryOf('room.change', roomBody);

/** A house that has none yet: its name and rules of writing, and who owns it. */
export const foundRequest = z.strictObject({
  house: houseFound.shape.body.omit({ acidLimit: true, saltTolerance: true }),
  owner: z.strictObject({ name: text(80), initials: text(4), pin: z.string().min(1).max(120) }),
  massUnit: z.enum(MASS_UNITS).optional(),
});

/** A question of the house answered; the last answer counts, all of them stay in the journal. */
export const houseRule = entryOf(
  'house.rule',
  z.strictObject({ rule: z.string().max(40), option: z.string().max(40), reason: text(300).nullable() }),
);

const saltBand = z.strictObject({
  on: z.enum(BAND_SCALES),
  least: fraction.min(0).max(0.2),
  most: fraction.min(0).max(0.2),
});

/** Scheme, host and port of a page, nothing behind them. */
const isOrigin = (text: string): boolean => {
  const url = URL.canParse(text) ? new URL(text) : null;
  return url !== null && ['http:', 'https:'].includes(url.protocol) && url.origin === text.toLowerCase();
};

/** Figures of the house; what is not named stays. */
export const houseSettings = z.strictObject({
  currency: z
    .string()
    .regex(/^[A-Z]{3}$/, 'three capital letters')
    .optional(),
  labourPerHour: z.number().min(0).max(1000).optional(),
  scaleStepGrams: z.number().positive().max(1000).optional(),
  /** Kept brine: days it is good for cold, and how many generations it may go on. */
  keptBrineDays: z.int().min(1).max(365).optional(),
  keptBrineGenerations: z.int().min(1).max(50).optional(),
  /** Hours to pH 4.6 by temperature, where the house is stricter than the table; never longer. */
  acidByHours: z
    .strictObject({
      above20: z.number().min(12).max(72).optional(),
      above15: z.number().min(12).max(120).optional(),
      above10: z.number().min(24).max(240).optional(),
      cold: z.number().min(24).max(504).optional(),
    })
    .optional(),
  /** Salt this house wants by form of product, stricter or other than the trade's bands; null takes one away. */
  saltBands: z.partialRecord(z.enum(FORM_KEYS), saltBand).optional(),
  /** Who is asked when in doubt, in the house's own words. */
  contacts: z
    .array(z.strictObject({ what: text(80), who: text(160) }))
    .max(12)
    .optional(),
  /** Under which other machines reach this house; null: this machine alone. */
  address: text(120)
    .refine(
      isOrigin,
      'this is no address of a house. One begins with https:// or http:// and has nothing behind its name and port',
    )
    .nullable()
    .optional(),
  /** A tablet nobody touched for so many minutes asks who is there; null: never. */
  lockMinutes: z.int().min(1).max(480).nullable().optional(),
  /** How masses are typed where a field does not say: all in grams, all in kilograms, or large ones in kilograms and small ones in grams. */
  massUnit: z.enum(MASS_UNITS).optional(),
  /** Of whom a passphrase is asked on devices other than the machine itself. */
  passphraseFor: z.enum(PASSPHRASE_FOR).optional(),
  /** What asks for a training on record before somebody does it. */
  trainedTasks: z.array(z.enum(TRAINED_TASKS)).max(TRAINED_TASKS.length).optional(),
});

export const houseSet = entryOf('house.set', houseSettings);

export const houseReply = z.strictObject({
  name: z.string(),
  /** Made up, with everybody and everything in it. */
  demo: z.boolean(),
  site: z.string(),
  timeZone: z.string(),
  decimalMark: z.enum(['point', 'comma']),
  acidLimit: z.number(),
  saltTolerance: z.number(),
  rooms: z.array(z.strictObject({ id, name: z.string(), usualCelsius: z.number(), details: roomDetails })),
  vessels: z.array(
    z.strictObject({
      id,
      tag: z.string(),
      shape: z.enum(VESSEL_SHAPES),
      brimMl: z.number(),
      maxFill: z.number(),
      minFill: z.number(),
      closure: z.enum(CLOSURES),
      roomId: id,
      inUse: z.boolean(),
      takenBy: z.string().nullable(),
      cleanedAt: iso.nullable(),
      /** The agent, how strong, how long. */ cleanedWith: z.string().nullable(),
      /** Something stood in it after it was last cleaned. */ usedSince: z.boolean(),
      weightVolumeMl: z.number(),
      inner: innerShape.nullable(),
      details: vesselDetails,
    }),
  ),
  suppliers: z.array(z.strictObject({ id, name: z.string(), prefix: z.string(), ownPlot: z.boolean() })),
  materials: z.array(
    z.strictObject({
      id,
      name: z.string(),
      kind: z.enum(MATERIAL_KINDS),
      waterFraction: z.number(),
      saltFraction: z.number(),
      allergens: z.array(z.string()),
      caution: z.string().nullable(),
      details: materialDetails,
    }),
  ),
  /** Answers given on the house rules page, by rule. */
  rules: z.record(z.string(), z.string()),
  settings: z.strictObject({
    currency: z.string(),
    labourPerHour: z.number(),
    scaleStepGrams: z.number(),
    keptBrineDays: z.int(),
    keptBrineGenerations: z.int(),
    acidByHours: houseSettings.shape.acidByHours.unwrap(),
    saltBands: houseSettings.shape.saltBands.unwrap(),
    contacts: houseSettings.shape.contacts.unwrap(),
    address: z.string().nullable(),
    lockMinutes: z.int().nullable(),
    trainedTasks: z.array(z.enum(TRAINED_TASKS)),
    massUnit: z.enum(MASS_UNITS),
    passphraseFor: z.enum(PASSPHRASE_FOR),
  }),
  /** Scales of the register, as they stand today. */
  scales: z.array(
    z.strictObject({
      id,
      tag: z.string(),
      name: z.string(),
      capacityGrams: z.number(),
      stepGrams: z.number(),
      inUse: z.boolean(),
      passed: z.boolean().nullable(),
      checkedAt: iso.nullable(),
    }),
  ),
});

/** The look at the whole house: chain, columns, tables against the journal, photos. */
export const verificationReply = z.strictObject({
  state: z.enum(['never', 'running', 'done', 'failed']),
  words: z.string().nullable(),
  startedAt: iso.nullable(),
  finishedAt: iso.nullable(),
  entries: z.int().nullable(),
  photos: z.int().nullable(),
  ends: z.int().nullable(),
  newestEnd: z.strictObject({ seq: z.int(), at: iso }).nullable(),
  faults: z.array(z.strictObject({ where: z.string(), seq: z.int().nullable(), words: z.string() })),
});

/** What a question of the house was answered with, the newest first. */
export const ruleHistoryReply = z.strictObject({
  answers: z.array(z.strictObject({ at: iso, by: z.string(), words: z.string(), reason: z.string().nullable() })),
});

export type HouseReply = z.infer<typeof houseReply>;

export type VerificationReply = z.infer<typeof verificationReply>;

export type Material = HouseReply['materials'][number];

export type RuleHistoryReply = z.infer<typeof ruleHistoryReply>;
