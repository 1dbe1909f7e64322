/**
 * What is known of a lot when something is seen on it. Nothing here is seen: it is measured, or recorded. What nobody
 * knows is null, and is never read in the lenient sense.
 */
export interface LotFacts {
  readonly ageDays: number;
  /** As a strict eye takes it: the last that counts, or what stood higher since; null when it was never read. */
  readonly ph: number | null;
  /** Whether a reading that counts is behind it: blended, meter fit, not in doubt. */
  readonly phCounts: boolean;
  /** Since the last reading that counts, or the last of all. */
  readonly phHoursAgo: number | null;
  readonly trend: 'none' | 'falling' | 'steady' | 'rising';
  /** Of the last reading over the lowest before it. */
  readonly rise: number;
  readonly acidLimit: number;
  /** Past its deadline without acid; above 4.6 at twice the deadline. */
  readonly late: boolean;
  readonly twiceLate: boolean;
  readonly onHold: boolean;
  /** Of the vessel, or of its room where it was not read. */
  readonly celsius: number | null;
  /** Salt of the water phase, as a fraction. */
  readonly waterPhaseSalt: number | null;
  readonly closure: string | null;
  readonly stage: 'ferment' | 'finish' | 'packed';
  /** Null: nobody has said whether it was heated. */
  readonly heated: boolean | null;
  /** Something red is in the formula. */
  readonly redIngredient: boolean | null;
  /** Fruit, sugar or honey is in it. */
  readonly sweet: boolean | null;
  /** Alliums, frozen or cold: they start late. */
  readonly slowStart: boolean;
  /** The same film was found on it before. */
  readonly filmBefore: boolean;
  /** This house holds every film for its reviewer. */
  readonly filmIsHeld: boolean;
}
