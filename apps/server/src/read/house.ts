import { asc, sql, type SQL } from 'drizzle-orm';
import { KEPT_BRINE } from '@clear-tally/core';
import type { HouseReply } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';
import { house, houseRule, material, room, supplier } from '../db/schema/index.js';
import { refused } from '../record/refused.js';

/** Whether something stood in a vessel after it was last cleaned. A vessel holds one thing at a time: the last one decides. */
export const usedSince = (vessel: SQL): SQL =>
  sql`(${vessel}.cleaned_at is not null and (select greatest(coalesce(u.closed_at, 'infinity'), (select min(i.at) from live_movement i where i.to_lot = u.id)) > ${vessel}.cleaned_at from lot u where u.vessel_id = ${vessel}.id and u.kind = 'fill' order by u.seq desc limit 1) is true)`;

/** What a vessel was cleaned with last, how strong, how long, and whether it was rinsed. */
export const cleanedWith = (vessel: SQL): SQL => sql`(
  select concat_ws(', ', c.agent, c.dilution, round(c.contact_minutes)::text || ' min', case when c.rinsed then 'rinsed' end)
  from cleaning c where c.vessel_id = ${vessel}.id order by c.at desc, c.seq desc limit 1)`;

/** The house's settings; a refusal when nothing has been founded yet. */
export async function loadHouse(reader: Reader): Promise<typeof house.$inferSelect> {
  const [found] = await reader.select().from(house);
  if (!found) throw refused('resource.unknown', 'This ledger has no house yet.');
  return found;
}

/** Under which other machines reach this house, as an owner set it; null: this machine alone, or nothing founded yet. */
export async function readAddress(reader: Reader): Promise<string | null> {
  const [of] = await reader.select({ settings: house.settings }).from(house);
  return of?.settings.address?.toLowerCase() ?? null;
}

export async function readHouse(reader: Reader): Promise<HouseReply> {
  const { id: _, settings, ...found } = await loadHouse(reader);
  const vessels = await rows<
    HouseReply['vessels'][number] & { cleanedAt: Date | null; maxFill: string; minFill: string }
  >(
    reader,
    sql`
    select v.id, v.tag, v.shape, v.brim_ml as "brimMl", v.max_fill as "maxFill", v.min_fill as "minFill", v.closure, v.room_id as "roomId", v.in_use as "inUse", v.weight_volume_ml as "weightVolumeMl", v.inner,
           v.cleaned_at as "cleanedAt", ${cleanedWith(sql`v`)} as "cleanedWith", l.code as "takenBy", ${usedSince(sql`v`)} as "usedSince"
    from vessel v left join lot l on l.live_vessel = v.id order by v.tag`,
  );
  return {
    ...found,
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
    },
    rules: Object.fromEntries((await reader.select().from(houseRule)).map((row) => [row.rule, row.option])),
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
