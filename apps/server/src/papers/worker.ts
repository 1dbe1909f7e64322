import { deliveryNote } from './deliveryNote.js';
import { dossier } from './dossier.js';
import { jarSheet } from './jarSheet.js';
import { labelSheet } from './labelSheet.js';
import { pickSheet } from './pickSheet.js';
import { recallNotices, recallReport } from './recallPapers.js';
import { roundSheet } from './roundSheet.js';
import { worksheet } from './worksheet.js';

// What the thread of papers is asked for: each takes the list of a paper's arguments.
export const deliveryNoteOf = (args: Parameters<typeof deliveryNote>): Promise<Buffer> => deliveryNote(...args);
export const dossierOf = (args: Parameters<typeof dossier>): Promise<Buffer> => dossier(...args);
export const labelSheetOf = (args: Parameters<typeof labelSheet>): Promise<Buffer> => labelSheet(...args);
export const pickSheetOf = (args: Parameters<typeof pickSheet>): Promise<Buffer> => pickSheet(...args);
export const recallNoticesOf = (args: Parameters<typeof recallNotices>): Promise<Buffer> => recallNotices(...args);
export const recallReportOf = (args: Parameters<typeof recallReport>): Promise<Buffer> => recallReport(...args);
export const roundSheetOf = (args: Parameters<typeof roundSheet>): Promise<Buffer> => roundSheet(...args);
export const worksheetOf = (args: Parameters<typeof worksheet>): Promise<Buffer> => worksheet(...args);
export const jarSheetOf = (args: Parameters<typeof jarSheet>): Promise<Buffer> => jarSheet(...args);
