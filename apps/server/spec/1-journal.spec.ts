import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import { loadDemoHouse } from '../src/demo/loadDemoHouse.js';
import { canonicalJson } from '../src/journal/canonical.js';
import { takeHouseIn } from '../src/journal/file/takeHouseIn.js';
import { writeHouseFile } from '../src/journal/file/writeHouseFile.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { Client } from './client.js';
import { emptyDatabase, lookedAt } from './databases.js';
import { entryOf } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { dryBatch } from './oneBatch.js';

describe('the journal', () => {
  let house: TestHouse;
  beforeAll(async () => {
    house = await openHouse('spec_journal');
  });
  afterAll(() => house.close());

  it('canonical JSON: the same value is always the same bytes', () =>
    expect(canonicalJson({ b: [1, { d: null, c: 'x' }], a: undefined })).toBe('{"b":[1,{"c":"x","d":null}]}'));

  it('is a chain, and every entry verifies', async () => {
    const verified = await verifyChain(house.connection.db);
    expect(verified.brokenAt).toBeNull();
    expect(verified.entries).toBeGreaterThan(15);
  });

  for (const table of ['journal', 'movement', 'reading']) {
    it(`the application cannot change or delete a row of ${table}`, async () => {
      await expectAsync(house.connection.pool.query(`delete from ${table}`)).toBeRejectedWithError(/permission denied/);
      await expectAsync(house.connection.pool.query(`update ${table} set seq = seq`)).toBeRejectedWithError(
        /permission denied/,
      );
    });
  }

  it('the same entry twice is recorded once and answered alike', async () => {
    const client = await Client.signIn(house, house.maker);
    const batch = await dryBatch(house, { tag: 'C1' });
    const entry = entryOf('ph.read', { lotId: batch.fillId, ph: 3.7, sample: 'blended' }, house.maker.id);
    const [first, second] = [await client.post({ entries: [entry] }), await client.post({ entries: [entry] })];
    expect([first.status, second.status]).toEqual([200, 200]);
    expect(second.body.recorded[0]).toEqual({ ...first.body.recorded[0]!, repeated: true });
    const [count] = await rows<{ n: number }>(
      house.connection.db,
      sql`select count(*)::int as n from reading where lot_id = ${batch.fillId}`,
    );
    expect(count!.n).toBe(1);
  });

  it('the same id with other content is refused, and the first stays', async () => {
    const client = await Client.signIn(house, house.maker);
    const batch = await dryBatch(house, { tag: 'C2' });
    const entry = entryOf('ph.read', { lotId: batch.fillId, ph: 3.7, sample: 'blended' }, house.maker.id);
    await client.post({ entries: [entry] });
    const other = await client.post({
      entries: [{ ...entry, body: { lotId: batch.fillId, ph: 3.2, sample: 'blended' } }],
    });
    expect(other.status).toBe(409);
    expect(other.body.code).toBe('entry.idReused');
  });

  it('entries sent together are recorded together or not at all', async () => {
    const client = await Client.signIn(house, house.maker);
    const batch = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198 });
    const reply = await client.post({
      entries: [
        entryOf('ph.read', { lotId: batch.fillId, ph: 5.9, sample: 'blended' }, house.maker.id),
        entryOf('temperature.read', { lotId: batch.fillId, celsius: 900 }, house.maker.id),
      ],
    });
    expect(reply.status).toBe(422);
    expect(reply.body.entry).toBe(1);
    const [count] = await rows<{ n: number }>(
      house.connection.db,
      sql`select count(*)::int as n from reading where lot_id = ${batch.fillId}`,
    );
    expect(count!.n).toBe(0);
  });
});

describe('replaying the demo house', () => {
  const TABLES = [
    'house',
    'person',
    'room',
    'vessel',
    'supplier',
    'material',
    'formula',
    'lot',
    'movement',
    'reading',
    'hold',
    'salt_acceptance',
    'lot_count',
    'jar_range',
    'entry_lot',
    'journal',
  ];

  it('as a file, taken into an empty house, it gives the same tables', async () => {
    const first = await emptyDatabase('spec_demo_a');
    const second = await emptyDatabase('spec_demo_b');
    await loadDemoHouse(first.db, new Date('2026-11-23T12:00:00Z'), {
      earlier: false,
      look: lookedAt(first.ownerUrl),
    });
    let file = '';
    for await (const part of writeHouseFile(first.reader, { house: 'Demo', at: new Date() })) file += part;
    const { entries } = await takeHouseIn(second.db, file, undefined, lookedAt(second.ownerUrl));
    expect(entries).toBeGreaterThan(400);
    for (const table of TABLES) {
      const fingerprint = sql.raw(
        `select count(*)::int as n, md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t`,
      );
      const [a] = await rows<{ n: number; sum: string }>(first.db, fingerprint);
      const [b] = await rows<{ n: number; sum: string }>(second.db, fingerprint);
      expect(b).withContext(table).toEqual(a!);
      expect(a!.n)
        .withContext(table)
        .toBeGreaterThan(table === 'salt_acceptance' || table === 'lot_count' ? -1 : 0);
    }
    expect((await verifyChain(second.db)).brokenAt).toBeNull();
    await first.close();
    await second.close();
  }, 120_000);
});
