import { sql } from 'drizzle-orm';
import { carriedMass, jarCode, type JarCode } from '@clear-tally/core';
import type { CodeReply, TraceReply } from '@clear-tally/contract';
import { rows, type Reader } from '../db/database.js';
import { walkBack, walkForward } from '../db/walk.js';
import { onHandMg } from '../db/lotFigures.js';
import { toGrams, toMilligrams } from '../db/schema/index.js';
import { refused } from '../record/refused.js';
import { findCode } from './codes.js';
import { columnsOf } from './columns.js';

interface Step { id: string; from: string | null; to: string | null; mg: string }
interface NodeRow {
  lotId: string; code: string; kind: string; name: string; at: Date; origin: string; supplier: string | null; supplierLotCode: string | null; hold: string | null; vesselTag: string | null; closed: boolean; mg: string | null;
  jars: { sizeMl: number; first: number; last: number }[] | null;
}

/** The way of a jar or lot: backward to every ingredient, forward to every jar, both walked in time. */
export async function readTrace(reader: Reader, typed: string): Promise<TraceReply> {
  const started = performance.now();
  const found = await findCode(reader, typed);
  if (found.lotId === null) throw refused('code.unknown', `${found.code} stands empty. Trace one of its lots from the book.`, { field: 'code' });
  const jar = found.jar;
  // The way of a jar is the way to that jar; a lot is followed in both directions.
  const [back, forward] = await Promise.all([rows<Step>(reader, walkBack(found.lotId)), jar ? [] : rows<Step>(reader, walkForward(found.lotId))]);
  const steps = [...back, ...forward];
  const ids = [...new Set([found.lotId, ...steps.flatMap((step) => [step.from, step.to])])].filter((id): id is string => id !== null);
  const nodes = await rows<NodeRow>(reader, sql`
    select l.id as "lotId", l.code, l.kind, l.name, l.at, l.origin, l.closed_at is not null as closed, case when l.metered then ${onHandMg(sql`l.id`)} end as mg, s.name as supplier, l.supplier_lot_code as "supplierLotCode", h.reason as hold, v.tag as "vesselTag",
      (select json_agg(json_build_object('sizeMl', r.size_ml, 'first', r.first_serial, 'last', r.last_serial) order by r.first_serial) from jar_range r where r.run_lot_id = l.id) as jars
    from lot l left join supplier s on s.id = l.supplier_id left join open_hold h on h.lot_id = l.id left join vessel v on v.id = l.vessel_id
    where l.id in ${ids}`);
  const flows = joinFlows(await ofTheSubject(reader, found.lotId, back, forward));
  const columns = columnsOf(ids, flows);
  const byId = new Map(nodes.map((node) => [node.lotId, node]));
  const subject = byId.get(found.lotId)!;
  const reached = new Set([found.lotId, ...forward.map((step) => step.to)]);
  const jars = nodes.filter((node) => node.jars && reached.has(node.lotId)).flatMap((node) => node.jars!
    .filter((range) => !jar || (range.first <= jar.serial && jar.serial <= range.last))
    .map((range) => ({
      lotId: node.lotId, run: node.code, name: node.name, sizeMl: range.sizeMl, first: jarCode(node.code, range.first).text, last: jarCode(node.code, range.last).text,
      count: range.last - range.first + 1, packedAt: new Date(node.at).toISOString(),
    })));
  return {
    subject: { kind: found.kind, code: found.code, title: subject.name, detail: detailOf(subject, jar), lotId: found.lotId },
    direction: jar ? 'back' : forward.length === 0 ? 'back' : back.length === 0 ? 'forward' : 'both',
    nodes: nodes.map((node) => ({
      lotId: node.lotId, code: node.code, kind: node.kind, name: node.name, at: new Date(node.at).toISOString(), origin: node.origin, supplier: node.supplier, supplierLotCode: node.supplierLotCode, hold: node.hold,
      detail: node.vesselTag, forward: node.lotId !== found.lotId && reached.has(node.lotId), closed: node.closed, onHandGrams: node.mg === null ? null : toGrams(node.mg), jars: node.jars?.reduce((sum, range) => sum + range.last - range.first + 1, 0) ?? null, column: columns.get(node.lotId) ?? 0, grams: through(node.lotId, flows),
    })),
    flows, jars, jarCount: jar ? 1 : jars.reduce((sum, range) => sum + range.count, 0),
    beforeLedger: nodes.some((node) => node.origin === 'beforeLedger'),
    milliseconds: Math.round((performance.now() - started) * 10) / 10,
  };
}

/** Forward the bands carry what came from the lot asked about, not all that went the same way. */
async function ofTheSubject(reader: Reader, subject: string, back: readonly Step[], forward: readonly Step[]): Promise<Step[]> {
  if (forward.length === 0) return [...back];
  const lots = [...new Set(forward.flatMap(({ to }) => (to ? [to] : [])))];
  const moves = await rows<{ id: string; at: Date; from: string | null; to: string | null; mg: string }>(reader, sql`
    select id, at, from_lot as "from", to_lot as "to", milligrams as mg from live_movement where from_lot in ${lots} or to_lot in ${lots}`);
  const carried = carriedMass({ subject, movements: moves.map(({ id, at, from, to, mg }) => ({ order: Number(id), at: new Date(at).getTime(), from, to, grams: toGrams(mg) })) });
  return [...back, ...forward.map((step) => ({ ...step, mg: String(toMilligrams(carried.get(Number(step.id)) ?? 0)) }))];
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

/** What of a lot took part: the larger of what came in and what went on along this way. */
function through(lotId: string, flows: TraceReply['flows']): number {
  const sum = (end: 'from' | 'to') => flows.reduce((total, flow) => total + (flow[end] === lotId ? flow.grams : 0), 0);
  return Math.max(sum('from'), sum('to'));
}

function detailOf(node: NodeRow, jar: JarCode | null): string {
  const size = jar && node.jars?.find((range) => range.first <= jar.serial && jar.serial <= range.last)?.sizeMl;
  if (jar) return `${size ?? '?'} mL`;
  if (node.supplier) return `${node.supplier}, their lot ${node.supplierLotCode ?? '?'}`;
  return node.vesselTag ? `in ${node.vesselTag}` : '';
}

/** What a code on a label or in a box stands for. */
export async function readCode(reader: Reader, typed: string): Promise<CodeReply> {
  const { kind, code, lotId } = await findCode(reader, typed);
  return { kind, code, lotId };
}
