import { formatGrams, formatPercent, saltBand, scaleFormula, type Worded } from '@clear-tally/core';
import type { FormulaReply } from '@clear-tally/contract';
import { formulaWords } from './formulaWords';

/** Both are reckoned for as much produce, or their habits could not be told from their sizes. */
export const FOR_GRAMS = 10_000;

/** Said of each formula's own size or order, and no habit. */
const OWN = /^(?:name|order|yields|jar |labour|note|line |produce |salt$|water$)/;

/** What a formula puts into ten kilograms of trimmed produce, and how it is made: what two houses' habits are told by. */
export function habits(formula: FormulaReply): Worded {
  const open = formula.saltFraction === null || formula.saltBasis === null || formula.waterPerProduce === null;
  const scaled = open ? null : scaleFormula({ formula, target: { from: 'trimmed', trimmedGrams: FOR_GRAMS } });
  return [
    ...(scaled
      ? [
          { key: 'salt in water', what: 'Salt in the water phase', words: inWater(scaled.waterPhaseSalt) },
          { key: 'salt', what: 'Salt', words: formatGrams(scaled.saltGrams) },
          { key: 'water', what: 'Water', words: scaled.waterGrams === 0 ? 'none' : formatGrams(scaled.waterGrams) },
          ...scaled.lines
            .filter(({ role }) => role === 'produce' || role === 'ingredient')
            .map((line) => ({
              key: `${line.role} ${line.materialId}`,
              what: line.name,
              words:
                line.grams === null
                  ? 'open'
                  : `${formatGrams(line.grams)}${line.usual ? `, usually ${range(line.usual.least, line.usual.most)}` : ''}`,
            })),
        ]
      : formulaWords(formula).filter(({ key }) => /^(?:salt$|water$|line |produce )/.test(key))),
    ...formulaWords(formula).filter(({ key }) => !OWN.test(key)),
  ];
}

const inWater = (share: number): string => `${formatPercent(share)}, ${saltBand(share)}`;
const range = (least: number | null, most: number | null): string =>
  [least, most].map((end) => (end === null ? '…' : formatGrams(end))).join(' to ');

export interface Habit {
  readonly key: string;
  readonly what: string;
  /** Null: this one has nothing of it. */
  readonly one: string | null;
  readonly other: string | null;
}

/** Line by line, matched by key, in the order of the first; what only the other has comes behind. */
export function besideEachOther(one: Worded, other: Worded): Habit[] {
  const [first, second] = [new Set(one.map(({ key }) => key)), new Map(other.map((line) => [line.key, line]))];
  return [
    ...one.map(({ key, what, words }) => ({ key, what, one: words, other: second.get(key)?.words ?? null })),
    ...other
      .filter(({ key }) => !first.has(key))
      .map(({ key, what, words }) => ({ key, what, one: null, other: words })),
  ];
}
