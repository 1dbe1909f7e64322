import { asc, sql } from 'drizzle-orm';
import { HOUSE_RULES, meterFitness } from '@clear-tally/core';
import type { EntryOf, MetersReply, RuleHistoryReply } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';
import { meter } from '../db/schema/index.js';

interface Row {
  meterId: string;
  at: Date;
  by: string;
  buffers: number[];
  slope: string;
  offset: string;
  buffer: string | null;
  read: string | null;
}

/** Meters and strips with their last calibrations, and whether they are fit for release now. */
export async function readMeters(reader: Reader, now: Date): Promise<MetersReply> {
  const meters = await reader.select().from(meter).orderBy(asc(meter.tag));
  const found = await rows<Row>(
    reader,
    sql`
    select c.meter_id as "meterId", c.at, p.initials as by, c.buffers, c.slope_percent as slope, c.offset_millivolts as "offset", c.check_buffer as buffer, c.check_read as read
    from (select *, row_number() over (partition by meter_id order by at desc, seq desc) as n from calibration) c join person p on p.id = c.by where c.n <= 12 order by c.at desc, c.seq desc`,
  );
  return {
    meters: meters.map(({ id, ...of }) => {
      const calibrations = found
        .filter(({ meterId }) => meterId === id)
        .map((row) => ({
          at: new Date(row.at).toISOString(),
          by: row.by,
          buffers: row.buffers,
          slopePercent: Number(row.slope),
          offsetMillivolts: Number(row.offset),
          check: row.buffer === null ? null : { buffer: Number(row.buffer), read: Number(row.read) },
        }));
      const last = calibrations[0];
      const fitness = meterFitness({
        kind: of.kind,
        at: now.getTime(),
        calibration: last ? { ...last, at: Date.parse(last.at) } : null,
      });
      const moment = (at: number | null): string | null => (at === null ? null : new Date(at).toISOString());
      return {
        meterId: id,
        ...of,
        fit: fitness.fit,
        reasons: fitness.reasons,
        since: moment(fitness.since),
        until: moment(fitness.until),
        calibrations,
      };
    }),
  };
}

/** How a question of the house was answered over time, from the journal. */
export async function readRuleHistory(reader: Reader, rule: string): Promise<RuleHistoryReply> {
  const written = await rows<{ at: Date; by: string; entry: string }>(
    reader,
    sql`
    select j.happened_at as at, p.initials as by, j.entry from journal j join person p on p.id = j.by where j.kind = 'house.rule' order by j.seq desc`,
  );
  const found = written
    .map(({ entry, ...row }) => ({ ...row, ...(JSON.parse(entry) as EntryOf<'house.rule'>).body }))
    .filter((row) => row.rule === rule)
    .slice(0, 100);
  const options = HOUSE_RULES.find(({ key }) => key === rule)?.options ?? [];
  return {
    answers: found.map((row) => ({
      at: new Date(row.at).toISOString(),
      by: row.by,
      words: options.find(({ key }) => key === row.option)?.words ?? row.option,
      reason: row.reason,
    })),
  };
}
