import { FORMULA_FORMAT, type FormulaFile } from '@clear-tally/contract';
import { desc, eq, inArray } from 'drizzle-orm';
import { type Reader } from '../../db/database.js';
import { formula, material } from '../../db/schema/stores.js';
import { refused } from '../../journal/refused.js';

/** One formula, or the whole book, in the open format: the newest versions with the materials they name. */
export async function formulaFileOf(reader: Reader, formulaId?: string): Promise<FormulaFile> {
  const found = await reader
    .selectDistinctOn([formula.formulaId], { data: formula.data })
    .from(formula)
    .where(formulaId ? eq(formula.formulaId, formulaId) : undefined)
    .orderBy(formula.formulaId, desc(formula.version));
  if (formulaId && found.length === 0) throw refused('formula.unknown', 'This formula is not in the book.');
  const bodies = found.map(({ data }) => data).sort((a, b) => a.number - b.number);
  const ids = [
    ...new Set(
      bodies.flatMap((body) => [
        ...body.produce.map((part) => part.materialId),
        ...body.lines.map((line) => line.materialId),
        ...(body.saltMaterialId ? [body.saltMaterialId] : []),
      ]),
    ),
  ];
  const known = ids.length === 0 ? [] : await reader.select().from(material).where(inArray(material.id, ids));
  const name = new Map(known.map((row) => [row.id, row.name]));
  return {
    format: FORMULA_FORMAT,
    formatVersion: 1,
    formulas: bodies.map(({ formulaId: _, number: __, version: ___, produce, lines, saltMaterialId, ...body }) => ({
      ...body,
      produce: produce.map(({ materialId, share }) => ({ material: name.get(materialId)!, share })),
      lines: lines.map(({ materialId, ...line }) => ({ material: name.get(materialId)!, ...line })),
      saltMaterial: saltMaterialId ? name.get(saltMaterialId)! : null,
    })),
    materials: known.map(({ id: _, ...row }) => row),
  };
}
