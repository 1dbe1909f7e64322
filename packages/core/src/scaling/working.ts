import type { SaltBasis } from '../salt/bases.js';
import { formatGrams, formatPercent } from '../units/format.js';
import type { Amounts } from './amounts.js';
import {
  SCALE_WORDS,
  BY_FRACTION,
  type FormulaLine,
  type ProducePart,
  type ScalableFormula,
  type ScaleTarget,
} from './formula.js';
import { mlPerTrimmedGram } from './reachTarget.js';
import type { YieldChain, Yields } from './yieldChain.js';

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
  basis: SaltBasis;
  saltFraction: number;
  vegetableGrams: number;
  waterGrams: number;
  saltGrams: number;
  vegetableFrom: string;
  waterFrom: string;
  fractionFrom?: string;
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
      { what: `p ${formatPercent(p, 1)}`, from: `${BASIS_WORDS[basis]}, ${input.fractionFrom ?? 'from the formula'}` },
      { what: `produce ${formatGrams(v)}`, from: input.vegetableFrom },
      ...(basis === 'ofVegetable' ? [] : [{ what: `water ${formatGrams(w)}`, from: input.waterFrom }]),
    ],
  };
}

/** Where a yield comes from, when it is not the formula's own: "typed", "median of 5 lots, 0.78 to 0.83". */
export type YieldSources = Partial<Record<keyof Yields, string>>;

/** Words for every figure of a scaled batch. */
export function sayWorking(input: {
  formula: ScalableFormula;
  target: ScaleTarget;
  chain: YieldChain;
  amounts: Amounts;
  yieldSources: YieldSources;
}) {
  const { formula, target, chain, amounts } = input;
  const { waterGrams, saltGrams: salt, waterPhaseSalt: wps, parts, heavy } = amounts;
  const { yields } = formula;
  const v = chain.trimmedGrams;
  const yieldSource = (name: keyof Yields) => ({
    what: `${name} yield ${plain(yields[name] ?? 1)}`,
    from: input.yieldSources[name] ?? 'formula default',
  });
  const planned = {
    jars: 'from the jars wanted',
    trimmed: 'typed',
    bought: 'from what was bought',
    vessels: 'from the room in the vessels',
    stock: 'from the stock at hand',
  }[target.from];
  const trimmed = (): Working => {
    const answer = formatGrams(v);
    switch (target.from) {
      case 'trimmed':
        return {
          rule: 'trimmed produce, as typed',
          figures: kg(v),
          answer,
          sources: [{ what: `produce ${formatGrams(v)}`, from: 'typed' }],
        };
      case 'bought':
        return {
          rule: 'trimmed = bought × trim yield',
          figures: `${kg(target.boughtGrams)} × ${plain(yields.trim)}`,
          answer,
          sources: [{ what: `bought ${formatGrams(target.boughtGrams)}`, from: 'typed' }, yieldSource('trim')],
        };
      case 'vessels': {
        const ml = mlPerTrimmedGram(formula);
        return {
          rule: 'trimmed = usable room of the vessels ÷ room of a kg with its brine',
          figures: `${((v * ml) / 1000).toFixed(2)} L ÷ ${ml.toFixed(3)} L per kg`,
          answer,
          sources: [
            ...target.vessels.map((vessel) => ({
              what: `${vessel.tag} ${((vessel.brimMl * vessel.maxFill - vessel.weightVolumeMl) / 1000).toFixed(2)} L`,
              from: `${(vessel.brimMl / 1000).toFixed(1)} L × ${plain(vessel.maxFill)} less ${plain(vessel.weightVolumeMl)} mL of weights`,
            })),
            { what: 'room of a kg', from: 'density of the form and the formula’s brine' },
          ],
        };
      }
      case 'stock':
        return {
          rule: 'as much as the stock allows',
          figures: formatGrams(target.grams),
          answer,
          sources: [{ what: `stock ${formatGrams(target.grams)}`, from: 'on hand' }, yieldSource('trim')],
        };
      case 'jars':
        return {
          rule: `trimmed = jars × fill × solids ÷ pack yield ÷ ${yields.finish === undefined ? '' : 'finish yield ÷ '}ferment yield`,
          figures: `${target.jars.map((jar) => `${jar.count} × ${jar.fillGrams} g`).join(' + ')} = ${kg(chain.filledGrams)}; × ${plain(formula.solidsFraction)} ÷ ${plain(yields.pack)} ÷ ${yields.finish === undefined ? '' : `${plain(yields.finish)} ÷ `}${plain(yields.ferment)}`,
          answer,
          sources: [
            ...target.jars.map((jar) => ({ what: `${jar.count} jars of ${jar.sizeMl} mL`, from: 'typed' })),
            { what: `solids ${plain(formula.solidsFraction)}`, from: 'formula default' },
            yieldSource('pack'),
            ...(yields.finish === undefined ? [] : [yieldSource('finish')]),
            yieldSource('ferment'),
          ],
        };
    }
  };
  return {
    trimmed,
    bought: (): Working => ({
      rule: 'to buy = trimmed ÷ trim yield',
      figures: `${kg(v)} ÷ ${plain(yields.trim)}`,
      answer: formatGrams(chain.boughtGrams),
      sources: [{ what: `trimmed ${formatGrams(v)}`, from: planned }, yieldSource('trim')],
    }),
    produce: (part: ProducePart, grams: number): Working => ({
      rule: 'share of the trimmed produce',
      figures: `${plain(part.share)} × ${kg(v)}`,
      answer: formatGrams(grams),
      sources: [
        { what: `share ${formatPercent(part.share, 0)}`, from: 'formula' },
        { what: `trimmed ${formatGrams(v)}`, from: planned },
      ],
    }),
    water: (): Working => ({
      rule: 'water = trimmed produce × water per produce',
      figures: `${kg(v)} × ${plain(formula.waterPerProduce ?? 0)}`,
      answer: formatGrams(waterGrams),
      sources: [{ what: `water per produce ${plain(formula.waterPerProduce ?? 0)}`, from: 'formula' }],
    }),
    salt: (): Working =>
      formula.saltBasis === null || formula.saltFraction === null
        ? {
            rule: 'the salt is not settled',
            figures: 'nothing to multiply yet',
            answer: 'open',
            sources: [{ what: 'salt', from: 'left open by the recipe: edit the formula' }],
          }
        : saltWorking({
            basis: formula.saltBasis,
            saltFraction: formula.saltFraction,
            vegetableGrams: v,
            waterGrams,
            saltGrams: salt,
            vegetableFrom: planned,
            waterFrom: 'formula, per produce',
          }),
    pasteSalt: (): Working => {
      const h = heavy!;
      const water = parts.reduce((sum, part) => sum + part.grams * part.waterFraction, 0);
      return {
        rule: 'salt for the paste = wanted × (all salt + water) less the salt that is in',
        figures: `leaf ${formatPercent(h.leafSalt)} after its rinses; with the paste ${formatPercent(h.without)} of ${water.toFixed(0)} g water; wanted ${formatPercent(formula.heavy!.wanted)}`,
        answer: formatGrams(h.pasteSaltGrams),
        sources: [
          {
            what: `leaf ${formatPercent(h.leafSalt)}`,
            from: h.measured
              ? 'measured on the drained juice, in place of the estimate'
              : `estimate, ${formatPercent(h.band.least, 1)} to ${formatPercent(h.band.most, 1)}: measure the drained juice`,
          },
          {
            what: `drained ${formatGrams(h.drainedGrams)}`,
            from: `drain yield ${plain(formula.heavy!.drainYield)}, formula`,
          },
        ],
      };
    },
    ingredient: (line: FormulaLine, base: number, grams: number | null, pieces: number | null): Working => {
      if (grams === null && line.scaleBy === 'jar' && line.amount !== null)
        return {
          rule: `${plain(line.amount)} g per jar${line.perMl ? ` of ${line.perMl} mL` : ''}`,
          figures: 'no jars are named yet',
          answer: 'depends on jars',
          sources: [{ what: line.name, from: 'formula' }],
        };
      if (grams === null)
        return {
          rule: line.scaleBy === 'toTaste' ? 'to taste: what goes in is weighed and recorded' : 'no amount is settled',
          figures: line.written ?? 'nothing to multiply yet',
          answer: line.scaleBy === 'toTaste' ? 'to taste' : 'open',
          sources: [{ what: line.written ?? line.name, from: 'formula' }],
        };
      const rounded =
        pieces === null ? [] : [{ what: `${pieces} × ${plain(line.pieceGrams!)} g`, from: 'rounded to whole pieces' }];
      const bent =
        line.exponent !== undefined && line.exponent !== 1
          ? [
              {
                what: `twice the batch takes ${plain(2 ** line.exponent)} times as much`,
                from: `larger batches take ${line.exponent < 1 ? 'less' : 'more'} of it in this house, counted from ${formatGrams(formula.referenceGrams ?? 1000)}`,
              },
            ]
          : [];
      if (line.scaleBy === 'batch')
        return {
          rule: 'the same for every batch',
          figures: formatGrams(line.amount!),
          answer: formatGrams(grams),
          sources: [{ what: formatGrams(line.amount!), from: 'formula' }, ...rounded],
        };
      const on = {
        mainMass: 'the trimmed produce',
        everything: 'produce and water',
        saltMass: 'the salt',
        vesselVolume: 'the filled litres',
        vessel: 'the vessels',
        jar: 'the jars',
        batch: '',
        finishedMass: 'the finished mass',
        toTaste: '',
      }[line.scaleBy];
      if (!BY_FRACTION.has(line.scaleBy)) {
        const per = line.scaleBy === 'jar' && line.perMl ? ` of ${line.perMl} mL` : '';
        return {
          rule: SCALE_WORDS[line.scaleBy],
          figures: `${plain(line.amount!)} g × ${plain(base)}`,
          answer: formatGrams(grams),
          sources: [
            { what: `${plain(line.amount!)} g${per}`, from: 'formula' },
            { what: `${on} ${plain(base)}`, from: 'this batch' },
            ...rounded,
          ],
        };
      }
      return {
        rule: `a fraction of ${on}`,
        figures: `${plain(line.amount!)} × ${kg(base)}`,
        answer: formatGrams(grams),
        sources: [
          { what: `${plain(line.amount! * 1000)} g per kg`, from: 'formula' },
          { what: `${on} ${formatGrams(base)}`, from: 'this batch' },
          ...bent,
          ...rounded,
        ],
      };
    },
    waterPhaseSalt: (): Working => {
      const water = parts.reduce((sum, part) => sum + part.grams * part.waterFraction, 0);
      const all = wps < 1 ? (wps / (1 - wps)) * water : 0;
      return {
        rule: 'water-phase salt = salt ÷ (salt + all water)',
        figures: `${all.toFixed(1)} g ÷ (${all.toFixed(1)} g + ${water.toFixed(0)} g)`,
        answer: formatPercent(wps),
        sources: [
          { what: 'water in produce and ingredients', from: 'water fraction of each material' },
          { what: `added water ${formatGrams(waterGrams)}`, from: 'this batch' },
          ...(all - salt > 0.5 && !heavy
            ? [{ what: `salt ${formatGrams(all - salt)}`, from: 'brought by other ingredients' }]
            : []),
        ],
      };
    },
  };
}
