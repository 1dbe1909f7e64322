import type { BodyOf } from '@clear-tally/contract';
import { usualChecks } from '@clear-tally/core';

type Formula = BodyOf<'formula.save'>;

/** Three neutral beginnings: a usual salt in the middle of the trade's range, and nothing that is anybody's own. */
export const STYLES = [
  { key: 'shred', words: 'Shred, in its own juice' },
  { key: 'brine', words: 'Whole or in pieces, in brine' },
  { key: 'mash', words: 'Mash' },
] as const;
export type StyleKey = (typeof STYLES)[number]['key'];

const OF: Readonly<
  Record<
    StyleKey,
    Pick<
      Formula,
      'style' | 'form' | 'saltBasis' | 'saltFraction' | 'waterPerProduce' | 'solidsFraction' | 'usualDays'
    > & {
      readonly words: string;
      readonly firstTaste: number;
    }
  >
> = {
  shred: {
    words: 'shred',
    style: 'dryShred',
    form: 'shred',
    saltBasis: 'ofVegetable',
    saltFraction: 0.022,
    waterPerProduce: 0,
    solidsFraction: 1,
    usualDays: 28,
    firstTaste: 14,
  },
  brine: {
    words: 'in brine',
    style: 'brinedWhole',
    form: 'wholeSmall',
    saltBasis: 'ofEverything',
    saltFraction: 0.026,
    waterPerProduce: 0.7,
    solidsFraction: 0.58,
    usualDays: 21,
    firstTaste: 7,
  },
  mash: {
    words: 'mash',
    style: 'brinedMash',
    form: 'mash',
    saltBasis: 'ofEverything',
    saltFraction: 0.03,
    waterPerProduce: 0.12,
    solidsFraction: 1,
    usualDays: 30,
    firstTaste: 14,
  },
};

export function firstFormula(of: {
  readonly style: StyleKey;
  readonly formulaId: string;
  readonly number: number;
  readonly produceId: string;
  readonly produceName: string;
  readonly saltId: string;
}): Formula {
  const { words, firstTaste, ...figures } = OF[of.style];
  return {
    formulaId: of.formulaId,
    number: of.number,
    version: 1,
    name: `${of.produceName}, ${words}`,
    ...figures,
    saltMaterialId: of.saltId,
    produce: [{ materialId: of.produceId, share: 1 }],
    lines: [],
    yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
    jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
    checks: usualChecks(firstTaste),
    note: 'A beginning: salt, yields and days are usual values. Put your own in.',
  };
}
