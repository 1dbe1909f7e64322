import { waterPhase, type WaterPhasePart } from './waterPhase.js';

/** How far salt has got into the piece is driven by its size: minutes to 63 %. Source: handbook 2.3. */
export const UPTAKE_MINUTES = { leaf: 90, quarters: 360 } as const;
export type HeavyCut = keyof typeof UPTAKE_MINUTES;

export interface HeavySalt {
  /** Clamped to 0.5-0.9. */
  readonly uptake: number;
  /** Water-phase salt of the leaf after the soak. */
  readonly soaked: number;
  /** After each rinse. */
  readonly afterRinse: readonly number[];
  readonly estimate: number;
  /** Between a poor and a thorough exchange in each rinse. */
  readonly band: { readonly least: number; readonly most: number };
}

const EXCHANGE = { poor: 0.25, usual: 0.35, thorough: 0.45 };

/**
 * Heavy salt, rest, rinse: where the leaf stands afterwards. An estimate with a band; a value measured on the
 * drained juice replaces it. Source: handbook 2.3, worked case W5.
 * @throws {RangeError} a mass, time or rinse below nought
 * @example heavySalt({ leafGrams: 1000, waterFraction: 0.92, saltGrams: 100, minutes: 90, cut: 'leaf', rinses: 3, litresPerKg: 2 }).estimate //=> 0.0272…
 */
export function heavySalt(input: {
  leafGrams: number;
  waterFraction: number;
  saltGrams: number;
  brineWaterGrams?: number;
  minutes: number;
  cut: HeavyCut;
  rinses: number;
  litresPerKg: number;
}): HeavySalt {
  const { leafGrams, waterFraction: w, saltGrams, brineWaterGrams = 0, minutes, cut, rinses, litresPerKg: r } = input;
  if (!(leafGrams > 0 && saltGrams >= 0 && minutes >= 0 && rinses >= 0 && r >= 0))
    throw new RangeError('leaf is above nought; salt, minutes, rinses and water are not below it');
  const uptake = Math.min(0.9, Math.max(0.5, 1 - Math.exp(-minutes / UPTAKE_MINUTES[cut])));
  const soaked = (uptake * saltGrams) / (saltGrams + brineWaterGrams + w * leafGrams);
  const keeps = (exchange: number): number => 1 - (exchange * r) / (r + w);
  const afterRinse = Array.from({ length: rinses }, (_, n) => soaked * keeps(EXCHANGE.usual) ** (n + 1));
  return {
    uptake,
    soaked,
    afterRinse,
    estimate: soaked * keeps(EXCHANGE.usual) ** rinses,
    band: {
      least: soaked * keeps(EXCHANGE.thorough) ** rinses * 0.9,
      most: Math.min(1, soaked * keeps(EXCHANGE.poor) ** rinses * 1.1),
    },
  };
}

/**
 * Salt to add to the paste so that leaf and paste even out at a wanted water-phase salt; negative when they
 * are above it already. `leafSalt` is the leaf's water-phase salt, measured or estimated.
 * @example pasteSalt({ drainedGrams: 1000, waterFraction: 0.9, leafSalt: 0.02, paste: [], wanted: 0.02 }).addSaltGrams //=> 0
 */
export function pasteSalt(input: {
  drainedGrams: number;
  waterFraction: number;
  leafSalt: number;
  paste: readonly WaterPhasePart[];
  wanted: number;
}): { addSaltGrams: number; without: number; leafSaltGrams: number } {
  const { drainedGrams, waterFraction, leafSalt, paste, wanted } = input;
  if (!(leafSalt >= 0 && leafSalt < 0.27 && wanted > 0 && wanted < 0.27))
    throw new RangeError('water-phase salts lie in [0, 0.27)');
  const water = drainedGrams * waterFraction;
  const leafSaltGrams = (leafSalt / (1 - leafSalt)) * water;
  const all = waterPhase({ saltGrams: leafSaltGrams, parts: [{ grams: water, waterFraction: 1 }, ...paste] });
  return {
    addSaltGrams: (wanted * (all.salt + all.water) - all.salt) / (1 - wanted),
    without: all.salt / (all.salt + all.water),
    leafSaltGrams,
  };
}

/** Salt and water of a brine to taste the drained juice against. `tasteReference(0.015) //=> { saltGrams: 7.6…, waterGrams: 500 }` */
export const tasteReference = (waterPhaseSalt: number): { saltGrams: number; waterGrams: number } => ({
  saltGrams: (500 * waterPhaseSalt) / (1 - waterPhaseSalt),
  waterGrams: 500,
});
