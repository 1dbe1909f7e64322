import { z } from 'zod';
import { BAND_SCALES, FORM_KEYS } from '@clear-tally/core';
import { entryOf, fraction, id, text } from './shape.js';

export const ROLES = ['owner', 'maker', 'inspector'] as const;
export const VESSEL_SHAPES = ['crock', 'drum', 'glass', 'barrel', 'bag'] as const;
export const CLOSURES = ['airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'] as const;

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

export const personAdd = entryOf(
  'person.add',
  z.strictObject({ personId: id, name: text(80), initials: text(4), role: z.enum(ROLES) }),
);

/** A person has left the house, or has come back. What they recorded keeps their name. */
export const personLeave = entryOf(
  'person.leave',
  z.strictObject({ personId: id, left: z.boolean(), reason: text(300).nullable() }),
);

export const roomAdd = entryOf(
  'room.add',
  z.strictObject({
    roomId: id,
    name: text(80),
    usualCelsius: z.number().min(-5).max(45),
    position: z.int().min(0).max(999),
  }),
);

const mm = z.number().min(10).max(5000);
export const innerShape = z.discriminatedUnion('shape', [
  z.strictObject({ shape: z.literal('cylinder'), diameterMm: mm, heightMm: mm }),
  z.strictObject({ shape: z.literal('taper'), topMm: mm, bottomMm: mm, heightMm: mm }),
  z.strictObject({ shape: z.literal('neck'), diameterMm: mm, heightMm: mm, neckMm: mm, neckHeightMm: mm }),
]);

export const vesselAdd = entryOf(
  'vessel.add',
  z.strictObject({
    vesselId: id,
    tag: z.string().regex(/^[A-Z][A-Z0-9]{0,4}$/, 'a capital letter and up to four letters or digits'),
    shape: z.enum(VESSEL_SHAPES),
    brimMl: z.number().min(100).max(2_000_000),
    maxFill: fraction.min(0.3).max(1),
    minFill: fraction.min(0).max(1),
    weightVolumeMl: z.number().min(0).max(100_000),
    closure: z.enum(CLOSURES),
    roomId: id,
    inUse: z.boolean(),
    /** Inner measures, mm, when somebody has taken them. */
    inner: innerShape.optional(),
  }),
);

export const vesselClean = entryOf(
  'vessel.clean',
  z.strictObject({
    vesselId: id,
    agent: text(120),
    /** As its sheet has it, "20 mL to 10 L". */
    dilution: text(60).nullish(),
    contactMinutes: z.number().min(0).max(240).nullish(),
    rinsed: z.boolean().optional(),
  }),
);

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

/** What the house reckons with; what is not named stays. */
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
});
export const houseSet = entryOf('house.set', houseSettings);
