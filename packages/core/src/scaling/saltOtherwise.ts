import { SALT_BASES, saltOnAllBases } from '../salt/bases.js';
import { formatPercent } from '../units/format.js';
import { BASIS_WORDS } from './working.js';

/**
 * One salt mass on every basis that has a figure, and on the total mass, in words: formulas, worksheets and tools say it
 * alike, and the last of them is what a vessel's own figure is compared with. Source: handbook 2.1.
 * @param input.vegetableGrams null where nobody has said it: nothing that rests on it is said
 * @example saltOtherwise({ vegetableGrams: 10_000, waterGrams: 0, saltGrams: 220 })
 * //=> ['2.20 % of the vegetable', '2.20 % of everything', '2.15 % of the total mass']
 */
export function saltOtherwise(input: {
  vegetableGrams: number | null;
  waterGrams: number;
  saltGrams: number;
}): string[] {
  const known = input.vegetableGrams !== null;
  const all = saltOnAllBases({ ...input, vegetableGrams: input.vegetableGrams ?? 0 });
  return [
    ...SALT_BASES.map((basis) =>
      all[basis] === null || (basis === 'ofEverything' && !known)
        ? null
        : `${formatPercent(all[basis])} ${BASIS_WORDS[basis]}`,
    ),
    all.ofTotal === null || !known ? null : `${formatPercent(all.ofTotal)} of the total mass`,
  ].filter((one) => one !== null);
}
