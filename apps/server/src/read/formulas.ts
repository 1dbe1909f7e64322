import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import type { BodyOf, FormulaReply, FormulasReply } from '@clear-tally/contract';
import { formulaHoles, outsideScope, waterPhaseSalt } from '@clear-tally/core';
import { rows, type Reader } from '../db/database.js';
import { formula, formulaState, material } from '../db/schema/index.js';
import { refused } from '../record/refused.js';
import { learnedYields } from './learnedYields.js';
import { scalable, USUAL_FORM } from './scalable.js';

/** The book: the newest version of each formula, its open holes counted. */
export async function readFormulas(reader: Reader): Promise<FormulasReply> {
  const found = await rows<{ data: BodyOf<'formula.save'>; batches: number; retired: boolean | null; reason: string | null }>(reader, sql`
    select distinct on (f.formula_id) f.data, s.retired, s.reason, (select count(*)::int from lot l where l.kind = 'batch' and l.formula_id = f.formula_id) as batches
    from formula f left join formula_state s on s.formula_id = f.formula_id order by f.formula_id, f.version desc`);
  const groups = new Map((await reader.select({ id: material.id, kind: material.kind, details: material.details }).from(material)).map((row) => [row.id, row]));
  return {
    formulas: found.map(({ data, batches, retired, reason }) => ({
      formulaId: data.formulaId, number: data.number, version: data.version, name: data.name, style: data.style, saltBasis: data.saltBasis, saltFraction: data.saltFraction, usualDays: data.usualDays, batches,
      holes: formulaHoles({ ...data, produce: data.produce.map((part) => ({ ...part, name: '' })), lines: data.lines.map((line) => ({ ...line, name: '', isStarter: groups.get(line.materialId)?.kind === 'starter' })) }).length,
      retired: retired ? (reason ?? 'no longer made') : null,
      outsideScope: outsideScope({ makes: data.makes, groups: data.produce.map((part) => groups.get(part.materialId)?.details.group) }) !== null,
    })).sort((a, b) => a.number - b.number),
  };
}

/** One version of a formula with its materials; the newest when none is named. */
export async function readFormula(reader: Reader, formulaId: string, version?: number): Promise<FormulaReply> {
  const [found] = await reader.select().from(formula)
    .where(version === undefined ? eq(formula.formulaId, formulaId) : and(eq(formula.formulaId, formulaId), eq(formula.version, version)))
    .orderBy(desc(formula.version)).limit(1);
  if (!found) throw refused('formula.unknown', 'This formula is not in the book.');
  const { data } = found;
  const ids = [...data.produce, ...data.lines].map((line) => line.materialId);
  const known = new Map((await reader.select().from(material).where(inArray(material.id, [...ids, ...(data.saltMaterialId ? [data.saltMaterialId] : [])]))).map((row) => [row.id, row]));
  const ready = await scalable(reader, data);
  const [state] = await reader.select().from(formulaState).where(eq(formulaState.formulaId, formulaId));
  const versions = await rows<{ version: number; at: Date; by: string }>(reader, sql`
    select f.version, f.saved_at as at, p.initials as by from formula f join person p on p.id = f.by where f.formula_id = ${formulaId} order by 1 desc`);
  return {
    ...data,
    form: data.form ?? USUAL_FORM[data.style], referenceGrams: data.referenceGrams ?? 1000, variants: data.variants ?? [], steps: data.steps ?? [], checks: data.checks ?? [], rules: data.rules ?? {},
    produce: ready.produce.map(({ group: _, ...part }) => ({ ...part, waterFraction: part.waterFraction!, pieceGrams: part.pieceGrams ?? null })),
    lines: data.lines.map((line, index) => {
      const { name, waterFraction, saltFraction, allergens, kind } = known.get(line.materialId)!;
      return { ...line, pieceName: ready.lines[index]!.pieceName ?? null, name, waterFraction, saltFraction, allergens, isStarter: kind === 'starter' };
    }),
    saltName: data.saltMaterialId ? (known.get(data.saltMaterialId)?.name ?? null) : null,
    pastWaterPhaseSalt: await pastWaterPhaseSalt(reader, formulaId),
    learned: await learnedYields(reader, formulaId),
    versions: versions.map(({ version, at, by }) => ({ version, savedAt: new Date(at).toISOString(), by })),
    retired: state?.retired ? (state.reason ?? 'no longer made') : null,
    outsideScope: outsideScope({ makes: data.makes, groups: ready.produce.map((part) => part.group) }),
  };
}

/** Where the last lots of a formula evened out, from what was really weighed. A rinsed leaf is not told by what was weighed. */
async function pastWaterPhaseSalt(reader: Reader, formulaId: string): Promise<number[]> {
  const found = await rows<{ produce: string | null; produceWater: string | null; salt: string | null; brineWater: string | null; water: string | null; heavy: boolean }>(reader, sql`
    select (select sum(m.milligrams) from live_movement m where m.to_lot = l.id and m.kind = 'produce.weigh') as produce,
      (select sum(m.milligrams * x.water_fraction) from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = l.id and m.kind = 'produce.weigh') as "produceWater",
      (select sum(m.milligrams) from live_movement m where m.to_lot in (l.id, b.id) and m.kind = 'salt.weigh') as salt,
      (select sum(m.milligrams) from live_movement m where m.to_lot = b.id and m.kind = 'brine.make') as "brineWater",
      (f.data->>'waterPerProduce') as water, jsonb_typeof(f.data->'heavy') = 'object' as heavy
    from lot l left join lot b on b.batch_id = l.id and b.kind = 'preparation'
    join formula f on f.formula_id = l.formula_id and f.version = l.formula_version
    where l.kind = 'batch' and l.formula_id = ${formulaId} order by l.seq desc limit 6`);
  return found.filter((row) => Number(row.salt) > 0 && Number(row.produce) > 0 && !row.heavy).map((row) => {
    const poured = Number(row.produce) * Number(row.water ?? 0);
    const share = Number(row.brineWater) > 0 ? poured / Number(row.brineWater) : 1;
    return waterPhaseSalt({ saltGrams: Number(row.salt) * share, parts: [{ grams: Number(row.produceWater), waterFraction: 1 }, { grams: poured, waterFraction: 1 }] });
  });
}
