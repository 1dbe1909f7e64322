import type { RecallReply } from '@clear-tally/contract';
import { type CratePlace, crateOf, GONE_WORDS, type GoneHow, jarCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { customer } from '../db/schema/jars.js';
import { toGrams } from '../db/schema/columns.js';
import { roomNames } from './house.js';
import { onHandMg } from './lotFigures.js';
import { openHolds } from './openHolds.js';
import { jarsOf } from './runs.js';

type Place = RecallReply['places'][number];
type LotInReach = RecallReply['lots'][number];

/** Lots of a recall, with what stands of each. The suspect first, then in the order they came to be. */
export async function lotsInReach(reader: Reader, reach: ReadonlyMap<string, boolean>): Promise<LotInReach[]> {
  const ids = [...reach.keys()];
  const holds = await openHolds(reader, ids);
  const found = await rows<Omit<LotInReach, 'held' | 'carryOver' | 'onHandGrams'> & { mg: string | null }>(
    reader,
    sql`
    select l.id as "lotId", l.code, l.kind, l.name, v.tag as "vesselTag", l.closed_at is null and l.kind in ('fill', 'preparation', 'supply', 'batch') as live,
      case when l.metered and l.kind <> 'run' then ${onHandMg(sql`l.id`)} end as mg
    from lot l left join vessel v on v.id = l.vessel_id where l.id = ${anyOf(ids)} and l.undone_seq is null order by l.at, l.seq`,
  );
  return found
    .map(({ mg, ...row }) => ({
      ...row,
      live: row.live && (row.kind === 'fill' || mg === null || Number(mg) > 0),
      onHandGrams: mg === null ? null : toGrams(mg),
      held: holds.has(row.lotId),
      carryOver: reach.get(row.lotId) === true,
    }))
    .sort((a, b) => Number(b.lotId === ids[0]) - Number(a.lotId === ids[0]));
}

/** Jars of these runs by where they are: rooms of the house, customers, and what is gone. */
export async function placesOf(
  reader: Reader,
  runs: readonly { readonly lotId: string; readonly code: string; readonly name: string }[],
): Promise<{ places: Place[]; crate: CratePlace[] }> {
  const rooms = await roomNames(reader);
  const customers = new Map(
    (
      await reader
        .select({ id: customer.id, name: customer.name, contact: customer.contact, address: customer.address })
        .from(customer)
    ).map((row) => [row.id, row]),
  );
  const found = new Map<string, Place & { how: GoneHow | null }>();
  const byId = new Map(runs.map((run) => [run.lotId, run]));
  for (const { runLotId, sizeMl, segments } of await jarsOf(
    reader,
    runs.map(({ lotId }) => lotId),
  )) {
    const run = byId.get(runLotId)!;
    for (const { first, last, where } of segments) {
      const key =
        where.kind === 'house' ? (where.roomId ?? 'packed') : where.kind === 'customer' ? where.customerId : where.how;
      const who = where.kind === 'customer' ? customers.get(where.customerId) : undefined;
      const place = found.get(key) ?? {
        key,
        kind: where.kind,
        how: where.kind === 'gone' ? where.how : null,
        name:
          where.kind === 'house'
            ? where.roomId === null
              ? 'In the house, where it was packed'
              : (rooms.get(where.roomId) ?? 'In the house')
            : where.kind === 'customer'
              ? (who?.name ?? 'A customer')
              : GONE_WORDS[where.how].charAt(0).toUpperCase() + GONE_WORDS[where.how].slice(1),
        jars: 0,
        accounted: 0,
        open: 0,
        unanswered: 0,
        stretches: [],
        contact: who?.contact ?? null,
        address: who?.address ?? null,
        notice: null,
        answers: [],
      };
      found.set(key, {
        ...place,
        jars: place.jars + last - first + 1,
        stretches: [
          ...place.stretches,
          {
            run: run.code,
            name: run.name,
            sizeMl,
            first: jarCode(run.code, first).text,
            last: jarCode(run.code, last).text,
            count: last - first + 1,
          },
        ],
      });
    }
  }
  const order = { house: 0, customer: 1, gone: 2 } as const;
  const all = [...found.values()].sort(
    (a, b) => order[a.kind] - order[b.kind] || b.jars - a.jars || a.name.localeCompare(b.name, 'en'),
  );
  return {
    places: all.map(({ how: _how, ...place }) => place),
    crate: all.map(({ key, kind, how, jars }) => ({ key, kind, how, jars })),
  };
}

/** The crate of a recall as it stands now: every place with what was answered there. */
export async function crateNow(reader: Reader, recallId: string) {
  const runs = await rows<{ lotId: string; code: string; name: string }>(
    reader,
    sql`select l.id as "lotId", l.code, l.name from recall_lot r join lot l on l.id = r.lot_id where r.recall_id = ${recallId} and l.kind = 'run' and l.undone_seq is null order by l.at, l.seq`,
  );
  const notes = await rows<{
    what: 'notice' | 'answer';
    place: string;
    how: string | null;
    words: string | null;
    answer: Place['answers'][number]['answer'] | null;
    count: number | null;
    by: string;
    at: Date;
  }>(
    reader,
    sql`select n.what, n.place, n.how, n.words, n.answer, n.count, p.initials as by, n.at from recall_note n join person p on p.id = n.by where n.recall_id = ${recallId} order by n.at, n.seq, n.number`,
  );
  const { places, crate } = await placesOf(reader, runs);
  const iso = (at: Date): string => new Date(at).toISOString();
  const answers = notes.flatMap(({ what, place, count, answer }) =>
    what === 'answer' && count && answer ? [{ key: place, count, answer }] : [],
  );
  const counted = crateOf(crate, answers);
  return {
    runs,
    counted,
    places: places.map((place, i): Place => {
      const own = notes.filter((note) => note.place === place.key);
      const notice = own.findLast(({ what }) => what === 'notice');
      return {
        ...place,
        accounted: counted.rows[i]!.accounted,
        open: counted.rows[i]!.open,
        unanswered: counted.rows[i]!.unanswered,
        notice: notice ? { at: iso(notice.at), by: notice.by, how: notice.how ?? '', words: notice.words } : null,
        answers: own.flatMap(({ what, answer, count, by, at, words }) =>
          what === 'answer' && answer && count ? [{ at: iso(at), by, count, answer, note: words }] : [],
        ),
      };
    }),
  };
}
