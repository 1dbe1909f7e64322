import { heavySalt, pasteSalt, type HeavySalt } from '../salt/heavySalt.js';
import { saltGrams } from '../salt/bases.js';
import { DEFAULT_WATER_FRACTION, waterPhaseSalt, type WaterPhasePart } from '../salt/waterPhase.js';
import { PACKED_GRAMS_PER_ML } from '../vessels/forms.js';
import { BY_FRACTION, type FormulaLine, type ScalableFormula, type ScaleBy } from './formula.js';
import type { JarOrder, YieldChain } from './yieldChain.js';

export interface LineAmount {
  readonly line: FormulaLine;
  readonly index: number;
  /** Null where the recipe leaves it open, or it is only recorded. */
  readonly grams: number | null;
  readonly pieces: number | null;
  /** What it is counted on: grams, litres, vessels, jars. */
  readonly base: number;
}

export interface Amounts {
  readonly produceGrams: number;
  readonly waterGrams: number;
  readonly saltGrams: number;
  readonly lines: readonly LineAmount[];
  readonly parts: readonly WaterPhasePart[];
  readonly waterPhaseSalt: number;
  /** Heavy salting: the leaf after its rinses, and the salt that goes into the paste. */
  readonly heavy:
    | (HeavySalt & {
        readonly drainedGrams: number;
        readonly leafSalt: number;
        readonly measured: boolean;
        readonly without: number;
        readonly pasteSaltGrams: number;
        readonly leafSaltGrams: number;
      })
    | null;
  readonly filledLitres: number;
}

/** Every mass of a batch of so much trimmed produce. The arithmetic of `scaleFormula`, without words. */
export function amountsFor(input: {
  formula: ScalableFormula;
  chain: YieldChain;
  variant?: string | null;
  jars?: readonly JarOrder[];
  vesselCount?: number;
  measuredLeafSalt?: number | null;
}): Amounts {
  const { formula, chain, variant = null, vesselCount = 1 } = input;
  const produceGrams = chain.trimmedGrams;
  const waterGrams = produceGrams * (formula.waterPerProduce ?? 0);
  const salt =
    formula.saltBasis === null || formula.saltFraction === null
      ? 0
      : saltGrams({
          basis: formula.saltBasis,
          vegetableGrams: produceGrams,
          waterGrams,
          saltFraction: formula.saltFraction,
        });
  const filledLitres = (produceGrams + waterGrams + salt) / PACKED_GRAMS_PER_ML / 1000;
  const base: Record<ScaleBy, number> = {
    mainMass: produceGrams,
    everything: produceGrams + waterGrams,
    saltMass: salt,
    vesselVolume: filledLitres,
    vessel: vesselCount,
    jar: 0,
    batch: 1,
    finishedMass: chain.filledGrams,
    toTaste: 0,
  };
  const lines = formula.lines
    .map((line, index): LineAmount & { skipped: boolean } => {
      const counted = line.scaleBy === 'jar' ? jarsOf(line, input.jars) : base[line.scaleBy];
      const skipped =
        variant !== null && line.variants !== null && line.variants !== undefined && !line.variants.includes(variant);
      // A line per jar, where nobody has said how many jars, is no nought: it depends on them.
      const noJars = line.scaleBy === 'jar' && (input.jars ?? []).length === 0;
      if (line.amount === null || line.scaleBy === 'toTaste' || noJars)
        return { line, index, grams: null, pieces: null, base: counted, skipped };
      const exact = line.amount * counted * bend(line, produceGrams, formula.referenceGrams ?? 1000);
      if (!line.pieceGrams) return { line, index, grams: exact, pieces: null, base: counted, skipped };
      const pieces = exact === 0 ? 0 : Math.max(1, Math.round(exact / line.pieceGrams));
      return { line, index, grams: pieces * line.pieceGrams, pieces, base: counted, skipped };
    })
    .filter((line) => !line.skipped);
  const produceWater = formula.produce.map((part) => ({
    grams: produceGrams * part.share,
    waterFraction: part.waterFraction ?? DEFAULT_WATER_FRACTION,
  }));
  const others = lines
    .filter(({ line }) => line.scaleBy !== 'jar' && line.scaleBy !== 'finishedMass')
    .map(({ line, grams }) => ({
      grams: grams ?? 0,
      waterFraction: line.waterFraction ?? DEFAULT_WATER_FRACTION,
      saltFraction: line.saltFraction ?? 0,
    }));
  if (formula.heavy && salt > 0) {
    const leafWater = produceWater.reduce((sum, part) => sum + part.grams * part.waterFraction, 0) / produceGrams;
    const { minutes, cut, rinses, litresPerKg, drainYield, wanted } = formula.heavy;
    const estimate = heavySalt({
      leafGrams: produceGrams,
      waterFraction: leafWater,
      saltGrams: salt,
      brineWaterGrams: waterGrams,
      minutes,
      cut,
      rinses,
      litresPerKg,
    });
    const drainedGrams = produceGrams * drainYield;
    const leafSalt = input.measuredLeafSalt ?? estimate.estimate;
    const paste = pasteSalt({ drainedGrams, waterFraction: leafWater, leafSalt, paste: others, wanted });
    const pasteSaltGrams = Math.max(0, paste.addSaltGrams);
    const parts = [{ grams: drainedGrams * leafWater, waterFraction: 1 }, ...others];
    return {
      produceGrams,
      waterGrams,
      saltGrams: salt,
      lines,
      parts,
      filledLitres,
      waterPhaseSalt: waterPhaseSalt({ saltGrams: paste.leafSaltGrams + pasteSaltGrams, parts }),
      heavy: {
        ...estimate,
        drainedGrams,
        leafSalt,
        measured: input.measuredLeafSalt != null,
        without: paste.without,
        pasteSaltGrams,
        leafSaltGrams: paste.leafSaltGrams,
      },
    };
  }
  const parts = [...produceWater, { grams: waterGrams, waterFraction: 1 }, ...others];
  return {
    produceGrams,
    waterGrams,
    saltGrams: salt,
    lines,
    parts,
    filledLitres,
    waterPhaseSalt: waterPhaseSalt({ saltGrams: salt, parts }),
    heavy: null,
  };
}

/** Jars in units of the jar a line's amount is for: 24 of 720 mL are 34.56 of 500 mL. */
const jarsOf = (line: FormulaLine, jars: readonly JarOrder[] = []): number =>
  jars.reduce((sum, jar) => sum + jar.count * (line.perMl ? jar.sizeMl / line.perMl : 1), 0);

/** 1 for a plain line; an exponent bends it away from the reference mass. */
function bend(line: FormulaLine, produceGrams: number, referenceGrams: number): number {
  const exponent = line.exponent ?? 1;
  if (exponent === 1 || !BY_FRACTION.has(line.scaleBy) || produceGrams <= 0) return 1;
  return (produceGrams / referenceGrams) ** (exponent - 1);
}
