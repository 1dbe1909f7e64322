/** House default: salt within 3 % of its target. Source: handbook 2.2. */
export const DEFAULT_SALT_TOLERANCE = 0.03;

export type SaltVerdict = 'under' | 'in' | 'over';

export interface SaltAtScale {
  readonly verdict: SaltVerdict;
  readonly leastGrams: number;
  readonly mostGrams: number;
  /** Positive: grams more to put in. Negative: grams to take out. */
  readonly toTargetGrams: number;
  /** Relative to the target: 0.065 is 6.5 % over. */
  readonly deviation: number;
}

/**
 * How a salt mass stands against its target. Source: handbook 2.2.
 * @throws {RangeError} a target not above zero; a mass that is negative or no number, which is never "in"
 */
export function saltAtScale(input: { saltGrams: number; targetGrams: number; tolerance?: number }): SaltAtScale {
  const { saltGrams, targetGrams, tolerance = DEFAULT_SALT_TOLERANCE } = input;
  if (!(targetGrams > 0 && Number.isFinite(targetGrams))) throw new RangeError('a salt target is above zero');
  if (!(saltGrams >= 0 && Number.isFinite(saltGrams))) throw new RangeError('a salt mass is not below nought');
  if (!(tolerance >= 0 && tolerance < 1)) throw new RangeError('a tolerance is a fraction of the target');
  const leastGrams = targetGrams * (1 - tolerance);
  const mostGrams = targetGrams * (1 + tolerance);
  // A hair of slack, so that a mass typed as the very edge counts as in.
  const slack = 1e-9 * targetGrams;
  const verdict = saltGrams < leastGrams - slack ? 'under' : saltGrams > mostGrams + slack ? 'over' : 'in';
  return {
    verdict,
    leastGrams,
    mostGrams,
    toTargetGrams: targetGrams - saltGrams,
    deviation: saltGrams / targetGrams - 1,
  };
}

/**
 * Whether a batch has its salt: inside its tolerance, or accepted with a reason. Of a batch that wants none yet, because
 * nothing is weighed, nobody knows it. Asked before a vessel is filled and before a release. Source: handbook 2.2.
 */
export const hasItsSalt = (
  input: Parameters<typeof saltAtScale>[0] & { readonly acceptedReason: string | null },
): boolean => !!input.acceptedReason?.trim() || (input.targetGrams > 0 && saltAtScale(input).verdict === 'in');

/** Whether a scale is too coarse for a dose: its step is more than 2 % of it. Source: handbook 2.2. */
export function scaleTooCoarse(input: { doseGrams: number; stepGrams: number }): {
  tooCoarse: boolean;
  stepOfDose: number;
} {
  if (!(input.doseGrams > 0 && input.stepGrams > 0)) throw new RangeError('dose and scale step are above zero');
  const stepOfDose = input.stepGrams / input.doseGrams;
  return { tooCoarse: stepOfDose > 0.02, stepOfDose };
}
