import { jarCode, STORAGE_WORDS } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { type Reader, rows } from '../../db/database.js';
import { refused } from '../../journal/refused.js';
import { loadRuns } from '../../lots/runs.js';

/** A delivery with every stretch of jars it took, as its note says it; days in the house's zone. */
export async function readNote(reader: Reader, dispatchId: string, timeZone: string) {
  const [of] = await rows<{
    code: string;
    customer: string;
    address: string | null;
    by: string;
    at: Date;
    note: string | null;
  }>(
    reader,
    sql`
    select d.code, c.name as customer, c.address, p.name as by, d.at, d.note from dispatch d join customer c on c.id = d.customer_id join person p on p.id = d.by where d.id = ${dispatchId}`,
  );
  if (!of) throw refused('resource.unknown', 'There is no such delivery.');
  const moves = await rows<{ runLotId: string; first: number; last: number; sizeMl: number }>(
    reader,
    sql`
    select m.run_lot_id as "runLotId", greatest(m.first_serial, r.first_serial) as first, least(m.last_serial, r.last_serial) as last, r.size_ml as "sizeMl"
    from jar_move m join jar_range r on r.run_lot_id = m.run_lot_id and r.first_serial <= m.last_serial and r.last_serial >= m.first_serial
    where m.dispatch_id = ${dispatchId} order by m.number, 2`,
  );
  const runs = new Map(
    (await loadRuns(reader, [...new Set(moves.map(({ runLotId }) => runLotId))])).map((run) => [run.lotId, run]),
  );
  const day = new Intl.DateTimeFormat('en-GB', { timeZone, day: 'numeric', month: 'short', year: 'numeric' });
  const moment = new Intl.DateTimeFormat('en-GB', { timeZone, dateStyle: 'medium', timeStyle: 'short' });
  return {
    ...of,
    at: moment.format(new Date(of.at)),
    lines: moves.map(({ runLotId, first, last, sizeMl }) => {
      const run = runs.get(runLotId)!;
      return {
        name: run.name,
        run: run.code,
        packed: day.format(run.packedAt),
        storage: run.storage ? STORAGE_WORDS[run.storage] : null,
        count: last - first + 1,
        sizeMl,
        codes:
          first === last
            ? jarCode(run.code, first).text
            : `${jarCode(run.code, first).text} to ${jarCode(run.code, last).text}`,
      };
    }),
  };
}
