import { accept, refuse, type Outcome } from '../refusal.js';

/** House default; never above the general boundary of 4.6. Source: handbook 3.3, 6.1. */
export const DEFAULT_ACID_LIMIT = 4.2;
export const HIGHEST_ACID_LIMIT = 4.6;

export interface PackableFill {
  readonly code: string;
  readonly lastPh: number | null;
  readonly onHold: string | null;
  readonly closed: boolean;
  /** It stood there before the ledger: nothing is known of its early days. */
  readonly beforeLedger?: boolean;
  /** Two blended readings at or under the limit, with a meter fit for release. */
  readonly twoReadings?: boolean;
}

/**
 * A vessel on hold, above its limit, or without a pH, cannot be packed at all. Source: handbook 4.6.
 */
export function decidePackable(input: { fill: PackableFill; acidLimit?: number }): Outcome<void> {
  const { fill, acidLimit = DEFAULT_ACID_LIMIT } = input;
  if (!(acidLimit <= HIGHEST_ACID_LIMIT)) throw new RangeError('no house limit lies above 4.6');
  if (fill.closed) return refuse('lot.closed', `${fill.code} is emptied and closed. Nothing more can be packed from it.`);
  if (fill.onHold) return refuse('lot.onHold', `${fill.code} is on hold: ${fill.onHold}. Lift the hold, with a reason, before packing.`);
  if (fill.lastPh === null) return refuse('pack.noPh', `${fill.code} has no pH reading. Read its pH, on a blended sample, before packing.`);
  if (fill.lastPh > acidLimit) {
    return refuse('pack.phAboveLimit', `The last pH of ${fill.code} is ${fill.lastPh}, above the house limit of ${acidLimit}. Wait at the right temperature and read again; do not add acid to save it.`, {
      facts: { lastPh: fill.lastPh, acidLimit },
    });
  }
  if (fill.beforeLedger && !fill.twoReadings) {
    return refuse('pack.twoReadings', `${fill.code} is from before the ledger: nothing is known of its early days. Two blended readings at ${acidLimit} or lower, with a meter fit for release, are wanted before it is packed.`, { facts: { lastPh: fill.lastPh, acidLimit } });
  }
  return accept(undefined);
}
