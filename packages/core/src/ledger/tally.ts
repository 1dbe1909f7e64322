import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';
import type { Sink } from './movement.js';

/** Which lots get which tolerance. Source: handbook 5.1. */
export type TallyStage = 'upToFilling' | 'upToJars';

/** Plausible ranges of a loss taken by difference, as fractions of what went in. Source: handbook 5.1. */
export const PLAUSIBLE_LOSS: Partial<Record<Sink, number>> = { gas: 0.01, drip: 0.03 };

export interface TallyInput {
  readonly stage: TallyStage;
  readonly inGrams: number;
  readonly outGrams: number;
  /** Losses that were weighed. */
  readonly lossGrams: number;
  /** What stands there by weighing or counting; null when nobody has looked and the book's figure is taken. */
  readonly countedGrams: number | null;
  /** The one sink that may take what is missing. */
  readonly byDifference?: Sink;
  /** Masses of single movements, to name a likely slip. */
  readonly movementGrams?: readonly number[];
}

export interface Tally {
  readonly inGrams: number;
  readonly outGrams: number;
  readonly lossGrams: number;
  readonly onHandGrams: number;
  readonly byDifference: { readonly sink: Sink; readonly grams: number; readonly mostGrams: number } | null;
  /** Positive: missing. Negative: more than the book says. */
  readonly unexplainedGrams: number;
  readonly toleranceGrams: number;
  readonly clear: boolean;
  readonly likelySlip: string | null;
}

/** The larger of 20 g and 0.5 % up to filling, 2 % up to jars. Source: handbook 5.1. */
export function tallyTolerance(input: { stage: TallyStage; inGrams: number }): number {
  return Math.max(20, input.inGrams * (input.stage === 'upToFilling' ? 0.005 : 0.02));
}

/**
 * In = out + losses + on hand + by difference + unexplained. A sink by difference without a plausible range
 * is not allowed: it would always close. Source: handbook 5.1, worked case W13.
 * @throws {RangeError} a sink by difference that has no range
 */
export function tally(input: TallyInput): Tally {
  const { inGrams, outGrams, lossGrams } = input;
  const bookOnHand = inGrams - outGrams - lossGrams;
  const onHandGrams = input.countedGrams ?? Math.max(0, bookOnHand);
  const missing = bookOnHand - onHandGrams;
  let byDifference: Tally['byDifference'] = null;
  if (input.byDifference) {
    const most = PLAUSIBLE_LOSS[input.byDifference];
    if (most === undefined)
      throw new RangeError(`a loss to ${input.byDifference} has no plausible range and must be weighed`);
    const mostGrams = most * inGrams;
    byDifference = { sink: input.byDifference, grams: Math.min(Math.max(0, missing), mostGrams), mostGrams };
  }
  const unexplainedGrams = missing - (byDifference?.grams ?? 0);
  const toleranceGrams = tallyTolerance(input);
  const clear = Math.abs(unexplainedGrams) <= toleranceGrams + 1e-6;
  return {
    inGrams,
    outGrams,
    lossGrams,
    onHandGrams,
    byDifference,
    unexplainedGrams,
    toleranceGrams,
    clear,
    likelySlip: clear ? null : nameSlip(unexplainedGrams, onHandGrams, toleranceGrams, input.movementGrams ?? []),
  };
}

function nameSlip(unexplained: number, onHand: number, tolerance: number, movements: readonly number[]): string {
  const same = movements.find((grams) => Math.abs(grams - Math.abs(unexplained)) <= Math.min(tolerance, grams * 0.02));
  if (same !== undefined) {
    return unexplained > 0
      ? `${same.toFixed(0)} g was recorded once on this lot: was it put in only once, and written twice?`
      : `${same.toFixed(0)} g was recorded once on this lot: did it go in twice, or was it never taken out?`;
  }
  if (digitsSwapped(onHand, onHand + unexplained)) return 'two digits of the mass on hand may be swapped';
  return unexplained > 0
    ? 'a loss not recorded (drip, spill, sample, tasting), or a mass on hand weighed without all its parts'
    : 'something put in and not recorded, or a tare left on the scale';
}

function digitsSwapped(a: number, b: number): boolean {
  const digits = (value: number) => String(Math.round(value / 10));
  const [x, y] = [digits(a), digits(b)];
  if (x === y || x.length !== y.length) return false;
  return [...x].some((_, i) => i + 1 < x.length && x.slice(0, i) + x[i + 1] + x[i] + x.slice(i + 2) === y);
}

/**
 * A vessel said to be empty, with mass on hand by the book: what is left has to be weighed, lie within what a ferment
 * loses as gas, or have a written reason. Nothing closes clear with a kilogram gone. Source: handbook 5.1, W13.
 */
export function decideRest(input: {
  readonly tag: string;
  readonly inGrams: number;
  readonly leftGrams: number;
  readonly weighedGrams: number;
  readonly reason?: string | null;
}): Outcome<{ readonly unexplainedGrams: number }> {
  const missing = input.leftGrams - input.weighedGrams;
  const gas = Math.min(Math.max(0, missing), PLAUSIBLE_LOSS.gas! * input.inGrams);
  const unexplainedGrams = missing - gas;
  const toleranceGrams = tallyTolerance({ stage: 'upToJars', inGrams: input.inGrams });
  if (!(Math.abs(unexplainedGrams) <= toleranceGrams + 1e-6) && !input.reason?.trim()) {
    return refuse(
      'pack.restOpen',
      `${input.tag} was said to be empty, and by the book ${formatGrams(input.leftGrams)} is left in it; ${formatGrams(input.weighedGrams)} of that is weighed, and gas and what sticks take ${formatGrams(gas + toleranceGrams)} at most. Weigh what is left, say “some stays”, or write where it went.`,
      {
        field: 'from',
        facts: { leftGrams: input.leftGrams, unexplainedGrams, toleranceGrams },
      },
    );
  }
  return accept({ unexplainedGrams });
}
