import type { FormulaReply } from '@clear-tally/contract';
import { type ScaledBatch, scaleFormula, type ScaleTarget } from '@clear-tally/core';
import { z } from 'zod';
import type { Reader } from '../db/database.js';
import { refused } from '../journal/refused.js';
import { readFormula } from '../subjects/formulas/readFormulas.js';

/** What a paper is asked for, in the address: `?jars=330x96,720x24` or `?trimmed=4000`. */
export const paperQuery = z.object({
  version: z.coerce.number().int().min(1).optional(),
  jars: z
    .string()
    .max(200)
    .regex(/^\d{2,5}x\d{1,5}(,\d{2,5}x\d{1,5})*$/, 'such as 330x96,720x24')
    .optional(),
  trimmed: z.coerce.number().positive().max(2_000_000).optional(),
  variant: z.string().max(60).optional(),
  vessels: z.coerce.number().int().min(1).max(200).optional(),
  leaf: z.coerce.number().gt(0).max(0.2).optional(),
  aim: z.string().max(200).optional(),
});

export type PaperQuery = z.infer<typeof paperQuery>;

export interface AskedBatch {
  readonly formula: FormulaReply;
  readonly scaled: ScaledBatch;
  readonly target: ScaleTarget;
  readonly query: PaperQuery;
}

/** The batch that a paper is about, scaled here from what the book says. */
export async function askedBatch(reader: Reader, formulaId: string, query: PaperQuery): Promise<AskedBatch> {
  const formula = await readFormula(reader, formulaId, query.version);
  const target = targetOf(formula, query);
  return {
    formula,
    target,
    query,
    scaled: scaleFormula({
      formula,
      target,
      variant: query.variant,
      vesselCount: query.vessels,
      measuredLeafSalt: query.leaf,
    }),
  };
}

function targetOf(formula: FormulaReply, query: PaperQuery): ScaleTarget {
  if (query.trimmed !== undefined) return { from: 'trimmed', trimmedGrams: query.trimmed };
  const wanted = (query.jars ?? '')
    .split(',')
    .filter(Boolean)
    .map((text) => text.split('x').map(Number) as [number, number]);
  const jars = wanted.map(([sizeMl, count]) => {
    const size = formula.jarSizes.find((one) => one.sizeMl === sizeMl);
    if (!size)
      throw refused(
        'formula.unknown',
        `${formula.name} has no jar of ${sizeMl} mL. Its sizes are ${formula.jarSizes.map((one) => `${one.sizeMl} mL`).join(', ')}.`,
        { field: 'jars' },
      );
    return { sizeMl, count, fillGrams: size.fillGrams };
  });
  return jars.length > 0 ? { from: 'jars', jars } : { from: 'trimmed', trimmedGrams: formula.referenceGrams };
}
