import { accept, refuse, type Outcome } from '../refusal.js';
import { saltGrams, type SaltBasis } from '../salt/bases.js';
import { DEFAULT_SALT_TOLERANCE, hasItsSalt, type SaltAtScale, saltAtScale } from '../salt/atTheScale.js';
import { saltBand } from '../salt/bands.js';
import { waysBack, type WaysBack } from '../salt/waysBack.js';
import { formatGrams, formatPercent } from '../units/format.js';
import { checkMass } from '../units/parseMass.js';

/** What a batch holds so far, as weighed. */
export interface BatchSalt {
  readonly basis: SaltBasis;
  readonly saltFraction: number;
  readonly produceGrams: number;
  /** Water to pour, by the formula and the actual produce; 0 for dry salting. */
  readonly waterGrams: number;
  /** Water weighed for the brine, which may be more than is poured: the salt keeps its strength. */
  readonly brineWaterGrams?: number;
  readonly saltInGrams: number;
  readonly tolerance?: number;
}

/**
 * The live target from the actual weights. A brine made larger than what is poured gets the same strength.
 * Source: handbook 2.2, 2.6.
 */
export function saltTarget(batch: BatchSalt): number {
  const poured = saltGrams({
    basis: batch.basis,
    vegetableGrams: batch.produceGrams,
    waterGrams: batch.waterGrams,
    saltFraction: batch.saltFraction,
  });
  if (batch.waterGrams <= 0) return poured;
  return (poured * (batch.brineWaterGrams ?? 0)) / batch.waterGrams;
}

/** The ways back for what is in: a brine is put right with salt or water, in its own strength. */
export function saltWaysBack(batch: BatchSalt): WaysBack {
  if (batch.waterGrams <= 0) {
    return waysBack({
      basis: batch.basis,
      saltFraction: batch.saltFraction,
      vegetableGrams: batch.produceGrams,
      waterGrams: 0,
      saltGrams: batch.saltInGrams,
    });
  }
  const target = saltTarget(batch);
  const over = batch.saltInGrams - target;
  return {
    addSaltGrams: over < 0 ? -over : null,
    addProduceGrams: null,
    addWaterGrams: over > 0 && target > 0 ? ((batch.brineWaterGrams ?? 0) * over) / target : null,
  };
}

/**
 * Salt about to be recorded. Portions add up to one target. Over the target is refused before it goes in;
 * what is already in is a fact and is recorded, and the way back is asked for before filling.
 */
export function decideSaltWeigh(input: {
  batch: BatchSalt;
  grams: number;
  alreadyIn: boolean;
}): Outcome<{ targetGrams: number; atScale: SaltAtScale }> {
  const { batch, grams } = input;
  const mass = checkMass({ grams, what: 'salt', field: 'grams' });
  if (!mass.ok) return mass;
  if (!(batch.saltInGrams >= 0 && Number.isFinite(batch.saltInGrams)))
    throw new RangeError('the salt that is in is a mass');
  const targetGrams = saltTarget(batch);
  if (!(targetGrams > 0)) {
    return refuse(
      'salt.nothingToSalt',
      'Nothing to salt is weighed yet. Weigh the trimmed produce, or the water of the brine, first: the salt follows the actual weight.',
      { field: 'grams' },
    );
  }
  const atScale = saltAtScale({
    saltGrams: batch.saltInGrams + grams,
    targetGrams,
    tolerance: batch.tolerance ?? DEFAULT_SALT_TOLERANCE,
  });
  if (atScale.verdict === 'over' && !input.alreadyIn) {
    const back = saltWaysBack({ ...batch, saltInGrams: batch.saltInGrams + grams });
    return refuse(
      'salt.overTarget',
      `${formatGrams(grams)} would bring the salt to ${formatGrams(batch.saltInGrams + grams)}, ${formatPercent(atScale.deviation, 1)} over the target of ${formatGrams(targetGrams)}. Take ${formatGrams(-atScale.toTargetGrams)} out; if it is already in, say so.`,
      {
        field: 'grams',
        facts: { targetGrams, takeOutGrams: -atScale.toTargetGrams, ...back },
      },
    );
  }
  return accept({ targetGrams, atScale });
}

/** Before a vessel is filled the salt is inside its tolerance, or its deviation is accepted with a reason. */
export function decideSaltBeforeFill(input: { batch: BatchSalt; acceptedReason: string | null }): Outcome<void> {
  const { batch } = input;
  const targetGrams = saltTarget(batch);
  if (!(targetGrams > 0))
    return refuse('salt.nothingToSalt', 'Nothing is weighed into this batch yet: weigh the trimmed produce first.');
  const { saltInGrams: saltGrams, tolerance } = batch;
  if (hasItsSalt({ saltGrams, targetGrams, tolerance, acceptedReason: input.acceptedReason })) return accept(undefined);
  const back = saltWaysBack(batch);
  const way =
    back.addSaltGrams !== null
      ? `Add ${formatGrams(back.addSaltGrams)} of salt`
      : back.addProduceGrams !== null
        ? `Add ${formatGrams(back.addProduceGrams)} of trimmed produce`
        : `Add ${formatGrams(back.addWaterGrams ?? 0)} of water`;
  return refuse(
    'salt.outOfTolerance',
    `${formatGrams(batch.saltInGrams)} of salt is in, the target is ${formatGrams(targetGrams)} (± ${formatPercent(batch.tolerance ?? DEFAULT_SALT_TOLERANCE, 0)}). ${way}, or accept it with a reason for the reviewer.`,
    {
      facts: { targetGrams, saltInGrams: batch.saltInGrams, ...back },
    },
  );
}

/** A batch planned under 1.5 % starts only with a reviewer's written reason. Source: handbook 2.1. */
export function decideWeakStart(input: {
  waterPhaseSalt: number;
  isReviewer: boolean;
  reason: string | undefined;
}): Outcome<void> {
  if (saltBand(input.waterPhaseSalt) !== 'weak' || (input.isReviewer && input.reason?.trim())) return accept(undefined);
  return refuse(
    'salt.weakNeedsReviewer',
    `This batch would even out at ${Number.isFinite(input.waterPhaseSalt) ? formatPercent(input.waterPhaseSalt) : 'an unknown'} salt in the water phase, under 1.5 %. It starts only with a reviewer’s written reason, and pH on days 1, 2 and 3.`,
    {
      field: 'weakSaltReason',
      facts: { waterPhaseSalt: input.waterPhaseSalt },
    },
  );
}

/** Whether a house has the salt looked at twice: its rule says so, and there is a second person to do it. */
export const wantsSecondPerson = (input: { rule: string | undefined; people: number }): boolean =>
  input.rule === 'yes' && !(input.people <= 1);

/** Before filling: on the salt as it is now, not as it was before the last portion. Source: handbook 2.2. */
export function decideConfirmed(input: { wanted: boolean; confirmed: boolean }): Outcome<void> {
  if (input.wanted === false || input.confirmed) return accept(undefined);
  return refuse(
    'salt.notConfirmed',
    'This house has the salt confirmed by a second person. Ask somebody to look at scale, lot and figure, and to confirm under their own name.',
  );
}
