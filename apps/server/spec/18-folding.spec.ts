import type { TraceReply } from '@clear-tally/contract';
import { foldWay, MOST_DRAWN } from '../src/subjects/tracing/folding.js';

type Node = TraceReply['nodes'][number];

const AT = '2026-11-20T08:00:00.000Z';

/** A salt lot in so many batches, each of four vessels and runs. */
function way(batches: number): { nodes: Node[]; flows: TraceReply['flows'] } {
  const node = (lotId: string, column: number, kind: string, more: Partial<Node> = {}): Node => ({
    lotId,
    code: lotId,
    kind,
    name: lotId,
    column,
    grams: 400,
    at: AT,
    origin: 'made',
    supplier: null,
    supplierLotCode: null,
    hold: null,
    detail: null,
    forward: column > 0,
    reachedAt: column > 0 ? AT : null,
    carriedOver: false,
    closed: true,
    onHandGrams: 3,
    jars: kind === 'run' ? 50 : null,
    folded: null,
    ...more,
  });
  const nodes = [node('salt', 0, 'supply')];
  const flows: TraceReply['flows'] = [];
  for (let n = 0; n < batches; n += 1) {
    nodes.push(node(`b${n}`, 1, 'batch'));
    flows.push({ from: 'salt', to: `b${n}`, grams: 400, at: AT });
    for (let i = 0; i < 4; i += 1) {
      nodes.push(
        node(`f${n}-${i}`, 2, 'fill', n === batches - 1 ? { closed: false } : n === 7 ? { hold: 'looked at' } : {}),
        node(`r${n}-${i}`, 3, 'run'),
      );
      flows.push(
        { from: `b${n}`, to: `f${n}-${i}`, grams: 100, at: AT },
        { from: `f${n}-${i}`, to: `r${n}-${i}`, grams: 95, at: AT },
      );
    }
  }
  return { nodes, flows };
}

const sum = (list: readonly { grams: number }[]): number => list.reduce((total, { grams }) => total + grams, 0);

describe('a way, folded', () => {
  it('a small one stands as it is', () => {
    const { nodes, flows } = way(20);
    expect(nodes.length).toBeLessThan(MOST_DRAWN);
    expect(foldWay(nodes, flows, 'salt')).toEqual({ nodes, flows, links: [], folds: new Map() });
  });
  for (const batches of [30, 400, 2500]) {
    it(`of ${batches} batches: nothing is left out, masses, jars and bands add up`, () => {
      const { nodes, flows } = way(batches);
      const folded = foldWay(nodes, flows, 'salt');
      expect(folded.nodes.length).toBeLessThan(60);
      const apart = folded.nodes.filter((node) => node.folded === null);
      const inside = [...folded.folds.values()].flat();
      expect(new Set([...apart, ...inside].map(({ lotId }) => lotId)).size).toBe(nodes.length);
      expect(folded.nodes.reduce((total, node) => total + (node.folded ?? 1), 0)).toBe(nodes.length);
      expect(sum(folded.nodes)).toBe(sum(nodes));
      expect(folded.nodes.reduce((total, { jars }) => total + (jars ?? 0), 0)).toBe(batches * 4 * 50);
      expect(sum(folded.flows)).toBe(sum(flows));
      for (const { from, to } of folded.flows)
        for (const end of [from, to]) expect(folded.nodes.some(({ lotId }) => lotId === end)).toBeTrue();
    });
  }
  it('what is held and what is live stay apart, and a fold says how many of it are held', () => {
    const { nodes, flows } = way(400);
    for (const node of nodes)
      if (node.kind === 'fill' && /^f(10|11|12)-/.test(node.lotId))
        (node as { hold: string | null }).hold = 'looked at';
    const { nodes: shown } = foldWay(nodes, flows, 'salt');
    expect(shown.filter(({ kind, folded, hold }) => kind === 'fill' && folded === null && hold !== null).length).toBe(
      8,
    );
    expect(shown.find(({ kind, folded }) => kind === 'fill' && folded !== null)!.hold).toBe('8 of them');
    expect(
      foldWay(way(400).nodes, flows, 'salt').nodes.filter(
        ({ kind, folded, closed }) => kind === 'fill' && folded === null && !closed,
      ).length,
    ).toBe(4);
  });
});
