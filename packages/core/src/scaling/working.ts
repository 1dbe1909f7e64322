import type { SaltBasis } from '../salt/bases.js';
import type { WaterPhasePart } from '../salt/waterPhase.js';
import { formatGrams, formatPercent } from '../units/format.js';
import type { FormulaLine, ProducePart, ScalableFormula, ScaleTarget } from './formula.js';
import type { YieldChain } from './yieldChain.js';

/** How a number came about: the rule, the figures put in, the answer, and where each figure comes from. */
export interface Working {
  readonly rule: string;
  readonly figures: string;
  readonly answer: string;
  readonly sources: readonly { readonly what: string; readonly from: string }[];
}

export const BASIS_WORDS: Record<SaltBasis, string> = {
  ofVegetable: 'of the vegetable',
  ofWater: 'of the water',
  ofSolution: 'of the brine',
  ofEverything: 'of everything',
};

const BASIS_RULES: Record<SaltBasis, string> = {
  ofVegetable: 'salt = p × trimmed produce',
  ofWater: 'salt = p × water',
  ofSolution: 'salt = water × p ÷ (1 − p)',
  ofEverything: 'salt = p × (trimmed produce + water)',
};

const kg = (grams: number): string => `${(grams / 1000).toFixed(3)} kg`;
const plain = (value: number): string => String(Number(value.toPrecision(4)));

/** The salt working on its own, for the bench where the actual weight has replaced the plan. */
export function saltWorking(input: {
  basis: SaltBasis; saltFraction: number; vegetableGrams: number; waterGrams: number; saltGrams: number; vegetableFrom: string; waterFrom: string;
}): Working {
  const { basis, saltFraction: p, vegetableGrams: v, waterGrams: w } = input;
  const figures = {
    ofVegetable: `${plain(p)} × ${kg(v)}`,
    ofWater: `${plain(p)} × ${kg(w)}`,
    ofSolution: `${kg(w)} × ${plain(p)} ÷ ${plain(1 - p)}`,
    ofEverything: `${plain(p)} × (${kg(v)} + ${kg(w)})`,
  }[basis];
  return {
    rule: BASIS_RULES[basis],
    figures,
    answer: `${input.saltGrams.toFixed(1)} g`,
    sources: [
      { what: `p ${formatPercent(p, 1)}`, from: `${BASIS_WORDS[basis]}, from the formula` },
      { what: `produce ${formatGrams(v)}`, from: input.vegetableFrom },
      ...(basis === 'ofVegetable' ? [] : [{ what: `water ${formatGrams(w)}`, from: input.waterFrom }]),
    ],
  };
}

/** Words for every figure of a scaled batch. */
export function sayWorking(input: {
  formula: ScalableFormula; target: ScaleTarget; chain: YieldChain; waterGrams: number; salt: number; wps: number; parts: readonly WaterPhasePart[];
}) {
  const { formula, target, chain, waterGrams, salt, wps, parts } = input;
  const { yields } = formula;
  const v = chain.trimmedGrams;
  const yieldSource = (name: string, value: number) => ({ what: `${name} yield ${plain(value)}`, from: 'formula default' });
  const planned = target.from === 'jars' ? 'from the jars wanted' : 'typed';
  return {
    trimmed: (): Working =>
      target.from === 'trimmed'
        ? { rule: 'trimmed produce, as typed', figures: kg(v), answer: formatGrams(v), sources: [{ what: `produce ${formatGrams(v)}`, from: 'typed' }] }
        : {
            rule: 'trimmed = jars × fill × solids ÷ pack yield ÷ ferment yield',
            figures: `${target.jars.map((jar) => `${jar.count} × ${jar.fillGrams} g`).join(' + ')} = ${kg(chain.filledGrams)}; × ${plain(formula.solidsFraction)} ÷ ${plain(yields.pack)} ÷ ${plain(yields.ferment)}`,
            answer: formatGrams(v),
            sources: [
              ...target.jars.map((jar) => ({ what: `${jar.count} jars of ${jar.sizeMl} mL`, from: 'typed' })),
              { what: `solids ${plain(formula.solidsFraction)}`, from: 'formula default' },
              yieldSource('pack', yields.pack),
              yieldSource('ferment', yields.ferment),
            ],
          },
    bought: (): Working => ({
      rule: 'to buy = trimmed ÷ trim yield',
      figures: `${kg(v)} ÷ ${plain(yields.trim)}`,
      answer: formatGrams(chain.boughtGrams),
      sources: [{ what: `trimmed ${formatGrams(v)}`, from: planned }, yieldSource('trim', yields.trim)],
    }),
    produce: (part: ProducePart, grams: number): Working => ({
      rule: 'share of the trimmed produce',
      figures: `${plain(part.share)} × ${kg(v)}`,
      answer: formatGrams(grams),
      sources: [{ what: `share ${formatPercent(part.share, 0)}`, from: 'formula' }, { what: `trimmed ${formatGrams(v)}`, from: planned }],
    }),
    water: (): Working => ({
      rule: 'water = trimmed produce × water per produce',
      figures: `${kg(v)} × ${plain(formula.waterPerProduce)}`,
      answer: formatGrams(waterGrams),
      sources: [{ what: `water per produce ${plain(formula.waterPerProduce)}`, from: 'formula' }],
    }),
    salt: (): Working =>
      saltWorking({
        basis: formula.saltBasis, saltFraction: formula.saltFraction, vegetableGrams: v, waterGrams, saltGrams: salt,
        vegetableFrom: planned, waterFrom: 'formula, per produce',
      }),
    ingredient: (line: FormulaLine, base: number, grams: number): Working => {
      const on = { mainMass: 'the trimmed produce', everything: 'produce and water', saltMass: 'the salt', batch: 'the batch' }[line.scaleBy];
      return line.scaleBy === 'batch'
        ? { rule: 'the same for every batch', figures: formatGrams(line.amount), answer: formatGrams(grams), sources: [{ what: formatGrams(line.amount), from: 'formula' }] }
        : {
            rule: `a fraction of ${on}`,
            figures: `${plain(line.amount)} × ${kg(base)}`,
            answer: formatGrams(grams),
            sources: [{ what: `${plain(line.amount * 1000)} g per kg`, from: 'formula' }, { what: `${on} ${formatGrams(base)}`, from: 'this batch' }],
          };
    },
    waterPhaseSalt: (): Working => ({
      rule: 'water-phase salt = salt ÷ (salt + all water)',
      figures: `${salt.toFixed(1)} g ÷ (${salt.toFixed(1)} g + ${parts.reduce((sum, part) => sum + part.grams * part.waterFraction, 0).toFixed(0)} g)`,
      answer: formatPercent(wps),
      sources: [{ what: 'water in produce and ingredients', from: 'water fraction of each material' }, { what: `added water ${formatGrams(waterGrams)}`, from: 'this batch' }],
    }),
  };
}
