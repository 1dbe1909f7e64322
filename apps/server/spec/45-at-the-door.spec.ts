import type { StockReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';

describe('what a material asks for when it comes in', () => {
  let house: TestHouse;
  let maker: Client;
  const materialId = ids.next();
  const lineOf = (more: object = {}) => ({
    lotId: ids.next(),
    materialId,
    supplierId: house.names.supplier,
    supplierLotCode: 'F-1',
    grams: 12_000,
    useBy: null,
    condition: null,
    ...more,
  });
  const deliver = (...lines: object[]) =>
    maker.record('delivery.receive', { deliveryId: ids.next(), reference: null, lines: lines as never });

  beforeAll(async () => {
    house = await openHouse('spec_at_the_door');
    maker = await Client.signIn(house, house.maker);
    await house.record('material.add', {
      materialId,
      name: 'Red peppers',
      kind: 'produce',
      waterFraction: 0.91,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: { atDoor: ['variety', 'state', 'celsius'] },
    });
  }, 60_000);
  afterAll(() => house.close());

  it('is refused without, the whole delivery, by the line and the field', async () => {
    const { status, body } = await deliver(
      lineOf({ door: { variety: 'Long Horn', state: 'fresh', celsius: 7 } }),
      lineOf({ door: { variety: 'Long Horn', state: 'fresh' } }),
    );
    expect(status).toBe(422);
    expect(body).toEqual(jasmine.objectContaining({ code: 'supply.atDoor', field: 'lines.1.door.celsius' }));
    expect(((await maker.get('/api/stock')).body as StockReply).lots.some((lot) => lot.materialId === materialId)).toBe(
      false,
    );
  });
  it('stands in the store, in the book and in the sheet; frozen goods are frozen from the door on', async () => {
    expect((await deliver(lineOf({ door: { variety: 'Long Horn', state: 'frozen', celsius: -18 } }))).status).toBe(200);
    const [lot] = ((await maker.get('/api/stock')).body as StockReply).lots.filter(
      (one) => one.materialId === materialId,
    );
    expect([lot!.state, lot!.door]).toEqual(['frozen', { variety: 'Long Horn', state: 'frozen', celsius: -18 }]);
    const { lines } = (await maker.get(`/api/lots/${lot!.code}`)).body as { lines: { words: string }[] };
    expect(lines[0]!.words).toContain('Long Horn, frozen, −18 °C at the door');
    const sheet = (await maker.bytes('/api/records/receiving.csv')).toString('utf8');
    expect(sheet).toContain('Long Horn,-18');
  });
  it('asked for later, what came before stays as it is; nothing is asked of a material that asks nothing', async () => {
    const { status } = await deliver(lineOf({ materialId: house.names.turnip }));
    expect(status).toBe(200);
  });
});
