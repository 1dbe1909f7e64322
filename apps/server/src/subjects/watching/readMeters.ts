import type { MetersReply } from '@clear-tally/contract';
import { meterFitness } from '@clear-tally/core';
import { asc, sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { meter } from '../../db/schema/watching.js';

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
