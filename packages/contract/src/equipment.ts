import { EQUIPMENT_KINDS } from '@clear-tally/core';
import { z } from 'zod';
import { entryOf, id, iso, moment, text } from './shape.js';

const equipmentBody = z.strictObject({
  equipmentId: id,
  kind: z.enum(EQUIPMENT_KINDS),
  tag: z.string().regex(/^[A-Z][A-Z0-9]{0,5}$/, 'a capital letter and up to five letters or digits'),
  name: text(80),
  roomId: id.nullable(),
  /** Of a scale: what it weighs at most, and its smallest step. */
  capacityGrams: z.number().positive().max(5_000_000).nullable(),
  stepGrams: z.number().min(0.001).max(5000).nullable(),
  /** Of loose parts: how many there should be. */
  count: z.int().min(0).max(10_000).nullable(),
  /** How water is treated, what a tool is made of. */
  words: text(200).nullable(),
  inUse: z.boolean(),
});

/** Scales, tools, loose parts and water sources of the house. */
export const equipmentAdd = entryOf('equipment.add', equipmentBody);

/** As it is from now on: called otherwise, under repair, out of use. */
export const equipmentChange = entryOf('equipment.change', equipmentBody.extend({ reason: text(300).nullable() }));

/** A scale against a weight, loose parts counted, a water source by its test. */
export const equipmentCheck = entryOf(
  'equipment.check',
  z.strictObject({
    equipmentId: id,
    by: z.discriminatedUnion('how', [
      z.strictObject({ how: z.literal('weight'), weightGrams: z.number().positive(), shownGrams: z.number() }),
      z.strictObject({ how: z.literal('count'), counted: z.int().min(0).max(10_000), missing: text(300).nullable() }),
      z.strictObject({ how: z.literal('test'), words: text(300), passed: z.boolean() }),
    ]),
  }),
);

/** A tool, or a room: what with, how strong, how long, rinsed or not. */
export const equipmentClean = entryOf(
  'equipment.clean',
  z.strictObject({
    what: z.discriminatedUnion('what', [
      z.strictObject({ what: z.literal('equipment'), equipmentId: id }),
      z.strictObject({ what: z.literal('room'), roomId: id }),
    ]),
    agent: text(120),
    dilution: text(60).nullish(),
    contactMinutes: z.number().min(0).max(240).nullish(),
    rinsed: z.boolean(),
    /** Its sheet asks for no rinse at this strength. */
    noRinse: z.boolean(),
    /** The batch of sanitiser it was done with. */
    mixId: id.nullish(),
  }),
);

const strengthShown = z.strictObject({ how: text(80), shown: text(40), passed: z.boolean() });

/** A batch of sanitiser: how it was mixed, how its strength was checked, until when it is used. */
export const sanitiserMix = entryOf(
  'sanitiser.mix',
  z.strictObject({
    mixId: id,
    agent: text(120),
    dilution: text(60),
    litres: z.number().positive().max(2000),
    /** A strip, a titration, a hydrometer; null where the house checks none. */
    strength: strengthShown.nullable(),
    /** Why its strength is not checked, where it is not. */
    unchecked: text(200).nullish(),
    goodUntil: moment,
  }),
);

/** Its strength, checked once more or for the first time. */
export const sanitiserCheck = entryOf('sanitiser.check', z.strictObject({ mixId: id, strength: strengthShown }));

const cleaned = z.strictObject({ at: iso, by: z.string(), with: z.string() });

export const equipmentReply = z.strictObject({
  now: iso,
  equipment: z.array(
    equipmentBody.omit({ equipmentId: true }).extend({
      id,
      room: z.string().nullable(),
      checkedAt: iso.nullable(),
      checkedWords: z.string().nullable(),
      checkPassed: z.boolean().nullable(),
      due: z.enum(['never', 'failed', 'old']).nullable(),
      cleaned: cleaned.nullable(),
      history: z.array(z.strictObject({ at: iso, by: z.string(), words: z.string(), passed: z.boolean().nullable() })),
      /** Of a scale: what was weighed on it since it was last found in order, the newest first. */
      weighed: z.strictObject({
        times: z.int(),
        lots: z.array(z.strictObject({ code: z.string(), at: iso, grams: z.number() })),
      }),
    }),
  ),
  rooms: z.array(z.strictObject({ id, name: z.string(), cleaned: cleaned.nullable() })),
  mixes: z.array(
    z.strictObject({
      id,
      code: z.string(),
      agent: z.string(),
      dilution: z.string(),
      litres: z.number(),
      strength: z.string().nullable(),
      /** Of its strength; null: nobody checked it, and nobody said why not. */
      passed: z.boolean().nullable(),
      unchecked: z.string().nullable(),
      at: iso,
      by: z.string(),
      goodUntil: iso,
      /** Cleanings that were done with it. */
      used: z.int(),
    }),
  ),
});

export type EquipmentReply = z.infer<typeof equipmentReply>;
