import { accept, refuse, type Outcome } from '../refusal.js';
import { formatGrams } from '../units/format.js';

export interface LotBalance {
  readonly code: string;
  /** A source such as a water tap is not counted down. */
  readonly metered: boolean;
  readonly toleranceGrams: number;
  /** On hand at the moment of the draw. */
  readonly atGrams: number;
  /** The least on hand from that moment to now, all later movements counted. */
  readonly leastLaterGrams: number;
}

/**
 * Whether a mass may leave a lot at a moment: not before the lot held it, and not if a later movement
 * already took it. The lot's tally tolerance is granted. Source: handbook 5.3.
 */
export function decideDraw(input: { balance: LotBalance; grams: number; field?: string }): Outcome<number> {
  const { balance, grams, field } = input;
  if (!(grams >= 0 && Number.isFinite(grams)))
    return refuse(
      'mass.notPositive',
      `${grams} g was to be taken from ${balance.code}: more than nothing is accepted.`,
      {
        field,
      },
    );
  if (!balance.metered) return accept(grams);
  const available = Math.min(balance.atGrams, balance.leastLaterGrams);
  if (grams <= available + balance.toleranceGrams + 1e-6) return accept(grams);
  const facts = {
    lot: balance.code,
    availableGrams: Math.max(0, available),
    askedGrams: grams,
    toleranceGrams: balance.toleranceGrams,
  };
  if (balance.atGrams + balance.toleranceGrams < grams) {
    return refuse(
      'lot.overdrawn',
      `${formatGrams(grams)} was to be taken from ${balance.code}, which held ${formatGrams(Math.max(0, balance.atGrams))} at that moment. Weigh again, or record what came in first.`,
      { field, facts },
    );
  }
  return refuse(
    'lot.notYet',
    `${formatGrams(grams)} was to be taken from ${balance.code}, but a later entry already used it: ${formatGrams(Math.max(0, available))} is left. Look at the time, or correct the later entry.`,
    { field, facts },
  );
}
