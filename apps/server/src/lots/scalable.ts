import type { BodyOf } from '@clear-tally/contract';
import type { ProducePart, ScalableFormula } from '@clear-tally/core';
import { eq, inArray } from 'drizzle-orm';
import type { Reader } from '../db/database.js';
import { houseRule } from '../db/schema/house.js';
import { material } from '../db/schema/stores.js';

/** Ready for core, with what the scope asks of its main produce. */
export type ReadyFormula = Omit<ScalableFormula, 'produce'> & {
  readonly produce: readonly (ProducePart & { readonly group: string | null })[];
};

/** A formula with the names and properties of its materials, ready for core. */
export async function scalable(reader: Reader, data: BodyOf<'formula.save'>): Promise<ReadyFormula> {
  const ids = [...new Set([...data.produce, ...data.lines].map((line) => line.materialId))];
  const known = new Map(
    (await reader.select().from(material).where(inArray(material.id, ids))).map((row) => [row.id, row]),
  );
  const [heat] = await reader.select().from(houseRule).where(eq(houseRule.rule, 'heat'));
  return {
    saltBasis: data.saltBasis,
    saltFraction: data.saltFraction,
    waterPerProduce: data.waterPerProduce,
    solidsFraction: data.solidsFraction,
    yields: data.yields,
    form: data.form ?? USUAL_FORM[data.style],
    heavy: data.heavy ?? null,
    heated: (data.rules?.['heat'] ?? heat?.option) === 'heat',
    steps: data.steps ?? [],
    referenceGrams: data.referenceGrams,
    produce: data.produce.map((part) => {
      const { name, waterFraction, details } = known.get(part.materialId)!;
      return { ...part, name, waterFraction, pieceGrams: details.pieceGrams ?? null, group: details.group ?? null };
    }),
    lines: data.lines.map((line) => {
      const { name, waterFraction, saltFraction, kind, details } = known.get(line.materialId)!;
      return {
        ...line,
        name,
        waterFraction,
        saltFraction,
        isStarter: kind === 'starter',
        pieceName: line.pieceName ?? details.pieceName ?? null,
      };
    }),
  };
}

/** How produce of a style packs, when the formula does not say. */
export const USUAL_FORM = {
  dryShred: 'shred',
  brinedWhole: 'wholeSmall',
  brinedMash: 'mash',
  heavySaltPaste: 'leaf',
  drySaltedFruit: 'berries',
} as const;
