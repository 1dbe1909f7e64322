/** Records that leave as a sortable sheet. */
export const RECORD_SHEETS = ['receiving', 'transformation', 'shipping', 'readings', 'cleaning'] as const;
export type RecordSheetKey = (typeof RECORD_SHEETS)[number];
