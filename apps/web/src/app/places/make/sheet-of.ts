import type { SheetStepReply } from '@clear-tally/contract';

/** A step of a sheet, wherever it stands: at the bench, or in a finish. */
export type SheetStep = Omit<SheetStepReply, 'station'> & { readonly station: string };

/** A run sheet in hand: of a batch, or of a finish. */
export interface SheetOf {
  readonly batchId: string;
  readonly closedAt: string | null;
  readonly steps: readonly SheetStep[];
}
