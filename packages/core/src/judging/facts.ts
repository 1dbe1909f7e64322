/** What is known of a lot when something is seen on it. Nothing here is seen: it is measured, or recorded. */
export interface LotFacts {
  readonly ageDays: number;
  /** Of the last reading; null when it was never read. */
  readonly ph: number | null;
  readonly phHoursAgo: number | null;
  readonly trend: 'none' | 'falling' | 'steady' | 'rising';
  /** Of the last reading over the lowest before it. */
  readonly rise: number;
  readonly acidLimit: number;
  /** Past its deadline without acid; at twice the deadline. */
  readonly late: boolean;
  readonly twiceLate: boolean;
  readonly onHold: boolean;
  readonly celsius: number | null;
  /** Salt of the water phase, as a fraction. */
  readonly waterPhaseSalt: number | null;
  readonly closure: string | null;
  readonly stage: 'ferment' | 'finish' | 'packed';
  readonly heated: boolean;
  /** Something red is in the formula. */
  readonly redIngredient: boolean;
  readonly sweet: boolean;
  /** Alliums, frozen or cold: they start late. */
  readonly slowStart: boolean;
  /** The same film was found on it before. */
  readonly filmBefore: boolean;
  /** This house holds every film for its reviewer. */
  readonly filmIsHeld: boolean;
}
