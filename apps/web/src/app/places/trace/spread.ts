import type { TraceReply } from '@clear-tally/contract';

/** How far a lot had spread by a moment. */
export interface Spread {
  readonly lots: ReadonlySet<string>;
  readonly batches: number;
  readonly vessels: number;
  readonly runs: number;
  readonly jars: number;
}

/** The moments at which something of the lot came into another, the first of each, in order. */
export const momentsOf = (reply: Pick<TraceReply, 'nodes'>): string[] =>
  [...new Set(reply.nodes.flatMap(({ reachedAt }) => reachedAt ?? []))].sort();

/** What had something of the lot in it at a moment; lots that stand for several count as all of them. */
export function spreadBy(reply: Pick<TraceReply, 'nodes'>, moment: string): Spread {
  const reached = reply.nodes.filter(({ reachedAt }) => reachedAt !== null && reachedAt <= moment);
  const many = (kind: string): number =>
    reached.filter((node) => node.kind === kind).reduce((sum, node) => sum + (node.folded ?? 1), 0);
  return {
    lots: new Set(reached.map(({ lotId }) => lotId)),
    batches: many('batch'),
    vessels: many('fill'),
    runs: many('run'),
    jars: reached.reduce((sum, { jars }) => sum + (jars ?? 0), 0),
  };
}
