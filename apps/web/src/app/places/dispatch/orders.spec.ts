import { TestBed } from '@angular/core/testing';
import type { HouseReply, JarsReply, OrdersReply } from '@clear-tally/contract';
import { FakeApi, inHouse, within } from '../../state/testing';
import { scanInto } from './crate';
import { Orders, type Picked } from './orders';
import { jarCode } from '@clear-tally/core';

const RUN = 'NY26-327-A-01';
const FORMULA = '11111111-1111-4111-8111-111111111111';
const stretch = (first: number, last: number, more: Partial<JarsReply['runs'][number]['stretches'][number]> = {}) => ({
  first,
  last,
  firstCode: jarCode(RUN, first).text,
  lastCode: jarCode(RUN, last).text,
  count: last - first + 1,
  sizeMl: 330,
  kind: 'house' as const,
  roomId: null,
  customerId: null,
  where: 'Cold store',
  since: null,
  kept: null,
  ...more,
});
const stock = (refusal: string | null = null): JarsReply['runs'] => [
  {
    lotId: 'run-1',
    code: RUN,
    name: 'Turnips',
    packedAt: '2026-11-01T10:00:00Z',
    storage: 'cold',
    formulaId: FORMULA,
    refusal,
    stretches: [stretch(1, 10), stretch(11, 12, { kept: 'kept to be tasted' }), stretch(13, 30, { where: 'Van' })],
  },
];
const reply: OrdersReply = {
  orders: [
    {
      orderId: 'order-1',
      code: 'O26-0001',
      customerId: 'ladle',
      customer: 'The Copper Ladle',
      wantedOn: '2026-11-28',
      note: null,
      takenAt: '2026-11-25T17:05:00Z',
      by: 'IC',
      lines: [{ formulaId: FORMULA, name: 'Turnips', sizeMl: 330, count: 14 }],
    },
  ],
  products: [{ formulaId: FORMULA, name: 'Turnips', sizeMl: 330 }],
};

describe('orders', () => {
  const open = async (runs = stock(), house: Partial<HouseReply> = {}) => {
    const api = new FakeApi({ '/api/orders': reply });
    inHouse(api, house);
    const fixture = TestBed.createComponent(Orders);
    fixture.componentRef.setInput('stock', runs);
    fixture.componentRef.setInput('crate', []);
    fixture.componentRef.setInput('customers', [{ id: 'ladle', label: 'The Copper Ladle' }]);
    const picked: Picked[] = [];
    fixture.componentInstance.picked.subscribe((one) => picked.push(one));
    await fixture.whenStable();
    await fixture.whenStable();
    return { ...within(fixture), api, picked };
  };

  it('the pick list goes place by place, without what is kept to be tasted, and fills the crate', async () => {
    const page = await open();
    expect(page.text()).toContain('all of it is there');
    await page.press('Fill the crate from it');
    expect(page.picked[0]).toEqual({
      orderId: 'order-1',
      code: 'O26-0001',
      customerId: 'ladle',
      jars: [
        { runLotId: 'run-1', first: 1, last: 10 },
        { runLotId: 'run-1', first: 13, last: 16 },
      ],
      lacks: 0,
    });
  });
  it('of a run that may not leave nothing is picked; what is missing is said', async () => {
    const page = await open(stock('It is not released.'));
    expect(page.text()).toContain('14 are missing');
    expect(page.button('Fill the crate from it').disabled).toBeTrue();
  });
  it('is wanted on the day that was said, wherever the house stands', async () => {
    for (const timeZone of ['Pacific/Auckland', 'America/New_York']) {
      TestBed.resetTestingModule();
      expect((await open(stock(), { timeZone })).text())
        .withContext(timeZone)
        .toContain('wanted 28 Nov 2026');
    }
  });
  it('is closed with a reason alone', async () => {
    const page = await open();
    await page.press('Close it unfilled');
    expect(page.button('Close O26-0001').textContent).toContain('missing: the reason');
    await page.type('Why is it closed?', 'they have enough');
    await page.press('Close O26-0001');
    expect(page.api.sent.at(-1)![0]!.body as unknown).toEqual({ orderId: 'order-1', reason: 'they have enough' });
  });
});

describe('a case in the crate', () => {
  it('begins with the jar that is scanned, and is as many as is said', () => {
    const added = scanInto([], stock(), `${jarCode(RUN, 13).text} x 12`);
    expect([added.ok, added.crate[0]!.first, added.crate[0]!.last]).toEqual([true, 13, 24]);
    expect(scanInto([], stock(), `${jarCode(RUN, 13).text}×6`).crate[0]!.last).toBe(18);
  });
  it('goes through no jar that is kept, and none that is not there', () => {
    expect(scanInto([], stock(), `${jarCode(RUN, 5).text} x 12`).said).toContain('kept to be tasted');
    expect(scanInto([], stock(), `${jarCode(RUN, 25).text} x 12`).ok).toBeFalse();
    expect(scanInto([], stock(), `${jarCode(RUN, 1).text} to ${jarCode(RUN, 3).text} x 2`).ok).toBeFalse();
  });
});
