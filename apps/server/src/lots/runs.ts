import type { JarStretch } from '@clear-tally/contract';
import {
  GONE_WORDS,
  READ_ITSELF,
  type GoneHow,
  type JarAt,
  jarCode,
  type JarMove,
  jarsStanding,
  type JarSegment,
  type Serials,
} from '@clear-tally/core';
import { and, lte, sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../db/database.js';
import { jarMove } from '../db/schema/jars.js';
import { retainedJar } from '../db/schema/packing.js';
import { jarRange } from '../db/schema/ledger.js';
import { groupBy } from '../db/groupBy.js';
import { toGrams } from '../db/schema/columns.js';
import { refused } from '../journal/refused.js';
import { customerNames, roomNames } from './house.js';
import type { LotRow } from './lots.js';
import { loadWritten, type Written } from './written.js';

/** Jars of one size of a run, and where each is. */
export interface JarsOfRun {
  readonly runLotId: string;
  readonly sizeMl: number;
  readonly netGrams: number;
  readonly first: number;
  readonly last: number;
  readonly segments: readonly JarSegment[];
  /** Jars that were outside and came back. */
  readonly back: readonly Serials[];
  /** Jars kept to be tasted. */
  readonly retained: readonly Serials[];
}

interface MoveRow {
  runLotId: string;
  first: number;
  last: number;
  kind: JarAt['kind'];
  roomId: string | null;
  customerId: string | null;
  dispatchId: string | null;
  how: GoneHow | 'back' | null;
  at: Date;
  seq: number;
}

const placeOf = (row: MoveRow): JarAt =>
  row.kind === 'customer'
    ? { kind: 'customer', customerId: row.customerId!, dispatchId: row.dispatchId! }
    : row.kind === 'gone'
      ? { kind: 'gone', how: row.how as GoneHow }
      : { kind: 'house', roomId: row.roomId };

/** Where every jar of these runs is; `until` shows a past moment. */
export async function jarsOf(reader: Reader, runIds: readonly string[], until?: Date): Promise<JarsOfRun[]> {
  if (runIds.length === 0) return [];
  const ranges = await reader
    .select({
      runLotId: jarRange.runLotId,
      first: jarRange.firstSerial,
      last: jarRange.lastSerial,
      sizeMl: jarRange.sizeMl,
      mg: jarRange.netMilligrams,
    })
    .from(jarRange)
    .where(sql`${jarRange.runLotId} = ${anyOf(runIds)}`)
    .orderBy(jarRange.runLotId, jarRange.firstSerial);
  const moves = groupBy(
    await reader
      .select({
        runLotId: jarMove.runLotId,
        first: jarMove.firstSerial,
        last: jarMove.lastSerial,
        kind: jarMove.whereKind,
        roomId: jarMove.roomId,
        customerId: jarMove.customerId,
        dispatchId: jarMove.dispatchId,
        how: sql<GoneHow | 'back' | null>`${jarMove.how}`,
        at: jarMove.at,
        seq: jarMove.seq,
      })
      .from(jarMove)
      .where(and(sql`${jarMove.runLotId} = ${anyOf(runIds)}`, until ? lte(jarMove.at, until) : undefined))
      .orderBy(jarMove.at, jarMove.seq),
    (row) => row.runLotId,
  );
  const retained = groupBy(
    await reader
      .select({ runLotId: retainedJar.runLotId, first: retainedJar.firstSerial, last: retainedJar.lastSerial })
      .from(retainedJar)
      .where(sql`${retainedJar.runLotId} = ${anyOf(runIds)}`),
    (row) => row.runLotId,
  );
  return ranges.map(({ runLotId, first, last, sizeMl, mg }) => ({
    runLotId,
    retained: retained.get(runLotId) ?? [],
    sizeMl,
    netGrams: toGrams(mg),
    first,
    last,
    back: (moves.get(runLotId) ?? [])
      .filter(({ how }) => how === 'back')
      .map((row) => ({ first: row.first, last: row.last })),
    segments: jarsStanding(
      { first, last },
      (moves.get(runLotId) ?? []).map((row): JarMove => ({
        first: row.first,
        last: row.last,
        at: new Date(row.at).getTime(),
        order: row.seq,
        to: placeOf(row),
      })),
    ),
  }));
}

/** Serials must be of jars that were issued, of this run. @throws {Refused} */
export async function refuseUnknownJars(
  reader: Reader,
  run: { readonly code: string } & ({ readonly id: string } | { readonly lotId: string }),
  { first, last }: Serials,
): Promise<void> {
  const ranges = await jarsOf(reader, ['id' in run ? run.id : run.lotId]);
  const issued = Math.max(0, ...ranges.map((range) => range.last));
  if (first <= last && last <= issued) return;
  throw refused(
    'jar.unknown',
    `${run.code} has jars 1 to ${issued}; ${first} to ${last} were given. Read the labels again.`,
    { field: first > last ? 'first' : 'last', facts: { run: run.code, first, last } },
  );
}

/** The same in the words of the house, with the codes that stand on the jars. */
export async function stretchesIn(reader: Reader, code: string, jars: readonly JarsOfRun[]): Promise<JarStretch[]> {
  const rooms = await roomNames(reader);
  const customers = await customerNames(reader);
  return jars.flatMap(({ sizeMl, segments, back, retained }) =>
    cutAt(segments, retained).map(({ first, last, where, since }) => ({
      first,
      last,
      firstCode: jarCode(code, first).text,
      lastCode: jarCode(code, last).text,
      count: last - first + 1,
      sizeMl,
      kind: where.kind,
      roomId: where.kind === 'house' ? where.roomId : null,
      customerId: where.kind === 'customer' ? where.customerId : null,
      where:
        where.kind === 'house'
          ? where.roomId === null
            ? 'where it was packed'
            : (rooms.get(where.roomId) ?? 'in the house')
          : where.kind === 'customer'
            ? (customers.get(where.customerId) ?? 'a customer')
            : GONE_WORDS[where.how],
      since: since === null ? null : new Date(since).toISOString(),
      kept:
        where.kind === 'house' && back.some((one) => one.first <= last && one.last >= first)
          ? 'came back from who had it: it is not sold again'
          : where.kind === 'house' && retained.some((one) => one.first <= last && one.last >= first)
            ? 'kept to be tasted'
            : null,
    })),
  );
}

/** Stretches cut where retained jars begin and end among them. */
function cutAt(segments: readonly JarSegment[], retained: readonly Serials[]): JarSegment[] {
  return segments.flatMap((segment) => {
    const edges = [segment.first, ...retained.flatMap(({ first, last }) => [first, last + 1]), segment.last + 1]
      .filter((edge) => edge >= segment.first && edge <= segment.last + 1)
      .sort((a, b) => a - b);
    return edges.slice(0, -1).flatMap((first, i): JarSegment[] => {
      const last = edges[i + 1]! - 1;
      return last < first ? [] : [{ ...segment, first, last }];
    });
  });
}

/** Jars of these that may leave the house for somebody to eat: in it, and not retained. */
export const mayLeave = (jars: readonly JarsOfRun[]): number =>
  jars.reduce(
    (sum, { segments, retained }) =>
      sum +
      cutAt(segments, retained)
        .filter(
          ({ where, first, last }) =>
            where.kind === 'house' && !retained.some((one) => one.first <= last && one.last >= first),
        )
        .reduce((all, { first, last }) => all + last - first + 1, 0),
    0,
  );

/** How a run stands: as it was packed, and what was said of it since. */
export interface RunStanding {
  readonly lotId: string;
  readonly code: string;
  readonly name: string;
  readonly batchId: string;
  readonly origin: string;
  readonly formulaId: string | null;
  readonly seq: number;
  readonly packedAt: number;
  readonly packedBy: string;
  readonly packedByInitials: string;
  readonly brine: 'own' | 'boiled' | 'fresh' | null;
  readonly storage: 'cold' | 'cellar' | 'ambient' | null;
  /** Bottles that settle first: closed for good a day later; `capped` once that is done. */
  readonly closeLater: boolean;
  readonly capped: boolean;
  /** Packed from something finished: drained and repacked, blended, dried. */
  readonly finished: boolean;
  /** All of it was read twice itself before it was packed: sauces, fruit, infusions. */
  readonly readItself: boolean;
  /** When its retained jars are tasted, moments in ms. */
  readonly tasteAt: readonly number[];
  readonly state: 'waits' | 'released' | 'withdrawn';
  /** When the last signature under it was recorded, whatever moment it was said of: from then on it stands. */
  readonly markedAt: number | null;
}

interface PackedSaying {
  readonly brine?: RunStanding['brine'];
  readonly storage?: RunStanding['storage'];
  readonly closeLater?: true;
}

/** What was said at packing, as it was put right, and where it was put since. */
function saidAtPacking(
  written: Written | undefined,
  storedSince: RunStanding['storage'],
): Pick<RunStanding, 'brine' | 'storage' | 'closeLater'> {
  const said = (written?.entry.body ?? {}) as PackedSaying;
  return {
    brine: said.brine ?? null,
    storage: storedSince ?? said.storage ?? null,
    closeLater: said.closeLater === true,
  };
}

/** These runs, or the newest that are not undone. */
export async function loadRuns(reader: Reader, runIds?: readonly string[]): Promise<RunStanding[]> {
  const found = await rows<
    Omit<RunStanding, 'packedAt' | 'seq' | 'state' | 'markedAt' | 'brine' | 'closeLater'> & {
      packedAt: Date;
      seq: string;
      state: 'released' | 'withdrawn' | null;
      markedAt: Date | null;
    }
  >(
    reader,
    sql`
    select l.id as "lotId", l.code, l.name, l.batch_id as "batchId", l.origin, l.formula_id as "formulaId", l.seq, l.at as "packedAt", p.id as "packedBy", p.initials as "packedByInitials",
      (select s.storage from run_store s where s.run_lot_id = l.id order by s.seq desc limit 1) as storage,
      exists (select 1 from run_levelling v where v.run_lot_id = l.id and v.capped) as capped,
      coalesce((select array_agg((extract(epoch from d) * 1000)::float8 order by d) from retained_jar t, unnest(t.taste_at) d where t.run_lot_id = l.id), '{}') as "tasteAt",
      exists (select 1 from live_movement f join finish i on i.lot_id = f.from_lot where f.to_lot = l.id) as finished,
      coalesce((select bool_and(i.what = any(${sql.param([...READ_ITSELF])}::text[])) from live_movement f join finish i on i.lot_id = f.from_lot where f.to_lot = l.id), false) as "readItself",
      m.what as state, m.recorded_at as "markedAt"
    from lot l join journal j on j.seq = l.seq join person p on p.id = j.by
      left join lateral (select k.what, s.recorded_at from run_mark k join journal s on s.seq = k.seq where k.run_lot_id = l.id order by k.seq desc limit 1) m on true
    where l.kind = 'run' and l.undone_seq is null ${runIds ? sql`and l.id = ${anyOf(runIds)}` : sql``}
    order by l.seq desc limit 400`,
  );
  const said = new Map(
    (
      await loadWritten(
        reader,
        found.map(({ seq }) => Number(seq)),
      )
    ).map((written) => [written.seq, written]),
  );
  return found.map((row) => ({
    ...row,
    ...saidAtPacking(said.get(Number(row.seq)), row.storage),
    seq: Number(row.seq),
    packedAt: new Date(row.packedAt).getTime(),
    state: row.state ?? 'waits',
    markedAt: row.markedAt ? new Date(row.markedAt).getTime() : null,
  }));
}

export async function loadRun(reader: Reader, of: LotRow): Promise<RunStanding> {
  const [run] = await loadRuns(reader, [of.id]);
  return run!;
}
