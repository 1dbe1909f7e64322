import { z } from 'zod';
import { entryOf, id, text } from './shape.js';

/** Labels printed for lots: on which printer, or as a sheet. */
export const labelPrint = entryOf(
  'label.print',
  z.strictObject({ lotIds: z.array(id).min(1).max(60), copies: z.int().min(1).max(10), printer: text(60).nullable() }),
);
