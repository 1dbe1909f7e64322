import type { MakeReply, WatchReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { dryBatch, receive } from './oneBatch.js';

/** Handbook 2.1: S / (S + w·V), of the salt as it was weighed. */
const waterPhase = (saltGrams: number, produceGrams: number, w: number): number =>
  saltGrams / (saltGrams + w * produceGrams);

describe('a salt that is not pure', () => {
  let house: TestHouse;
  let maker: Client;
  beforeAll(async () => {
    house = await openHouse('spec_salt_as_weighed');
    maker = await Client.signIn(house, house.maker);
  }, 60_000);
  afterAll(() => house.close());

  for (const [tag, details, purity] of [
    ['C1', {}, 0.97],
    ['C2', { purity: 0.98 }, 0.98],
  ] as const)
    it(`is one figure at the bench and in the vessel, kept with its purity of ${purity}`, async () => {
      const materialId = ids.next();
      await house.record('material.add', {
        materialId,
        name: `Grey salt ${tag}`,
        kind: 'salt',
        waterFraction: 0.02,
        saltFraction: 0.97,
        allergens: [],
        caution: null,
        details,
      });
      const [row] = (
        await house.connection.pool.query<{ w: string; s: string; d: { purity: number } }>(
          'select water_fraction as w, salt_fraction as s, details as d from material where id = $1',
          [materialId],
        )
      ).rows;
      expect([Number(row!.w), Number(row!.s), row!.d.purity]).toEqual([0, 1, purity]);
      const saltLot = await receive(house, materialId, 5000, `GS-${tag}`);
      const { batchId, fillId } = await dryBatch(house, {
        tag,
        produceGrams: 10_000,
        saltGrams: 220,
        saltLot,
        at: new Date(),
      });
      const make = (await maker.get<MakeReply>(`/api/making/${batchId}`)).body;
      const { code } = make.fills[0]!;
      const watch = (await maker.get<WatchReply>(`/api/watch/${code}`)).body;
      const expected = waterPhase(220, 10_000, 0.92);
      expect(make.salt.waterPhaseSalt).toBeCloseTo(expected, 6);
      expect(make.fills[0]!.salt.waterPhase).toBeCloseTo(expected, 6);
      expect(JSON.stringify(watch)).toContain('2.34 %');
      expect(fillId).toBe(make.fills[0]!.lotId);
    });

  it('under 95 % is a blend: its vessel counts what is salt in it, and a weak one is not filled', async () => {
    const materialId = ids.next();
    await house.record('material.add', {
      materialId,
      name: 'Salt with half herbs',
      kind: 'salt',
      waterFraction: 0,
      saltFraction: 1,
      allergens: [],
      caution: null,
      details: { purity: 0.5 },
    });
    const saltLot = await receive(house, materialId, 5000, 'GS-D1');
    // 1.18 % of the water phase, where its weight alone would say 2.34 %.
    await expectAsync(
      dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, saltLot, at: new Date() }),
    ).toBeRejectedWith(
      jasmine.objectContaining({
        refusal: jasmine.objectContaining({
          code: 'salt.weakNeedsReviewer',
          facts: { waterPhaseSalt: jasmine.any(Number) },
        }),
      }),
    );
  });
});
