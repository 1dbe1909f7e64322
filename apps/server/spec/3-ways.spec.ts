import {
  codeReply,
  formulaReply,
  formulasReply,
  houseReply,
  type LotReply,
  lotReply,
  lotsReply,
  makeReply,
  makingReply,
  packableReply,
  shelfReply,
  signInReply,
  suppliesReply,
  type TraceReply,
  traceReply,
} from '@clear-tally/contract';
import { ancestors, descendants, jarCode, type Movement } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import { loadDemoHouse } from '../src/demo/loadDemoHouse.js';
import { readTrace } from '../src/subjects/tracing/readTrace.js';
import { Client } from './client.js';
import { emptyDatabase, lookedAt } from './databases.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, readWell, sour } from './oneBatch.js';

describe('from a formula to a jar and back, through the server', () => {
  let house: TestHouse;
  let client: Client;
  beforeAll(async () => {
    house = await openHouse('spec_ways');
    client = await Client.signIn(house, house.maker);
  });
  afterAll(() => house.close());
  const trace = async (code: string): Promise<TraceReply> =>
    (await client.get<TraceReply>(`/api/trace/${encodeURIComponent(code)}`)).body;

  it('the last jar leads to the supplier’s lot code of the salt', async () => {
    const batch = await dryBatch(house, { tag: 'C1' });
    await sour(house, batch.fillId, daysAgo(30));
    const { code } = await packJars(house, batch.fillId, 40, { at: new Date() });
    const reply = await trace(jarCode(code, 40).text);
    expect(reply.subject.kind).toBe('jar');
    expect(reply.nodes.find((node) => node.name === 'Coarse pan salt')?.supplierLotCode).toBe('SWP-C1');
    expect(reply.jarCount).toBe(1);
    const forward = await trace('SWP-C1');
    expect(forward.jars.map((range) => range.count)).toEqual([40]);
  });

  it('W10: a code in small letters with O for 0 is understood; a wrong check character is refused with near matches', async () => {
    const run = (await client.get<{ lots: { code: string }[] }>('/api/lots?kind=run')).body.lots[0]!.code;
    const jar = jarCode(run, 30);
    const sloppy = jar.text.toLowerCase().replaceAll('-', ' ').replaceAll('0', 'o');
    expect((await trace(sloppy)).subject.code).toBe(jar.text);
    const wrong = jar.text.slice(0, -1) + (jar.check === 'Z' ? 'Y' : 'Z');
    const refused = await client.get<{ code: string; facts: { nearMatches: string[] } }>(`/api/trace/${wrong}`);
    expect(refused.status).toBe(422);
    expect(refused.body.code).toBe('code.checkCharacter');
    expect(refused.body.facts.nearMatches).toContain(jar.text);
    const never = jarCode(run, 90_000).text;
    expect((await client.get(`/api/trace/${never}`)).status)
      .withContext('well-formed, but never packed')
      .toBe(404);
  });

  it('W11: Q goes into P on day 8; the six jars of day 5 are not affected, the nine of day 10 are', async () => {
    const p = await dryBatch(house, { tag: 'C2', at: daysAgo(20) });
    const q = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198, at: daysAgo(20) });
    for (const [days, ph] of [
      [17, 3.74],
      [16, 3.7],
    ] as const)
      for (const lotId of [p.fillId, q.fillId]) await readWell(house, lotId, ph, daysAgo(days, 8));
    const early = await packJars(house, p.fillId, 6, { at: daysAgo(15) });
    await house.record(
      'lot.transfer',
      { fromLotId: q.fillId, toLotId: p.fillId, grams: 420, note: 'topped up' },
      { at: daysAgo(12) },
    );
    // What was read before is of another thing.
    await expectAsync(packJars(house, p.fillId, 9, { at: daysAgo(10) })).toBeRejected();
    for (const [days, hour, ph] of [
      [12, 12, 3.72],
      [11, 14, 3.7],
    ] as const)
      await readWell(house, p.fillId, ph, daysAgo(days, hour));
    const late = await packJars(house, p.fillId, 9, { at: daysAgo(10) });
    const [fill] = await rows<{ code: string }>(house.connection.db, sql`select code from lot where id = ${q.fillId}`);
    expect((await trace(fill!.code)).jars.map((range) => [range.run, range.count])).toEqual([[late.code, 9]]);
    const back = await trace(jarCode(early.code, 1).text);
    expect(back.nodes.some((node) => node.lotId === q.fillId)).toBeFalse();
    await house.record(
      'lot.transfer',
      { fromLotId: p.fillId, toLotId: q.fillId, grams: 300, note: null },
      { at: daysAgo(9) },
    );
    for (const [days, hour, ph] of [
      [9, 12, 3.72],
      [8, 14, 3.7],
    ] as const)
      await readWell(house, q.fillId, ph, daysAgo(days, hour));
    const ofQ = await packJars(house, q.fillId, 5, { at: daysAgo(7) });
    expect((await trace(jarCode(ofQ.code, 5).text)).nodes.some((node) => node.lotId === p.fillId))
      .withContext('going and coming is lawful')
      .toBeTrue();
  });

  it('W9: 342 g on 14.6 kg: refused before it goes in with 21 g to take out, shown with 945 g of shred after', async () => {
    const batch = await dryBatch(house, { tag: 'D2', fill: false, saltGrams: 1 });
    const before = await client.record('salt.weigh', {
      batchId: batch.batchId,
      saltLotId: batch.saltLot,
      grams: 341,
      alreadyIn: false,
    });
    expect(before.body.code).toBe('salt.overTarget');
    expect(Number(before.body.facts!['takeOutGrams'])).toBeCloseTo(20.8, 1);
    expect(Number(before.body.facts!['addProduceGrams'])).toBeCloseTo(945, 0);
    expect(
      (
        await client.record('salt.weigh', {
          batchId: batch.batchId,
          saltLotId: batch.saltLot,
          grams: 341,
          alreadyIn: true,
        })
      ).status,
    ).toBe(200);
  });

  it('W13: the tally of a fill closes with gas by difference, and does not with 600 g less', async () => {
    const standing = ids.next();
    await house.record('vessel.add', {
      vesselId: ids.next(),
      tag: 'K9',
      shape: 'crock',
      brimMl: 50_000,
      maxFill: 0.9,
      minFill: 0.5,
      weightVolumeMl: 0,
      closure: 'loose',
      roomId: house.names.room,
      inUse: true,
    });
    const vessel = (await client.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body.vessels.find(
      (row) => row.tag === 'K9',
    )!;
    await house.record('lot.open', {
      what: 'vessel',
      batchId: ids.next(),
      fillLotId: standing,
      name: 'W13',
      vesselId: vessel.id,
      grams: 42_600,
      filledOn: null,
    });
    await house.record('loss.record', { lotId: standing, sink: 'drip', grams: 1120, note: null });
    await house.record('lot.count', { lotId: standing, grams: 41_190, byDifference: 'gas' });
    const [{ code }] = (await rows<{ code: string }>(
      house.connection.db,
      sql`select code from lot where id = ${standing}`,
    )) as [{ code: string }];
    const closed = (await client.get<LotReply>(`/api/lots/${code}`)).body.tally;
    expect(closed.byDifference!.grams).toBeCloseTo(290, 3);
    expect(closed.clear).toBeTrue();
    await house.record('lot.count', { lotId: standing, grams: 40_600, byDifference: 'gas' });
    const open = (await client.get<LotReply>(`/api/lots/${code}`)).body.tally;
    expect(open.byDifference!.grams).toBeCloseTo(426, 3);
    expect(open.unexplainedGrams).toBeCloseTo(454, 0);
    expect([open.toleranceGrams, open.clear, open.likelySlip !== null]).toEqual([213, false, true]);
  });

  it('a corrected pH stays in the book, struck through beside the right one', async () => {
    const batch = await dryBatch(house, { tag: 'G1', produceGrams: 3000, saltGrams: 66 });
    const wrong = await house.record(
      'ph.read',
      { lotId: batch.fillId, ph: 4.71, sample: 'blended' },
      { by: house.maker },
    );
    await house.record(
      'entry.correct',
      { corrects: wrong.id, reason: 'digits swapped', right: { kind: 'ph.read', ph: 3.71, sample: 'blended' } },
      { by: house.maker },
    );
    const [{ code }] = (await rows<{ code: string }>(
      house.connection.db,
      sql`select code from lot where id = ${batch.fillId}`,
    )) as [{ code: string }];
    const book = (await client.get<LotReply>(`/api/lots/${code}`)).body;
    const line = book.lines.find((row) => row.entryId === wrong.id)!;
    expect([line.struck, line.figure]).toEqual([['4.71'], '3.71']);
    expect(book.packable).withContext('read without a meter: for watching only').toContain('Two blended readings');
  });

  it('a corrected salt weight moves the tally of the batch and of the salt lot, and both figures stay', async () => {
    const batch = await dryBatch(house, { tag: 'X9', saltGrams: 331, fill: false });
    await house.record(
      'entry.correct',
      { corrects: batch.saltEntry, reason: 'read again', right: { kind: 'salt.weigh', grams: 321 } },
      { by: house.maker },
    );
    const make = (await client.get<{ salt: { inGrams: number } }>(`/api/making/${batch.batchId}`)).body;
    expect(make.salt.inGrams).toBe(321);
    const supplies = (await client.get<{ lots: { lotId: string; onHandGrams: number }[] }>('/api/supplies?kind=salt'))
      .body.lots;
    expect(supplies.find((lot) => lot.lotId === batch.saltLot)!.onHandGrams).toBe(24_679);
    const [count] = await rows<{ n: number }>(
      house.connection.db,
      sql`select count(*)::int as n from movement where root_entry_id = ${batch.saltEntry}`,
    );
    expect(count!.n).toBe(2);
  });
});

describe('the demo house, read', () => {
  let house: Awaited<ReturnType<typeof emptyDatabase>>;
  let movements: Movement[];
  beforeAll(async () => {
    house = await emptyDatabase('spec_demo_reads');
    await loadDemoHouse(house.db, new Date(), {
      roundWalked: false,
      earlier: false,
      look: lookedAt(house.ownerUrl),
    });
    const found = await rows<{
      id: string;
      seq: string;
      at: string;
      from: string | null;
      to: string | null;
      mg: string;
    }>(house.db, sql`select id, seq, at, from_lot as "from", to_lot as "to", milligrams as mg from live_movement`);
    movements = found.map((row) => ({
      id: Number(row.id),
      order: Number(row.seq),
      at: Date.parse(row.at),
      from: row.from ? { lot: row.from } : { source: 'received' },
      to: row.to ? { lot: row.to } : { sink: 'trim' },
      grams: Number(row.mg) / 1000,
    }));
  }, 60_000);
  afterAll(() => house.close());

  it('the server’s walk is core’s walk, for every lot', async () => {
    const lots = await rows<{ id: string; code: string }>(house.db, sql`select id, code from lot`);
    expect(lots.length).toBeGreaterThan(60);
    for (const lot of lots) {
      const reply = await readTrace(house.db, lot.code);
      const wanted = new Set([
        lot.id,
        ...ancestors({ movements, lot: lot.id }).lots.keys(),
        ...descendants({ movements, lot: lot.id }).lots.keys(),
      ]);
      expect(new Set(reply.nodes.map((node) => node.lotId)))
        .withContext(lot.code)
        .toEqual(wanted);
    }
  }, 60_000);

  it('every gram is somewhere: received and opened = on hand + lost', async () => {
    const [sums] = await rows<{ inflow: string; lost: string; standing: string }>(
      house.db,
      sql`
      select (select sum(milligrams) from live_movement where source is not null) as inflow, (select sum(milligrams) from live_movement where sink is not null) as lost,
        (select sum(b.mg) from (select coalesce(sum(case when m.to_lot = l.id then m.milligrams else -m.milligrams end), 0) as mg from lot l join live_movement m on m.to_lot = l.id or m.from_lot = l.id group by l.id) b) as standing`,
    );
    expect(Number(sums!.inflow)).toBe(Number(sums!.lost) + Number(sums!.standing));
  });

  it('the third mash has two generations of kept brine behind it', async () => {
    const [third] = await rows<{ code: string }>(
      house.db,
      sql`select l.code from lot l join vessel v on v.id = l.vessel_id where v.tag = 'D7' and l.closed_at is null`,
    );
    const reply = await readTrace(house.db, third!.code);
    expect(
      reply.nodes
        .filter((node) => node.kind === 'fill')
        .map((node) => String(node.detail))
        .sort(),
    ).toEqual(['D5', 'D6', 'D7']);
  });
});

describe('every reply has the shape the contract names', () => {
  let house: TestHouse;
  let client: Client;
  beforeAll(async () => {
    house = await openHouse('spec_replies');
    client = await Client.signIn(house, house.maker);
    const batch = await dryBatch(house, { tag: 'C1' });
    await sour(house, batch.fillId, daysAgo(30));
    await house.record('temperature.read', { lotId: batch.fillId, celsius: 14 });
    await packJars(house, batch.fillId, 10, { at: new Date() });
  });
  afterAll(() => house.close());

  it('all of them', async () => {
    const making = makingReply.parse((await client.get('/api/making')).body);
    const runs = lotsReply.parse((await client.get('/api/lots?kind=run')).body);
    const formulas = formulasReply.parse((await client.get('/api/formulas')).body);
    expect(formulas.formulas.length).toBe(2);
    expect(making.batches.length).toBe(0);
    const batches = lotsReply.parse((await client.get('/api/lots?kind=batch')).body);
    signInReply.parse((await client.get('/api/sign-in')).body);
    houseReply.parse((await client.get('/api/house')).body);
    shelfReply.parse((await client.get('/api/shelf')).body);
    suppliesReply.parse((await client.get('/api/supplies')).body);
    packableReply.parse((await client.get('/api/packable')).body);
    formulaReply.parse((await client.get(`/api/formulas/${formulas.formulas[0]!.formulaId}`)).body);
    makeReply.parse((await client.get(`/api/making/${batches.lots[0]!.lotId}`)).body);
    lotReply.parse((await client.get(`/api/lots/${runs.lots[0]!.code}`)).body);
    traceReply.parse((await client.get(`/api/trace/${runs.lots[0]!.code}`)).body);
    codeReply.parse((await client.get('/api/codes/C1')).body);
    expect((await client.get('/api/nowhere')).status).toBe(404);
  });
});
