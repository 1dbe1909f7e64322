import { type BodyOf, type HouseReply, lotReply, stockReply, suppliesReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { createHash } from 'node:crypto';
import sharp from 'sharp';
import { rows } from '../src/db/database.js';
import { redOf } from '../src/lots/watch.js';
import { Client } from './client.js';
import { entryOf, ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo } from './oneBatch.js';

describe('the stores', () => {
  let house: TestHouse;
  let client: Client;
  const day = (from: number): string => new Date(Date.now() + from * 86_400_000).toISOString().slice(0, 10);
  const receive = async (
    over: Partial<BodyOf<'supply.receive'>> = {},
    at = daysAgo(3),
  ): Promise<{ lotId: string; code: string }> => {
    const lotId = ids.next();
    const recorded = await house.record(
      'supply.receive',
      {
        lotId,
        materialId: house.names.turnip,
        supplierId: house.names.supplier,
        supplierLotCode: 'F4',
        grams: 10_000,
        useBy: null,
        condition: 'firm',
        ...over,
      },
      { at, by: house.maker },
    );
    return { lotId, code: String(recorded.facts['code']) };
  };
  const refusalOf = (work: Promise<unknown>): Promise<string> =>
    work.then(
      () => 'recorded',
      (error: { refusal: { code: string } }) => error.refusal.code,
    );
  const stock = async () => stockReply.parse((await client.get('/api/stock')).body);
  const lotOf = async (lotId: string) => (await stock()).lots.find((lot) => lot.lotId === lotId);

  beforeAll(async () => {
    house = await openHouse('spec_stores');
    client = await Client.signIn(house, house.maker);
  });
  afterAll(() => house.close());

  it('accepted in part: what is sent back leaves the ledger with its reason', async () => {
    const { lotId, code } = await receive({ rejected: { grams: 1500, reason: 'soft, mould in one crate' }, cost: 24 });
    expect(await lotOf(lotId)).toEqual(jasmine.objectContaining({ onHandGrams: 8500, cost: 24 }));
    const page = lotReply.parse((await client.get(`/api/lots/${code}`)).body);
    expect(page.lines[0]!.words).toContain('1,500 g sent back: soft, mould in one crate');
    expect(page.tally.clear).toBeTrue();
  });
  it('a delivery of many lines is one entry: all of it, or none; each lot’s page shows its own line', async () => {
    const line = (over: object = {}) => ({
      lotId: ids.next(),
      materialId: house.names.turnip,
      supplierId: house.names.supplier,
      supplierLotCode: 'F9',
      grams: 1000,
      useBy: null,
      condition: null,
      ...over,
    });
    const lines = [line(), line({ materialId: house.names.pepper, rejected: { grams: 100, reason: 'damp' } }), line()];
    const recorded = await house.record(
      'delivery.receive',
      { deliveryId: ids.next(), reference: 'DN 118', lines },
      { by: house.maker },
    );
    const codes = recorded.facts['codes'] as string[];
    expect(new Set(codes).size).toBe(3);
    expect(await lotOf(lines[1]!.lotId)).toEqual(
      jasmine.objectContaining({ code: codes[1], onHandGrams: 900, reference: 'DN 118' }),
    );
    expect(lotReply.parse((await client.get(`/api/lots/${codes[1]}`)).body).lines[0]!.words).toContain(
      '100 g sent back: damp',
    );
    const before = (await stock()).lots.length;
    const refusal = await client.record('delivery.receive', {
      deliveryId: ids.next(),
      reference: null,
      lines: [line(), line({ grams: 0 })] as never,
    });
    expect([refusal.status, refusal.body.field]).toEqual([422, 'lines.1.grams']);
    expect((await stock()).lots.length).toBe(before);
    // The pepper of this delivery would hide that it runs low.
    await house.record('stock.count', { lotId: lines[1]!.lotId, grams: 0, reason: 'used up' });
  });
  it('a list of two thousand rows, as a wholesaler sends it, comes in in one piece or not at all', async () => {
    const lots = async (): Promise<number> =>
      (await rows<{ n: number }>(house.connection.db, sql`select count(*)::int as n from lot`))[0]!.n;
    const part = (last: object = {}) =>
      entryOf(
        'delivery.receive',
        {
          deliveryId: ids.next(),
          reference: 'the list of a month',
          lines: Array.from({ length: 400 }, (_, i) => ({
            lotId: ids.next(),
            materialId: house.names.shred,
            supplierId: house.names.supplier,
            supplierLotCode: `L-${i}`,
            grams: 1000 + i,
            useBy: day(30),
            condition: 'firm, dry, no soil on the roots',
            ...(i === 399 ? last : {}),
          })),
        },
        house.maker.id,
      );
    const before = await lots();
    const bad = await client.post({ entries: [part(), part(), part(), part(), part({ grams: 0 })] });
    expect([bad.status, bad.body.field]).toEqual([422, 'lines.399.grams']);
    expect(await lots()).toBe(before);
    const entries = [part(), part(), part(), part(), part()];
    expect(JSON.stringify(entries).length).withContext('more than a form ever sends').toBeGreaterThan(400_000);
    expect((await client.post({ entries })).status).toBe(200);
    expect(await lots()).toBe(before + 2000);
  });
  it('no more is sent back than came', async () =>
    expect(await refusalOf(receive({ rejected: { grams: 12_000, reason: 'all of it' } }))).toBe('lot.overdrawn'));
  it('first to expire comes first, in the stores and at the bench', async () => {
    const late = await receive({ useBy: day(20) });
    const soon = await receive({ useBy: day(2) });
    const past = await receive({ useBy: day(-1) });
    const order = suppliesReply
      .parse((await client.get(`/api/supplies?materialId=${house.names.turnip}`)).body)
      .lots.map(({ lotId }) => lotId);
    expect([order.indexOf(past.lotId), order.indexOf(soon.lotId), order.indexOf(late.lotId)]).toEqual([0, 1, 2]);
    expect((await lotOf(past.lotId))!.keeps).toBe('past');
    expect((await lotOf(soon.lotId))!.keeps).toBe('soon');
  });
  it('opened, it keeps by the earlier date; frozen, by its own', async () => {
    const { lotId } = await receive({ useBy: day(30) });
    await house.record('supply.state', { lotId, state: 'opened', keepsUntil: day(3) }, { by: house.maker });
    expect(await lotOf(lotId)).toEqual(jasmine.objectContaining({ state: 'opened', until: day(3), keeps: 'soon' }));
    await house.record('supply.state', { lotId, state: 'frozen', keepsUntil: day(180) }, { by: house.maker });
    expect((await lotOf(lotId))!.until).toBe(day(180));
  });
  it('a count puts the ledger right; a larger difference wants its reason', async () => {
    const { lotId, code } = await receive();
    await house.record('stock.count', { lotId, grams: 9970, reason: null }, { by: house.maker });
    expect((await lotOf(lotId))!.onHandGrams).toBe(9970);
    expect(await refusalOf(house.record('stock.count', { lotId, grams: 8000, reason: null }))).toBe(
      'stock.reasonNeeded',
    );
    await house.record(
      'stock.count',
      { lotId, grams: 8000, reason: 'a crate went to the market' },
      { by: house.maker },
    );
    expect((await lotOf(lotId))!.onHandGrams).toBe(8000);
    await house.record('stock.count', { lotId, grams: 8500, reason: 'half of it came back' }, { by: house.maker });
    const page = lotReply.parse((await client.get(`/api/lots/${code}`)).body);
    expect(page.tally.clear).toBeTrue();
    expect(page.lines.map(({ words }) => words)).toContain(
      '1,970 g less than the ledger said: a crate went to the market',
    );
    expect((await lotOf(lotId))!.onHandGrams).toBe(8500);
  });
  it('a tap is not counted', async () => {
    const { lotId } = await receive({ materialId: house.names.tap });
    expect(await refusalOf(house.record('stock.count', { lotId, grams: 5, reason: 'x' }))).toBe('lot.wrongKind');
  });
  it('what runs low is named', async () => {
    await house.record('material.change', {
      materialId: house.names.pepper,
      name: 'Black pepper',
      kind: 'flavouring',
      waterFraction: 0.1,
      saltFraction: 0,
      allergens: [],
      caution: null,
      details: { lowStockGrams: 500 },
    });
    expect((await stock()).low).toEqual([
      { materialId: house.names.pepper, name: 'Black pepper', onHandGrams: 0, lowStockGrams: 500, unit: 'g' },
    ]);
    await receive({ materialId: house.names.pepper, grams: 800 });
    expect((await stock()).low).toEqual([]);
  });
  it('labels: one page for each copy, a symbol on each', async () => {
    const [one, two] = [await receive(), await receive()];
    const text = await client.text(`/api/labels.pdf?lots=${one.lotId},${two.lotId}&copies=3`);
    expect(text.slice(0, 5)).toBe('%PDF-');
    expect(text).toContain('/Count 6');
    expect(text).toContain('/Subtype /Image');
    expect((await client.get(`/api/labels.pdf?lots=${ids.next()}`)).status).toBe(422);
    expect((await client.get('/api/labels.pdf?lots=all')).status).toBe(400);
  });
  it('an inspector receives and counts nothing', async () => {
    const inspector = await Client.signIn(house, house.inspector);
    expect((await inspector.record('stock.count', { lotId: ids.next(), grams: 1, reason: null })).status).toBe(403);
  });

  describe('packaging', () => {
    const jars = ids.next();
    it('is counted in pieces in the same ledger: received, sent back in part, counted with every missing one explained', async () => {
      await house.record('material.add', {
        materialId: jars,
        name: 'Jars 330 mL',
        kind: 'packaging',
        waterFraction: 0,
        saltFraction: 0,
        allergens: [],
        caution: null,
        details: { lowStockGrams: 200 },
      });
      const { lotId } = await receive({ materialId: jars, grams: 480, rejected: { grams: 12, reason: 'chipped' } });
      expect(await lotOf(lotId)).toEqual(jasmine.objectContaining({ unit: 'piece', onHandGrams: 468 }));
      expect(
        await refusalOf(house.record('stock.count', { lotId, grams: 467, reason: null }, { by: house.maker })),
      ).toBe('stock.reasonNeeded');
      await house.record(
        'stock.count',
        { lotId, grams: 160, reason: 'used for the market before this was kept' },
        { by: house.maker },
      );
      expect((await stock()).low).toContain(
        jasmine.objectContaining({ name: 'Jars 330 mL', onHandGrams: 160, unit: 'piece' }),
      );
    });
    it('comes in whole pieces, and goes into no bowl', async () => {
      expect(await refusalOf(receive({ materialId: jars, grams: 12.5 }))).toBe('quantity.unreadable');
      const { lotId } = await receive({ materialId: jars, grams: 24 });
      const batchId = ids.next();
      await house.record(
        'batch.start',
        { batchId, formulaId: house.names.dry, version: 1, plan: { from: 'trimmed', trimmedGrams: 5000 } },
        { by: house.maker },
      );
      expect(
        await refusalOf(house.record('ingredient.add', { batchId, fromLotId: lotId, grams: 5 }, { by: house.maker })),
      ).toBe('lot.wrongKind');
      expect(
        suppliesReply
          .parse((await client.get('/api/supplies')).body)
          .lots.some((lot) => lot.materialName === 'Jars 330 mL'),
      ).toBeFalse();
    });
  });

  describe('the photo of a delivery’s paper', () => {
    // A small JPEG with a place and a maker written into it as cameras do, and a page of HTML behind its end.
    let picture: Buffer;
    beforeAll(async () => {
      const exif = { IFD0: { Make: 'A camera', Copyright: 'GPS 53.3 -6.2' } };
      const drawn = await sharp({ create: { width: 40, height: 30, channels: 3, background: '#887766' } })
        .withExif(exif)
        .jpeg()
        .toBuffer();
      picture = Buffer.concat([drawn, Buffer.from('<script>alert("not a picture")</script>')]);
    });
    it('is drawn anew: without what the camera wrote into it or hid behind it, named by its hash, and shown at its lots', async () => {
      expect(picture.toString('latin1')).toContain('GPS');
      const kept = await client.upload('/api/photos', picture);
      expect(kept.status).toBe(200);
      const { id } = kept.body as { id: string };
      const [again, text] = [await client.upload('/api/photos', picture), await client.text(`/api/photos/${id}`)];
      expect((again.body as { id: string }).id).toBe(id);
      for (const hidden of ['GPS', 'A camera', '<script', 'Exif']) expect(text).not.toContain(hidden);
      expect(createHash('sha256').update(Buffer.from(text, 'latin1')).digest('hex')).toBe(id);
      expect((kept.body as { leftBytes: number }).leftBytes).toBeGreaterThan(1e9);
      const lotId = ids.next();
      await house.record(
        'delivery.receive',
        {
          deliveryId: ids.next(),
          reference: 'DN 7',
          photo: id,
          lines: [
            {
              lotId,
              materialId: house.names.turnip,
              supplierId: house.names.supplier,
              supplierLotCode: 'F1',
              grams: 900,
              useBy: null,
              condition: null,
            },
          ],
        },
        { by: house.maker },
      );
      expect((await lotOf(lotId))!.photo).toBe(id);
    });
    it('of another type, too large, or never sent: said, and nothing kept', async () => {
      expect((await client.upload('/api/photos', Buffer.from('%PDF-1.7 not a picture'))).body).toEqual(
        jasmine.objectContaining({ code: 'file.unreadable' }),
      );
      expect(
        (
          await client.upload(
            '/api/photos',
            Buffer.concat([picture.subarray(0, 3), Buffer.from('<html><script>alert(1)</script></html>')]),
          )
        ).body,
      ).toEqual(jasmine.objectContaining({ code: 'file.unreadable' }));
      // 81 million pixels in some hundred kilobytes: asked for its size before it is unfolded.
      const bomb = await sharp({
        create: { width: 9000, height: 9000, channels: 3, background: '#000' },
        limitInputPixels: false,
      })
        .png({ compressionLevel: 5 })
        .toBuffer();
      expect(bomb.length).toBeLessThan(3_000_000);
      expect((await client.upload('/api/photos', bomb)).body).toEqual(
        jasmine.objectContaining({ code: 'file.unreadable' }),
      );
      expect((await client.upload('/api/photos', picture.subarray(0, 200))).body).toEqual(
        jasmine.objectContaining({ code: 'file.unreadable' }),
      );
      expect(
        (await client.upload('/api/photos', Buffer.concat([picture.subarray(0, 30), Buffer.alloc(6_500_000)]))).body,
      ).toEqual(jasmine.objectContaining({ code: 'file.tooLarge' }));
      const line = {
        lotId: ids.next(),
        materialId: house.names.turnip,
        supplierId: house.names.supplier,
        supplierLotCode: 'F1',
        grams: 900,
        useBy: null,
        condition: null,
      };
      expect(
        await refusalOf(
          house.record(
            'delivery.receive',
            { deliveryId: ids.next(), reference: null, photo: 'f'.repeat(64), lines: [line] },
            { by: house.maker },
          ),
        ),
      ).toBe('lot.unknown');
    });
  });

  it('a red of its own is a property of the material: by its name until somebody says otherwise', async () => {
    const add = async (name: string, details?: BodyOf<'material.add'>['details']): Promise<boolean | undefined> => {
      const materialId = ids.next();
      const body = {
        materialId,
        name,
        kind: 'produce' as const,
        waterFraction: 0.9,
        saltFraction: 0,
        allergens: [],
        caution: null,
      };
      await house.record('material.add', { ...body, ...(details ? { details } : {}) });
      const { materials } = (await client.get<HouseReply>('/api/house')).body;
      return materials.find(({ id }) => id === materialId)!.details.red;
    };
    expect(await add('Beetroot, small')).toBeTrue();
    expect(await add('Beetroot, golden', { red: false })).toBeFalse();
    expect(await add('Amaranth leaf', { red: true })).toBeTrue();
    expect(await add('White radish')).toBeFalse();
    expect([redOf(null), redOf([false, null]), redOf([null, true]), redOf([false, false])]).toEqual([
      null,
      null,
      true,
      false,
    ]);
  });
});
