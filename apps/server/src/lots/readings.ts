import { counts, isRepeat, type Joined, mixedAt, type PhPoint } from '@clear-tally/core';
import { type SQL, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { groupBy } from '../db/groupBy.js';
import { toGrams } from '../db/schema/columns.js';
import { loadLotWith, type LotKind, type LotRow } from './lots.js';

/** A pH with the entries it goes back to. */
export interface ReadPoint extends PhPoint {
  readonly entryId: string;
  /** Of the first entry: corrections go back to it. */
  readonly rootEntryId: string;
  /** Where its first entry stands in the journal: a figure put right keeps the place of the wrong one. */
  readonly rootSeq: number;
}

/** A vessel split off another has that one's readings until then. */
export const ownAndInherited = (lotIds: readonly string[]): SQL => sql`
  with source as (
    select id, id as lot_id, 'infinity'::timestamptz as until from lot where id = ${anyOf(lotIds)}
    union all select to_lot, from_lot, at from live_movement where kind = 'vessel.split' and to_lot = ${anyOf(lotIds)}
  )`;

/** As the database gives it, in rows or as JSON. */
interface ReadingRow {
  lotId: string;
  entryId: string;
  rootEntryId: string;
  rootSeq: string | number;
  at: Date | string;
  value: string | number;
  sample: 'blended' | 'brine' | null;
  forRelease: boolean;
  jumped: boolean;
}

/** What is poured into a vessel or taken out of it. */
interface MoveRow {
  lotId: string;
  at: Date | string;
  kind: string;
  fromKind: string | null;
  mg: string | number;
  into: boolean;
}

interface Asked {
  /** The last so many of each lot at most. */
  readonly last?: number;
  /** Shows a past moment: nothing later is read or poured in. */
  readonly until?: Date;
}

/**
 * Readings of these lots as they count, oldest first: one off the trend is doubtful until its repeat agrees; what was
 * read before something was poured in is of another thing.
 */
export async function phPoints(
  reader: Reader,
  lotIds: readonly string[],
  asked: Asked = {},
): Promise<Map<string, ReadPoint[]>> {
  const { read, moved } = await readAndMoved(reader, lotIds, asked);
  return new Map(lotIds.map((lotId) => [lotId, pointsOf(read.get(lotId) ?? [], moved.get(lotId) ?? [], asked.until)]));
}

/** The same for many looks, each by a moment of its own where it names one; in the order asked. */
export async function phPointsAt(
  reader: Reader,
  looks: readonly { readonly lotId: string; readonly until?: Date }[],
): Promise<ReadPoint[][]> {
  const { read, moved } = await readAndMoved(reader, [...new Set(looks.map(({ lotId }) => lotId))], {});
  return looks.map(({ lotId, until }) =>
    pointsOf(
      (read.get(lotId) ?? []).filter(({ at }) => !until || new Date(at) <= until),
      moved.get(lotId) ?? [],
      until,
    ),
  );
}

async function readAndMoved(reader: Reader, lotIds: readonly string[], asked: Asked) {
  return lotIds.length === 0
    ? { read: new Map<string, ReadingRow[]>(), moved: new Map<string, MoveRow[]>() }
    : {
        read: groupBy(await rows<ReadingRow>(reader, readingsOf(lotIds, asked)), (row) => row.lotId),
        moved: groupBy(await rows<MoveRow>(reader, movesOf(lotIds)), (row) => row.lotId),
      };
}

/**
 * A lot and its readings as they count, asked in one question: whoever reads a pH waits for it, and everybody who
 * records waits behind them.
 * @throws {Refused} as `loadLot` does
 */
export async function loadWithTrend(
  reader: Reader,
  lotId: string,
  kinds: readonly LotKind[],
  asked: Asked,
): Promise<LotRow & { points: ReadPoint[] }> {
  const json = (question: SQL) => sql<unknown>`(select coalesce(json_agg(one), '[]') from (${question}) one)`;
  const { read, moved, ...of } = await loadLotWith(reader, lotId, 'lotId', kinds, {
    read: json(readingsOf([lotId], asked)),
    moved: json(movesOf([lotId])),
  });
  return { ...of, points: pointsOf(read as ReadingRow[], moved as MoveRow[], asked.until) };
}

/** Newest first. */
const readingsOf = (lotIds: readonly string[], { last = 5000, until }: Asked): SQL => sql`
    ${ownAndInherited(lotIds)} select s.id as "lotId", r.entry_id as "entryId", r.root_entry_id as "rootEntryId", o.seq as "rootSeq", r.at, r.value, r.sample, r.for_release as "forRelease", r.jumped
    from source s join live_reading r on r.lot_id = s.lot_id and r.at <= s.until join reading o on o.entry_id = r.root_entry_id
    where r.kind = 'ph' ${until ? sql`and r.at <= ${until.toISOString()}` : sql``} order by r.at desc, r.seq desc limit ${last * lotIds.length}`;

/** Oldest first. */
const movesOf = (lotIds: readonly string[]): SQL => sql`
    select m.to_lot as "lotId", m.at, m.kind, f.kind as "fromKind", m.milligrams as mg, true as into, m.id as seq from live_movement m left join lot f on f.id = m.from_lot where m.to_lot = ${anyOf(lotIds)}
    union all select m.from_lot, m.at, m.kind, null, m.milligrams, false, m.id from live_movement m where m.from_lot = ${anyOf(lotIds)}
    order by 2, 7`;

function pointsOf(read: readonly ReadingRow[], moved: readonly MoveRow[], until: Date | undefined): ReadPoint[] {
  const points = asPoints([...read].reverse());
  const mixed = mixedAt({ joined: joinedTo(moved, until), readAt: points.filter(counts).map(({ at }) => at) });
  return mixed === null
    ? points
    : points.map((point) => (point.at <= mixed ? { ...point, beforeMixture: true } : point));
}

function asPoints(own: readonly ReadingRow[]): ReadPoint[] {
  const neighbours = neighboursOf(own);
  return own.map((row, index) => {
    // The next one agrees with it, or it agrees with the one before that was off the trend too: then it stands. A strip
    // or an unfit meter vouches for no fit one.
    const agrees = (other: ReadingRow | undefined): boolean =>
      other !== undefined && isRepeat(Number(other.value), Number(row.value)) && (other.forRelease || !row.forRelease);
    const { before, after } = neighbours[index]!;
    const doubtful = row.jumped && !agrees(after) && !(before?.jumped && agrees(before));
    return {
      entryId: row.entryId,
      rootEntryId: row.rootEntryId,
      rootSeq: Number(row.rootSeq),
      at: new Date(row.at).getTime(),
      ph: Number(row.value),
      sample: row.sample ?? 'brine',
      fit: row.forRelease,
      ...(doubtful ? { doubtful } : {}),
    };
  });
}

/** Of each reading the one before and the one after it of the same kind of sample. */
function neighboursOf(own: readonly ReadingRow[]): { before?: ReadingRow; after?: ReadingRow }[] {
  const found = own.map((): { before?: ReadingRow; after?: ReadingRow } => ({}));
  const last = new Map<ReadingRow['sample'], number>();
  for (const [index, row] of own.entries()) {
    const earlier = last.get(row.sample);
    if (earlier !== undefined) {
      found[index]!.before = own[earlier]!;
      found[earlier]!.after = row;
    }
    last.set(row.sample, index);
  }
  return found;
}

/** What was put into a vessel after it was filled: brine and water of the house, and what came from other vessels. */
function joinedTo(moved: readonly MoveRow[], until: Date | undefined): Joined[] {
  let standing = 0;
  const joined: Joined[] = [];
  for (const { at, kind, fromKind, mg, into } of moved) {
    if (until && new Date(at) > until) break;
    const grams = toGrams(mg);
    if (into && JOINS.has(kind) && standing > 0)
      joined.push({
        at: new Date(at).getTime(),
        grams,
        intoGrams: standing,
        what: fromKind === 'fill' ? 'vessel' : 'brine',
      });
    standing += into ? grams : -grams;
  }
  return joined;
}

/** Kinds by which something joins a vessel that stands already. What was poured off and comes by the book alone does not. */
const JOINS: ReadonlySet<string> = new Set([
  'lot.transfer',
  'vessel.topUp',
  'finish.add',
  'finish.brineBack',
  'finish.sweet',
]);
