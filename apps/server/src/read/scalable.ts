import { inArray } from 'drizzle-orm';
import type { BodyOf } from '@clear-tally/contract';
import type { ScalableFormula } from '@clear-tally/core';
import type { Reader } from '../db/database.js';
import { material } from '../db/schema/index.js';

/** A formula with the names and properties of its materials, ready for core. */
export async function scalable(reader: Reader, data: BodyOf<'formula.save'>): Promise<ScalableFormula> {
  const ids = [...new Set([...data.produce, ...data.lines].map((line) => line.materialId))];
  const known = new Map((await reader.select().from(material).where(inArray(material.id, ids))).map((row) => [row.id, row]));
  return {
    saltBasis: data.saltBasis, saltFraction: data.saltFraction, waterPerProduce: data.waterPerProduce, solidsFraction: data.solidsFraction, yields: data.yields,
    produce: data.produce.map((part) => ({ ...part, name: known.get(part.materialId)!.name, waterFraction: known.get(part.materialId)!.waterFraction })),
    lines: data.lines.map((line) => ({
      ...line, name: known.get(line.materialId)!.name, waterFraction: known.get(line.materialId)!.waterFraction, saltFraction: known.get(line.materialId)!.saltFraction,
    })),
  };
}
