import { jarsReply, customersReply, runReply, runsReply, type RunReply } from '@clear-tally/contract';
import { jarCode } from '@clear-tally/core';
import { Refused } from '../src/journal/refused.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, sour } from './oneBatch.js';

const refusalOf = (recording: Promise<unknown>): Promise<string> =>
  recording.then(
    () => 'recorded',
    (error: unknown) => (error instanceof Refused ? error.refusal.code : String(error)),
  );

describe('from the packing table to the customer', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  const customerId = ids.next();
  const packedAt = daysAgo(9);
  let run: { id: string; code: string };

  const packed = async (tag: string, more: object = {}, at = packedAt) => {
    const { fillId } = await dryBatch(house, { tag, at: daysAgo(40) });
    // Its level, on day 20: nobody looked.
    if (tag === 'C1')
      await house.record(
        'plan.change',
        {
          lotId: fillId,
          checks: [
            {
              what: 'level',
              words: null,
              rule: { kind: 'onDays', days: [20], thenEveryDays: null },
              condition: 'always',
            },
          ],
          reason: 'looked at once',
        },
        { at: daysAgo(39) },
      );
    await sour(house, fillId, daysAgo(40), at);
    const id = ids.next();
    const recorded = await house.record(
      'pack.run',
      {
        runLotId: id,
        from: [{ fillLotId: fillId, grams: 12_900, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 40 }],
        sampleGrams: 60,
        leftoverGrams: 0,
        wasteGrams: 40,
        tallyReason: null,
        brine: 'own',
        storage: 'cold',
        ...more,
      },
      { at, by: house.maker },
    );
    return { id, fillId, code: String(recorded.facts['code']) };
  };
  const page = async (code: string, by = owner): Promise<RunReply> =>
    runReply.parse((await by.get(`/api/runs/${code}`)).body);
  const stands = (reply: RunReply): string[] =>
    reply.conditions.filter(({ state }) => state === 'open').map(({ key }) => key);
  const sign = async (runLotId: string, by = owner, excuses: object = {}) => {
    await by.send('POST', '/api/session/proof', { pin: PIN });
    return by.record('run.release', { runLotId, excuses });
  };

  beforeAll(async () => {
    house = await openHouse('spec_jars');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    run = await packed('C1');
    await house.record(
      'customer.add',
      { customerId, name: 'The Copper Ladle', customerKind: 'kitchen', address: 'Quay 3', contact: null },
      { by: house.maker },
    );
  }, 60_000);
  afterAll(() => house.close());

  it('what is packed waits: each condition stands there with its facts, the same list that is asked', async () => {
    const reply = await page(run.code);
    expect(reply.run.state).toBe('waits');
    expect(stands(reply)).toEqual(['checks']);
    expect((await page(run.code, maker)).conditions.find(({ key }) => key === 'review')!.state).toBe('open');
    const list = runsReply.parse((await owner.get('/api/runs')).body);
    expect(list.runs.find(({ code }) => code === run.code)!.open).toBe(1);
  });
  it('nothing of it leaves before it is released', async () => {
    const answer = await maker.record('jars.dispatch', {
      dispatchId: ids.next(),
      customerId,
      jars: [{ runLotId: run.id, first: 1, last: 12 }],
      note: null,
    });
    expect([answer.status, answer.body.code]).toEqual([409, 'jar.notReleased']);
  });
  it('a signature asks for one’s own PIN, typed now, once each', async () => {
    expect((await owner.record('run.release', { runLotId: run.id, excuses: {} })).body.code).toBe('who.signAgain');
    expect((await owner.send<{ code: string }>('POST', '/api/session/proof', { pin: '0000' })).body.code).toBe(
      'who.wrongPin',
    );
    expect((await sign(run.id)).body.code).toBe('release.open');
    // It was used up by the one that was refused.
    expect((await owner.record('run.release', { runLotId: run.id, excuses: { checks: 'x' } })).body.code).toBe(
      'who.signAgain',
    );
    await maker.send('POST', '/api/session/proof', { pin: PIN });
    expect((await maker.record('run.release', { runLotId: run.id, excuses: {} })).body.code).toBe('who.notAllowed');
  });
  it('a reviewer excuses missed checks in writing, and signs: the name stands under it', async () => {
    const answer = await sign(run.id, owner, { checks: 'seen by eye every day, not written down' });
    expect(answer.status).toBe(200);
    const reply = await page(run.code);
    expect(reply.run.state).toBe('released');
    expect(reply.signatures.map(({ what, by, own }) => [what, by, own])).toEqual([['released', 'Ow', false]]);
    expect(reply.signatures[0]!.excuses[0]!.reason).toContain('seen by eye');
    expect((await sign(run.id, owner, { checks: 'again' })).body.code).toBe('release.already');
  });

  describe('W22: five refusals, each with its reason', () => {
    const refusedFor = async (runLotId: string, by = owner): Promise<unknown> => {
      const answer = await sign(runLotId, by, { checks: 'seen' });
      return (answer.body.facts as { open: string[] } | undefined)?.open;
    };
    it('600 g unexplained', async () => {
      const off = await packed('C2', {
        jars: [{ sizeMl: 330, netGrams: 320, count: 38 }],
        tallyReason: 'nobody knows',
      });
      expect(await refusedFor(off.id)).toEqual(['tally']);
    });
    it('a lively jar with storage out of the cold, until it goes cold and is marked so', async () => {
      await house.record('house.rule', { rule: 'storage', option: 'cellar', reason: 'One jar every two weeks.' });
      const cellar = await packedSmall('D1', { storage: 'cellar' });
      await house.record(
        'run.check',
        { runLotId: cellar.id, what: 'gas', says: 'lively', opened: 1, note: null, photo: null },
        { at: daysAgo(1), by: house.maker },
      );
      expect(await refusedFor(cellar.id)).toEqual(['gas']);
      // Where the house lets nothing live stand cool any more, what stands there is not released either.
      await house.record('house.rule', { rule: 'storage', option: 'cold', reason: null });
      expect(await refusedFor(cellar.id)).toEqual(['heat', 'gas']);
      await house.record('run.store', { runLotId: cellar.id, storage: 'cold', reason: 'lively' }, { by: house.maker });
      expect(await refusedFor(cellar.id)).toBeUndefined();
      // Released for the cold: it does not go back to the warm under the same name.
      await house.record('house.rule', { rule: 'storage', option: 'cellar', reason: 'One jar every two weeks.' });
      expect(
        await refusalOf(house.record('run.store', { runLotId: cellar.id, storage: 'cellar', reason: 'no room' })),
      ).toBe('release.storage');
    });
    it('fresh brine, and brine read alone: refused until a blended jar is read a day later', async () => {
      const even = await packedSmall('D2', { brine: 'fresh' });
      await readWell(house, even.id, 3.9, daysAgo(3), { sample: 'brine' });
      expect(await refusedFor(even.id)).toEqual(['equilibrium']);
      await readWell(house, even.id, 3.9, daysAgo(2));
      expect(await refusedFor(even.id))
        .withContext('one jar')
        .toEqual(['equilibrium']);
      await readWell(house, even.id, 3.92, daysAgo(1));
      expect(await refusedFor(even.id)).toBeUndefined();
    });
    it('the packer as own reviewer under the second-person rule; a night later in a house of one', async () => {
      const own = await packedSmall('G1', {}, house.owner);
      expect(await refusedFor(own.id)).toEqual(['review']);
      await house.record('house.rule', { rule: 'release', option: 'night', reason: 'One person works here.' });
      expect(await refusedFor(own.id)).toBeUndefined();
      expect((await page(own.code)).signatures[0]!.own).toBeTrue();
      await house.record('house.rule', { rule: 'release', option: 'second', reason: 'Two again.' });
    });
  });

  /** Few jars of a small vessel. */
  async function packedSmall(tag: string, more: object, by = house.maker) {
    const grams = tag === 'G1' ? 3000 : 9000;
    const { fillId } = await dryBatch(house, {
      tag,
      at: daysAgo(40),
      produceGrams: grams,
      saltGrams: grams * 0.022,
    });
    await sour(house, fillId, daysAgo(40), packedAt);
    const id = ids.next();
    const recorded = await house.record(
      'pack.run',
      {
        runLotId: id,
        from: [{ fillLotId: fillId, grams: 1600, empties: false }],
        jars: [{ sizeMl: 330, netGrams: 320, count: 5 }],
        sampleGrams: 0,
        leftoverGrams: 0,
        wasteGrams: 0,
        tallyReason: null,
        brine: 'own',
        storage: 'cold',
        ...more,
      },
      { at: packedAt, by },
    );
    return { id, fillId, code: String(recorded.facts['code']) };
  }

  describe('jars', () => {
    const jar = (serial: number): { runLotId: string; first: number; last: number } => ({
      runLotId: run.id,
      first: serial,
      last: serial,
    });
    const send = (first: number, last: number) =>
      maker.record('jars.dispatch', {
        dispatchId: ids.next(),
        customerId,
        jars: [{ runLotId: run.id, first, last }],
        note: 'crate 4',
      });

    it('36 go to a customer by their codes; the mass goes with them, and nothing is called lost', async () => {
      const answer = await send(1, 36);
      expect(answer.body.recorded![0]!.facts).toEqual(
        jasmine.objectContaining({ code: `D${String(new Date().getUTCFullYear()).slice(2)}-0001`, count: 36 }),
      );
      const lot = (
        await owner.get<{ tally: { lossGrams: number; onHandGrams: number; clear: boolean } }>(`/api/lots/${run.code}`)
      ).body;
      expect(lot.tally.lossGrams).toBe(100);
      expect(lot.tally.onHandGrams).toBeCloseTo(12_800 - 36 * 320, 0);
      expect(lot.tally.clear).toBeTrue();
      const { customers } = customersReply.parse((await owner.get('/api/customers')).body);
      expect(customers[0]!.jars).toBe(36);
      const reply = await page(run.code);
      expect(reply.jars.map(({ count, where }) => [count, where])).toEqual([
        [36, 'The Copper Ladle'],
        [4, 'where it was packed'],
      ]);
      expect(reply.holders).toEqual([{ customerId, name: 'The Copper Ladle', run: run.code, count: 36 }]);
      expect(reply.jars[0]!.firstCode).toBe(jarCode(run.code, 1).text);
    });
    it('one that left does not leave again, one that never was is unknown', async () => {
      expect((await send(36, 37)).body.code).toBe('jar.notHere');
      expect((await send(40, 41)).body.code).toBe('jar.unknown');
    });
    it('to the van, sold at a market, broken: each leaves its trace', async () => {
      await house.record('jars.move', { jars: [jar(37), jar(38)], roomId: house.names.room }, { by: house.maker });
      await house.record('jars.out', { jars: [jar(37)], how: 'market', note: null }, { by: house.maker });
      await house.record('jars.out', { jars: [jar(38)], how: 'broken', note: 'fell' }, { by: house.maker });
      const { runs } = jarsReply.parse((await owner.get('/api/jars')).body);
      const standing = runs.find(({ code }) => code === run.code)!.stretches;
      expect(standing.map(({ first, last, where }) => [first, last, where])).toEqual([[39, 40, 'where it was packed']]);
    });
    it('two packers at once: a jar goes to one of them', async () => {
      const answers = await Promise.all([send(39, 39), send(39, 39)]);
      expect(answers.map(({ status }) => status).sort((a, b) => a - b)).toEqual([200, 409]);
    });
    it('jars come back with a reason, and stand in the house again', async () => {
      await house.record(
        'jars.back',
        { jars: [{ runLotId: run.id, first: 1, last: 2 }], roomId: house.names.room, reason: 'lid dented' },
        { by: house.maker },
      );
      expect((await page(run.code)).holders[0]!.count).toBe(35);
      // They are not sold again.
      expect((await send(1, 1)).body.code).toBe('jar.cameBack');
      expect(
        await refusalOf(house.record('jars.back', { jars: [jar(1)], roomId: house.names.room, reason: 'x' })),
      ).toBe('jar.moved');
    });
    it('a delivery written to the wrong customer is put right: the jars are where they are', async () => {
      const other = ids.next();
      await house.record('customer.add', {
        customerId: other,
        name: 'Three Bridges Grocer',
        customerKind: 'shop',
        address: null,
        contact: null,
      });
      const answer = await send(40, 40);
      const { id, facts } = answer.body.recorded![0]!;
      const entry = (await owner.get<{ body: Record<string, unknown> }>(`/api/entries/${id}`)).body;
      const put = await house.record('entry.correct', {
        corrects: id,
        reason: 'wrong line of the list',
        instead: { kind: 'jars.dispatch', body: { ...entry.body, customerId: other } },
      });
      expect(put.facts['changes']).toEqual([
        jasmine.objectContaining({
          what: 'with customers',
          now: jasmine.stringMatching(/^The Copper Ladle: 35, Three Bridges Grocer: 1$/),
        }),
      ]);
      const { sent } = jarsReply.parse((await owner.get('/api/jars')).body);
      expect(sent.filter(({ code }) => code === facts['code']).map(({ customer }) => customer)).toEqual([
        'Three Bridges Grocer',
      ]);
      const { customers } = customersReply.parse((await owner.get('/api/customers')).body);
      expect(customers.find(({ customerId: one }) => one === other)!.jars).toBe(1);
    });
    it('a closed customer gets nothing more; what they have stays known', async () => {
      const body = { customerId, name: 'The Copper Ladle', customerKind: 'kitchen', address: null, contact: null };
      await house.record('customer.change', { ...body, closed: true } as never);
      expect((await send(1, 1)).body.code).toBe('customer.closed');
      expect((await page(run.code)).holders.some(({ customerId: one }) => one === customerId)).toBeTrue();
      await house.record('customer.change', { ...body, closed: false } as never);
    });
    it('a jar that gushes holds the run and its siblings: nothing of them leaves, and who has some is named', async () => {
      const answer = await maker.record('run.check', {
        runLotId: run.id,
        what: 'gas',
        says: 'gushes',
        opened: 1,
        note: null,
        photo: null,
      });
      expect(answer.status).toBe(200);
      expect((await send(2, 2)).body.code).toBe('lot.onHold');
      const reply = await page(run.code);
      expect(stands(reply)).toEqual(jasmine.arrayContaining(['holds', 'gas']));
      expect(reply.holders.length).toBeGreaterThan(0);
    });
    it('a release is withdrawn with its reason, and says who has jars', async () => {
      await owner.send('POST', '/api/session/proof', { pin: PIN });
      const answer = await owner.record('run.withdraw', { runLotId: run.id, reason: 'gushed' });
      expect(answer.body.recorded![0]!.facts['holders']).toEqual(
        jasmine.arrayContaining([jasmine.stringMatching('The Copper Ladle')]),
      );
      expect((await page(run.code)).run.state).toBe('withdrawn');
    });
  });
});
