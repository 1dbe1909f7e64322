import { TestBed } from '@angular/core/testing';
import type { TraceNode, TraceReply } from '@clear-tally/contract';
import { FakeApi, INES, inHouse, within } from '../../state/testing';
import { Trace } from './trace';

const id = (last: number): string => `018f6b1e-0000-7000-8000-${String(last).padStart(12, '0')}`;
const node = (last: number, more: Partial<TraceNode>): TraceNode => ({
  lotId: id(last),
  code: `NY26-${last}`,
  kind: 'fill',
  name: 'Shred',
  column: 2,
  grams: 5000,
  at: '2026-11-20T08:00:00Z',
  origin: 'made',
  supplier: null,
  supplierLotCode: null,
  hold: null,
  detail: 'C2',
  forward: true,
  reachedAt: '2026-11-20T08:00:00Z',
  carriedOver: false,
  closed: false,
  onHandGrams: 900,
  jars: null,
  folded: null,
  ...more,
});
const reply = (hold: string | null): TraceReply => ({
  subject: { kind: 'supply', code: 'SP-0025', title: 'Coarse pan salt', detail: '', lotId: id(1), packaging: false },
  direction: 'forward',
  nodes: [
    node(1, { code: 'SP-0025', kind: 'supply', column: 0, forward: false, hold, detail: null }),
    node(2, { kind: 'batch', column: 1 }),
    node(3, {}),
    node(4, { folded: 1592, code: 'NY26-4', hold: '3 of them' }),
  ],
  flows: [
    { from: id(1), to: id(2), grams: 1452, at: '2026-11-20T08:00:00Z' },
    { from: id(2), to: id(3), grams: 30, at: '2026-11-20T08:00:00Z' },
    { from: id(2), to: id(4), grams: 1400, at: '2026-11-20T08:00:00Z' },
  ],
  links: [],
  jars: [],
  jarCount: 80_000,
  lots: 3601,
  ranges: 1600,
  mayHold: 1210,
  beforeLedger: false,
  milliseconds: 310,
});

describe('a way too large to draw', () => {
  let api: FakeApi;
  const open = async (hold: string | null) => {
    const list = { nodes: [node(70, { code: 'NY24-070-A-V1' })], jars: [], many: 1592, page: 200 };
    api = new FakeApi({
      '/api/trace/SP-0025': reply(hold),
      [`/api/trace/SP-0025/folded?of=${id(4)}&page=0`]: list,
      [`/api/trace/SP-0025/folded?of=${id(4)}&page=1`]: { ...list, nodes: [node(71, { code: 'NY24-071-A-V1' })] },
    });
    inHouse(api, {}, INES);
    const fixture = TestBed.createComponent(Trace);
    fixture.componentRef.setInput('code', 'SP-0025');
    for (let i = 0; i < 4; i += 1) await fixture.whenStable();
    return within(fixture);
  };
  it('says how many lots one stands for, and lists them page by page when it is asked', async () => {
    const page = await open(null);
    expect(page.text()).toContain('1592 more vessels');
    expect(page.text()).toContain('3601 lots are on it');
    await page.press('1592 more vessels');
    expect(page.text()).toContain('NY24-070-A-V1');
    expect(page.text()).toContain('1 to 200 of 1592');
    await page.press('The next ones');
    await page.settle();
    expect(page.text()).toContain('NY24-071-A-V1');
  });
  it('of a lot on hold, everything it went into is proposed, the folded too, and held in one entry', async () => {
    const page = await open('Came with glass in it');
    await page.press('Hold SP-0025 and all 1210 it went into');
    expect(api.sent[0]![0]).toEqual(
      jasmine.objectContaining({
        kind: 'hold.place',
        body: { lotId: id(1), reason: 'Came with glass in it', downstream: true },
      }) as never,
    );
  });
});
