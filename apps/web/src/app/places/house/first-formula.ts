import type { BodyOf } from '@clear-tally/contract';
import { type Beginning, BEGINNINGS, usualChecks } from '@clear-tally/core';

type Formula = BodyOf<'formula.save'>;

/** Three neutral beginnings: a usual salt in the middle of the trade's range, and nothing that is anybody's own. */
export const STYLES = [
  { key: 'shred', words: 'Shred, in its own juice' },
  { key: 'brine', words: 'Whole or in pieces, in brine' },
  { key: 'mash', words: 'Mash' },
] as const satisfies readonly { key: Beginning; words: string }[];
export type StyleKey = Beginning;

/** How such a formula's name ends where nobody gives it one. */
const ENDS: Readonly<Record<Beginning, string>> = { shred: 'shred', brine: 'in brine', mash: 'mash' };

export function firstFormula(of: {
  readonly style: StyleKey;
  readonly formulaId: string;
  readonly number: number;
  readonly produceId: string;
  readonly produceName: string;
  readonly saltId: string;
}): Formula {
  const { words: _, firstTaste, ...figures } = BEGINNINGS[of.style];
  return {
    formulaId: of.formulaId,
    number: of.number,
    version: 1,
    name: `${of.produceName}, ${ENDS[of.style]}`,
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
