/** What the spice scale weighs, grams. */
export const SPICE_MOST = 400;

/** A vessel of a batch. */
export interface FillPlan {
  readonly tag: string;
  readonly produceGrams: number;
}

/** A batch as it is to be lived. */
export interface BatchPlan {
  readonly formula: 'shred' | 'turnips' | 'mash' | 'gooseberries';
  readonly daysAgo: number;
  readonly hour: number;
  readonly by: 'tomasz' | 'ines' | 'odile';
  readonly fills: readonly FillPlan[];
  /** Supply lots of the produce, in the order of the formula. */
  readonly produce: readonly string[];
  readonly salt: string;
  readonly others: readonly string[];
  /** Kept brine from an earlier fill. */
  readonly kept?: { readonly from: () => string; readonly grams: number };
  /** pH where it starts and where it settles, and how fast it falls, per hour. */
  readonly souring?: { readonly start: number; readonly end: number; readonly perHour: number };
  readonly celsius?: number;
  readonly packedDaysAgo?: number;
  /** Hot-filled to the process on file, and kept ambient. */
  readonly hot?: true;
  /** Days on which it is read beside the plan, two in a row before something is taken. */
  readonly pairOn?: readonly number[];
  /** Salt first written down wrong, then corrected. */
  readonly slippedSalt?: boolean;
}

/** What came of it. */
export interface Lived {
  readonly batchId: string;
  readonly fillIds: string[];
  readonly runIds: string[];
  /** Jars of each run. */
  readonly jars: number[];
}
