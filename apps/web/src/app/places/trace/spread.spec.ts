import type { TraceNode } from '@clear-tally/contract';
import { momentsOf, spreadBy } from './spread';

const node = (lotId: string, kind: string, reachedAt: string | null, more: Partial<TraceNode> = {}): TraceNode => ({
  lotId,
  code: lotId,
  kind,
  name: lotId,
  column: 0,
  grams: 1,
  at: '2026-11-01T00:00:00.000Z',
  origin: 'made',
  supplier: null,
  supplierLotCode: null,
  hold: null,
  detail: null,
  forward: reachedAt !== null,
  reachedAt,
  carriedOver: false,
  closed: false,
  onHandGrams: null,
  jars: null,
  folded: null,
  ...more,
});

describe('how a lot spread', () => {
  // Crock P fills 6 jars on day 5, takes from Q on day 8, fills 9 jars on day 10: of Q, only the 9 have something.
  const nodes = [
    node('Q', 'fill', null),
    node('P', 'fill', '2026-11-08T09:00:00.000Z'),
    node('R10', 'run', '2026-11-10T09:00:00.000Z', { jars: 9 }),
    node('V', 'fill', '2026-11-10T11:00:00.000Z', { folded: 12, jars: null }),
  ];

  it('goes from moment to moment', () =>
    expect(momentsOf({ nodes })).toEqual([
      '2026-11-08T09:00:00.000Z',
      '2026-11-10T09:00:00.000Z',
      '2026-11-10T11:00:00.000Z',
    ]));
  it('before it came anywhere nothing has any of it', () =>
    expect(spreadBy({ nodes }, '2026-11-08T08:59:00.000Z')).toEqual({
      lots: new Set(),
      batches: 0,
      vessels: 0,
      runs: 0,
      jars: 0,
    }));
  it('by day 8 one vessel, by day 10 a run of nine jars', () => {
    expect(spreadBy({ nodes }, '2026-11-08T09:00:00.000Z').vessels).toBe(1);
    expect(spreadBy({ nodes }, '2026-11-10T10:00:00.000Z')).toEqual({
      lots: new Set(['P', 'R10']),
      batches: 0,
      vessels: 1,
      runs: 1,
      jars: 9,
    });
  });
  it('vessels that are folded into one line count as all of them', () =>
    expect(spreadBy({ nodes }, '2026-11-11T00:00:00.000Z').vessels).toBe(13));
});
