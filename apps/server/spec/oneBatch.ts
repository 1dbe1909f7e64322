import type { Recorded } from '@clear-tally/contract';
import type { Actor } from '../src/journal/record.js';
import { ids } from './entries.js';
import type { TestHouse } from './house.js';

export const daysAgo = (days: number, hour = 9): Date => {
  // Nine in the morning of today is in the future, before nine.
  if (days < 1) throw new Error('daysAgo begins with yesterday: take `new Date()`');
  const at = new Date(Date.now() - days * 86_400_000);
  at.setUTCHours(hour, 0, 0, 0);
  return at;
};

export async function receive(
  house: TestHouse,
  materialId: string,
  grams: number,
  theirs: string,
  at = daysAgo(50),
): Promise<string> {
  const lotId = ids.next();
  await house.record(
    'supply.receive',
    {
      lotId,
      materialId,
      supplierId: house.names.supplier,
      supplierLotCode: theirs,
      grams,
      useBy: null,
      condition: null,
    },
    { at },
  );
  return lotId;
}

export interface DryBatch {
  readonly batchId: string;
  readonly fillId: string;
  readonly saltEntry: string;
  readonly shredLot: string;
  readonly saltLot: string;
}

/** A dry-salted batch in one vessel, as W9's figures: 14.6 kg at 2.2 %. */
export async function dryBatch(
  house: TestHouse,
  options: {
    tag: string;
    produceGrams?: number;
    saltGrams?: number;
    at?: Date;
    by?: Actor;
    fill?: boolean;
    saltLot?: string;
    version?: number;
  },
): Promise<DryBatch> {
  const { produceGrams = 14_600, saltGrams = 321, at = daysAgo(30) } = options;
  const shredLot = await receive(
    house,
    house.names.shred,
    produceGrams * 1.4,
    `F2-${options.tag}`,
    new Date(at.getTime() - 3_600_000),
  );
  const saltLot =
    options.saltLot ??
    (await receive(house, house.names.salt, 25_000, `SWP-${options.tag}`, new Date(at.getTime() - 3_600_000)));
  const batchId = ids.next();
  const fillId = ids.next();
  const by = options.by ?? house.maker;
  await house.record(
    'batch.start',
    {
      batchId,
      formulaId: house.names.dry,
      version: options.version ?? 1,
      plan: { from: 'trimmed', trimmedGrams: produceGrams },
    },
    { at, by },
  );
  await house.record(
    'produce.weigh',
    { batchId, supplyLotId: shredLot, trimmedGrams: produceGrams, trimWasteGrams: 900 },
    { at, by },
  );
  const salt = await house.record(
    'salt.weigh',
    { batchId, saltLotId: saltLot, grams: saltGrams, alreadyIn: true },
    { at, by },
  );
  if (options.fill !== false)
    await house.record(
      'vessel.fill',
      { fillLotId: fillId, batchId, vesselId: house.vessel(options.tag), grams: produceGrams + saltGrams, brine: null },
      { at, by },
    );
  return { batchId, fillId, saltEntry: salt.id, shredLot, saltLot };
}

const meters = new WeakMap<TestHouse, string>();

/** A blended reading that counts: by a meter calibrated the hour before, with its acid buffer read again. */
export async function readWell(
  house: TestHouse,
  lotId: string,
  ph: number,
  at = new Date(),
  more: { sample?: 'blended' | 'brine' } = {},
): Promise<Recorded> {
  if (!meters.has(house)) {
    meters.set(house, ids.next());
    await house.record(
      'meter.add',
      { meterId: meters.get(house)!, tag: 'MR', name: 'Meter of readings', kind: 'meter' },
      { at: daysAgo(59) },
    );
  }
  const meterId = meters.get(house)!;
  await house.record(
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
    { at: new Date(at.getTime() - 60_000), by: house.maker },
  );
  return house.record(
    'ph.read',
    { lotId, ph, sample: 'blended', meterId, confirmedJump: true, ...more },
    { at, by: house.maker },
  );
}

/** Sour in time, and read twice a day apart before it is packed. */
export async function sour(house: TestHouse, lotId: string, filledAt: Date, packedAt = daysAgo(1)): Promise<void> {
  const before = (hours: number): Date => new Date(packedAt.getTime() - hours * 3_600_000);
  const early = new Date(Math.min(filledAt.getTime() + 4 * 86_400_000, before(60).getTime()));
  await readWell(house, lotId, 4.1, early);
  await readWell(house, lotId, 3.74, before(30));
  await readWell(house, lotId, 3.7, before(2));
}

/** Jars of 320 g from a vessel that has a fitting pH. */
export async function packJars(
  house: TestHouse,
  fillLotId: string,
  count: number,
  options: { at?: Date; empties?: boolean; brine?: 'own'; storage?: 'cold' } = {},
): Promise<{ runLotId: string; code: string }> {
  const runLotId = ids.next();
  const recorded = await house.record(
    'pack.run',
    {
      runLotId,
      from: [
        {
          fillLotId,
          grams: count * 320,
          empties: options.empties ?? false,
          ...(options.empties ? { restReason: 'thrown out at packing' } : {}),
        },
      ],
      jars: [{ sizeMl: 330, netGrams: 320, count }],
      sampleGrams: 0,
      leftoverGrams: 0,
      wasteGrams: 0,
      tallyReason: null,
      ...(options.brine ? { brine: options.brine } : {}),
      ...(options.storage ? { storage: options.storage } : {}),
    },
    { at: options.at ?? daysAgo(1), by: house.maker },
  );
  return { runLotId, code: String(recorded.facts['code']) };
}
