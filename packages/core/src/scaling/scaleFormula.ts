import { saltGrams } from '../salt/bases.js';
import { DEFAULT_WATER_FRACTION, waterPhaseSalt } from '../salt/waterPhase.js';
import type { ScalableFormula, ScaleBy, ScaleTarget } from './formula.js';
import { chainFromJars, chainFromTrimmed, type YieldChain } from './yieldChain.js';
import { sayWorking, type Working } from './working.js';

export interface ScaledLine {
  readonly key: string;
  readonly materialId: string | null;
  readonly name: string;
  readonly role: 'produce' | 'water' | 'salt' | 'ingredient';
  readonly grams: number;
  readonly working: Working;
}

export interface ScaledBatch {
  readonly chain: YieldChain;
  readonly produceGrams: number;
  readonly waterGrams: number;
  readonly saltGrams: number;
  readonly waterPhaseSalt: number;
  readonly lines: readonly ScaledLine[];
  readonly workings: { readonly trimmed: Working; readonly bought: Working; readonly salt: Working; readonly waterPhaseSalt: Working };
}

/**
 * A formula scaled to jars or to a trimmed mass. Nothing is rounded; each figure carries its working.
 * Source: handbook 2.5.
 * @throws {RangeError} shares that do not add up to one, a yield outside (0, 1]
 */
export function scaleFormula(input: { formula: ScalableFormula; target: ScaleTarget }): ScaledBatch {
  const { formula, target } = input;
  const shareSum = formula.produce.reduce((sum, part) => sum + part.share, 0);
  if (Math.abs(shareSum - 1) > 1e-6) throw new RangeError(`shares of the produce add up to one; these add up to ${shareSum}`);
  const chain =
    target.from === 'jars'
      ? chainFromJars({ jars: target.jars, solidsFraction: formula.solidsFraction, yields: formula.yields })
      : chainFromTrimmed({ trimmedGrams: target.trimmedGrams, solidsFraction: formula.solidsFraction, yields: formula.yields });
  const produceGrams = chain.trimmedGrams;
  const waterGrams = produceGrams * formula.waterPerProduce;
  const salt = saltGrams({ basis: formula.saltBasis, vegetableGrams: produceGrams, waterGrams, saltFraction: formula.saltFraction });
  const everything = produceGrams + waterGrams;
  const base: Record<ScaleBy, number> = { mainMass: produceGrams, everything, saltMass: salt, batch: 1 };
  const ingredients = formula.lines.map((line) => ({ line, grams: line.amount * base[line.scaleBy] }));
  const parts = [
    ...formula.produce.map((part) => ({ grams: produceGrams * part.share, waterFraction: part.waterFraction ?? DEFAULT_WATER_FRACTION })),
    { grams: waterGrams, waterFraction: 1 },
    ...ingredients.map(({ line, grams }) => ({ grams, waterFraction: line.waterFraction ?? 0, saltFraction: line.saltFraction ?? 0 })),
  ];
  const wps = waterPhaseSalt({ saltGrams: salt, parts });
  const say = sayWorking({ formula, target, chain, waterGrams, salt, wps, parts });
  const lines: ScaledLine[] = [
    ...formula.produce.map((part, index) => ({
      key: `produce-${index}`, materialId: part.materialId, name: `${part.name}, trimmed`, role: 'produce' as const,
      grams: produceGrams * part.share, working: say.produce(part, produceGrams * part.share),
    })),
    ...(waterGrams > 0 ? [{ key: 'water', materialId: null, name: 'Water', role: 'water' as const, grams: waterGrams, working: say.water() }] : []),
    { key: 'salt', materialId: null, name: 'Salt', role: 'salt' as const, grams: salt, working: say.salt() },
    ...ingredients.map(({ line, grams }, index) => ({
      key: `line-${index}`, materialId: line.materialId, name: line.name, role: 'ingredient' as const, grams, working: say.ingredient(line, base[line.scaleBy], grams),
    })),
  ];
  return {
    chain, produceGrams, waterGrams, saltGrams: salt, waterPhaseSalt: wps, lines,
    workings: { trimmed: say.trimmed(), bought: say.bought(), salt: say.salt(), waterPhaseSalt: say.waterPhaseSalt() },
  };
}
