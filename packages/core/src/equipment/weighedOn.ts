import { accept, type Outcome, refuse } from '../refusal.js';
import { formatGrams } from '../units/format.js';

/** A scale of the register, as it stands when something is weighed on it. */
export interface ScaleOfHouse {
  readonly tag: string;
  readonly capacityGrams: number;
  readonly stepGrams: number;
  readonly inUse: boolean;
  /** How it was found when it was last held against a weight; null: never held against one. */
  readonly passed: boolean | null;
}

/**
 * Whether a figure can have been read on a scale: one in use that was not found wrong, up to what it weighs, and not
 * under its smallest step. A tare is on the scale, too.
 * @returns a refusal that names the scale, what was given, and what to do
 * @example decideWeighedOn({ tag: 'SC1', capacityGrams: 6000, stepGrams: 1, inUse: true, passed: true, grams: 28_000 }) //=> refused: up to 6 kg
 */
export function decideWeighedOn(
  of: ScaleOfHouse & { readonly grams: number; readonly tareGrams?: number },
): Outcome<null> {
  const { tag, capacityGrams, stepGrams, inUse, passed, grams, tareGrams = 0 } = of;
  const no = (message: string): Outcome<null> => refuse('scale.notFit', message, { field: 'scaleId' });
  if (!inUse) return no(`${tag} is out of use. Weigh it on another scale, and say on which.`);
  if (passed === false)
    return no(
      `${tag} did not show its weight right when it was last looked at. Weigh it on another scale, or have ${tag} put right and hold it against a weight again.`,
    );
  if (!(tareGrams >= 0 && grams + tareGrams <= capacityGrams))
    return no(
      `${formatGrams(grams)}${tareGrams > 0 ? ` and a tare of ${formatGrams(tareGrams)}` : ''} were given; ${tag} weighs up to ${formatGrams(capacityGrams)}. Look at the figure, or say on which scale it was weighed.`,
    );
  if (!(grams >= stepGrams))
    return no(
      `${formatWeighed(grams)} were given; ${tag} has steps of ${formatGrams(stepGrams)} and shows nothing under one. Look at the figure, or say on which scale it was weighed.`,
    );
  return accept(null);
}

/** Above this a tenth of a gram is nothing anybody weighs. */
const NO_TENTHS = 10_000;

/**
 * A mass somebody weighed, with its tenths where the scale has them: 53.5 g stays 53.5 g, where a reckoned 53.48 g is
 * 53 g. From 10 kg on as every mass.
 * @example formatWeighed(53.5) //=> '53.5 g'
 */
export function formatWeighed(grams: number): string {
  const tenths = Math.round(grams * 10) / 10;
  const said = Math.abs(grams) < NO_TENTHS && Math.abs(tenths - grams) < 1e-6 && !Number.isInteger(tenths);
  return formatGrams(grams, said ? { stepGrams: 0.1 } : {});
}

/** How a reckoned mass is said where a scale of such a step weighs it: halves and tenths only where they can be seen. */
export const formatForScale = (grams: number, stepGrams: number): string =>
  formatGrams(grams, stepGrams < 1 && Math.abs(grams) < NO_TENTHS ? { stepGrams } : {});
