import type { EpcisInput, EpcisQuantity } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { groupBy } from '../../db/groupBy.js';
import { type Reader, rows } from '../../db/database.js';
import type { Asked } from './sheetOf.js';

const kilograms = (milligrams: string): number => Number(milligrams) / 1_000_000;

interface Row {
  id: string;
  at: Date;
}

/** So many events of each kind go into one document; a longer time is asked for in parts. */
export const MOST_EVENTS = 20_000;

/** What came in, what was made of what, and what went out between two moments, in their order. */
export async function readEvents(reader: Reader, { from, to, timeZone }: Asked): Promise<EpcisInput[]> {
  const [start, end] = [from.toISOString(), to.toISOString()];
  const offset = new Intl.DateTimeFormat('en-GB', { timeZone, timeZoneName: 'longOffset' });
  const head = ({ id, at }: Row) => ({
    id,
    at: new Date(at).toISOString(),
    offset: /GMT([+-]\d\d:\d\d)?/.exec(offset.format(new Date(at)))?.[1] ?? '+00:00',
  });
  const received = await rows<
    Row & { code: string; name: string; supplier: string; mg: string; pieces: boolean; paper: string | null }
  >(
    reader,
    sql`
    select l.id, l.at, l.code, l.name, coalesce(s.name, 'unknown') as supplier, sum(m.milligrams) as mg, x.kind = 'packaging' as pieces, l.reference as paper
    from lot l join live_movement m on m.to_lot = l.id and m.source = 'received' left join supplier s on s.id = l.supplier_id left join material x on x.id = l.material_id
    where l.kind = 'supply' and l.undone_seq is null and l.at >= ${start} and l.at < ${end} group by 1, 2, 3, 4, 5, 7, 8 order by 2 limit ${MOST_EVENTS}`,
  );
  const made = await rows<Row & { code: string; kind: string; name: string; inCode: string; mg: string }>(
    reader,
    sql`
    select t.id, max(m.at) as at, t.code, t.kind, t.name, f.code as "inCode", sum(m.milligrams) as mg
    from lot t join live_movement m on m.to_lot = t.id join lot f on f.id = m.from_lot
    where t.kind <> 'supply' and t.undone_seq is null and t.at >= ${start} and t.at < ${end} group by t.id, t.code, t.kind, t.name, f.code order by 2 limit ${MOST_EVENTS}`,
  );
  const shipped = await rows<Row & { customer: string; note: string; run: string; name: string; pieces: number }>(
    reader,
    sql`
    select md5(m.entry_id::text || m.number)::uuid as id, m.at, c.name as customer, d.code as note, l.code as run, l.name, m.last_serial - m.first_serial + 1 as pieces
    from jar_move m join dispatch d on d.id = m.dispatch_id join customer c on c.id = m.customer_id join lot l on l.id = m.run_lot_id
    where m.where_kind = 'customer' and m.at >= ${start} and m.at < ${end} order by 2 limit ${MOST_EVENTS}`,
  );
  const byLot = groupBy(made, ({ id }) => id);
  return [
    ...received.map((row): EpcisInput => ({
      ...head(row),
      kind: 'received',
      from: row.supplier,
      what: row.pieces
        ? { lot: row.code, name: row.name, pieces: Number(row.mg) / 1000 }
        : { lot: row.code, name: row.name, kilograms: kilograms(row.mg) },
      paper: row.paper,
    })),
    ...[...byLot.values()].map((parts): EpcisInput => {
      const last = parts.reduce((a, b) => (new Date(a.at) > new Date(b.at) ? a : b));
      const whole = parts.reduce((sum, { mg }) => sum + kilograms(mg), 0);
      return {
        ...head(last),
        kind: 'made',
        of: parts.map(({ inCode, mg }): EpcisQuantity => ({ lot: inCode, kilograms: kilograms(mg) })),
        what: { lot: last.code, name: last.name, kilograms: whole },
        step: last.kind === 'run' ? 'packing' : 'commissioning',
      };
    }),
    ...shipped.map((row): EpcisInput => ({
      ...head(row),
      kind: 'shipped',
      to: row.customer,
      what: { lot: row.run, name: row.name, pieces: row.pieces },
      paper: row.note,
    })),
  ].sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
}
