import type { TraceReply } from '@clear-tally/contract';
import { carriedMass, type JarCode, jarCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { jarRange } from '../../db/schema/ledger.js';
import { groupBy } from '../../db/groupBy.js';
import { toGrams, toMilligrams } from '../../db/schema/columns.js';
import { refused } from '../../journal/refused.js';
import { columnsOf } from '../../lots/columns.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { walkBack, walkForward } from '../../lots/walk.js';
import { findCode, type FoundCode } from '../../lots/findCode.js';
import { carriedOver, type Step } from './carriedOver.js';

interface NodeRow {
  lotId: string;
  code: string;
  kind: string;
  name: string;
  at: Date;
  origin: string;
  supplier: string | null;
  supplierLotCode: string | null;
  hold: string | null;
  vesselTag: string | null;
  closed: boolean;
  mg: string | null;
  packaging: boolean;
}

interface RangeRow {
  runLotId: string;
  sizeMl: number;
  first: number;
  last: number;
}

/** Jars of a run, put in words only where they are shown: a salt lot reaches thousands of ranges. */
interface Range extends RangeRow {
  readonly node: NodeRow;
  readonly count: number;
}

/** Jars of a run, by their first and last code. */
export const inWords = ({ node, sizeMl, first, last, count }: Range): TraceReply['jars'][number] => ({
  lotId: node.lotId,
  run: node.code,
  name: node.name,
  sizeMl,
  first: jarCode(node.code, first).text,
  last: jarCode(node.code, last).text,
  count,
  packedAt: node.at.toISOString(),
});

interface WholeWay {
  readonly found: FoundCode;
  readonly jar: JarCode | null;
  readonly nodes: TraceReply['nodes'];
  readonly flows: TraceReply['flows'];
  readonly links: TraceReply['links'];
  readonly jars: readonly Range[];
  readonly direction: TraceReply['direction'];
  readonly packaging: boolean;
}

/** The whole way of what was typed, backward and forward, with its masses; with what uncleaned vessels passed on. */
export async function wholeWay(reader: Reader, typed: string, carryOver = false): Promise<WholeWay> {
  const found = await findCode(reader, typed);
  if (found.lotId === null)
    throw refused('code.unknown', `${found.code} stands empty. Trace one of its lots from the book.`, {
      field: 'code',
    });
  const jar = found.jar;
  // The way of a jar is the way to that jar; a lot is followed in both directions.
  const [back, forward] = await Promise.all([
    rows<Step>(reader, walkBack(found.lotId)),
    jar ? [] : rows<Step>(reader, walkForward(found.lotId)),
  ]);
  const carried = carryOver
    ? await carriedOver(reader, found.lotId, { back, forward }, jar === null)
    : { before: [], after: [], back: [], forward: [] };
  const links = [...carried.before, ...carried.after];
  const steps = [...back, ...forward, ...carried.back, ...carried.forward];
  const ends = [...steps, ...links].flatMap((step) => [step.from, step.to]);
  const ids = [...new Set([found.lotId, ...ends])].filter((id): id is string => id !== null);
  const [known, packed, ofSubject] = await Promise.all([
    rows<NodeRow>(
      reader,
      sql`
    select l.id as "lotId", l.code, l.kind, l.name, l.at, l.origin, l.closed_at is not null as closed, case when l.metered then ${onHandMg(sql`l.id`)} end as mg, s.name as supplier, l.supplier_lot_code as "supplierLotCode", h.reason as hold, coalesce(x.kind = 'packaging', false) as packaging, v.tag as "vesselTag"
    from lot l left join supplier s on s.id = l.supplier_id left join open_hold h on h.lot_id = l.id left join vessel v on v.id = l.vessel_id left join material x on x.id = l.material_id
    where l.id = ${anyOf(ids)}`,
    ),
    reader
      .select({
        runLotId: jarRange.runLotId,
        sizeMl: jarRange.sizeMl,
        first: jarRange.firstSerial,
        last: jarRange.lastSerial,
      })
      .from(jarRange)
      .where(sql`${jarRange.runLotId} = ${anyOf(ids)}`)
      .orderBy(jarRange.firstSerial),
    ofTheSubject(reader, found.lotId, back, forward),
  ]);
  const flows = joinFlows([...ofSubject, ...carried.back, ...carried.forward]);
  const columns = columnsOf(ids, [...flows, ...links]);
  const through = massThrough(flows);
  const since = firstMoments(forward, carried.after, carried.forward);
  const reached = new Set([found.lotId, ...since.keys()]);
  const own = new Set([found.lotId, ...[...back, ...forward].flatMap((step) => [step.from, step.to])]);
  const ranges = groupBy(packed, (row) => row.runLotId);
  const jars = known
    .filter((node) => reached.has(node.lotId))
    .flatMap((node) =>
      (ranges.get(node.lotId) ?? [])
        .filter((range) => !jar || (range.first <= jar.serial && jar.serial <= range.last))
        .map((range) => ({ ...range, node, count: range.last - range.first + 1 })),
    );
  return {
    found,
    jar,
    flows,
    links: links.map(({ at, ...link }) => ({ ...link, at: new Date(at).toISOString() })),
    jars,
    packaging: known.some(({ lotId, packaging }) => packaging && lotId === found.lotId),
    direction: jar ? 'back' : forward.length === 0 ? 'back' : back.length === 0 ? 'forward' : 'both',
    nodes: known.map((node) => ({
      lotId: node.lotId,
      code: node.code,
      kind: node.kind,
      name: node.name,
      at: node.at.toISOString(),
      origin: node.origin,
      supplier: node.supplier,
      supplierLotCode: node.supplierLotCode,
      hold: node.hold,
      detail: node.vesselTag,
      forward: node.lotId !== found.lotId && reached.has(node.lotId),
      reachedAt: since.has(node.lotId) ? new Date(since.get(node.lotId)!).toISOString() : null,
      carriedOver: !own.has(node.lotId),
      closed: node.closed,
      onHandGrams: node.mg === null ? null : toGrams(node.mg),
      jars: ranges.get(node.lotId)?.reduce((sum, range) => sum + range.last - range.first + 1, 0) ?? null,
      column: columns.get(node.lotId) ?? 0,
      grams: through.get(node.lotId) ?? 0,
      folded: null,
    })),
  };
}

/** Forward the bands carry what came from the lot asked about, not all that went the same way. */
async function ofTheSubject(
  reader: Reader,
  subject: string,
  back: readonly Step[],
  forward: readonly Step[],
): Promise<Step[]> {
  if (forward.length === 0) return [...back];
  const lots = [...new Set(forward.flatMap(({ to }) => (to ? [to] : [])))];
  // What leaves a lot takes of all that is in it alike: after the last that came in, leaving changes no share any more,
  // and what went on along the way is known. Thousands of samples, gas and losses are not asked for, but where more left
  // than came by the book: there the last of it runs out.
  const others = await rows<Step>(
    reader,
    sql`
    with came as (select id, at, from_lot, to_lot, milligrams from live_movement where to_lot = ${anyOf(lots)}),
      newest as (select to_lot as lot, max(at) as at from came group by 1)
    select id, from_lot as "from", to_lot as "to", milligrams as mg, (date_part('epoch', at) * 1000)::bigint as at from (
      select * from came
      union all select m.id, m.at, m.from_lot, m.to_lot, m.milligrams
      from newest join live_movement m on m.from_lot = newest.lot and m.at <= newest.at
      union all select m.id, m.at, m.from_lot, m.to_lot, m.milligrams
      from lot_balance b join live_movement m on m.from_lot = b.lot_id
      where b.lot_id = ${anyOf(lots)} and b.out_milligrams > b.in_milligrams
    ) m`,
  );
  const moves = new Map([...forward, ...others].map((step) => [step.id, step]));
  const carried = carriedMass({
    subject,
    movements: [...moves.values()].map(({ id, from, to, mg, at }) => ({
      order: Number(id),
      at: Number(at),
      from,
      to,
      grams: toGrams(mg),
    })),
  });
  return [
    ...back,
    ...forward.map((step) => ({ ...step, mg: String(toMilligrams(carried.get(Number(step.id)) ?? 0)) })),
  ];
}

function joinFlows(steps: readonly Step[]): TraceReply['flows'] {
  const sums = new Map<string, { from: string; to: string; grams: number; at: number }>();
  const seen = new Set<string>();
  for (const { id, from, to, mg, at } of steps) {
    if (seen.has(id) || !from || !to) continue;
    seen.add(id);
    const key = `${from} ${to}`;
    const flow = sums.get(key) ?? { from, to, grams: 0, at: Infinity };
    sums.set(key, { ...flow, grams: flow.grams + toGrams(mg), at: Math.min(flow.at, Number(at)) });
  }
  return [...sums.values()].map((flow) => ({ ...flow, at: new Date(flow.at).toISOString() }));
}

/** When the first of the subject came into each lot, milliseconds; by what a vessel kept, when it was filled again. */
function firstMoments(...ways: readonly (readonly { to: string | null; at: string | Date }[])[]): Map<string, number> {
  const first = new Map<string, number>();
  for (const { to, at } of ways.flat())
    if (to) first.set(to, Math.min(first.get(to) ?? Infinity, at instanceof Date ? at.getTime() : Number(at)));
  return first;
}

/** What of each lot took part: the larger of what came in and what went on along this way. */
function massThrough(flows: TraceReply['flows']): Map<string, number> {
  const [out, into] = [new Map<string, number>(), new Map<string, number>()];
  for (const { from, to, grams } of flows) {
    out.set(from, (out.get(from) ?? 0) + grams);
    into.set(to, (into.get(to) ?? 0) + grams);
  }
  return new Map(
    [...new Set([...out.keys(), ...into.keys()])].map((id) => [id, Math.max(out.get(id) ?? 0, into.get(id) ?? 0)]),
  );
}

/** What stands beside a lot of a way in a word or two. */
export function detailOf(node: TraceReply['nodes'][number], jar: JarCode | null, jars: readonly Range[]): string {
  if (jar) return `${jars[0]?.sizeMl ?? '?'} mL`;
  if (node.supplier) return `${node.supplier}, their lot ${node.supplierLotCode ?? '?'}`;
  return node.detail ? `in ${node.detail}` : '';
}
