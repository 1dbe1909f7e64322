import type { BodyOf } from '@clear-tally/contract';
import { type SaltBasis, saltGrams } from '@clear-tally/core';
import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import { SCALE_IDS } from './equipment.js';
import type { Founded } from './house.js';

/** What the spice scale weighs, grams. */
const SPICE_MOST = 400;

export interface FillPlan {
  readonly tag: string;
  readonly produceGrams: number;
}

export interface BatchPlan {
  readonly formula: 'shred' | 'turnips' | 'mash' | 'gooseberries';
  readonly daysAgo: number;
  readonly hour: number;
  readonly by: 'tomasz' | 'ines' | 'odile';
  readonly fills: readonly FillPlan[];
  /** Supply lots of the produce, in the order of the formula. */
  readonly produce: readonly string[];
  readonly salt: string;
  readonly others: readonly string[];
  /** Kept brine from an earlier fill. */
  readonly kept?: { readonly from: () => string; readonly grams: number };
  /** pH where it starts and where it settles, and how fast it falls, per hour. */
  readonly souring?: { readonly start: number; readonly end: number; readonly perHour: number };
  readonly celsius?: number;
  readonly packedDaysAgo?: number;
  /** Hot-filled to the process on file, and kept ambient. */
  readonly hot?: true;
  /** Days on which it is read beside the plan, two in a row before something is taken. */
  readonly pairOn?: readonly number[];
  /** Salt first written down wrong, then corrected. */
  readonly slippedSalt?: boolean;
}

export interface Lived {
  readonly batchId: string;
  readonly fillIds: string[];
  readonly runIds: string[];
  /** Jars of each run. */
  readonly jars: number[];
}

/** Reading days of the house's check plan; before it is packed, two within three days. */
const PH_DAYS = [1, 2, 3, 5, 7, 14, 21, 28, 35, 42, 49, 56];

const readingDays = (plan: BatchPlan): number[] => {
  const packed =
    plan.packedDaysAgo === undefined
      ? []
      : [plan.daysAgo - plan.packedDaysAgo - 3, plan.daysAgo - plan.packedDaysAgo - 1];
  return [...new Set([...PH_DAYS, ...packed, ...(plan.pairOn ?? [])])].filter((day) => day >= 1).sort((a, b) => a - b);
};

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
    record(
      'vessel.fill',
      {
        fillLotId: fillIds[index]!,
        batchId,
        vesselId: house.vessels.get(fill.tag)!,
        grams: Math.round(inBowls * share * 0.998),
        scaleId: SCALE_IDS.SC2,
        brine:
          waterGrams > 0
            ? { brineLotId, grams: Math.round((waterGrams + (salt * waterGrams) / madeGrams) * share * 0.995) }
            : null,
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

function planReadings(
  diary: Diary,
  plan: BatchPlan,
  input: { lotId: string; filledAt: Date; actors: readonly Actor[]; meterId: string },
): void {
  const { start, end, perHour } = plan.souring ?? { start: 6.1, end: 3.55, perHour: 0.018 };
  // In the morning, today's round is still to be walked.
  const until = plan.packedDaysAgo ?? (diary.roundWalked ? 0 : 1);
  const warmth = plan.celsius ?? 14;
  for (const day of readingDays(plan)) {
    if (plan.daysAgo - day < until) break;
    const at = diary.moment(plan.daysAgo - day, 8, 5 + Math.floor(diary.random.next() * 50));
    if (at.getTime() > diary.moment(0, 23, 59).getTime() || at <= input.filledAt) break;
    const hours = (at.getTime() - input.filledAt.getTime()) / 3_600_000;
    // Sour comes slowly at first: a lag, then an exponential way down.
    const fallen = 1 - Math.exp(-perHour * Math.max(0, hours - 14));
    const ph = Math.round((start - (start - end) * fallen + diary.random.around(0.03)) * 100) / 100;
    const celsius = Math.round((warmth + diary.random.around(1.2)) * 10) / 10;
    const actor = input.actors[day % input.actors.length]!;
    diary.plan(at, async () => {
      await diary.record(
        'ph.read',
        {
          lotId: input.lotId,
          ph,
          sample: day < 2 ? 'brine' : 'blended',
          meterId: input.meterId,
          sampleCelsius: celsius,
        },
        at,
        actor,
      );
      await diary.record('temperature.read', { lotId: input.lotId, celsius }, new Date(at.getTime() + 60_000), actor);
    });
  }
}

/** Jars of the smaller size and a case of twelve of the larger, from one vessel. */
function planPacking(
  diary: Diary,
  house: Founded,
  plan: BatchPlan,
  input: { fillLotId: string; inGrams: number; index: number },
): { runLotId: string; count: number } {
  const at = diary.moment(plan.packedDaysAgo!, 10 + input.index * 2, 20);
  const runLotId = diary.id(at);
  const grams = Math.round(input.inGrams * 0.985);
  const [small, large] = house.formulas[plan.formula].jarSizes as [
    { sizeMl: number; fillGrams: number },
    { sizeMl: number; fillGrams: number },
  ];
  const largeCount = grams > 20_000 ? 12 : 0;
  const smallCount = Math.floor((grams * 0.98 - largeCount * large.fillGrams) / small.fillGrams);
  const left = grams - smallCount * small.fillGrams - largeCount * large.fillGrams;
  const sampleGrams = 60;
  const wasteGrams = Math.round(left * 0.35);
  diary.plan(
    at,
    async () =>
      void (await diary.record(
        'pack.run',
        {
          runLotId,
          from: [{ fillLotId: input.fillLotId, grams, empties: true, restGrams: Math.round(input.inGrams * 0.008) }],
          jars: [
            { sizeMl: small.sizeMl, netGrams: small.fillGrams, count: smallCount },
            ...(largeCount > 0 ? [{ sizeMl: large.sizeMl, netGrams: large.fillGrams, count: largeCount }] : []),
          ],
          sampleGrams,
          wasteGrams,
          leftoverGrams: Math.max(0, left - sampleGrams - wasteGrams),
          tallyReason: null,
          brine: 'own',
          storage: plan.hot ? 'ambient' : plan.formula === 'mash' ? 'cellar' : 'cold',
        },
        at,
        house.people.ines,
      )),
  );
  return { runLotId, count: smallCount + largeCount };
}
