import { dossierReply, type DossierReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, sour } from './oneBatch.js';

describe('the dossier of a run', () => {
  let house: TestHouse;
  let owner: Client;
  let inspector: Client;
  let run: { id: string; code: string };
  let saltEntry: string;
  const packedAt = daysAgo(9);

  const read = async (code = run.code): Promise<DossierReply> =>
    dossierReply.parse((await inspector.get(`/api/runs/${code}/dossier`)).body);

  beforeAll(async () => {
    house = await openHouse('spec_dossier');
    owner = await Client.signIn(house, house.owner);
    inspector = await Client.signIn(house, house.inspector);
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(40), saltGrams: 312 });
    saltEntry = batch.saltEntry;
    await dryBatch(house, { tag: 'C2', at: daysAgo(39) });
    await sour(house, batch.fillId, daysAgo(40), packedAt);
    const runLotId = ids.next();
    const packed = await house.record(
      'pack.run',
      {
        runLotId,
        from: [{ fillLotId: batch.fillId, grams: 12_900, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 40 }],
        sampleGrams: 60,
        leftoverGrams: 0,
        wasteGrams: 40,
        tallyReason: null,
        brine: 'own',
        storage: 'cold',
      },
      { at: packedAt, by: house.maker },
    );
    run = { id: runLotId, code: String(packed.facts['code']) };
    await owner.record('entry.correct', {
      corrects: saltEntry,
      reason: 'digits swapped',
      instead: {
        kind: 'salt.weigh',
        happenedAt: daysAgo(40).toISOString(),
        body: { batchId: batch.batchId, saltLotId: batch.saltLot, grams: 321, alreadyIn: true },
      },
    });
  }, 60_000);
  afterAll(() => house.close());

  it('goes from the supplier’s own lot to the place of each jar', async () => {
    const d = await read();
    expect(d.supplies.map(({ name, theirs, supplier }) => [name, theirs, supplier])).toEqual([
      ['Shred', 'F2-C1', 'Causeway Growers'],
      ['Coarse pan salt', 'SWP-C1', 'Causeway Growers'],
    ]);
    expect(d.supplies.map(({ grams }) => grams)).toEqual([14_600, 321]);
    expect(d.lots.map(({ kind, elsewhere }) => [kind, elsewhere])).toEqual([
      ['batch', false],
      ['fill', false],
    ]);
    expect(d.run.jars.map(({ count, where }) => [count, where])).toEqual([[40, 'where it was packed']]);
  });
  it('shows the working of its salt by the figure that counts, and the figure that was struck', async () => {
    const d = await read();
    expect(d.workings.map(({ inGrams, targetGrams }) => [inGrams, Math.round(targetGrams * 10) / 10])).toEqual([
      [321, 321.2],
    ]);
    const line = d.lines.find(({ entryId }) => entryId === saltEntry)!;
    expect([line.figure, line.struck]).toEqual(['321 g', ['312 g']]);
  });
  it('its readings, each with its meter and whether it counts, up to packing and since', async () => {
    const [vessel] = (await read()).vessels;
    expect(vessel!.phs.map(({ value, counts, meter }) => [value, counts, meter])).toEqual([
      [4.1, true, 'MR'],
      [3.74, true, 'MR'],
      [3.7, true, 'MR'],
    ]);
    expect(vessel!.deadlineDays).toBeGreaterThan(3);
    expect(vessel!.salt.waterPhase!).toBeCloseTo(321 / (321 + 14_600 * 0.92), 4);
  });
  it('its lines stand in their order in time, and none of another vessel’s', async () => {
    const { lines } = await read();
    expect([...lines].sort((a, b) => a.at.localeCompare(b.at) || a.seq - b.seq)).toEqual(lines);
    expect(lines.some(({ kind }) => kind === 'pack.run')).toBeTrue();
    expect(lines.filter(({ lotCode }) => lotCode.endsWith('C2'))).toEqual([]);
  });
  it('its conditions are those of its release, and a signature stands under them', async () => {
    const before = await read();
    expect(before.run.conditions.flatMap(({ key, state }) => (state === 'open' ? [key] : []))).toEqual(['review']);
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    const signed = await owner.record('run.release', {
      runLotId: run.id,
      excuses: {},
    });
    expect(signed.status).withContext(JSON.stringify(signed.body)).toBe(200);
    const { run: after } = await read();
    expect(after.signatures.map(({ what, by, excuses }) => [what, by, excuses.length])).toEqual([
      ['released', 'Ow', 0],
    ]);
  });
  it('names the end of the chain it was written from', async () => {
    const [end] = await rows<{ seq: string; hash: string }>(
      house.connection.db,
      sql`select seq, hash from journal order by seq desc limit 1`,
    );
    const { ledger } = await read();
    expect(ledger).toEqual({ entries: Number(end!.seq), hash: end!.hash });
    await readWell(house, run.id, 3.72);
    expect((await read()).ledger.hash).not.toBe(end!.hash);
  });
  it('is a PDF of several pages, for an inspector too; of a vessel there is none', async () => {
    const pdf = await inspector.text(`/api/runs/${run.code}/dossier.pdf`);
    expect(pdf.startsWith('%PDF')).toBeTrue();
    expect(pdf.match(/\/Type \/Page\b/g)!.length).toBeGreaterThanOrEqual(2);
    const { vessels } = await read();
    expect((await inspector.get(`/api/runs/${vessels[0]!.code}/dossier`)).body).toEqual(
      jasmine.objectContaining({ code: 'lot.wrongKind' }),
    );
    expect((await inspector.get('/api/runs/NY26-001-Z-09/dossier')).status).toBe(404);
  });
  it('of jars from before the ledger it says that nothing is known', async () => {
    const runLotId = ids.next();
    const opened = await house.record(
      'lot.open',
      {
        what: 'jars',
        batchId: ids.next(),
        runLotId,
        name: 'Old jars',
        jars: [{ sizeMl: 330, netGrams: 320, count: 12 }],
        filledOn: null,
      },
      { at: daysAgo(3) },
    );
    const code = (opened.facts['jars'] as { first: string }[])[0]!.first.replace(/-\d{5}-.$/, '');
    const d = await read(code);
    expect([d.supplies, d.workings, d.vessels]).toEqual([[], [], []]);
  });
});
