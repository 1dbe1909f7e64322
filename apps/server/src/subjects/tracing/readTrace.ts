import type { CodeReply, FoldedReply, TraceReply } from '@clear-tally/contract';
import type { Reader } from '../../db/database.js';
import { findCode } from '../../lots/findCode.js';
import { foldWay } from './folding.js';
import { detailOf, inWords, wholeWay } from './wholeWay.js';

/** The way of a jar or lot: backward to every ingredient, forward to every jar, both walked in time. */
export async function readTrace(
  reader: Reader,
  typed: string,
  how: { readonly carryOver?: boolean } = {},
): Promise<TraceReply> {
  const started = performance.now();
  const { found, jar, nodes, flows, links, jars, direction, packaging } = await wholeWay(reader, typed, how.carryOver);
  const subject = nodes.find(({ lotId }) => lotId === found.lotId)!;
  const folded = foldWay(nodes, flows, found.lotId!, links);
  return {
    subject: {
      kind: found.kind,
      code: found.code,
      title: subject.name,
      detail: detailOf(subject, jar, jars),
      lotId: found.lotId!,
      packaging,
    },
    direction,
    nodes: folded.nodes,
    flows: folded.flows,
    links: folded.links,
    jars: jars.slice(0, MOST_RANGES).map(inWords),
    jarCount: jar ? 1 : jars.reduce((sum, range) => sum + range.count, 0),
    lots: nodes.length,
    ranges: jars.length,
    mayHold: nodes.filter(
      (node) =>
        node.forward &&
        !node.carriedOver &&
        node.kind !== 'supply' &&
        node.hold === null &&
        (node.kind === 'run' || !node.closed),
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
  query: { of: string; page: number; carryOver?: boolean },
): Promise<FoldedReply> {
  const { found, nodes, flows, jars } = await wholeWay(reader, typed, query.carryOver);
  if (query.of === 'jars')
    return {
      nodes: [],
      jars: jars.slice(query.page * PAGE, (query.page + 1) * PAGE).map(inWords),
      many: jars.length,
      page: PAGE,
    };
  const all = foldWay(nodes, flows, found.lotId!).folds.get(query.of) ?? [];
  return { nodes: all.slice(query.page * PAGE, (query.page + 1) * PAGE), jars: [], many: all.length, page: PAGE };
}

/** What a code on a label or in a box stands for. */
export async function readCode(reader: Reader, typed: string): Promise<CodeReply> {
  const { kind, code, lotId } = await findCode(reader, typed);
  return { kind, code, lotId };
}
