import { z } from 'zod';
import { entryOf, fraction, id, text } from './shape.js';

export const ROLES = ['owner', 'maker', 'inspector'] as const;
export const VESSEL_SHAPES = ['crock', 'drum', 'glass', 'barrel', 'bag'] as const;
export const CLOSURES = ['airlock', 'valve', 'loose', 'cloth', 'sealed', 'vacuum'] as const;

export const houseFound = entryOf('house.found', z.strictObject({
  name: text(),
  /** Two capital letters at the head of every batch code. */
  site: z.string().regex(/^[A-Z]{2}$/, 'two capital letters'),
  timeZone: text(60),
  decimalMark: z.enum(['point', 'comma']),
  acidLimit: z.number().min(2.5).max(4.6),
  saltTolerance: fraction.min(0.001).max(0.2),
}));

export const personAdd = entryOf('person.add', z.strictObject({ personId: id, name: text(80), initials: text(4), role: z.enum(ROLES) }));

export const roomAdd = entryOf('room.add', z.strictObject({ roomId: id, name: text(80), usualCelsius: z.number().min(-5).max(45), position: z.int().min(0).max(999) }));

export const vesselAdd = entryOf('vessel.add', z.strictObject({
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
}));

export const vesselClean = entryOf('vessel.clean', z.strictObject({ vesselId: id, agent: text(120) }));
