// The same thread where the server runs from its sources, as in the tests: a thread reads TypeScript only when told how.
import { register } from 'tsx/esm/api';

register();
export const {
  deliveryNoteOf,
  dossierOf,
  jarSheetOf,
  labelSheetOf,
  pickSheetOf,
  recallNoticesOf,
  recallReportOf,
  roundSheetOf,
  worksheetOf,
} = await import('./worker.ts');
