import { type BodyOf, ordersReply } from '@clear-tally/contract';
import { readPick } from '../src/subjects/dispatch/readPick.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, sour } from './oneBatch.js';

describe('orders', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  const customers = { ladle: ids.next(), grocer: ids.next(), closed: ids.next() };
  let runLotId = '';

  const order = (more: Partial<BodyOf<'order.take'>> = {}): BodyOf<'order.take'> => ({
    orderId: ids.next(),
    customerId: customers.ladle,
    wantedOn: '2026-12-24',
    lines: [{ formulaId: house.names.dry, sizeMl: 330, count: 12 }],
    note: null,
    ...more,
  });
  const open = async () => ordersReply.parse((await maker.get('/api/orders')).body).orders;
  const send = (orderId: string, first: number, customerId = customers.ladle) =>
    maker.record('jars.dispatch', {
      dispatchId: ids.next(),
      customerId,
      jars: [{ runLotId, first, last: first + 11 }],
      note: null,
      orderId,
    });

  beforeAll(async () => {
    house = await openHouse('spec_orders');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    for (const [key, name] of [
      ['ladle', 'The Copper Ladle'],
      ['grocer', 'Three Bridges Grocer'],
      ['closed', 'Fen End Box Scheme'],
    ] as const) {
      const body = { customerId: customers[key], name, customerKind: 'shop' as const, address: null, contact: null };
      await house.record('customer.add', body, { at: daysAgo(20) });
      if (key === 'closed') await house.record('customer.change', { ...body, closed: true }, { at: daysAgo(19) });
    }
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(40) });
    await sour(house, fillId, daysAgo(40), daysAgo(9));
    runLotId = ids.next();
    await house.record(
      'pack.run',
      {
        runLotId,
        from: [{ fillLotId: fillId, grams: 12_900, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 40 }],
        sampleGrams: 60,
        leftoverGrams: 0,
        wasteGrams: 40,
        tallyReason: null,
        brine: 'own',
        storage: 'cold',
      },
      { at: daysAgo(9), by: house.maker },
    );
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    await owner.record('run.release', { runLotId, excuses: {} });
  }, 60_000);
  afterAll(() => house.close());

  it('wait in the order they are wanted, with a code of their own; what can be ordered stands beside them', async () => {
    const late = order({ wantedOn: '2027-01-10' });
    const soon = order();
    const some = order({ wantedOn: null, customerId: customers.grocer });
    for (const body of [late, some, soon]) expect((await maker.record('order.take', body)).status).toBe(200);
    const orders = await open();
    expect(orders.map(({ orderId }) => orderId)).toEqual([soon.orderId, late.orderId, some.orderId]);
    expect(orders.map(({ code }) => code.slice(3))).toEqual(['-0003', '-0001', '-0002']);
    expect(orders[0]!.lines).toEqual([{ formulaId: house.names.dry, name: 'Dry shred', sizeMl: 330, count: 12 }]);
    const { products } = ordersReply.parse((await maker.get('/api/orders')).body);
    expect(products).toContain({ formulaId: house.names.dry, name: 'Dry shred', sizeMl: 330 });
  });
  it('of nobody, of somebody closed, of nothing: refused', async () => {
    const code = async (more: Partial<BodyOf<'order.take'>>) =>
      (await maker.record('order.take', order(more))).body.code;
    expect(await code({ customerId: ids.next() })).toBe('customer.unknown');
    expect(await code({ customerId: customers.closed })).toBe('customer.closed');
    expect(await code({ lines: [{ formulaId: ids.next(), sizeMl: 330, count: 1 }] })).toBe('formula.unknown');
    expect(await code({ lines: [] })).toBe('shape.invalid');
  });
  it('its pick list leaves as a paper; of an order that is none, nothing does', async () => {
    const [soon] = await open();
    const pdf = await maker.text(`/api/orders/${soon!.orderId}/pick.pdf`);
    expect(pdf.slice(0, 5)).withContext(pdf.slice(0, 300)).toBe('%PDF-');
    const { picks, missing } = await readPick(house.connection.db, soon!.orderId, new Date());
    expect(picks.map(({ count, sizeMl, codes }) => [count, sizeMl, codes.split(' to ').length])).toEqual([
      [12, 330, 2],
    ]);
    expect(missing).toEqual([]);
    expect((await maker.get(`/api/orders/${ids.next()}/pick.pdf`)).status).toBe(404);
  });
  it('a delivery answers an order of that customer, once', async () => {
    const [soon] = await open();
    expect((await send(soon!.orderId, 1, customers.grocer)).body.code).toBe('order.unknown');
    expect((await send(soon!.orderId, 1)).status).toBe(200);
    expect((await open()).map(({ orderId }) => orderId)).not.toContain(soon!.orderId);
    expect((await send(soon!.orderId, 13)).body.code).toBe('order.closed');
  });
  it('an order is closed with its reason; a delivery that was none opens its order again', async () => {
    const [late, some] = await open();
    expect((await maker.record('order.close', { orderId: late!.orderId, reason: 'they have enough' })).status).toBe(
      200,
    );
    expect((await maker.record('order.close', { orderId: late!.orderId, reason: 'twice' })).body.code).toBe(
      'order.closed',
    );
    const sent = await send(some!.orderId, 13, customers.grocer);
    expect(await open()).toEqual([]);
    const back = await maker.record('entry.correct', {
      corrects: sent.body.recorded[0]!.id,
      reason: 'the van never left',
      instead: null,
    });
    expect(back.status).withContext(JSON.stringify(back.body)).toBe(200);
    expect((await open()).map(({ orderId }) => orderId)).toEqual([some!.orderId]);
  });
});
