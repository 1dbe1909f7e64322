import { formatGrams, runSheet, saltAtScale, type SheetLine, type SheetStep } from '@clear-tally/core';
import { inArray, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { material } from '../../db/schema/stores.js';
import type { BatchState } from '../../lots/batchSalt.js';
import { onHandMg } from '../../lots/lotFigures.js';
import type { LotRow } from '../../lots/lots.js';
import { USUAL_FORM } from '../../lots/scalable.js';
import { type StepStanding, standingSteps } from '../../lots/stepMarks.js';
import { sheetLines } from './sheetLines.js';

export type StandingStep = SheetStep & StepStanding;

export interface Sheet {
  readonly steps: readonly StandingStep[];
  readonly lines: readonly SheetLine[];
  readonly inBowlsGrams: number;
  readonly fills: number;
}

/** The steps of a batch, without how they stand. */
export async function stepsOf(reader: Reader, batch: LotRow, formula: BatchState['formula']): Promise<SheetStep[]> {
  const mixed = formula.lines
    .map((line, index) => ({ ...line, index }))
    .filter((line) => isMixed(line) && inVariant(line, batch.variant));
  const ids = [
    ...new Set([...formula.produce.map((part) => part.materialId), ...mixed.map((line) => line.materialId)]),
  ];
  const known = new Map(
    (await reader.select().from(material).where(inArray(material.id, ids))).map((row) => [row.id, row]),
  );
  const cautions = (materialIds: readonly string[]): string[] =>
    materialIds.flatMap((id) => {
      const row = known.get(id);
      return row?.caution ? [`${row.name}: ${row.caution}`] : [];
    });
  const starters = mixed.filter((line) => known.get(line.materialId)?.kind === 'starter');
  const others = mixed.filter((line) => known.get(line.materialId)?.kind !== 'starter');
  return runSheet({
    brined: (formula.waterPerProduce ?? 0) > 0,
    heavy: !!formula.heavy,
    form: formula.form ?? USUAL_FORM[formula.style],
    steps: formula.steps ?? [],
    hasFlavourings: others.length > 0,
    hasStarter: starters.length > 0,
    rules: batch.rules ?? {},
    materialCautions: {
      weigh: cautions(formula.produce.map((part) => part.materialId)),
      flavour: cautions(others.map((line) => line.materialId)),
      starter: cautions(starters.map((line) => line.materialId)),
    },
  });
}

/** The run sheet of a batch as it stands: who did what, what is open, how long it took. */
export async function readSheet(reader: Reader, batch: LotRow, state: BatchState): Promise<Sheet> {
  const steps = await stepsOf(reader, batch, state.formula);
  const lines = await sheetLines(reader, batch, state);
  const [counts] = await rows<{
    mg: string;
    fills: number;
    produce: string[] | null;
    started: boolean;
    soured: boolean;
    drained: boolean;
  }>(
    reader,
    sql`
    select ${onHandMg(sql`${batch.id}`)} as mg, (select count(*)::int from lot where batch_id = ${batch.id} and kind = 'fill') as fills,
      exists (select 1 from live_movement m join lot l on l.id = m.from_lot left join material x on x.id = l.material_id where m.to_lot = ${batch.id} and m.kind = 'ingredient.add' and (l.kind = 'fill' or l.form = 'keptBrine' or x.kind = 'starter')) as started,
      exists (select 1 from live_movement m join lot l on l.id = m.from_lot where m.to_lot = ${batch.id} and m.kind = 'ingredient.add' and l.material_id in (select id from material where details->>'standsFor' = 'vinegar')) as soured,
      exists (select 1 from leaf_log where batch_id = ${batch.id} and what = 'drain') as drained,
      (select array_agg(distinct l.material_id::text) from live_movement m join lot l on l.id = m.from_lot where m.to_lot = ${batch.id} and m.kind = 'produce.weigh') as produce`,
  );
  const inBowlsGrams = toGrams(counts!.mg);
  const starterIds = new Set(await starterMaterials(reader, lines));
  const weighed: Partial<Record<SheetStep['station'], boolean>> = {
    weigh: state.formula.produce.every((part) => counts!.produce?.includes(part.materialId)),
    water: state.waterGrams > 0 && (state.brineWaterGrams ?? 0) >= state.waterGrams * 0.999,
    salt: saltIsIn(state),
    flavour: lines.every((line) => starterIds.has(line.materialId))
      ? counts!.soured
      : lines.filter((line) => !starterIds.has(line.materialId)).every((line) => line.state !== 'open'),
    starter:
      starterIds.size === 0
        ? counts!.started
        : lines.filter((line) => starterIds.has(line.materialId)).every((line) => line.state !== 'open'),
    fill: counts!.fills > 0 && inBowlsGrams <= Math.max(20, state.produceGrams * 0.02),
  };
  const open = openWords({
    state,
    lines,
    starterIds,
    inBowlsGrams,
    fills: counts!.fills,
    missing: state.formula.produce.filter((part) => !counts!.produce?.includes(part.materialId)).length,
    weighed,
    drained: counts!.drained,
  });
  return {
    lines,
    inBowlsGrams,
    fills: counts!.fills,
    steps: await standingSteps(reader, batch.id, steps, (step) => ({
      done: weighed[step.station] === true && step.key === step.station,
      open: step.key === step.station ? (open[step.station] ?? null) : null,
    })),
  };
}

/** A line is at its target within this. */
const LINE_OFF = 0.1;

/** What each place of the bench still lacks, in words; nothing where its target is met. */
function openWords(input: {
  state: BatchState;
  lines: readonly SheetLine[];
  starterIds: ReadonlySet<string>;
  inBowlsGrams: number;
  fills: number;
  missing: number;
  drained: boolean;
  weighed: Partial<Record<SheetStep['station'], boolean>>;
}): Partial<Record<SheetStep['station'], string | null>> {
  const { state, lines, starterIds, weighed } = input;
  const off = (of: readonly SheetLine[]): string | null => {
    const open = of.filter((line) => line.state === 'open').map((line) => `${line.name} is not in`);
    const wide = of
      .filter(
        (line) =>
          line.state === 'weighed' &&
          line.plannedGrams !== null &&
          Math.abs(line.inGrams - line.plannedGrams) > Math.max(1, line.plannedGrams * LINE_OFF),
      )
      .map((line) => `${line.name} is at ${formatGrams(line.inGrams)} of ${formatGrams(line.plannedGrams!)}`);
    return [...open, ...wide].join(', ') || null;
  };
  const starters = lines.filter((line) => starterIds.has(line.materialId));
  const others = lines.filter((line) => !starterIds.has(line.materialId));
  return {
    weigh: weighed.weigh
      ? null
      : state.produceGrams === 0
        ? 'no produce is weighed'
        : `${input.missing} of the produce is not weighed`,
    water:
      weighed.water || state.waterGrams === 0
        ? null
        : `${formatGrams(state.brineWaterGrams ?? 0)} of ${formatGrams(state.waterGrams)} of water is made up`,
    salt: weighed.salt ? null : `${formatGrams(state.saltInGrams)} of ${formatGrams(state.targetGrams)} of salt is in`,
    rinse: input.drained ? null : 'the leaf is not drained by weight',
    flavour: others.length === 0 ? (weighed.flavour ? null : 'no vinegar is in') : off(others),
    starter: starters.length === 0 ? (weighed.starter ? null : 'no starter is in') : off(starters),
    fill:
      input.fills === 0
        ? 'nothing is filled'
        : weighed.fill
          ? null
          : `${formatGrams(input.inBowlsGrams)} is still in the bowls`,
  };
}

const saltIsIn = (state: BatchState): boolean =>
  state.acceptedReason !== null ||
  (state.targetGrams > 0 &&
    saltAtScale({ saltGrams: state.saltInGrams, targetGrams: state.targetGrams, tolerance: state.tolerance ?? 0.03 })
      .verdict === 'in');

type Line = BatchState['formula']['lines'][number];

const isMixed = (line: Line): boolean => line.scaleBy !== 'jar' && line.scaleBy !== 'finishedMass';

const inVariant = (line: Line, variant: string | null): boolean =>
  variant === null || !line.variants || line.variants.includes(variant);

async function starterMaterials(reader: Reader, lines: readonly SheetLine[]): Promise<string[]> {
  if (lines.length === 0) return [];
  const found = await reader
    .select({ id: material.id, kind: material.kind })
    .from(material)
    .where(
      inArray(
        material.id,
        lines.map((line) => line.materialId),
      ),
    );
  return found.filter((row) => row.kind === 'starter').map((row) => row.id);
}
