import type { BodyOf } from '@clear-tally/contract';
import { type SaltBasis, saltGrams } from '@clear-tally/core';
import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import { SCALE_IDS } from './equipment.js';
import { filledOver, type Founded } from './house.js';
import { planReadings } from './batchReadings.js';
import { planPacking } from './batchPacking.js';
import { SPICE_MOST, type BatchPlan, type Lived } from './batchPlan.js';

/** Plans the life of a batch: weighed, salted, filled, read, and packed when its time has come. */
export function planBatch(diary: Diary, house: Founded, lots: Record<string, string>, plan: BatchPlan): Lived {
  const actor = house.people[plan.by];
  const formula = house.formulas[plan.formula];
  const started = diary.moment(plan.daysAgo, plan.hour);
  const later = (minutes: number) => new Date(started.getTime() + minutes * 60_000);
  const batchId = diary.id(started);
  const brineLotId = diary.id(started);
  const fillIds = plan.fills.map(() => diary.id(started));
  const produceGrams = plan.fills.reduce((sum, fill) => sum + fill.produceGrams, 0);
  const record = <K extends Parameters<Diary['record']>[0]>(kind: K, body: BodyOf<K>, at: Date, by: Actor = actor) =>
    diary.plan(at, async () => void (await diary.record(kind, body, at, by)));

  record(
    'batch.start',
    {
      batchId,
      formulaId: formula.formulaId,
      version: formula.version,
      plan: { from: 'trimmed', trimmedGrams: produceGrams },
    },
    started,
  );
  formula.produce.forEach((part, index) => {
    const trimmedGrams = Math.round(produceGrams * part.share);
    record(
      'produce.weigh',
      {
        batchId,
        supplyLotId: lots[plan.produce[index]!]!,
        trimmedGrams,
        trimWasteGrams: Math.round(trimmedGrams * (1 / formula.yields.trim - 1) * (1 + diary.random.around(0.1))),
        scaleId: SCALE_IDS.SC2,
      },
      later(35 + index * 4),
    );
  });
  // The formulas lived here have no holes.
  const { saltBasis, saltFraction, waterPerProduce } = formula as {
    saltBasis: SaltBasis;
    saltFraction: number;
    waterPerProduce: number;
  };
  const waterGrams = Math.round(produceGrams * waterPerProduce);
  const madeGrams = Math.round(waterGrams * 1.08);
  if (waterGrams > 0)
    record('brine.make', { brineLotId, batchId, waterLotId: lots['water']!, waterGrams: madeGrams }, later(50));
  const target =
    saltGrams({ basis: saltBasis, vegetableGrams: produceGrams, waterGrams, saltFraction }) *
    (waterGrams > 0 ? madeGrams / waterGrams : 1);
  const salt = Math.round(target * (1 + diary.random.around(0.008)));
  planSalt(diary, plan, {
    batchId,
    saltLotId: lots[plan.salt]!,
    grams: salt,
    actor,
    reviewer: house.people.odile,
    at: later(55),
  });
  const others = plan.others.map((other, index) => {
    const line = formula.lines[index]!;
    return { other, grams: Math.round(line.amount! * (line.scaleBy === 'saltMass' ? target : produceGrams)) };
  });
  others.forEach(({ other, grams }, index) => {
    const scaleId = grams <= SPICE_MOST ? SCALE_IDS.SC3 : SCALE_IDS.SC1;
    record('ingredient.add', { batchId, fromLotId: lots[other]!, grams, scaleId }, later(65 + index * 2));
  });
  const { kept } = plan;
  if (kept)
    diary.plan(
      later(75),
      async () =>
        void (await diary.record(
          'ingredient.add',
          { batchId, fromLotId: kept.from(), grams: kept.grams },
          later(75),
          actor,
        )),
    );
  const inBowls =
    produceGrams +
    (waterGrams > 0 ? 0 : salt) +
    (plan.kept?.grams ?? 0) +
    others.reduce((sum, { grams }) => sum + grams, 0);
  plan.fills.forEach((fill, index) => {
    const share = fill.produceGrams / produceGrams;
    const at = later(85 + index * 12);
    record(
      'vessel.clean',
      { vesselId: house.vessels.get(fill.tag)!, agent: 'hot soapy water, rinsed' },
      later(80 + index * 12),
    );
    const grams = Math.round(inBowls * share * 0.998);
    const brine =
      waterGrams > 0
        ? { brineLotId, grams: Math.round((waterGrams + (salt * waterGrams) / madeGrams) * share * 0.995) }
        : null;
    record(
      'vessel.fill',
      {
        fillLotId: fillIds[index]!,
        batchId,
        vesselId: house.vessels.get(fill.tag)!,
        grams,
        scaleId: SCALE_IDS.SC2,
        brine,
        ...filledOver(fill.tag, grams + (brine?.grams ?? 0)),
      },
      at,
    );
    planReadings(diary, plan, {
      lotId: fillIds[index]!,
      filledAt: at,
      actors: [house.people.ines, house.people.tomasz],
      meterId: house.meter,
    });
  });
  const runs =
    plan.packedDaysAgo === undefined
      ? []
      : fillIds.map((fillLotId, index) =>
          planPacking(diary, house, plan, {
            fillLotId,
            inGrams:
              inBowls * (plan.fills[index]!.produceGrams / produceGrams) * 0.998 +
              waterGrams * (plan.fills[index]!.produceGrams / produceGrams),
            index,
          }),
        );
  return {
    batchId,
    fillIds,
    runIds: runs.map(({ runLotId }) => runLotId),
    jars: runs.map(({ count }) => count),
  };
}

function planSalt(
  diary: Diary,
  plan: BatchPlan,
  input: { batchId: string; saltLotId: string; grams: number; actor: Actor; reviewer: Actor; at: Date },
): void {
  const { batchId, saltLotId, grams, actor, reviewer, at } = input;
  diary.plan(at, async () => {
    const typed = plan.slippedSalt
      ? Number(
          [...String(grams)]
            .map((digit, i, all) => (i === all.length - 2 ? all[i + 1] : i === all.length - 1 ? all[i - 1] : digit))
            .join(''),
        )
      : grams;
    const recorded = await diary.record(
      'salt.weigh',
      { batchId, saltLotId, grams: typed, alreadyIn: true, scaleId: SCALE_IDS.SC1 },
      at,
      actor,
    );
    if (typed === grams) return;
    await diary.record(
      'entry.correct',
      {
        corrects: recorded.id,
        reason: 'digits swapped, read off the scale again',
        right: { kind: 'salt.weigh', grams },
      },
      new Date(at.getTime() + 4 * 60_000),
      reviewer,
    );
  });
}
