import type { FinishesReply, JarsReply, RunsReply } from '@clear-tally/contract';
import pg from 'pg';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, sour } from './oneBatch.js';

/** Of an old book that holds what is no day: the run packed from that vessel says so, and every other stands in its list. Finishes too. */
describe('what cannot be read', () => {
  let house: TestHouse;
  let owner: Client;
  const packedAt = daysAgo(9);

  beforeEach(async () => {
    house = await openHouse('spec_one_unreadable');
    owner = await Client.signIn(house, house.owner);
  }, 90_000);
  afterEach(() => house.close());

  async function pack(tag: string, released: boolean): Promise<{ fillId: string; runLotId: string }> {
    const at = daysAgo(40);
    const { fillId } = await dryBatch(house, { tag, at, produceGrams: 6000, saltGrams: 132 });
    await sour(house, fillId, at, packedAt);
    const { runLotId } = await packJars(house, fillId, 12, { at: packedAt, brine: 'own', storage: 'cold' });
    if (released) {
      await owner.send('POST', '/api/session/proof', { pin: PIN });
      const { status, body } = await owner.record('run.release', { runLotId, excuses: {} });
      expect(status).withContext(JSON.stringify(body)).toBe(200);
    }
    return { fillId, runLotId };
  }

  async function spoil(fillIds: readonly string[]): Promise<void> {
    const password = process.env['TEST_ADMIN_URL']!.match(/\/\/[^@]*@/)![0];
    const admin = new pg.Client({ connectionString: house.connection.ownerUrl.replace(/\/\/[^@]*@/, password) });
    await admin.connect();
    await admin.query('alter table lot drop constraint lot_when_plausible');
    await admin.query("update lot set at = '0026-11-25' where id = any($1)", [fillIds]);
    await admin.end();
  }

  it('in a vessel a run was packed from, spoils no other line of the jars and of the runs', async () => {
    const [old, sound] = [await pack('C1', true), await pack('C2', true)];
    const [waits, waitsOld] = [await pack('D1', false), await pack('D2', false)];
    await spoil([old.fillId, waitsOld.fillId]);
    const jars = await owner.get<JarsReply>('/api/jars');
    expect(jars.status).toBe(200);
    const refusal = (of: { runLotId: string }) =>
      jars.body.runs.find(({ lotId }) => lotId === of.runLotId)?.refusal ?? null;
    expect(refusal(old)).toContain('cannot be read');
    expect(refusal(sound)).toBeNull();
    const runs = await owner.get<RunsReply>('/api/runs');
    expect(runs.status).toBe(200);
    const open = (of: { runLotId: string }) => runs.body.runs.find(({ lotId }) => lotId === of.runLotId)?.open;
    expect([open(waits), open(waitsOld)]).toEqual([0, 1]);
  }, 90_000);
  it('of a finish spoils no other finish', async () => {
    const at = daysAgo(40);
    const { fillId } = await dryBatch(house, { tag: 'C1', at });
    await sour(house, fillId, at, packedAt);
    const begin = async (tag: string): Promise<string> => {
      const finishLotId = ids.next();
      const from = [{ fillLotId: fillId, grams: 2000, of: 'solids' as const }];
      const body = { finishLotId, what: 'repack', vesselId: house.vessel(tag), from } as const;
      await house.record('finish.begin', body, { at: packedAt, by: house.maker });
      return finishLotId;
    };
    const [old, sound] = [await begin('D1'), await begin('D2')];
    await spoil([old]);
    const { status, body } = await owner.get<FinishesReply>('/api/finishes');
    expect(status).toBe(200);
    const waits = (of: string) => body.finishes.find(({ lotId }) => lotId === of)?.waits;
    expect([waits(old), waits(sound)]).toEqual(['its record, which cannot be read', jasmine.stringContaining('brine')]);
  }, 90_000);
});
