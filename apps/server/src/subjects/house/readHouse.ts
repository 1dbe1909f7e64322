import type { HouseReply } from '@clear-tally/contract';
import { KEPT_BRINE } from '@clear-tally/core';
import { asc, isNotNull, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { credential, room } from '../../db/schema/house.js';
import { material, supplier } from '../../db/schema/stores.js';
import { chosenRules, cleanedWith, loadHouse, usedSince } from '../../lots/house.js';

export async function readHouse(reader: Reader): Promise<HouseReply> {
  const { id: _, settings, ...found } = await loadHouse(reader);
  const vessels = await rows<
    HouseReply['vessels'][number] & { cleanedAt: Date | null; maxFill: string; minFill: string }
  >(
    reader,
    sql`
    select v.id, v.tag, v.shape, v.brim_ml as "brimMl", v.max_fill as "maxFill", v.min_fill as "minFill", v.closure, v.room_id as "roomId", v.in_use as "inUse", v.weight_volume_ml as "weightVolumeMl", v.inner, v.details,
           v.cleaned_at as "cleanedAt", ${cleanedWith(sql`v`)} as "cleanedWith", l.code as "takenBy", ${usedSince(sql`v`)} as "usedSince"
    from vessel v left join lot l on l.live_vessel = v.id order by v.tag`,
  );
  const [demo] = await reader
    .select({ of: credential.personId })
    .from(credential)
    .where(isNotNull(credential.demoPin))
    .limit(1);
  return {
    ...found,
    demo: demo !== undefined,
    settings: {
      currency: settings.currency ?? 'EUR',
      labourPerHour: settings.labourPerHour ?? 0,
      scaleStepGrams: settings.scaleStepGrams ?? 1,
      keptBrineDays: settings.keptBrineDays ?? KEPT_BRINE.days,
      keptBrineGenerations: settings.keptBrineGenerations ?? KEPT_BRINE.generations,
      acidByHours: settings.acidByHours ?? {},
      saltBands: settings.saltBands ?? {},
      contacts: settings.contacts ?? [],
      address: settings.address ?? null,
      lockMinutes: settings.lockMinutes ?? null,
      trainedTasks: settings.trainedTasks ?? [],
      massUnit: settings.massUnit ?? 'both',
      passphraseFor: settings.passphraseFor ?? 'nobody',
    },
    scales: await readScales(reader),
    rules: await chosenRules(reader),
    rooms: (await reader.select().from(room).orderBy(asc(room.position))).map(({ position: __, ...row }) => row),
    vessels: vessels.map((row) => ({
      ...row,
      maxFill: Number(row.maxFill),
      minFill: Number(row.minFill),
      cleanedAt: row.cleanedAt ? new Date(row.cleanedAt).toISOString() : null,
    })),
    suppliers: await reader
      .select({ id: supplier.id, name: supplier.name, prefix: supplier.prefix, ownPlot: supplier.ownPlot })
      .from(supplier)
      .orderBy(asc(supplier.name)),
    materials: await reader.select().from(material).orderBy(asc(material.name)),
  };
}

/** Scales of the register, with how each was found when it was last held against a weight. */
const readScales = async (reader: Reader): Promise<HouseReply['scales']> =>
  (
    await rows<Omit<HouseReply['scales'][number], 'checkedAt'> & { checkedAt: Date | null }>(
      reader,
      sql`select e.id, e.tag, e.name, e.capacity_grams as "capacityGrams", e.step_grams as "stepGrams", e.in_use as "inUse",
        k.passed, k.at as "checkedAt"
      from equipment e left join lateral
        (select passed, at from equipment_check where equipment_id = e.id order by at desc, seq desc limit 1) k on true
      where e.kind = 'scale' and e.capacity_grams is not null and e.step_grams is not null order by e.tag`,
    )
  ).map((scale) => ({ ...scale, checkedAt: scale.checkedAt ? new Date(scale.checkedAt).toISOString() : null }));
