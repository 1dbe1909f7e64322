import type { MakeReply, MakingReply, MakingStage } from '@clear-tally/contract';
import {
  type Contents,
  houseBandSays,
  NOTHING_IN,
  saltFigure,
  saltWorking,
  scaleFormula,
  shareOf,
  together,
} from '@clear-tally/core';
import { and, eq, sql, sum } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { liveMovement } from '../../db/schema/ledger.js';
import { entryJson } from '../../db/entryJson.js';
import { toGrams } from '../../db/schema/columns.js';
import { batchState, type BatchState } from '../../lots/batchSalt.js';
import { contentsIn, loadContents, loadMade } from '../../lots/contents.js';
import { loadHouse } from '../../lots/house.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { loadLot, type LotRow } from '../../lots/lots.js';
import { saltConfirmation } from '../../lots/saltConfirmation.js';
import { scalable, USUAL_FORM } from '../../lots/scalable.js';
import { readFormula } from '../formulas/index.js';
import { readLeaf } from './readLeaf.js';
import { readSheet } from './runSheet.js';

interface WeighedRow {
  entryId: string;
  lotId: string;
  kind: string;
  lotCode: string;
  materialId: string | null;
  materialName: string;
  supplierName: string | null;
  supplierLotCode: string | null;
  mg: string;
  at: Date;
  by: string;
  trimMg: string | null;
  scale: string | null;
  together: boolean;
}

/** A batch on the bench: what is weighed, what is asked for, what stands in bowls and vessels. */
export async function readMake(reader: Reader, batchId: string, now: Date): Promise<MakeReply> {
  const batch = await loadLot(reader, batchId, 'batchId', ['batch']);
  const state = await batchState(reader, batch);
  const formula = await readFormula(reader, batch.formulaId!, batch.formulaVersion!);
  const house = await loadHouse(reader);
  const ready = await scalable(reader, state.formula);
  const plan = scaleFormula({
    formula: ready,
    target: batch.plan!,
    variant: batch.variant,
    measuredLeafSalt: batch.measuredLeafSalt,
  });
  const weighed = await rows<WeighedRow>(
    reader,
    sql`
    select m.root_entry_id as "entryId", m.from_lot as "lotId", m.kind, s.code as "lotCode", s.material_id as "materialId", s.name as "materialName", p.name as "supplierName", s.supplier_lot_code as "supplierLotCode", m.milligrams as mg, m.at, pe.initials as by, e.tag as scale, (coalesce((select c."right" from correction c where c.root_entry_id = j.entry_id order by c.seq desc limit 1), ${entryJson(sql`j.entry`)}) -> 'body' -> 'mixedGrams') is not null as together,
      (select sum(t.milligrams) from live_movement t where t.seq = m.seq and t.sink = 'trim') as "trimMg"
    from live_movement m join lot s on s.id = m.from_lot left join supplier p on p.id = s.supplier_id
    join journal j on j.entry_id = m.root_entry_id join person pe on pe.id = j.by
    left join weighed_on w on w.entry_id = m.root_entry_id left join equipment e on e.id = w.equipment_id
    where m.to_lot in (${batchId}, ${state.brine?.lotId ?? batchId}) and m.kind in ('produce.weigh', 'salt.weigh', 'ingredient.add') order by m.at, m.id`,
  );
  const line = ({
    entryId,
    lotCode,
    materialId,
    materialName,
    supplierName,
    supplierLotCode,
    mg,
    at,
    by,
    scale,
    together,
  }: WeighedRow) => ({
    entryId,
    lotCode,
    materialId,
    materialName,
    supplierName,
    supplierLotCode,
    grams: toGrams(mg),
    at: new Date(at).toISOString(),
    by,
    scale,
    together,
  });
  const of = (kind: string) => weighed.filter((row) => row.kind === kind);
  const fills = await rows<{
    lotId: string;
    code: string;
    vesselTag: string;
    mg: string;
    brimMl: number;
    room: string;
    labels: number;
    closure: MakeReply['fills'][number]['closure'];
    weakAccepted: boolean;
  }>(
    reader,
    sql`
    select l.id as "lotId", l.code, v.tag as "vesselTag", v.brim_ml as "brimMl", r.name as room, c.closure, exists (select 1 from salt_acceptance a where a.batch_id = l.id) as "weakAccepted", (select coalesce(sum(copies), 0)::int from label_printed where lot_id = l.id) as labels, (select sum(milligrams) from live_movement where to_lot = l.id and kind = 'vessel.fill') as mg
    from lot l join vessel v on v.id = l.vessel_id join room r on r.id = v.room_id left join closing c on c.lot_id = l.id where l.batch_id = ${batchId} and l.kind = 'fill' order by l.seq`,
  );
  const onHand = async (lotId: string) =>
    toGrams(
      (
        await rows<{ mg: string }>(
          reader,
          sql`
    select ${onHandMg(sql`${lotId}`)} as mg`,
        )
      )[0]!.mg,
    );
  const sheet = await readSheet(reader, batch, state);
  const leaf = state.formula.heavy ? await readLeaf(reader, batch, state, ready, plan, now) : null;
  const bowls = await contentsIn(reader, batchId);
  const made = await loadContents(reader, [
    ...new Set([...fills.map((row) => row.lotId), ...(state.brine ? [state.brine.lotId] : [])]),
  ]);
  const wentIn = await loadMade(
    reader,
    fills.map((row) => row.lotId),
  );
  const form = state.formula.form ?? USUAL_FORM[state.formula.style];
  const brineWater = state.brineWaterGrams ?? 0;
  return {
    batchId,
    code: batch.code,
    variant: batch.variant,
    rules: batch.rules ?? {},
    form,
    formula: {
      ...formula,
      saltBasis: state.basis,
      saltFraction: state.saltFraction,
      waterPerProduce: formula.waterPerProduce ?? 0,
    },
    startedAt: batch.at.toISOString(),
    planned: {
      trimmedGrams: plan.produceGrams,
      boughtGrams: plan.chain.boughtGrams,
      lines: plan.lines.map(({ key, materialId, name, role, grams }) => ({ key, materialId, name, role, grams })),
    },
    produce: of('produce.weigh').map((row) => ({ ...line(row), trimWasteGrams: toGrams(row.trimMg ?? 0) })),
    produceGrams: state.produceGrams,
    brine: state.brine && {
      ...state.brine,
      waterGrams: brineWater,
      saltGrams: state.saltInGrams,
      onHandGrams: await onHand(state.brine.lotId),
      contents: made.get(state.brine.lotId)!,
    },
    bowls,
    plannedWaterGrams: state.waterGrams,
    salt: {
      inGrams: state.saltInGrams,
      targetGrams: state.targetGrams,
      tolerance: house.saltTolerance,
      accepted: state.acceptedReason,
      portions: of('salt.weigh').map(line),
      // A leaf is told by what is measured on it, or by its estimate, until it is drained.
      waterPhaseSalt:
        leaf && leaf.drainedGrams === null && state.produceGrams > 0
          ? scaleFormula({
              formula: ready,
              target: { from: 'trimmed', trimmedGrams: state.produceGrams },
              variant: batch.variant,
              measuredLeafSalt: leaf.measured ? leaf.leafSalt : batch.measuredLeafSalt,
            }).waterPhaseSalt
          : (saltFigure(
              [
                bowls,
                ...fills.map((row) => wentIn.get(row.lotId)!),
                await stillToPour(reader, state, fills.length > 0 && bowls.grams <= LEFT_IN_BOWLS * state.produceGrams),
              ].reduce(together),
            ).waterPhase ?? 0),
      working: saltWorking({
        basis: state.basis,
        saltFraction: state.saltFraction,
        vegetableGrams: state.produceGrams,
        waterGrams: state.waterGrams,
        saltGrams: state.targetGrams,
        vegetableFrom: `weighed, ${of('produce.weigh').length} times`,
        waterFrom:
          brineWater > 0
            ? `${state.formula.waterPerProduce} per produce; ${(brineWater / 1000).toFixed(2)} kg made in the same strength`
            : 'per produce, from the formula',
      }),
    },
    ingredients: of('ingredient.add').map(line),
    fills: fills.map(({ mg, brimMl, ...row }) => {
      const salt = saltFigure(made.get(row.lotId)!);
      return {
        ...row,
        grams: toGrams(mg),
        fillFraction: toGrams(mg) / brimMl,
        salt,
        houseBand: houseBandSays({ figure: salt, form, bands: house.settings.saltBands }),
      };
    }),
    inBowlsGrams: await onHand(batchId),
    closedAt: batch.closedAt?.toISOString() ?? null,
    steps: [...sheet.steps],
    lines: [...sheet.lines],
    preparations: await readPreparations(reader, batchId),
    leaf,
    confirmation: await readConfirmation(reader, batch, state),
  };
}

/** Up to this part of the produce sticks to bowls and hands: no more is to come into a vessel. */
const LEFT_IN_BOWLS = 0.02;

/** What the plan still wants poured on: of the brine as it was made, or the water before it is. */
async function stillToPour(reader: Reader, state: BatchState, allFilled: boolean): Promise<Contents> {
  if (allFilled || state.waterGrams === 0) return NOTHING_IN;
  const brineWater = state.brineWaterGrams ?? 0;
  if (!state.brine || brineWater === 0) return { ...NOTHING_IN, grams: state.waterGrams, waterGrams: state.waterGrams };
  const made = (await loadMade(reader, [state.brine.lotId])).get(state.brine.lotId)!;
  const [poured] = await reader
    .select({ mg: sum(liveMovement.milligrams) })
    .from(liveMovement)
    .where(and(eq(liveMovement.fromLot, state.brine.lotId), eq(liveMovement.kind, 'vessel.fill')));
  // Poured beyond the plan is in the vessels already.
  return shareOf(made, Math.max(0, (made.grams * state.waterGrams) / brineWater - toGrams(poured?.mg ?? 0)));
}

async function readPreparations(reader: Reader, batchId: string): Promise<MakeReply['preparations']> {
  const found = await rows<
    Omit<
      MakeReply['preparations'][number],
      'madeGrams' | 'onHandGrams' | 'pouredGrams' | 'elsewhereGrams' | 'lostGrams' | 'spices'
    > & { made: string; mg: string; poured: string; elsewhere: string; lost: string; spices: string[] | null }
  >(
    reader,
    sql`
    select l.id as "lotId", l.code, l.form, l.name, l.touched, l.generation, l.use_by::text as "useBy", ${onHandMg(sql`l.id`)} as mg,
      coalesce((select sum(milligrams) from live_movement where to_lot = l.id), 0) - coalesce((select sum(milligrams) from live_movement where from_lot = l.id and sink = 'evaporation'), 0) as made,
      coalesce((select sum(m.milligrams) from live_movement m join lot t on t.id = m.to_lot where m.from_lot = l.id and t.kind = 'fill' and m.kind <> 'brine.left'), 0) as poured,
      coalesce((select sum(m.milligrams) from live_movement m join lot t on t.id = m.to_lot where m.from_lot = l.id and (t.kind <> 'fill' or m.kind = 'brine.left')), 0) as elsewhere,
      coalesce((select sum(milligrams) from live_movement where from_lot = l.id and sink is not null and sink <> 'evaporation'), 0) as lost,
      (select array_agg(distinct x.name) from live_movement m join lot s on s.id = m.from_lot join material x on x.id = s.material_id where m.to_lot = l.id and x.kind not in ('water', 'salt')) as spices
    from lot l where l.batch_id = ${batchId} and l.kind = 'preparation' order by l.seq`,
  );
  return found.map(({ made, mg, poured, elsewhere, lost, spices, ...row }) => ({
    ...row,
    madeGrams: toGrams(made),
    onHandGrams: toGrams(mg),
    pouredGrams: toGrams(poured),
    elsewhereGrams: toGrams(elsewhere),
    lostGrams: toGrams(lost),
    spices: spices ?? [],
  }));
}

async function readConfirmation(reader: Reader, batch: LotRow, state: BatchState): Promise<MakeReply['confirmation']> {
  const into = [batch.id, state.brine?.lotId ?? batch.id];
  const { wanted, by } = await saltConfirmation(reader, batch, state.brine?.lotId ?? batch.id);
  const weighers = await rows<{ by: string }>(
    reader,
    sql`select distinct j.by from live_movement m join journal j on j.seq = m.seq where m.to_lot in ${into} and m.kind = 'salt.weigh'`,
  );
  return { wanted, by, weighedBy: weighers.map((one) => one.by) };
}

/** How long a filled batch stays in the list to be closed. */
const TO_CLOSE_MS = 86_400_000;

/** Batches that are on the bench: started, and not filled away; of today also what is filled and wants its labels and its close. */
export async function readMaking(reader: Reader, now: Date): Promise<MakingReply> {
  const found = await rows<{
    batchId: string;
    code: string;
    name: string;
    at: Date;
    mg: string;
    produce: string;
    salt: number;
    fills: number;
  }>(
    reader,
    sql`
    select l.id as "batchId", l.code, l.name, l.at,
      ${onHandMg(sql`l.id`)} as mg,
      (select coalesce(sum(milligrams), 0) from live_movement where to_lot = l.id and kind = 'produce.weigh') as produce,
      (select count(*)::int from live_movement m join lot x on x.id = m.to_lot where x.batch_id = l.id and m.kind = 'salt.weigh') as salt,
      (select count(*)::int from lot x where x.batch_id = l.id and x.kind = 'fill') as fills
    from lot l where l.kind = 'batch' and l.origin = 'made' and l.closed_at is null order by l.seq desc limit 60`,
  );
  return {
    batches: found.flatMap((row) => {
      const young = now.getTime() - new Date(row.at).getTime() < TO_CLOSE_MS;
      const waits = stage(row, young);
      return waits === null
        ? []
        : [
            {
              batchId: row.batchId,
              code: row.code,
              name: row.name,
              startedAt: new Date(row.at).toISOString(),
              inBowlsGrams: toGrams(row.mg),
              stage: waits,
            },
          ];
    }),
  };
}

/** What a batch waits for; null: nothing that anybody would do today. */
function stage(
  { produce, salt, fills, mg }: { produce: string; salt: number; fills: number; mg: string },
  young: boolean,
): MakingStage | null {
  if (Number(produce) === 0) return 'forProduce';
  if (salt === 0) return 'forSalt';
  if (fills === 0) return 'toBeFilled';
  if (Number(mg) > Number(produce) * LEFT_IN_BOWLS) return 'partlyFilled';
  return young ? 'toBeClosed' : null;
}
