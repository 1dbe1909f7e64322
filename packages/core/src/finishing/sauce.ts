import { countBottles } from './countBottles.js';

export interface Sauce {
  readonly brineBackGrams: number;
  readonly vinegarGrams: number;
  readonly thickenerGrams: number;
  readonly massGrams: number;
  readonly afterLossGrams: number;
  readonly volumeMl: number;
  readonly bottles: number;
  readonly leftGrams: number;
}

/**
 * A blended sauce: solids, brine back, vinegar on both, thickener on all three, less what sieve and blender
 * keep. Fractions. Source: handbook 2.7, 4.2, worked case W16.
 * @throws {RangeError} solids, density or bottle not above nought, a loss of all
 * @example sauce({ solidsGrams: 18400, brineBack: 0.35, vinegar: 0.04, thickener: 0.0015, loss: 0.025, bottleMl: 150, gramsPerMl: 1.03 }).bottles //=> 163
 */
export function sauce(input: {
  solidsGrams: number;
  brineBack: number;
  vinegar: number;
  thickener: number;
  loss: number;
  bottleMl: number;
  gramsPerMl: number;
}): Sauce {
  const { solidsGrams, brineBack, vinegar, thickener, loss, bottleMl, gramsPerMl } = input;
  if (!(solidsGrams > 0 && gramsPerMl > 0 && loss >= 0 && loss < 1))
    throw new RangeError('solids and density are above nought, and a loss is a fraction below one');
  const brineBackGrams = solidsGrams * brineBack;
  const vinegarGrams = (solidsGrams + brineBackGrams) * vinegar;
  const thickenerGrams = (solidsGrams + brineBackGrams + vinegarGrams) * thickener;
  const massGrams = solidsGrams + brineBackGrams + vinegarGrams + thickenerGrams;
  const afterLossGrams = massGrams * (1 - loss);
  return {
    brineBackGrams,
    vinegarGrams,
    thickenerGrams,
    massGrams,
    afterLossGrams,
    volumeMl: afterLossGrams / gramsPerMl,
    ...countBottles({ massGrams: afterLossGrams, sizeMl: bottleMl, gramsPerMl }),
  };
}
