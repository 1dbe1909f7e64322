import type { MakeReply } from '@clear-tally/contract';
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
import { anyOf, type Reader, rows } from '../../db/database.js';
import { toGrams } from '../../db/schema/columns.js';
import { liveMovement } from '../../db/schema/ledger.js';
import { batchState, type BatchState } from '../../lots/batchSalt.js';
import { contentsIn, loadContents, loadMade } from '../../lots/contents.js';
import { loadHouse } from '../../lots/house.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { loadLot, type LotRow } from '../../lots/lots.js';
import { saltConfirmation } from '../../lots/saltConfirmation.js';
import { scalable, USUAL_FORM } from '../../lots/scalable.js';
import { readFormula } from '../formulas/index.js';
import { readLeaf } from './readLeaf.js';
import { LEFT_IN_BOWLS } from './readMaking.js';
import { readPreparations } from './readPreparations.js';
import { readSheet } from './runSheet.js';
import { weighedInto } from './weighedInto.js';

/** A batch on the bench: what is weighed, what is asked for, what stands in bowls and vessels. */
export async function readMake(reader: Reader, batchId: string, now: Date): Promise<MakeReply> {
  const batch = await loadLot(reader, batchId, 'batchId', ['batch']);
  const state = await batchState(reader, batch);
  const { waterPerProduce, ...formula } = await readFormula(reader, batch.formulaId!, batch.formulaVersion!);
  const house = await loadHouse(reader);
  const ready = await scalable(reader, state.formula);
  const plan = scaleFormula({
    formula: ready,
    target: batch.plan!,
    variant: batch.variant,
    measuredLeafSalt: batch.measuredLeafSalt,
  });
  const { produce, salt, ingredients } = await weighedInto(reader, batchId, state.brine);
  const fills = await fillsOf(reader, batchId);
  const sheet = await readSheet(reader, batch, state);
  const leaf = state.formula.heavy ? await readLeaf(reader, batch, state, ready, plan, now) : null;
  const bowls = await contentsIn(reader, batchId);
  return {
    batchId,
    code: batch.code,
    variant: batch.variant,
    rules: batch.rules ?? {},
    form: formOf(state),
    formula: {
      ...formula,
      saltBasis: state.basis,
      saltFraction: state.saltFraction,
      waterPerProduce: waterPerProduce ?? 0,
    },
    startedAt: batch.at.toISOString(),
    planned: {
      trimmedGrams: plan.produceGrams,
      boughtGrams: plan.chain.boughtGrams,
      lines: plan.lines.map(({ key, materialId, name, role, grams }) => ({ key, materialId, name, role, grams })),
    },
    produce,
    produceGrams: state.produceGrams,
    brine: await brineIn(reader, state),
    bowls,
    plannedWaterGrams: state.waterGrams,
    salt: {
      inGrams: state.saltInGrams,
      targetGrams: state.targetGrams,
      tolerance: house.saltTolerance,
      accepted: state.acceptedReason,
      portions: salt,
      // A leaf is told by what is measured on it, or by its estimate, until it is drained.
      waterPhaseSalt:
        leaf && leaf.drainedGrams === null && state.produceGrams > 0
          ? scaleFormula({
              formula: ready,
              target: { from: 'trimmed', trimmedGrams: state.produceGrams },
              variant: batch.variant,
              measuredLeafSalt: leaf.measured ? leaf.leafSalt : batch.measuredLeafSalt,
            }).waterPhaseSalt
          : await waterPhaseSalt(reader, state, bowls, fills),
      working: workingOf(state, produce.length),
    },
    ingredients,
    fills: await asFilled(reader, fills, state, house.settings.saltBands),
    inBowlsGrams: (await onHandOf(reader, [batchId])).get(batchId)!,
    closedAt: batch.closedAt?.toISOString() ?? null,
    steps: [...sheet.steps],
    lines: [...sheet.lines],
    preparations: await readPreparations(reader, batchId),
    leaf,
    confirmation: await readConfirmation(reader, batch, state),
  };
}

const formOf = ({ formula }: BatchState): MakeReply['form'] => formula.form ?? USUAL_FORM[formula.style];

async function onHandOf(reader: Reader, lotIds: readonly string[]): Promise<Map<string, number>> {
  const found = await rows<{ id: string; mg: string }>(
    reader,
    sql`select id, ${onHandMg(sql`lot.id`)} as mg from lot where id = ${anyOf(lotIds)}`,
  );
  return new Map(found.map(({ id, mg }) => [id, toGrams(mg)]));
}

async function brineIn(reader: Reader, { brine, ...state }: BatchState): Promise<MakeReply['brine']> {
  return (
    brine && {
      ...brine,
      waterGrams: state.brineWaterGrams ?? 0,
      saltGrams: state.saltInGrams,
      onHandGrams: (await onHandOf(reader, [brine.lotId])).get(brine.lotId)!,
      contents: await contentsIn(reader, brine.lotId),
    }
  );
}

function workingOf(state: BatchState, timesWeighed: number): MakeReply['salt']['working'] {
  const brineWater = state.brineWaterGrams ?? 0;
  return saltWorking({
    basis: state.basis,
    saltFraction: state.saltFraction,
    vegetableGrams: state.produceGrams,
    waterGrams: state.waterGrams,
    saltGrams: state.targetGrams,
    vegetableFrom: `weighed, ${timesWeighed} times`,
    waterFrom:
      brineWater > 0
        ? `${state.formula.waterPerProduce} per produce; ${(brineWater / 1000).toFixed(2)} kg made in the same strength`
        : 'per produce, from the formula',
  });
}

interface FillRow {
  readonly lotId: string;
  readonly code: string;
  readonly vesselTag: string;
  readonly mg: string;
  readonly brimMl: number;
  readonly room: string;
  readonly labels: number;
  readonly closure: MakeReply['fills'][number]['closure'];
  readonly weakAccepted: boolean;
}

async function fillsOf(reader: Reader, batchId: string): Promise<FillRow[]> {
  return rows<FillRow>(
    reader,
    sql`
    select l.id as "lotId", l.code, v.tag as "vesselTag", v.brim_ml as "brimMl", r.name as room, c.closure, exists (select 1 from salt_acceptance a where a.batch_id = l.id) as "weakAccepted", (select coalesce(sum(copies), 0)::int from label_printed where lot_id = l.id) as labels, (select sum(milligrams) from live_movement where to_lot = l.id and kind = 'vessel.fill') as mg
    from lot l join vessel v on v.id = l.vessel_id join room r on r.id = v.room_id left join closing c on c.lot_id = l.id where l.batch_id = ${batchId} and l.kind = 'fill' order by l.seq`,
  );
}

async function asFilled(
  reader: Reader,
  fills: readonly FillRow[],
  state: BatchState,
  bands: Parameters<typeof houseBandSays>[0]['bands'],
): Promise<MakeReply['fills']> {
  const stands = await loadContents(
    reader,
    fills.map(({ lotId }) => lotId),
  );
  return fills.map(({ mg, brimMl, ...row }) => {
    const salt = saltFigure(stands.get(row.lotId)!);
    return {
      ...row,
      grams: toGrams(mg),
      fillFraction: toGrams(mg) / brimMl,
      salt,
      houseBand: houseBandSays({ figure: salt, form: formOf(state), bands }),
    };
  });
}

/** Of everything of the batch once it has evened out: in bowls, in vessels, and what the plan still wants poured on. */
async function waterPhaseSalt(
  reader: Reader,
  state: BatchState,
  bowls: Contents,
  fills: readonly FillRow[],
): Promise<number> {
  const wentIn = await loadMade(
    reader,
    fills.map(({ lotId }) => lotId),
  );
  const allFilled = fills.length > 0 && bowls.grams <= LEFT_IN_BOWLS * state.produceGrams;
  const parts = [bowls, ...wentIn.values(), await stillToPour(reader, state, allFilled)];
  return saltFigure(parts.reduce(together)).waterPhase ?? 0;
}

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

async function readConfirmation(reader: Reader, batch: LotRow, state: BatchState): Promise<MakeReply['confirmation']> {
  const into = [batch.id, state.brine?.lotId ?? batch.id];
  const { wanted, by } = await saltConfirmation(reader, batch, state.brine?.lotId ?? batch.id);
  const weighers = await rows<{ by: string }>(
    reader,
    sql`select distinct j.by from live_movement m join journal j on j.seq = m.seq where m.to_lot in ${into} and m.kind = 'salt.weigh'`,
  );
  return { wanted, by, weighedBy: weighers.map((one) => one.by) };
}
