import type { BodyOf, Entry, EntryKind } from '@clear-tally/contract';
import { v7 } from 'uuid';
import type { Database } from '../src/db/database.js';
import { type Actor, recordEntries } from '../src/journal/record.js';
import { setPin } from '../src/session/session.js';

export interface BigHouse {
  readonly owner: Actor;
  readonly pin: string;
  readonly runCodes: string[];
  readonly saltCodes: string[];
  /** Of the last vessels: a round goes from one to the next. */
  readonly fillIds: string[];
}

const DAY = 86_400_000;

/** From batch to batch: a vessel is read twice, two batches apart, before it is packed. */
const APART = 14.4 * 3_600_000;

type Send = (at: number, ...list: [EntryKind, object][]) => Promise<Record<string, unknown>[]>;

/** Who is in it, and what it makes. */
interface Founded {
  readonly owner: Actor;
  readonly send: Send;
  readonly supplier: string;
  readonly shred: string;
  readonly salt: string;
  readonly formulaId: string;
  readonly meterId: string;
  readonly vessels: readonly string[];
}

/**
 * A house of many batches, each of one vessel and one packing run of 200 jars, made through the write path.
 * The last `live` vessels stand filled. One salt lot serves fifty batches; nine of ten batches start with kept brine of
 * the one before. `past` is written between the founding, so many days earlier, and the first of them.
 */
export async function makeBigHouse(
  db: Database,
  batches: number,
  say: (text: string) => void,
  { live = 2, pastDays = 0, past }: { live?: number; pastDays?: number; past?: (before: Date) => Promise<void> } = {},
): Promise<BigHouse> {
  const start = Date.now() - batches * APART - 20 * DAY;
  const founded = await foundBigHouse(db, start - pastDays * DAY);
  await past?.(new Date(start));
  return makeBatches(founded, start, batches, live, say);
}

async function foundBigHouse(db: Database, start: number): Promise<Founded> {
  const owner: Actor = { id: v7(), role: 'owner' };
  const send: Send = async (at, ...list) => {
    const entries = list.map(
      ([kind, body], index) =>
        ({
          id: v7(),
          kind,
          happenedAt: new Date(at + index * 1000).toISOString(),
          by: owner.id,
          device: 'bench',
          body,
        }) as unknown as Entry,
    );
    return (await recordEntries(db, { entries, actor: owner, now: new Date(at + 3_600_000) })).map(
      (recorded) => recorded.facts,
    );
  };
  const [room, supplier, shred, salt, formulaId, meterId] = [v7(), v7(), v7(), v7(), v7(), v7()];
  const formula: BodyOf<'formula.save'> = {
    formulaId,
    number: 1,
    version: 1,
    name: 'Shred',
    style: 'dryShred',
    produce: [{ materialId: shred, share: 1 }],
    saltBasis: 'ofVegetable',
    saltFraction: 0.022,
    waterPerProduce: 0,
    lines: [],
    solidsFraction: 1,
    yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
    jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
    usualDays: 28,
    note: null,
  };
  const vessels = Array.from({ length: 60 }, () => v7());
  await send(
    start,
    [
      'house.found',
      { name: 'Big house', site: 'NY', timeZone: 'UTC', decimalMark: 'point', acidLimit: 4.2, saltTolerance: 0.03 },
    ],
    ['person.add', { personId: owner.id, name: 'Owner', initials: 'O', role: 'owner' }],
    ['house.rule', { rule: 'secondPerson', option: 'no', reason: 'One person works here.' }],
    ['house.set', { keptBrineGenerations: 20 }],
    ['room.add', { roomId: room, name: 'Cellar', usualCelsius: 14, position: 0 }],
    ['supplier.add', { supplierId: supplier, name: 'Growers', prefix: 'CG' }],
    [
      'material.add',
      {
        materialId: shred,
        name: 'Shred',
        kind: 'produce',
        waterFraction: 0.92,
        saltFraction: 0,
        allergens: [],
        caution: null,
      },
    ],
    [
      'material.add',
      { materialId: salt, name: 'Salt', kind: 'salt', waterFraction: 0, saltFraction: 1, allergens: [], caution: null },
    ],
    ['formula.save', formula],
    ['meter.add', { meterId, tag: 'M1', name: 'Meter', kind: 'meter' }],
  );
  await setPin(db, owner.id, '1234');
  for (const [index, vesselId] of vessels.entries()) {
    await send(start, [
      'vessel.add',
      {
        vesselId,
        tag: `V${index + 1}`,
        shape: 'crock',
        brimMl: 100_000,
        maxFill: 0.9,
        minFill: 0.1,
        weightVolumeMl: 0,
        closure: 'loose',
        roomId: room,
        inUse: true,
      },
    ]);
  }
  return { owner, send, supplier, shred, salt, formulaId, meterId, vessels };
}

async function makeBatches(
  { owner, send, supplier, shred, salt, formulaId, meterId, vessels }: Founded,
  start: number,
  batches: number,
  live: number,
  say: (text: string) => void,
): Promise<BigHouse> {
  const supply = (lotId: string, materialId: string, theirs: string, grams: number): [EntryKind, object] => [
    'supply.receive',
    { lotId, materialId, supplierId: supplier, supplierLotCode: theirs, grams, useBy: null, condition: null },
  ];
  const runCodes: string[] = [];
  const saltCodes: string[] = [];
  let saltLot = '';
  const fillIds: string[] = [];
  for (let n = 0; n < batches; n += 1) {
    const at = start + DAY + n * APART;
    const kept = fillIds.at(-1);
    const ripe = fillIds.at(-2);
    if (n % 50 === 0) {
      saltLot = v7();
      saltCodes.push(String((await send(at, supply(saltLot, salt, `S-${n}`, 100_000)))[0]!['code']));
    }
    const [batchId, shredLot, fill, runLotId] = [v7(), v7(), v7(), v7()];
    await send(
      at,
      supply(shredLot, shred, `F-${n}`, 80_000),
      ['batch.start', { batchId, formulaId, version: 1, plan: { from: 'trimmed', trimmedGrams: 66_000 } }],
      ['produce.weigh', { batchId, supplyLotId: shredLot, trimmedGrams: 66_000, trimWasteGrams: 9000 }],
      ['salt.weigh', { batchId, saltLotId: saltLot, grams: 1452, alreadyIn: false }],
      ...(n % 10 !== 0 && kept
        ? [['ingredient.add', { batchId, fromLotId: kept, grams: 500 }] as [EntryKind, object]]
        : []),
      ['vessel.fill', { fillLotId: fill, batchId, vesselId: vessels[n % 60]!, grams: 67_400, brine: null }],
      [
        'meter.calibrate',
        {
          meterId,
          celsius: 20,
          by: {
            how: 'buffers',
            buffers: [
              { ph: 7, millivolts: 2 },
              { ph: 4.01, millivolts: 172 },
            ],
          },
          check: { buffer: 4.01, read: 4.02 },
        },
      ],
      ['ph.read', { lotId: fill, ph: 3.7, sample: 'blended', meterId }],
      ...(ripe ? [['ph.read', { lotId: ripe, ph: 3.7, sample: 'blended', meterId }] as [EntryKind, object]] : []),
    );
    // A vessel is packed two batches later: its brine could start the next one, and it was read twice a day apart.
    if (ripe && n < batches - live + 2) {
      const facts = await send(at + 60_000, [
        'pack.run',
        {
          runLotId,
          from: [{ fillLotId: ripe, grams: 64_000, empties: true, restReason: 'brine poured away' }],
          jars: [{ sizeMl: 330, netGrams: 320, count: 200 }],
          sampleGrams: 0,
          leftoverGrams: 0,
          wasteGrams: 0,
          tallyReason: null,
        },
      ]);
      runCodes.push(String(facts[0]!['code']));
    }
    fillIds.push(fill);
    if (n % 250 === 249) say(`${n + 1} batches`);
  }
  return { owner, pin: '1234', runCodes, saltCodes, fillIds: fillIds.slice(-200) };
}
