import { brineDensity } from '../brine/density.js';
import { FORMS } from '../vessels/forms.js';
import { usableMl } from '../vessels/usable.js';
import { amountsFor } from './amounts.js';
import type { ScalableFormula, ScaleTarget } from './formula.js';
import { chainFromJars, chainFromTrimmed, type YieldChain } from './yieldChain.js';

/** mL that a gram of trimmed produce takes in a vessel, with the brine the formula pours on it. */
export function mlPerTrimmedGram(formula: ScalableFormula): number {
  const { gramsPerMl } = FORMS[formula.form ?? 'shred'];
  const water = formula.waterPerProduce ?? 0;
  if (formula.heavy) return formula.heavy.drainYield / gramsPerMl + pasteShare(formula);
  if (water === 0) return 1 / gramsPerMl;
  const salt =
    amountsFor({
      formula,
      chain: chainFromTrimmed({ trimmedGrams: 1000, solidsFraction: formula.solidsFraction, yields: formula.yields }),
    }).saltGrams / 1000;
  return 1 / gramsPerMl + (water + salt) / brineDensity({ strength: Math.min(0.26, salt / (salt + water)) });
}

/** Paste beside the leaf, mL per gram of trimmed leaf, taken at 1 g/mL. */
const pasteShare = (formula: ScalableFormula): number =>
  formula.lines.reduce((sum, line) => sum + (line.scaleBy === 'mainMass' && line.amount !== null ? line.amount : 0), 0);

/**
 * The yield chain that meets a target. For vessels the trimmed mass that fills their usable room; for a stock
 * the mass that uses it up. Source: handbook 2.5.
 * @throws {RangeError} a yield outside (0, 1]; a material that the formula does not use
 */
export function reachTarget(input: {
  formula: ScalableFormula;
  target: ScaleTarget;
  variant?: string | null;
}): YieldChain {
  const { formula, target } = input;
  const { solidsFraction, yields } = formula;
  const forward = (trimmedGrams: number): YieldChain => chainFromTrimmed({ trimmedGrams, solidsFraction, yields });
  switch (target.from) {
    case 'jars':
      return chainFromJars({ jars: target.jars, solidsFraction, yields });
    case 'trimmed':
      return forward(target.trimmedGrams);
    case 'bought':
      return forward(target.boughtGrams * yields.trim);
    case 'vessels':
      return forward(target.vessels.reduce((sum, vessel) => sum + usableMl(vessel), 0) / mlPerTrimmedGram(formula));
    case 'stock': {
      const part = formula.produce.find(({ materialId }) => materialId === target.materialId);
      if (part) return forward((target.grams * yields.trim) / part.share);
      return forward(
        limitedBy(
          input,
          (trimmedGrams) => usedOf(input.formula, target.materialId, forward(trimmedGrams), input.variant),
          target.grams,
        ),
      );
    }
  }
}

function usedOf(formula: ScalableFormula, materialId: string, chain: YieldChain, variant?: string | null): number {
  // Whole pieces would make steps: how far a stock goes is asked of the plain amounts.
  const plain = { ...formula, lines: formula.lines.map((line) => ({ ...line, pieceGrams: null })) };
  return amountsFor({ formula: plain, chain, variant })
    .lines.filter(({ line }) => line.materialId === materialId)
    .reduce((sum, { grams }) => sum + (grams ?? 0), 0);
}

/** The trimmed mass at which a stock is used up, by halving; lines grow with the mass, also bent ones. */
function limitedBy(
  input: { formula: ScalableFormula },
  used: (trimmedGrams: number) => number,
  stockGrams: number,
): number {
  if (!(used(1000) > used(1e-6)))
    throw new RangeError(
      `the stock named does not limit this formula of ${input.formula.produce.map(({ name }) => name).join(', ')}`,
    );
  let low = 0;
  let high = 2_000_000;
  if (used(high) < stockGrams) return high;
  for (let i = 0; i < 60; i += 1) {
    const middle = (low + high) / 2;
    if (used(middle) < stockGrams) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
