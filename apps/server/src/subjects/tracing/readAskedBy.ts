import type { AskedBy, AskedByReply, EntryKind } from '@clear-tally/contract';
import { momentsOfDay } from '@clear-tally/core';
import { and, eq, isNull, type SQL, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { lot } from '../../db/schema/ledger.js';
import { asCorrected } from '../../lots/written.js';
import { refused } from '../../journal/refused.js';
import { kindOf } from '../../journal/registry.js';
import { loadHouse } from '../../lots/house.js';
import { lotsInReach, placesOf } from '../../lots/recallCrate.js';
import { walkForward } from '../../lots/walk.js';

interface Touched {
  readonly id: string;
  readonly at: Date;
  readonly why: string;
  /** Kinds of entry, to be put in words. */
  readonly kinds?: readonly string[] | null;
  readonly doubtful: boolean;
}

/** So many lots are listed and followed; a day, a customer and a meter seldom have more. */
const MOST = 120;
/** Lines of a person, the newest. */
const MOST_LINES = 4000;

/** A question by one of these, as an SQL question of the lots it touched. */
const QUESTIONS: Readonly<Record<Exclude<AskedBy, 'day'>, (id: string) => { name: SQL; lots: SQL }>> = {
  customer: (id) => ({
    name: sql`select name from customer where id = ${id}`,
    lots: sql`select run_lot_id as id, max(at) as at, 'sent, ' || sum(last_serial - first_serial + 1) || ' jars' as why, false as doubtful
      from jar_move where customer_id = ${id} group by 1`,
  }),
  person: (id) => ({
    name: sql`select name from person where id = ${id}`,
    lots: sql`select e.lot_id as id, max(j.happened_at) as at, array_agg(distinct j.kind) as kinds, '' as why, false as doubtful
      from (select seq, kind, happened_at from journal where by = ${id} order by seq desc limit ${MOST_LINES}) j join entry_lot e on e.seq = j.seq group by 1`,
  }),
  meter: (id) => ({
    name: sql`select tag || ', ' || name from meter where id = ${id}`,
    lots: sql`select lot_id as id, max(at) as at, count(*) || ' pH by it' || case when bool_or(unfit is not null) then ', ' || count(*) filter (where unfit is not null) || ' while it was not fit' else '' end as why, bool_or(unfit is not null) as doubtful
      from live_reading where meter_id = ${id} group by 1`,
  }),
  room: (id) => ({
    name: sql`select name from room where id = ${id}`,
    lots: sql`select l.id, l.at, case when v.room_id = ${id} then 'its vessel stands here' else 'moved here' end as why, false as doubtful
      from lot l join vessel v on v.id = l.vessel_id where l.kind = 'fill' and (v.room_id = ${id} or exists (
        select 1 from entry_lot e join journal j on j.seq = e.seq and j.kind = 'vessel.move' where e.lot_id = l.id and ${asCorrected} -> 'body' ->> 'roomId' = ${id}))`,
  }),
  packaging: (id) => ({
    name: sql`select code || ', ' || name from lot where id = ${id} and kind = 'supply'`,
    lots: sql`select run_lot_id as id, max(at) as at, 'jars ' || string_agg(first || ' to ' || last, ', ' order by first) as why, false as doubtful from (
        select c.run_lot_id, j.happened_at as at, c.first_serial as first, c.last_serial as last from closure_lot c join journal j on j.seq = c.seq where c.lot_id = ${id}
        union all select run_lot_id, at, first_serial, last_serial from jar_label where label_lot_id = ${id}
      ) onto group by 1`,
  }),
  vessel: (id) => ({
    name: sql`select tag as name from vessel where id = ${id}`,
    lots: sql`select l.id, l.at, case when exists (select 1 from cleaning c where c.vessel_id = l.vessel_id and c.at <= l.at
        and c.at >= coalesce((select max(coalesce(o.closed_at, o.at)) from lot o where o.vessel_id = l.vessel_id and o.kind = 'fill' and o.undone_seq is null and (o.at, o.seq) < (l.at, l.seq)), '-infinity'))
        then 'filled, cleaned before' else 'filled, no cleaning on record before' end as why, false as doubtful
      from lot l where l.kind = 'fill' and l.vessel_id = ${id}`,
  }),
};

/**
 * Everything a customer, a day, a person, a meter, a room or a vessel had to do with, and the jars of it by place.
 * Source: handbook 5.3.
 * @throws {Refused} nothing of that id is known here
 */
export async function readAskedBy(reader: Reader, by: AskedBy, id: string): Promise<AskedByReply> {
  const started = performance.now();
  const { title, lots: question } = by === 'day' ? await ofDay(reader, id) : await named(reader, by, id);
  const touched = await rows<Touched>(
    reader,
    sql`select t.* from (${question}) t join lot l on l.id = t.id where l.undone_seq is null order by t.at desc limit ${MOST + 1}`,
  );
  const shown = touched.slice(0, MOST);
  const about = new Map(shown.map((one) => [one.id, one]));
  const lots = await lotsInReach(reader, new Map(shown.map((one) => [one.id, false])));
  const runs = by === 'customer' ? shown.map(({ id: lotId }) => lotId) : await runsOf(reader, shown);
  const { places } = await placesOf(reader, await runRows(reader, runs));
  const own = by === 'customer' ? places.filter(({ key }) => key === id) : places;
  return {
    by,
    id,
    title,
    lots: lots
      .map(({ carryOver: _, ...lot }) => {
        const { at, why, kinds, doubtful } = about.get(lot.lotId)!;
        return { ...lot, at: new Date(at).toISOString(), why: kinds ? kindWords(kinds) : why, doubtful };
      })
      .sort((a, b) => b.at.localeCompare(a.at, 'en')),
    more: touched.length > MOST,
    places: own,
    runs: runs.length,
    jars: own.reduce((sum, { jars }) => sum + jars, 0),
    milliseconds: Math.round((performance.now() - started) * 10) / 10,
  };
}

async function named(reader: Reader, by: Exclude<AskedBy, 'day'>, id: string): Promise<{ title: string; lots: SQL }> {
  const { name, lots } = QUESTIONS[by](id);
  const [of] = await rows<Record<string, string>>(reader, name);
  if (!of) throw refused('resource.unknown', `No ${by} of that kind is known in this house.`);
  return { title: Object.values(of)[0]!, lots };
}

/** What was written of on a day of the house. */
async function ofDay(reader: Reader, day: string): Promise<{ title: string; lots: SQL }> {
  const { timeZone } = await loadHouse(reader);
  const { from, to } = momentsOfDay(day, timeZone);
  return {
    title: day,
    lots: sql`select e.lot_id as id, max(j.happened_at) as at, array_agg(distinct j.kind) as kinds, '' as why, false as doubtful
      from journal j join entry_lot e on e.seq = j.seq
      where j.happened_at >= ${new Date(from).toISOString()} and j.happened_at < ${new Date(to).toISOString()} group by 1`,
  };
}

const MOST_WORDS = 4;

/** "Batch started, pH, Temperature and 3 more". */
function kindWords(kinds: readonly string[]): string {
  const words = [...new Set(kinds.map((kind) => kindOf(kind as EntryKind).words))].sort(byWords.compare);
  const more = words.length - MOST_WORDS;
  return `${words.slice(0, MOST_WORDS).join(', ')}${more > 0 ? ` and ${more} more` : ''}`;
}

const byWords = new Intl.Collator('en');

/** Runs that are among these lots, or came of them. */
async function runsOf(reader: Reader, lots: readonly Touched[]): Promise<string[]> {
  const reached = new Set(lots.map(({ id }) => id));
  for (const { id } of lots) {
    for (const { to } of await rows<{ to: string | null }>(reader, walkForward(id))) if (to) reached.add(to);
  }
  const found = await reader
    .select({ id: lot.id })
    .from(lot)
    .where(and(eq(lot.kind, 'run'), isNull(lot.undoneSeq), sql`${lot.id} = ${anyOf([...reached])}`));
  return found.map(({ id }) => id);
}

const runRows = (reader: Reader, runs: readonly string[]) =>
  reader
    .select({ lotId: lot.id, code: lot.code, name: lot.name })
    .from(lot)
    .where(sql`${lot.id} = ${anyOf(runs)}`)
    .orderBy(lot.at, lot.seq);
