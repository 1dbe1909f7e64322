import type { JudgeReply, LotReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, receive } from './oneBatch.js';

describe('frozen produce', () => {
  let house: TestHouse;
  let maker: Client;
  const weigh = (batchId: string, supplyLotId: string, more: object = {}) =>
    maker.record('produce.weigh', { batchId, supplyLotId, trimmedGrams: 4000, trimWasteGrams: 0, ...more });
  const start = async (): Promise<string> => {
    const batchId = ids.next();
    await house.record('batch.start', {
      batchId,
      formulaId: house.names.dry,
      version: 1,
      plan: { from: 'trimmed', trimmedGrams: 4000 },
    });
    return batchId;
  };

  beforeAll(async () => {
    house = await openHouse('spec_frozen');
    maker = await Client.signIn(house, house.maker);
  }, 60_000);
  afterAll(() => house.close());

  it('asks about a starter; with one in the bowls, or a reason, it goes in, and the book says the reason', async () => {
    const lotId = await receive(house, house.names.shred, 20_000, 'FR-1', daysAgo(3));
    await house.record('supply.state', { lotId, state: 'frozen', keepsUntil: null }, { at: daysAgo(2) });
    const batchId = await start();
    const { status, body } = await weigh(batchId, lotId);
    expect([status, body.code, body.field]).toEqual([422, 'produce.frozen', 'frozenReason']);
    expect((await weigh(batchId, lotId, { frozenReason: 'a third of it is fresh', pieces: 8 })).status).toBe(200);
    const [{ code }] = (
      await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [batchId])
    ).rows as [{ code: string }];
    const { lines } = (await maker.get<LotReply>(`/api/lots/${code}`)).body;
    const words = lines.map((line) => line.words).join();
    expect(words).toContain('8 pieces, 500 g each · frozen, without a starter: a third of it is fresh');
  });
  it('thawed, it was frozen; what is frozen after it was weighed was fresh then', async () => {
    const thawed = await receive(house, house.names.shred, 20_000, 'FR-2', daysAgo(3));
    await house.record('supply.state', { lotId: thawed, state: 'frozen', keepsUntil: null }, { at: daysAgo(2) });
    await house.record('supply.state', { lotId: thawed, state: 'thawed', keepsUntil: null }, { at: daysAgo(1) });
    expect((await weigh(await start(), thawed)).body.code).toBe('produce.frozen');
    const fresh = await receive(house, house.names.shred, 20_000, 'FR-3', daysAgo(3));
    const batchId = await start();
    expect((await weigh(batchId, fresh)).status).toBe(200);
    await house.record('supply.state', { lotId: fresh, state: 'frozen', keepsUntil: null });
    expect((await weigh(batchId, fresh)).body.code).toBe('produce.frozen');
  });
  it('thawed although nobody wrote that it was frozen, it was; and a state put right counts as it is right', async () => {
    const lotId = await receive(house, house.names.shred, 20_000, 'FR-4', daysAgo(3));
    const said = await house.record('supply.state', { lotId, state: 'thawed', keepsUntil: null }, { at: daysAgo(1) });
    expect((await weigh(await start(), lotId)).body.code).toBe('produce.frozen');
    const correct = (state: 'opened' | 'frozen') =>
      house.record('entry.correct', {
        corrects: said.id,
        reason: 'another crate',
        instead: { kind: 'supply.state', body: { lotId, state, keepsUntil: null } },
      });
    await correct('opened');
    const batchId = await start();
    expect((await weigh(batchId, lotId)).status).toBe(200);
    await correct('frozen');
    expect((await weigh(batchId, lotId)).body.code).toBe('produce.frozen');
  });
  it('a vessel of it is given until day 5 to show life; one of fresh produce until day 3', async () => {
    const judged = async (frozen: boolean, tag: string): Promise<string> => {
      const lotId = await receive(house, house.names.shred, 20_000, `FR-${tag}`, daysAgo(6));
      if (frozen)
        await house.record('supply.state', { lotId, state: 'frozen', keepsUntil: null }, { at: daysAgo(5.5) });
      const [batchId, fillLotId] = [ids.next(), ids.next()];
      const at = daysAgo(4);
      const record: TestHouse['record'] = (kind, body) => house.record(kind, body, { at });
      await record('batch.start', {
        batchId,
        formulaId: house.names.dry,
        version: 1,
        plan: { from: 'trimmed', trimmedGrams: 4000 },
      });
      await record('produce.weigh', {
        batchId,
        supplyLotId: lotId,
        trimmedGrams: 4000,
        trimWasteGrams: 0,
        ...(frozen ? { frozenReason: 'to be seen' } : {}),
      });
      const salt = await receive(house, house.names.salt, 1000, `SA-${tag}`, daysAgo(6));
      await record('salt.weigh', { batchId, saltLotId: salt, grams: 88, alreadyIn: false });
      await record('vessel.fill', { fillLotId, batchId, vesselId: house.vessel(tag), grams: 4000, brine: null });
      const reply = await maker.get<JudgeReply>(`/api/judge?lotId=${fillLotId}&finding=noLife&place=brine`);
      return JSON.stringify(reply.body);
    };
    const [frozen, fresh] = [await judged(true, 'C1'), await judged(false, 'C2')];
    // Unread it is watched either way; what the guide says of no life is another.
    expect(fresh).toContain('A slow start, too cold, too salty');
    expect(frozen).toContain('It is early yet.');
  });
});
