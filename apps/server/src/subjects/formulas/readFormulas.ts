import type { BodyOf, FormulaReply, FormulasReply } from '@clear-tally/contract';
import { formulaHoles, outsideScope, saltFigure, together } from '@clear-tally/core';
import { and, desc, eq, inArray, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { houseRule } from '../../db/schema/house.js';
import { formula, formulaState, material } from '../../db/schema/stores.js';
import { refused } from '../../journal/refused.js';
import { loadMade } from '../../lots/contents.js';
import { scalable, USUAL_FORM } from '../../lots/scalable.js';
import { learnedYields } from './learnedYields.js';

/** The book: the newest version of each formula, its open holes counted. */
export async function readFormulas(reader: Reader): Promise<FormulasReply> {
  const found = await rows<{
    data: BodyOf<'formula.save'>;
    batches: number;
    retired: boolean | null;
    reason: string | null;
  }>(
    reader,
    sql`
    select distinct on (f.formula_id) f.data, s.retired, s.reason, (select count(*)::int from lot l where l.kind = 'batch' and l.formula_id = f.formula_id) as batches
    from formula f left join formula_state s on s.formula_id = f.formula_id order by f.formula_id, f.version desc`,
  );
  const [heat] = await reader.select().from(houseRule).where(eq(houseRule.rule, 'heat'));
  const groups = new Map(
    (await reader.select({ id: material.id, kind: material.kind, details: material.details }).from(material)).map(
      (row) => [row.id, row],
    ),
  );
  return {
    formulas: found
      .map(({ data, batches, retired, reason }) => ({
        formulaId: data.formulaId,
        number: data.number,
        version: data.version,
        name: data.name,
        style: data.style,
        saltBasis: data.saltBasis,
        saltFraction: data.saltFraction,
        usualDays: data.usualDays,
        batches,
        holes: formulaHoles({
          ...data,
          heated: (data.rules?.['heat'] ?? heat?.option) === 'heat',
          produce: data.produce.map((part) => ({ ...part, name: '' })),
          lines: data.lines.map((line) => ({
            ...line,
            name: '',
            isStarter: groups.get(line.materialId)?.kind === 'starter',
          })),
        }).length,
        retired: retired ? (reason ?? 'no longer made') : null,
        outsideScope:
          outsideScope({
            makes: data.makes,
            groups: data.produce.map((part) => groups.get(part.materialId)?.details.group),
          }) !== null,
      }))
      .sort((a, b) => a.number - b.number),
  };
}

/** One version of a formula with its materials; the newest when none is named. */
export async function readFormula(reader: Reader, formulaId: string, version?: number): Promise<FormulaReply> {
  const [found] = await reader
    .select()
    .from(formula)
    .where(
      version === undefined
        ? eq(formula.formulaId, formulaId)
        : and(eq(formula.formulaId, formulaId), eq(formula.version, version)),
    )
    .orderBy(desc(formula.version))
    .limit(1);
  if (!found) throw refused('formula.unknown', 'This formula is not in the book.');
  const { data } = found;
  const ids = [...data.produce, ...data.lines].map((line) => line.materialId);
  const known = new Map(
    (
      await reader
        .select()
        .from(material)
        .where(inArray(material.id, [...ids, ...(data.saltMaterialId ? [data.saltMaterialId] : [])]))
    ).map((row) => [row.id, row]),
  );
  const ready = await scalable(reader, data);
  const [state] = await reader.select().from(formulaState).where(eq(formulaState.formulaId, formulaId));
  const versions = await rows<{ version: number; at: Date; by: string }>(
    reader,
    sql`
    select f.version, f.saved_at as at, p.initials as by from formula f join person p on p.id = f.by where f.formula_id = ${formulaId} order by 1 desc`,
  );
  return {
    ...data,
    form: data.form ?? USUAL_FORM[data.style],
    referenceGrams: data.referenceGrams ?? 1000,
    variants: data.variants ?? [],
    steps: data.steps ?? [],
    checks: data.checks ?? [],
    rules: data.rules ?? {},
    produce: ready.produce.map(({ group: _, ...part }) => ({
      ...part,
      waterFraction: part.waterFraction!,
      pieceGrams: part.pieceGrams ?? null,
    })),
    lines: data.lines.map((line, index) => {
      const { name, waterFraction, saltFraction, allergens, kind } = known.get(line.materialId)!;
      return {
        ...line,
        pieceName: ready.lines[index]!.pieceName ?? null,
        name,
        waterFraction,
        saltFraction,
        allergens,
        isStarter: kind === 'starter',
      };
    }),
    saltName: data.saltMaterialId ? (known.get(data.saltMaterialId)?.name ?? null) : null,
    pastWaterPhaseSalt: await pastWaterPhaseSalt(reader, formulaId),
    learned: await learnedYields(reader, formulaId),
    versions: versions.map(({ version, at, by }) => ({ version, savedAt: new Date(at).toISOString(), by })),
    retired: state?.retired ? (state.reason ?? 'no longer made') : null,
    outsideScope: outsideScope({ makes: data.makes, groups: ready.produce.map((part) => part.group) }),
  };
}

/** Where the last six batches of a formula evened out: of what went into their vessels, whatever was taken since. */
async function pastWaterPhaseSalt(reader: Reader, formulaId: string): Promise<number[]> {
  const fills = await rows<{ id: string; batchId: string }>(
    reader,
    sql`
    select l.id, l.batch_id as "batchId" from lot l where l.kind = 'fill' and l.batch_id in (
      select b.id from lot b where b.kind = 'batch' and b.origin = 'made' and b.formula_id = ${formulaId} and exists (select 1 from lot x where x.batch_id = b.id and x.kind = 'fill') order by b.seq desc limit 6)
    order by l.seq desc`,
  );
  const made = await loadMade(
    reader,
    fills.map(({ id }) => id),
  );
  return [...groupBy(fills, ({ batchId }) => batchId).values()].flatMap((vessels) => {
    const { waterPhase } = saltFigure(vessels.map(({ id }) => made.get(id)!).reduce(together));
    return waterPhase === null ? [] : [waterPhase];
  });
}
