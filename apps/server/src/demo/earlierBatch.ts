import type { EntryKind } from '@clear-tally/contract';
import { saltGrams, type SaltBasis } from '@clear-tally/core';
import type { Actor } from '../journal/record.js';
import type { Diary } from './diary.js';
import { filledOver, type Founded } from './house.js';

type Entries = { kind: EntryKind; body: object }[];

export interface Kind {
  readonly formula: 'shred' | 'turnips' | 'mash';
  readonly vessels: readonly (readonly [tag: string, produceGrams: number])[];
  /** Days until it is packed. */
  readonly days: number;
  /** What of the formula's lines goes in, in its order; its salt. */
  readonly lines: readonly string[];
  readonly souring: { readonly start: number; readonly end: number; readonly perHour: number };
}

export const KINDS: readonly Kind[] = [
  {
    formula: 'shred',
    vessels: [
      ['C1', 38_000],
      ['C4', 23_500],
      ['C2', 39_000],
      ['C5', 24_000],
      ['C3', 38_500],
    ],
    days: 31,
    lines: ['juniper'],
    souring: { start: 6.1, end: 3.55, perHour: 0.016 },
  },
  {
    formula: 'turnips',
    vessels: [
      ['D1', 7200],
      ['D2', 7100],
      ['D3', 7200],
      ['D4', 7000],
    ],
    days: 24,
    lines: ['thyme', 'pepper', 'mustard'],
    souring: { start: 6.1, end: 3.6, perHour: 0.017 },
  },
  {
    formula: 'mash',
    vessels: [
      ['D5', 20_000],
      ['D6', 20_500],
      ['D7', 21_000],
      ['D8', 20_000],
    ],
    days: 36,
    lines: ['lovage'],
    souring: { start: 5.2, end: 3.5, perHour: 0.014 },
  },
];

/** A batch of the mash in a cold spell that stood still, and was thrown out; a crock filled again that nobody washed. */
export const STALLED = 47;
const UNWASHED = 60;

/** A run that may be sold. */
export interface Ready {
  readonly runLotId: string;
  readonly count: number;
  readonly packedDaysAgo: number;
}

interface One {
  readonly n: number;
  readonly kind: Kind;
  readonly daysAgo: number;
  readonly tag: string;
  readonly produceGrams: number;
  readonly kept: string | null;
  readonly water: string;
  readonly supplier: string;
  readonly lotOf: (material: string, grams: number) => string;
  readonly mornings: Set<number>;
}

/** One batch from its crates to its jars. */
export function planOne(diary: Diary, house: Founded, one: One): { fill: string; run: Ready | null } {
  const { kind, daysAgo, tag, produceGrams, n } = one;
  const formula = house.formulas[kind.formula];
  const started = diary.moment(daysAgo, 9, 10 + (n % 40));
  const [batchId, brineLotId, fillLotId, runLotId] = [
    diary.id(started),
    diary.id(started),
    diary.id(started),
    diary.id(started),
  ];
  const actor = [house.people.tomasz, house.people.ines][n % 2]!;
  const say = (at: Date, entries: Entries, by: Actor = actor): void =>
    diary.plan(at, () => diary.recordAll(entries, at, by));
  const parts = formula.produce.map((part, index) => {
    const trimmed = Math.round(produceGrams * part.share);
    const waste = Math.round(trimmed * (1 / formula.yields.trim - 1) * (1 + diary.random.around(0.1)));
    return { ...part, lotId: diary.id(started), trimmed, waste, theirs: `M${(n * 7 + index * 3) % 90}-${daysAgo}` };
  });
  const { saltBasis, saltFraction } = formula as { saltBasis: SaltBasis; saltFraction: number };
  const waterGrams = Math.round(produceGrams * (formula.waterPerProduce ?? 0));
  const dose = { basis: saltBasis, vegetableGrams: produceGrams, waterGrams, saltFraction };
  const salt = Math.round(saltGrams(dose) * (1 + diary.random.around(0.008)));
  const others = kind.lines.map((material, index) => {
    const { amount, scaleBy } = formula.lines[index]!;
    return { material, grams: Math.round(amount! * (scaleBy === 'saltMass' ? salt : produceGrams)) };
  });
  const inBowls =
    produceGrams +
    (waterGrams > 0 ? 0 : salt) +
    (one.kept ? 420 : 0) +
    others.reduce((sum, { grams }) => sum + grams, 0);
  const brine = waterGrams > 0 ? { brineLotId, grams: waterGrams + salt } : null;
  say(
    new Date(started.getTime() - 100 * 60_000),
    parts.map(({ lotId, materialId, trimmed, waste, theirs }) => ({
      kind: 'supply.receive',
      body: {
        lotId,
        materialId,
        supplierId: one.supplier,
        supplierLotCode: theirs,
        grams: trimmed + waste,
        useBy: null,
        condition: 'fresh, firm, no mould',
      },
    })),
  );
  say(started, [
    {
      kind: 'batch.start',
      body: {
        batchId,
        formulaId: formula.formulaId,
        version: formula.version,
        plan: { from: 'trimmed', trimmedGrams: produceGrams },
      },
    },
    ...parts.map(({ lotId, trimmed, waste }) => ({
      kind: 'produce.weigh' as const,
      body: { batchId, supplyLotId: lotId, trimmedGrams: trimmed, trimWasteGrams: waste },
    })),
    ...(waterGrams > 0
      ? [{ kind: 'brine.make' as const, body: { brineLotId, batchId, waterLotId: one.water, waterGrams } }]
      : []),
    { kind: 'salt.weigh', body: { batchId, saltLotId: one.lotOf('coarse', salt), grams: salt, alreadyIn: true } },
    ...others.map(({ material, grams }) => ({
      kind: 'ingredient.add' as const,
      body: { batchId, fromLotId: one.lotOf(material, grams), grams },
    })),
    ...(one.kept ? [{ kind: 'ingredient.add' as const, body: { batchId, fromLotId: one.kept, grams: 420 } }] : []),
  ]);
  const vesselId = house.vessels.get(tag)!;
  const filled = new Date(started.getTime() + 90 * 60_000);
  say(filled, [
    ...(n === UNWASHED
      ? []
      : [{ kind: 'vessel.clean' as const, body: { vesselId, agent: 'hot soapy water, rinsed' } }]),
    {
      kind: 'vessel.fill',
      body: { fillLotId, batchId, vesselId, grams: inBowls, brine, ...filledOver(tag, inBowls + (brine?.grams ?? 0)) },
    },
  ]);
  const stalls = n === STALLED;
  planReadings(diary, house, { ...one, fillLotId, filled, stalls });
  if (stalls) {
    const out = diary.moment(daysAgo - 11, 17);
    say(out, [
      {
        kind: 'vessel.throwOut',
        body: { lotId: fillLotId, cause: 'it never turned sour', note: 'nine days in the cold spell' },
      },
    ]);
    return { fill: fillLotId, run: null };
  }
  const run = planPacked(diary, house, { ...one, fillLotId, runLotId, grams: inBowls + (brine?.grams ?? 0) });
  return { fill: fillLotId, run };
}

function planReadings(
  diary: Diary,
  house: Founded,
  of: One & { fillLotId: string; filled: Date; stalls: boolean },
): void {
  const { start, end, perHour } = of.kind.souring;
  const days = of.stalls ? [2, 5, 8, 10] : [2, 5, 9, of.kind.days - 3, of.kind.days - 1];
  for (const day of days) {
    const at = diary.moment(of.daysAgo - day, 8, 5 + Math.floor(diary.random.next() * 50));
    of.mornings.add(of.daysAgo - day);
    const hours = (at.getTime() - of.filled.getTime()) / 3_600_000;
    const fallen = 1 - Math.exp(-perHour * (of.stalls ? 0.08 : 1) * Math.max(0, hours - 14));
    const ph = Math.round((start - (start - end) * fallen + diary.random.around(0.03)) * 100) / 100;
    const celsius = Math.round(((of.stalls ? 9 : 15) + diary.random.around(1.2)) * 10) / 10;
    const body = {
      lotId: of.fillLotId,
      ph,
      sample: day < 3 ? 'brine' : 'blended',
      meterId: house.meter,
      sampleCelsius: celsius,
    };
    diary.plan(at, () =>
      diary.recordAll(
        [
          { kind: 'ph.read', body },
          ...(day === 5 ? [{ kind: 'temperature.read' as const, body: { lotId: of.fillLotId, celsius } }] : []),
        ],
        at,
        house.people[day % 2 ? 'ines' : 'tomasz'],
      ),
    );
  }
}

/** Packed, looked at, released. */
function planPacked(
  diary: Diary,
  house: Founded,
  of: One & { fillLotId: string; runLotId: string; grams: number },
): Ready {
  const { runLotId, n } = of;
  const packedDaysAgo = of.daysAgo - of.kind.days;
  const grams = Math.round(of.grams * 0.985);
  const [small] = house.formulas[of.kind.formula].jarSizes;
  const count = Math.floor((grams * 0.98) / small!.fillGrams);
  const left = grams - count * small!.fillGrams;
  const wasteGrams = Math.round(left * 0.35);
  const say = (daysAgo: number, hour: number, by: Actor, ...entries: Entries): void => {
    const at = diary.moment(daysAgo, hour, 10 + (n % 40));
    diary.plan(at, () => diary.recordAll(entries, at, by));
  };
  say(packedDaysAgo, 11, house.people.ines, {
    kind: 'pack.run',
    body: {
      runLotId,
      from: [{ fillLotId: of.fillLotId, grams, empties: true, restGrams: Math.round(of.grams * 0.008) }],
      jars: [{ sizeMl: small!.sizeMl, netGrams: small!.fillGrams, count }],
      sampleGrams: 60,
      wasteGrams,
      leftoverGrams: Math.max(0, left - 60 - wasteGrams),
      tallyReason: null,
      brine: 'own',
      storage: of.kind.formula === 'mash' ? 'cellar' : 'cold',
    },
  });
  say(packedDaysAgo - 1, 15, house.people.tomasz, {
    kind: 'run.check',
    body: { runLotId, what: 'level', says: 'fine', opened: null, note: null, photo: null },
  });
  say(packedDaysAgo - 9, 15, house.people.tomasz, {
    kind: 'run.check',
    body: { runLotId, what: 'gas', says: 'quiet', opened: 1, note: 'one jar, three days at 20 °C', photo: null },
  });
  say(packedDaysAgo - 10, 17, house.people.odile, {
    kind: 'run.release',
    body: { runLotId, excuses: { checks: 'Looked at on every round; in the first year nobody wrote that down.' } },
  });
  return { runLotId, count, packedDaysAgo };
}
