import { and, desc, eq, sql } from 'drizzle-orm';
import type { FormulaReply, FormulasReply } from '@clear-tally/contract';
import { waterPhaseSalt } from '@clear-tally/core';
import { rows, type Reader } from '../db/database.js';
import { formula, material } from '../db/schema/index.js';
import { refused } from '../record/refused.js';

export async function readFormulas(reader: Reader): Promise<FormulasReply> {
  const found = await rows<{ data: FormulaReply; batches: number }>(reader, sql`
    select distinct on (f.formula_id) f.data, (select count(*)::int from lot l where l.kind = 'batch' and l.formula_id = f.formula_id) as batches
    from formula f order by f.formula_id, f.version desc`);
  return {
    formulas: found.map(({ data, batches }) => ({
      formulaId: data.formulaId, number: data.number, version: data.version, name: data.name, style: data.style, saltBasis: data.saltBasis, saltFraction: data.saltFraction, usualDays: data.usualDays, batches,
    })).sort((a, b) => a.number - b.number),
  };
}

/** One version of a formula with its materials; the newest when none is named. */
export async function readFormula(reader: Reader, formulaId: string, version?: number): Promise<FormulaReply> {
  const [found] = await reader.select().from(formula)
    .where(version === undefined ? eq(formula.formulaId, formulaId) : and(eq(formula.formulaId, formulaId), eq(formula.version, version)))
    .orderBy(desc(formula.version)).limit(1);
  if (!found) throw refused('formula.unknown', 'This formula is not in the book.');
  const known = new Map((await reader.select().from(material)).map((row) => [row.id, row]));
  const { data } = found;
  return {
    ...data,
    produce: data.produce.map((part) => ({ ...part, name: known.get(part.materialId)!.name, waterFraction: known.get(part.materialId)!.waterFraction })),
    lines: data.lines.map((line) => {
      const { name, waterFraction, saltFraction, allergens } = known.get(line.materialId)!;
      return { ...line, name, waterFraction, saltFraction, allergens };
    }),
    pastWaterPhaseSalt: await pastWaterPhaseSalt(reader, formulaId),
  };
}

/** Where the last lots of a formula evened out, from what was really weighed. */
async function pastWaterPhaseSalt(reader: Reader, formulaId: string): Promise<number[]> {
  const found = await rows<{ produce: string | null; produceWater: string | null; salt: string | null; brineWater: string | null; water: string }>(reader, sql`
    select (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind = 'produce.weigh') as produce,
      (select sum(m.milligrams * x.water_fraction) from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = l.id and m.kind = 'produce.weigh') as "produceWater",
      (select sum(m.milligrams) from live_movement m where m.to_lot in (l.id, b.id) and m.kind = 'salt.weigh') as salt,
      (select sum(m.milligrams) from live_movement m where m.to_lot = b.id and m.kind = 'brine.make') as "brineWater",
      (f.data->>'waterPerProduce') as water
    from lot l left join lot b on b.batch_id = l.id and b.kind = 'preparation'
    join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    where l.kind = 'batch' and l.formula_id = ${formulaId} order by l.seq desc limit 6`);
  return found.filter((row) => Number(row.salt) > 0 && Number(row.produce) > 0).map((row) => {
    const poured = Number(row.produce) * Number(row.water);
    const share = Number(row.brineWater) > 0 ? poured / Number(row.brineWater) : 1;
    return waterPhaseSalt({ saltGrams: Number(row.salt) * share, parts: [{ grams: Number(row.produceWater), waterFraction: 1 }, { grams: poured, waterFraction: 1 }] });
  });
}
