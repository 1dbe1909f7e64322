import { countBottles, setOut } from './countBottles.js';

export interface VolumeBalance {
  readonly full: number;
  /** What is left when all full ones are filled. */
  readonly leftGrams: number;
  /** The one that is filled in part, where what is left is worth a container. */
  readonly part: { readonly grams: number; readonly share: number } | null;
  readonly spareProposed: number;
  /** Of the full ones. The part-filled one, and the spare ones, are asked for beside them. */
  readonly missing: number;
  readonly over: number;
}

/** Of so many one is put beside; a single breakage must not stop the filling. */
const SPARE_EVERY = 50;
/** Less than this of a container is eaten, not bottled. */
const WORTH = 0.25;

/**
 * Before the first bottle: how many come out of what stands there, what is left, and what is missing on the table.
 * Source: handbook 7, worked case W16.
 * @throws {RangeError} a container or density not above nought
 * @example volumeBalance({ massGrams: 25_223, sizeMl: 150, gramsPerMl: 1.03, setOut: 160 }) //=> 163 full, 3 missing
 */
export function volumeBalance(input: {
  readonly massGrams: number;
  readonly sizeMl: number;
  readonly gramsPerMl: number;
  readonly setOut: number;
}): VolumeBalance {
  const { bottles, leftGrams } = countBottles(input);
  const share = leftGrams / (input.sizeMl * input.gramsPerMl);
  const part = share >= WORTH ? { grams: leftGrams, share } : null;
  const { missing, spare } = setOut({ needed: bottles, setOut: input.setOut });
  return {
    full: bottles,
    leftGrams,
    part,
    spareProposed: Math.ceil(bottles / SPARE_EVERY),
    missing,
    over: Math.max(0, spare - (part ? 1 : 0)),
  };
}
