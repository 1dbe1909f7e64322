import { z } from 'zod';
import { id, iso } from './shape.js';

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);

/** An entry as it stands in the book, with what it was found to mean then, chained to the one before. */
const chained = z.strictObject({
  seq: z.int().min(1),
  recordedAt: iso,
  by: id,
  entry: z.looseObject({ id, kind: z.string(), happenedAt: iso, by: id, device: z.string(), body: z.looseObject({}) }),
  facts: z.looseObject({}),
  hash: sha256,
});

/**
 * A whole house as one file: its entries in the order of the book, and its photos. Everything else is read from them.
 * PINs, sign-ins and the contacts of those who complained stay in the house.
 */
export const houseFile = z.strictObject({
  format: z.literal('clear-tally/house'),
  formatVersion: z.literal(1),
  house: z.string(),
  at: iso,
  photos: z.array(
    z.strictObject({ id: z.string(), type: z.enum(['image/jpeg', 'image/png']), at: iso, base64: z.string() }),
  ),
  entries: z.array(chained),
});

export type HouseFile = z.infer<typeof houseFile>;

export const houseFileSchema = (): object => ({
  ...z.toJSONSchema(houseFile, { io: 'input' }),
  $id: '/schemas/house.json',
  title: 'A Clear Tally house',
});
