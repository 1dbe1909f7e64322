import type { TraceReply } from '@clear-tally/contract';
import { layWay } from './way-layout';

const AT = '2026-11-01T00:00:00Z';

const node = (lotId: string, column: number, grams: number): TraceReply['nodes'][number] => ({
  lotId,
  code: lotId,
  kind: 'supply',
  name: lotId,
  column,
  grams,
  at: AT,
  origin: 'received',
  supplier: null,
  supplierLotCode: null,
  hold: null,
  detail: null,
  forward: false,
  reachedAt: null,
  carriedOver: false,
  closed: false,
  onHandGrams: null,
  jars: null,
  folded: null,
});

describe('the way of a jar, laid out', () => {
  const nodes = [node('turnips', 0, 7200), node('salt', 0, 340), node('batch', 1, 7200), node('vessel', 2, 7540)];
  const flows = [
    { from: 'turnips', to: 'batch', grams: 7200, at: AT },
    { from: 'salt', to: 'vessel', grams: 340, at: AT },
    { from: 'batch', to: 'vessel', grams: 7200, at: AT },
  ];
  const way = layWay({ nodes, flows }, 1236);
  const at = (id: string) => way.nodes.find((placed) => placed.id === id)!;

  it('runs left to right in the order of work', () => expect(at('turnips').x).toBeLessThan(at('batch').x));
  it('draws a band as wide as its mass', () => {
    const width = (key: string) => way.flows.find((flow) => flow.key === key)!.width;
    expect(width('turnips-batch')).toBeGreaterThan(width('salt-vessel') * 8);
    expect(width('salt-vessel')).toBeGreaterThanOrEqual(2);
  });
  it('never lays two lots over each other', () =>
    expect(Math.abs(at('turnips').y - at('salt').y)).toBeGreaterThanOrEqual(50));
  it('draws what a vessel kept from one filling to the next from bar to bar', () => {
    const links = [{ from: 'vessel', to: 'batch', vesselTag: 'C1', at: AT }];
    const [link] = layWay({ nodes, flows, links }, 1236).links;
    expect(link!.path.startsWith(`M${at('vessel').x + 6} `)).toBeTrue();
    expect(layWay({ nodes, flows, links: [{ ...links[0]!, to: 'gone' }] }, 1236).links).toEqual([]);
  });
  it('holds a crowd of forty supplies', () => {
    const crowd = layWay({ nodes: Array.from({ length: 40 }, (_, i) => node(`s${i}`, 0, 10)), flows: [] }, 1236);
    const ys = crowd.nodes.map((placed) => placed.y).sort((a, b) => a - b);
    ys.slice(1).forEach((y, i) => expect(y - ys[i]!).toBeGreaterThanOrEqual(50));
    expect(ys.at(-1)!).toBeLessThan(crowd.height);
  });
});
