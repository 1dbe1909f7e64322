import { readFileSync } from 'node:fs';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { sql } from 'drizzle-orm';
import { PROBLEM_CODES } from '@clear-tally/contract';
import { rows } from '../src/db/database.js';
import { STATUS } from '../src/http/status.js';
import { Client } from './client.js';
import { entryOf, ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, type DryBatch, readWell, sour } from './oneBatch.js';

describe('what the house refuses, and changes nothing', () => {
  let house: TestHouse;
  let maker: Client;
  let batch: DryBatch;
  beforeAll(async () => {
    house = await openHouse('spec_refusals');
    maker = await Client.signIn(house, house.maker);
    batch = await dryBatch(house, { tag: 'C1' });
  });
  afterAll(() => house.close());

  const fingerprint = async (): Promise<string> => {
    const [row] = await rows<{ sum: string }>(
      house.connection.db,
      sql`select concat((select count(*) from journal), '/', (select count(*) from movement), '/', (select count(*) from reading), '/', (select count(*) from lot)) as sum`,
    );
    return row!.sum;
  };
  /** Expects a refusal with its code and status, and an unchanged house. */
  const refuses = async (
    attempt: () => Promise<{ status: number; body: { code: string; detail: string } }>,
    code: keyof typeof STATUS,
  ): Promise<string> => {
    const before = await fingerprint();
    const { status, body } = await attempt();
    expect(body.code).toBe(code);
    expect(status).toBe(STATUS[code]);
    expect(await fingerprint())
      .withContext('nothing was changed')
      .toBe(before);
    return body.detail;
  };
  const read = (ph: number, at?: Date) => () =>
    maker.record('ph.read', { lotId: batch.fillId, ph, sample: 'blended' }, at);

  it('pH 45', async () => expect(await refuses(read(45), 'ph.outOfScale')).toContain('4.5'));
  it('pH 8.4, unless it is confirmed', async () => {
    await refuses(read(8.4), 'ph.askAgain');
    expect(
      (await maker.record('ph.read', { lotId: batch.fillId, ph: 8.4, sample: 'blended', confirmedUnusual: true }))
        .status,
    ).toBe(200);
  });
  it('a reading in the future', () => refuses(read(3.9, new Date(Date.now() + 3_600_000)), 'time.future'));
  it('a reading from before the vessel was filled', () => refuses(read(3.9, daysAgo(40)), 'lot.notYet'));
  it('a temperature of 140 °C', () =>
    refuses(() => maker.record('temperature.read', { lotId: batch.fillId, celsius: 140 }), 'temperature.outOfRange'));
  it('salt in millilitres: a mass is in grams', async () => {
    const entry = entryOf(
      'salt.weigh',
      { batchId: batch.batchId, saltLotId: batch.saltLot, grams: 60, alreadyIn: true },
      house.maker.id,
    );
    await refuses(
      () =>
        maker.post({
          entries: [
            { ...entry, body: { batchId: batch.batchId, saltLotId: batch.saltLot, millilitres: 60, alreadyIn: true } },
          ],
        }),
      'shape.invalid',
    );
  });
  it('a negative mass, nothing, and a thousand tonnes', async () => {
    const salt = (grams: number) => () =>
      maker.record('salt.weigh', { batchId: batch.batchId, saltLotId: batch.saltLot, grams, alreadyIn: true });
    await refuses(salt(-20), 'mass.notPositive');
    await refuses(salt(0), 'mass.notPositive');
    await refuses(salt(1e9), 'mass.absurd');
  });
  it('a percentage where a fraction belongs', async () => {
    const owner = await Client.signIn(house, house.owner);
    const detail = await refuses(
      () =>
        owner.record('formula.save', {
          formulaId: house.names.dry,
          number: 1,
          version: 2,
          name: 'Dry shred',
          style: 'dryShred',
          produce: [{ materialId: house.names.shred, share: 1 }],
          saltBasis: 'ofVegetable',
          saltFraction: 2.2,
          waterPerProduce: 0,
          lines: [],
          solidsFraction: 1,
          yields: { trim: 0.8, ferment: 0.9, pack: 0.9 },
          jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
          usualDays: 28,
          note: null,
        }),
      'fraction.percentTyped',
    );
    expect(detail).toContain('0.022');
  });
  it('an unknown vessel, one under repair, and one filled twice', async () => {
    const next = await dryBatch(house, { tag: 'C2', fill: false });
    const fill = (vesselId: string) => () =>
      maker.record('vessel.fill', { fillLotId: ids.next(), batchId: next.batchId, vesselId, grams: 4000, brine: null });
    await refuses(fill(ids.next()), 'vessel.unknown');
    await refuses(fill(house.vessel('X1')), 'vessel.outOfUse');
    expect(await refuses(fill(house.vessel('C1')), 'vessel.taken')).toContain('-C1');
  });
  it('more into a vessel than its brim holds', async () => {
    const next = await dryBatch(house, { tag: 'C2', fill: false });
    await refuses(
      () =>
        maker.record('vessel.fill', {
          fillLotId: ids.next(),
          batchId: next.batchId,
          vesselId: house.vessel('G1'),
          grams: 9000,
          brine: null,
        }),
      'vessel.overfull',
    );
  });
  it('more out of the bowls than went in', async () => {
    const next = await dryBatch(house, { tag: 'C2', fill: false });
    await refuses(
      () =>
        maker.record('vessel.fill', {
          fillLotId: ids.next(),
          batchId: next.batchId,
          vesselId: house.vessel('C2'),
          grams: 24_000,
          brine: null,
        }),
      'lot.overdrawn',
    );
  });
  it('packing more than is there', async () => {
    const next = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 198 });
    await sour(house, next.fillId, daysAgo(30));
    await refuses(
      () =>
        maker.record('pack.run', {
          runLotId: ids.next(),
          from: [{ fillLotId: next.fillId, grams: 32_000, empties: true }],
          jars: [{ sizeMl: 330, netGrams: 320, count: 100 }],
          sampleGrams: 0,
          leftoverGrams: 0,
          wasteGrams: 0,
          tallyReason: null,
        }),
      'lot.overdrawn',
    );
    expect(
      await refuses(
        () =>
          maker.record('pack.run', {
            runLotId: ids.next(),
            from: [{ fillLotId: next.fillId, grams: 6400, empties: false }],
            jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
            sampleGrams: 0,
            leftoverGrams: 0,
            wasteGrams: 0,
            tallyReason: null,
          }),
        'pack.tallyOpen',
      ),
    ).toContain('3,200 g is missing');
  });
  it('packing without a pH, above the limit, or on hold', async () => {
    const next = await dryBatch(house, { tag: 'D2', produceGrams: 9000, saltGrams: 198, at: daysAgo(5) });
    const pack = () =>
      maker.record('pack.run', {
        runLotId: ids.next(),
        from: [{ fillLotId: next.fillId, grams: 3200, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 10 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
      });
    await refuses(pack, 'pack.noPh');
    await readWell(house, next.fillId, 4.31, daysAgo(3));
    await refuses(pack, 'pack.phAboveLimit');
    await readWell(house, next.fillId, 3.9, new Date(Date.now() - 40 * 3_600_000));
    await readWell(house, next.fillId, 3.88, new Date(Date.now() - 3 * 3_600_000));
    await house.record('hold.place', { lotId: next.fillId, reason: 'film' });
    expect(await refuses(pack, 'lot.onHold')).toContain('film');
    await refuses(() => maker.record('hold.lift', { lotId: next.fillId, reason: 'gone' }), 'who.notAllowed');
    await house.record('hold.lift', { lotId: next.fillId, reason: 'two looks without film' });
    expect((await pack()).status).toBe(200);
  });
  it('a weak batch without a reviewer’s written reason', async () => {
    const owner = await Client.signIn(house, house.owner);
    await owner.record('formula.save', {
      formulaId: house.names.dry,
      number: 1,
      version: 2,
      name: 'Weak shred',
      style: 'dryShred',
      produce: [{ materialId: house.names.shred, share: 1 }],
      saltBasis: 'ofVegetable',
      saltFraction: 0.012,
      waterPerProduce: 0,
      lines: [],
      solidsFraction: 1,
      yields: { trim: 0.8, ferment: 0.9, pack: 0.9 },
      jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
      usualDays: 28,
      note: null,
    });
    const start = (client: Client, reason?: string) => () =>
      client.record('batch.start', {
        batchId: ids.next(),
        formulaId: house.names.dry,
        version: 2,
        plan: { from: 'trimmed', trimmedGrams: 5000 },
        ...(reason ? { weakSaltReason: reason } : {}),
      });
    await refuses(start(maker, 'mild batch for the market'), 'salt.weakNeedsReviewer');
    await refuses(start(owner), 'salt.weakNeedsReviewer');
    expect((await start(owner, 'mild batch for the market')()).status).toBe(200);
  });
  it('a correction of a correction, and one that changes nothing', async () => {
    const wrong = await house.record(
      'ph.read',
      { lotId: batch.fillId, ph: 4.71, sample: 'blended', confirmedJump: true },
      { by: house.maker },
    );
    const correct = (corrects: string, ph: number) =>
      maker.record('entry.correct', {
        corrects,
        reason: 'digits swapped',
        right: { kind: 'ph.read', ph, sample: 'blended' },
      });
    const correction = await correct(wrong.id, 3.71);
    expect(correction.status).toBe(200);
    await refuses(() => correct(correction.body.recorded[0]!.id, 3.5), 'correction.ofCorrection');
    await refuses(() => correct(wrong.id, 3.71), 'correction.nothingChanged');
    await refuses(
      () =>
        maker.record('entry.correct', {
          corrects: wrong.id,
          reason: 'x',
          right: { kind: 'temperature.read', celsius: 4 },
        }),
      'correction.notThisKind',
    );
    expect((await correct(wrong.id, 3.72)).status)
      .withContext('the original line can be corrected again')
      .toBe(200);
  });
  it('a salt correction that what was filled since stands against', async () => {
    const tight = await dryBatch(house, { tag: 'G1', produceGrams: 3000, saltGrams: 2000, fill: false });
    await house.record('salt.accept', { batchId: tight.batchId, reason: 'for the test' });
    await house.record(
      'vessel.fill',
      {
        fillLotId: tight.fillId,
        batchId: tight.batchId,
        vesselId: house.vessel('G1'),
        grams: 4990,
        brine: null,
        overReason: 'heaped, it settles',
      },
      { at: daysAgo(20) },
    );
    await refuses(
      () =>
        maker.record('entry.correct', {
          corrects: tight.saltEntry,
          reason: 'a zero too many',
          right: { kind: 'salt.weigh', grams: 200 },
        }),
      'correction.standsInTheWay',
    );
  });
  it('a filling while the salt is out of tolerance', async () => {
    const over = await dryBatch(house, { tag: 'C2', saltGrams: 342, fill: false });
    const fill = () =>
      maker.record('vessel.fill', {
        fillLotId: ids.next(),
        batchId: over.batchId,
        vesselId: house.vessel('C2'),
        grams: 12_000,
        brine: null,
      });
    expect(await refuses(fill, 'salt.outOfTolerance')).toContain('945 g');
    await maker.record('salt.accept', { batchId: over.batchId, reason: 'tasted by two, kept' });
    expect((await fill()).status).toBe(200);
  });
  it('an accepted salt counts as it stood: more salt after it asks again', async () => {
    const over = await dryBatch(house, { tag: 'D1', produceGrams: 9000, saltGrams: 230, fill: false });
    const vesselId = ids.next();
    await house.record('vessel.add', {
      vesselId,
      tag: 'N1',
      shape: 'glass',
      brimMl: 10_000,
      maxFill: 0.9,
      minFill: 0.3,
      weightVolumeMl: 0,
      closure: 'airlock',
      roomId: house.names.room,
      inUse: true,
    });
    const fill = () =>
      maker.record('vessel.fill', { fillLotId: ids.next(), batchId: over.batchId, vesselId, grams: 4000, brine: null });
    const accept = () => maker.record('salt.accept', { batchId: over.batchId, reason: 'kept' });
    await accept();
    await maker.record('salt.weigh', { batchId: over.batchId, saltLotId: over.saltLot, grams: 500, alreadyIn: true });
    await refuses(fill, 'salt.outOfTolerance');
    await accept();
    await maker.record('entry.correct', {
      corrects: over.saltEntry,
      reason: 'read again',
      right: { kind: 'salt.weigh', grams: 240 },
    });
    await refuses(fill, 'salt.outOfTolerance');
    await accept();
    expect(
      (await maker.get<{ salt: { accepted: string | null } }>(`/api/making/${over.batchId}`)).body.salt.accepted,
    ).toBe('kept');
  });
  it('malformed JSON, an oversized body, a shape that is none', async () => {
    await refuses(() => maker.post('{"entries": ['), 'shape.malformedJson');
    await refuses(() => maker.post({ entries: [{ device: 'x'.repeat(2_200_000) }] }), 'shape.tooLarge');
    await refuses(() => maker.post({ entries: [] }), 'shape.invalid');
    await refuses(() => maker.post([1, 2]), 'shape.invalid');
  });
  it('an entry by an inspector, by nobody, and in another’s name', async () => {
    const inspector = await Client.signIn(house, house.inspector);
    const entry = (by: string) => entryOf('ph.read', { lotId: batch.fillId, ph: 3.8, sample: 'blended' }, by);
    await refuses(() => inspector.post({ entries: [entry(house.inspector.id)] }), 'who.notAllowed');
    await refuses(() => Client.nobody(house).post({ entries: [entry(house.maker.id)] }), 'who.signIn');
    await refuses(() => maker.post({ entries: [entry(house.owner.id)] }), 'who.otherPerson');
    expect((await inspector.get('/api/shelf')).status).toBe(200);
    expect((await Client.nobody(house).get('/api/shelf')).status).toBe(401);
  });
  it('a maker who would change a formula', () =>
    refuses(
      () => maker.record('supplier.add', { supplierId: ids.next(), name: 'Another', prefix: 'AN' }),
      'who.notAllowed',
    ));
  it('a name that is taken', async () => {
    const owner = await Client.signIn(house, house.owner);
    await refuses(
      () => owner.record('supplier.add', { supplierId: ids.next(), name: 'Causeway Growers', prefix: 'XX' }),
      'name.taken',
    );
  });
  it('kept brine from a vessel above its limit, or from a bowl', async () => {
    const next = await dryBatch(house, { tag: 'D1', fill: false });
    const young = await dryBatch(house, { tag: 'G1', produceGrams: 3000, saltGrams: 66, fill: false });
    const take = (fromLotId: string) => () =>
      maker.record('ingredient.add', { batchId: next.batchId, fromLotId, grams: 100 });
    await refuses(take(young.batchId), 'lot.wrongKind');
    const standing = ids.next();
    await house.record('vessel.add', {
      vesselId: ids.next(),
      tag: 'B9',
      shape: 'barrel',
      brimMl: 30_000,
      maxFill: 0.85,
      minFill: 0.5,
      weightVolumeMl: 0,
      closure: 'loose',
      roomId: house.names.room,
      inUse: true,
    });
    const [barrel] = (await maker.get<{ vessels: { id: string; tag: string }[] }>('/api/house')).body.vessels.filter(
      (vessel) => vessel.tag === 'B9',
    );
    await house.record('lot.open', {
      what: 'vessel',
      batchId: ids.next(),
      fillLotId: standing,
      name: 'Young roots',
      vesselId: barrel!.id,
      grams: 9000,
      filledOn: null,
    });
    await refuses(take(standing), 'pack.noPh');
    await house.record('ph.read', { lotId: standing, ph: 5.1, sample: 'blended' });
    await refuses(take(standing), 'pack.phAboveLimit');
  });
  it('five wrong PINs lock a sign-in, the right one included', async () => {
    const attempt = (pin: string) =>
      fetch(`${house.address}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ personId: house.inspector.id, pin }),
      });
    for (let i = 0; i < 5; i += 1) expect((await attempt('0000')).status).toBe(401);
    const locked = await attempt(PIN);
    expect(locked.status).toBe(429);
    expect(((await locked.json()) as { code: string }).code).toBe('who.locked');
  });
  it('the cookie is out of reach of scripts and other sites', async () => {
    const reply = await fetch(`${house.address}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ personId: house.owner.id, pin: PIN }),
    });
    expect(reply.headers.get('set-cookie')).toMatch(/httponly/i);
    expect(reply.headers.get('set-cookie')).toMatch(/samesite=strict/i);
  });
  it('every code has its line in the docs, and every line its code', () => {
    const documented = [...readFileSync('docs/refusals.md', 'utf8').matchAll(/^\| `([^`]+)` \| (\d+) \|/gm)].map(
      ([, code, status]) => [code, Number(status)],
    );
    expect(Object.fromEntries(documented)).toEqual({ ...STATUS });
  });
  it('every code has a status', () => expect(Object.keys(STATUS).sort()).toEqual([...PROBLEM_CODES].sort()));

  it('what answers questions cannot write, whatever it is asked', async () => {
    const asked = await house.connection.reader
      .execute(sql`update house set name = 'Another'`)
      .then(() => null)
      .catch((error: unknown) => String((error as { cause?: Error }).cause?.message));
    expect(asked).toContain('read-only transaction');
  });

  it('the look at refusals notices a refusal that wrote', async () => {
    // A house that answers no, and cleans a vessel all the same.
    const leaky = createServer((_, reply) => {
      void house.record('vessel.clean', { vesselId: house.vessel('G1'), agent: 'soda' }).then(() => {
        reply.writeHead(409, { 'content-type': 'application/json' });
        reply.end('{"code":"lot.closed","detail":"no"}');
      });
    });
    await new Promise<void>((resolve) => leaky.listen(0, '127.0.0.1', resolve));
    const client = Client.nobody({
      ...house,
      address: `http://127.0.0.1:${(leaky.address() as AddressInfo).port}`,
    });
    await expectAsync(client.record('temperature.read', { lotId: batch.fillId, celsius: 15 })).toBeRejectedWithError(
      /refused \(lot\.closed: no\), and something was changed/,
    );
    leaky.close();
  });
});
