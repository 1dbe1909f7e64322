import { z } from 'zod';
import { iso } from './shape.js';

/** Records that leave as a sortable sheet. */
export const RECORD_SHEETS = ['receiving', 'transformation', 'shipping', 'readings', 'cleaning'] as const;
export type RecordSheetKey = (typeof RECORD_SHEETS)[number];

/** Backups of the house on this machine, by what lies in their folder. */
export const backupsReply = z.strictObject({
  folder: z.string(),
  many: z.int(),
  newest: iso.nullable(),
  /** None, or none of the last night. */
  old: z.boolean(),
  /** The newest that was brought back and looked at. */
  verified: iso.nullable(),
  verifiedOld: z.boolean(),
});
export type BackupsReply = z.infer<typeof backupsReply>;
