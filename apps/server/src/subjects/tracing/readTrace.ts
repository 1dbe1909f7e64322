import type { CodeReply, FoldedReply, TraceReply } from '@clear-tally/contract';
import { carriedMass, type JarCode, jarCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { anyOf, type Reader, rows } from '../../db/database.js';
import { groupBy } from '../../db/groupBy.js';
import { toGrams, toMilligrams } from '../../db/schema/columns.js';
import { refused } from '../../journal/refused.js';
import { columnsOf } from '../../lots/columns.js';
import { onHandMg } from '../../lots/lotFigures.js';
import { walkBack, walkForward } from '../../lots/walk.js';
import { findCode, type FoundCode } from '../../lots/findCode.js';
import { foldWay } from './folding.js';

interface Step {
  id: string;
  from: string | null;
  to: string | null;
  mg: string;
}

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
}

interface RangeRow {
  runLotId: string;
  sizeMl: number;
  first: number;
  last: number;
}

/** The way of a jar or lot: backward to every ingredient, forward to every jar, both walked in time. */
export async function readTrace(reader: Reader, typed: string): Promise<TraceReply> {
  const started = performance.now();
  const { found, jar, nodes, flows, jars, direction } = await wholeWay(reader, typed);
  const subject = nodes.find(({ lotId }) => lotId === found.lotId)!;
  const folded = foldWay(nodes, flows, found.lotId!);
  return {
    subject: {
      kind: found.kind,
      code: found.code,
      title: subject.name,
      detail: detailOf(subject, jar, jars),
      lotId: found.lotId!,
    },
    direction,
    nodes: folded.nodes,
    flows: folded.flows,
    jars: jars.slice(0, MOST_RANGES),
    jarCount: jar ? 1 : jars.reduce((sum, range) => sum + range.count, 0),
    lots: nodes.length,
    ranges: jars.length,
    mayHold: nodes.filter(
      (node) => node.forward && node.kind !== 'supply' && node.hold === null && (node.kind === 'run' || !node.closed),
    ).length,
    beforeLedger: nodes.some((node) => node.origin === 'beforeLedger'),
    milliseconds: Math.round((performance.now() - started) * 10) / 10,
  };
}

/** Jar ranges in a first answer; the rest is asked for with the lots that are folded. */
const MOST_RANGES = 200;

const PAGE = 200;

/** What a fold of a large way stands for, and the jars beyond the first, by page. */
export async function readFolded(
  reader: Reader,
  typed: string,
  query: { of: string; page: number },
): Promise<FoldedReply> {
  const { found, nodes, flows, jars } = await wholeWay(reader, typed);
  if (query.of === 'jars')
    return { nodes: [], jars: jars.slice(query.page * PAGE, (query.page + 1) * PAGE), many: jars.length, page: PAGE };
  const all = foldWay(nodes, flows, found.lotId!).folds.get(query.of) ?? [];
  return { nodes: all.slice(query.page * PAGE, (query.page + 1) * PAGE), jars: [], many: all.length, page: PAGE };
}

interface WholeWay {
  readonly found: FoundCode;
  readonly jar: JarCode | null;
  readonly nodes: TraceReply['nodes'];
  readonly flows: TraceReply['flows'];
  readonly jars: TraceReply['jars'];
  readonly direction: TraceReply['direction'];
}

async function wholeWay(reader: Reader, typed: string): Promise<WholeWay> {
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
  const steps = [...back, ...forward];
  const ids = [...new Set([found.lotId, ...steps.flatMap((step) => [step.from, step.to])])].filter(
    (id): id is string => id !== null,
  );
  const [known, ofSubject] = await Promise.all([
    rows<NodeRow>(
      reader,
      sql`
    select l.id as "lotId", l.code, l.kind, l.name, l.at, l.origin, l.closed_at is not null as closed, case when l.metered then ${onHandMg(sql`l.id`)} end as mg, s.name as supplier, l.supplier_lot_code as "supplierLotCode", h.reason as hold, v.tag as "vesselTag"
    from lot l left join supplier s on s.id = l.supplier_id left join open_hold h on h.lot_id = l.id left join vessel v on v.id = l.vessel_id
    where l.id = ${anyOf(ids)}`,
    ),
    ofTheSubject(reader, found.lotId, back, forward),
  ]);
  const flows = joinFlows(ofSubject);
  const columns = columnsOf(ids, flows);
  const through = massThrough(flows);
  const reached = new Set([found.lotId, ...forward.map((step) => step.to)]);
  const ranges = groupBy(
    await rows<RangeRow>(
      reader,
      sql`select run_lot_id as "runLotId", size_ml as "sizeMl", first_serial as first, last_serial as last from jar_range where run_lot_id = ${anyOf(known.filter(({ kind }) => kind === 'run').map(({ lotId }) => lotId))} order by first_serial`,
    ),
    (row) => row.runLotId,
  );
  const jars = known
    .filter((node) => reached.has(node.lotId))
    .flatMap((node) =>
      (ranges.get(node.lotId) ?? [])
        .filter((range) => !jar || (range.first <= jar.serial && jar.serial <= range.last))
        .map((range) => ({
          lotId: node.lotId,
          run: node.code,
          name: node.name,
          sizeMl: range.sizeMl,
          first: jarCode(node.code, range.first).text,
          last: jarCode(node.code, range.last).text,
          count: range.last - range.first + 1,
          packedAt: node.at.toISOString(),
        })),
    );
  return {
    found,
    jar,
    flows,
    jars,
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
  // Their order is all that is asked of their moments: the database sorts, and writes no moment down.
  const moves = await rows<{ id: string; from: string | null; to: string | null; mg: string }>(
    reader,
    sql`
    select id, "from", "to", mg from (
      select id, at, from_lot as "from", to_lot as "to", milligrams as mg from live_movement where from_lot = ${anyOf(lots)}
      union select id, at, from_lot, to_lot, milligrams from live_movement where to_lot = ${anyOf(lots)}
    ) m order by at, id`,
  );
  const carried = carriedMass({
    subject,
    movements: moves.map(({ id, from, to, mg }, at) => ({ order: Number(id), at, from, to, grams: toGrams(mg) })),
  });
  return [
    ...back,
    ...forward.map((step) => ({ ...step, mg: String(toMilligrams(carried.get(Number(step.id)) ?? 0)) })),
  ];
}

function joinFlows(steps: readonly Step[]): TraceReply['flows'] {
  const sums = new Map<string, { from: string; to: string; grams: number }>();
  const seen = new Set<string>();
  for (const { id, from, to, mg } of steps) {
    if (seen.has(id) || !from || !to) continue;
    seen.add(id);
    const key = `${from} ${to}`;
    const flow = sums.get(key) ?? { from, to, grams: 0 };
    sums.set(key, { ...flow, grams: flow.grams + toGrams(mg) });
  }
  return [...sums.values()];
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

function detailOf(node: TraceReply['nodes'][number], jar: JarCode | null, jars: TraceReply['jars']): string {
  if (jar) return `${jars[0]?.sizeMl ?? '?'} mL`;
  if (node.supplier) return `${node.supplier}, their lot ${node.supplierLotCode ?? '?'}`;
  return node.detail ? `in ${node.detail}` : '';
}

/** What a code on a label or in a box stands for. */
export async function readCode(reader: Reader, typed: string): Promise<CodeReply> {
  const { kind, code, lotId } = await findCode(reader, typed);
  return { kind, code, lotId };
}
