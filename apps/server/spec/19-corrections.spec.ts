import type { BodyOf, EntryKind, EntryReply, LotReply, OrdersReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import { verifyHouse } from '../src/journal/verify/verifyHouse.js';
import { changesBetween } from '../src/subjects/correcting/figures.js';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell, receive, sour } from './oneBatch.js';

describe('a correction for every entry', () => {
  let house: TestHouse;
  let owner: Client;
  beforeEach(async () => {
    house = await openHouse('spec_corrections');
    owner = await Client.signIn(house, house.owner);
  });
  afterEach(() => house.close());

  const correct = <K extends EntryKind>(
    corrects: string,
    kind: K,
    body: BodyOf<K> | null,
    more: { happenedAt?: string } = {},
  ) =>
    owner.record('entry.correct', {
      corrects,
      reason: 'typed wrong',
      instead: body === null ? null : { kind, body: body as Record<string, unknown>, ...more },
    });
  const onHand = async (lotId: string): Promise<number> => {
    const [row] = await rows<{ mg: string | null }>(
      house.connection.db,
      sql`select in_milligrams - out_milligrams as mg from lot_balance where lot_id = ${lotId}`,
    );
    return Number(row?.mg ?? 0) / 1000;
  };
  const lot = async (code: string): Promise<LotReply> => (await owner.get<LotReply>(`/api/lots/${code}`)).body;

  it('what reaches lots that came later is put right like any other', async () => {
    const shred = await receive(house, house.names.shred, 200_000, 'F-9', daysAgo(9));
    const drill = {
      recallId: ids.next(),
      lotId: shred,
      scope: 'descendants',
      carryOver: false,
      drill: true,
      reason: 'a dril',
      source: 'a slip of paper',
      heardAt: daysAgo(5).toISOString(),
    } as const;
    const opened = await house.record('recall.open', drill, { at: daysAgo(5) });
    const batchId = ids.next();
    const plan = { from: 'trimmed', trimmedGrams: 14_600 } as const;
    await house.record('batch.start', { batchId, formulaId: house.names.dry, version: 1, plan }, { at: daysAgo(2) });
    const weighed = { batchId, supplyLotId: shred, trimmedGrams: 14_600, trimWasteGrams: 0 };
    await house.record('produce.weigh', weighed, { at: daysAgo(2) });
    const reply = await correct(opened.id, 'recall.open', { ...drill, reason: 'a drill' });
    expect(reply.status).withContext(JSON.stringify(reply.body)).toBe(200);
    // What happens to a batch still happens after it was begun.
    const step = { batchId, step: 'inspect' } as const;
    const begun = await house.record('step.begin', step, { at: daysAgo(1) });
    const early = await correct(begun.id, 'step.begin', step, { happenedAt: daysAgo(3).toISOString() });
    expect(early.body.code).toBe('lot.notYet');
  });
  it('a lot that is called otherwise says nothing else by it', () => {
    const of = (code: string, packable: string, tag: string) => [
      { code: 'id', what: '', says: code },
      { code: 'id', what: 'stands in', says: tag },
      { code: 'id', what: 'may be packed', says: packable },
    ];
    const wanted = (code: string, limit: string) => `no: two readings of ${code} at ${limit} are wanted`;
    const was = of('NY26-1-A-C5', wanted('NY26-1-A-C5', '4.2'), 'C5');
    const said = (packable: string) => changesBetween(was, of('NY26-1-A-C3', packable, 'C3')).map(({ what }) => what);
    expect(said(wanted('NY26-1-A-C3', '4.2'))).toEqual(['code', 'stands in']);
    expect(said(wanted('NY26-1-A-C3', '4.1'))).toEqual(['code', 'stands in', 'may be packed']);
  });
  it('the form knows what an entry speaks of, and which of it the entry itself made', async () => {
    const [shop, stall, orderId] = [ids.next(), ids.next(), ids.next()];
    const named = { customerKind: 'shop', address: null, contact: null } as const;
    const added = await house.record('customer.add', { customerId: shop, name: 'Quay Larder', ...named });
    await house.record('customer.add', { customerId: stall, name: 'Saturday stall', ...named });
    const names = async (id: string) => (await owner.get<EntryReply>(`/api/entries/${id}`)).body.names;
    expect((await names(added.id))[shop]).toEqual({ name: 'Quay Larder', of: 'customer', made: true });
    const lines = [{ formulaId: house.names.dry, sizeMl: 330, count: 4 }];
    const body = { orderId, customerId: shop, wantedOn: '2099-05-01', note: null, lines };
    const taken = await house.record('order.take', body);
    expect((await names(taken.id))[shop]).toEqual({ name: 'Quay Larder', of: 'customer', made: false });
    const reply = await correct(taken.id, 'order.take', { ...body, customerId: stall });
    expect(reply.status).withContext(JSON.stringify(reply.body)).toBe(200);
    const { orders } = (await owner.get<OrdersReply>('/api/orders')).body;
    expect(orders.map(({ customer }) => customer)).toEqual(['Saturday stall']);
  });
  it('the form offers in words what an entry keeps as a key', async () => {
    const batchId = ids.next();
    const plan = { from: 'trimmed', trimmedGrams: 4000 } as const;
    await house.record('batch.start', { batchId, formulaId: house.names.dry, version: 1, plan });
    const begun = await house.record('step.begin', { batchId, step: 'inspect' });
    const ruled = await house.record('house.rule', { rule: 'sanitise', option: 'sanitise', reason: null });
    const choices = async (id: string) => (await owner.get<EntryReply>(`/api/entries/${id}`)).body.choices;
    const { step, checked } = await choices(begun.id);
    expect(step!.map(({ label }) => label)).toContain('Inspect the produce');
    expect(checked).toContain({
      id: 'firm',
      label: 'Fresh and firm, no mould at all',
      where: { field: 'step', is: 'inspect' },
    });
    const { rule, option } = await choices(ruled.id);
    expect(rule).toContain({ id: 'sanitise', label: 'How are vessels and tools cleaned?' });
    const answers = option!.filter(({ where }) => where?.is === 'sanitise').map(({ label }) => label);
    expect(answers).toEqual(['Washed, then sanitised with its contact time', 'Hot soapy water and rinsing is enough']);
  });
  it('a trimmed mass ten times too large, found two steps later: salt wanted, book and ledger follow', async () => {
    const at = daysAgo(3);
    const shred = await receive(house, house.names.shred, 200_000, 'F-1', daysAgo(4));
    const salt = await receive(house, house.names.salt, 25_000, 'S-1', daysAgo(4));
    const batchId = ids.next();
    await house.record(
      'batch.start',
      { batchId, formulaId: house.names.dry, version: 1, plan: { from: 'trimmed', trimmedGrams: 14_600 } },
      { at },
    );
    const weighed = { batchId, supplyLotId: shred, trimmedGrams: 146_000, trimWasteGrams: 900 };
    const wrong = await house.record('produce.weigh', weighed, { at });
    await house.record('salt.weigh', { batchId, saltLotId: salt, grams: 321, alreadyIn: false }, { at });
    await house.record('step.begin', { batchId, step: 'salt' }, { at });
    const reply = await correct(wrong.id, 'produce.weigh', { ...weighed, trimmedGrams: 14_600 });
    expect(reply.status).toBe(200);
    const { facts } = reply.body.recorded[0]!;
    expect(facts['changes']).toContain(jasmine.objectContaining({ what: 'salt wanted', was: '3,212 g', now: '321 g' }));
    expect(await onHand(shred)).toBe(200_000 - 14_600 - 900);
    expect(await onHand(batchId)).toBe(14_600 + 321);
    const { lines } = await lot(
      (await rows<{ code: string }>(house.connection.db, sql`select code from lot where id = ${batchId}`))[0]!.code,
    );
    const line = lines.find(({ entryId }) => entryId === wrong.id)!;
    expect(line.struck).toEqual(['146.00 kg']);
    expect(line.figure).toBe('14.60 kg');
    expect(line.words).toContain('corrected by Ow: typed wrong');
    expect(lines.filter(({ kind }) => kind === 'salt.weigh').length)
      .withContext('what rests on it is told once')
      .toBe(1);
  });

  it('a fill in the wrong vessel: it stands in the right one, the wrong one is free', async () => {
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(3) });
    await readWell(house, batch.fillId, 5.1, daysAgo(2));
    const [fill] = await rows<{ id: string; entry: string; code: string }>(
      house.connection.db,
      sql`select j.entry_id as id, j.entry, l.code from lot l join journal j on j.seq = l.seq where l.id = ${batch.fillId}`,
    );
    const { body } = JSON.parse(fill!.entry) as { body: BodyOf<'vessel.fill'> };
    const reply = await correct(fill!.id, 'vessel.fill', { ...body, vesselId: house.vessel('C2') });
    expect(reply.body.detail ?? 'recorded').toBe('recorded');
    const shelf = (await owner.get<{ vessels: { vesselTag: string; lotId: string }[] }>('/api/shelf')).body.vessels;
    expect(shelf.map(({ vesselTag }) => vesselTag)).toEqual(['C2']);
    const now = await lot(fill!.code.replace('C1', 'C2'));
    expect(now.vessel!.tag).toBe('C2');
    expect(now.lines.some(({ kind }) => kind === 'ph.read')).toBeTrue();
    // The free one can be filled.
    await dryBatch(house, { tag: 'C1', at: daysAgo(1) });
  });

  it('a loss of a vessel that was thrown out and filled anew since is put right; that it was thrown out stands', async () => {
    const first = await dryBatch(house, { tag: 'C1', at: daysAgo(6) });
    const loss = { lotId: first.fillId, grams: 507, sink: 'overflow' as const, note: null };
    const wrong = await house.record('loss.record', loss, { at: daysAgo(5) });
    const out = { lotId: first.fillId, cause: 'smelled' as const, note: null };
    const thrown = await house.record('vessel.throwOut', out, { at: daysAgo(4) });
    const second = await dryBatch(house, { tag: 'C1', at: daysAgo(3) });
    const before = await onHand(second.fillId);
    const reply = await correct(wrong.id, 'loss.record', { ...loss, grams: 50 });
    expect(reply.body.detail ?? 'recorded').toBe('recorded');
    expect(await onHand(first.fillId)).toBe(0);
    expect(await onHand(second.fillId)).toBe(before);
    // What would leave two fills in one vessel is refused, and says which one stands there.
    const never = await correct(thrown.id, 'vessel.throwOut', null);
    expect(never.body.code).toBe('correction.standsInTheWay');
    expect(never.body.detail).toMatch(/^C1 would not have been empty, and .*C1 was filled into it since/);
    const shelf = (await owner.get<{ vessels: { lotId: string }[] }>('/api/shelf')).body.vessels;
    expect(shelf.map(({ lotId }) => lotId)).toEqual([second.fillId]);
  });

  it('a batch started twice: the second never was, its code stays taken, and nobody finds it on the bench', async () => {
    const start = (batchId: string) =>
      house.record(
        'batch.start',
        { batchId, formulaId: house.names.dry, version: 1, plan: { from: 'trimmed', trimmedGrams: 5000 } },
        { at: new Date() },
      );
    const [first, second] = [ids.next(), ids.next()];
    const one = await start(first);
    const twice = await start(second);
    expect((await correct(twice.id, 'batch.start', null)).status).toBe(200);
    const making = (await owner.get<{ batches: { lotId: string }[] }>('/api/making')).body;
    expect(JSON.stringify(making)).toContain(String(one.facts['code']));
    expect(JSON.stringify(making)).not.toContain(String(twice.facts['code']));
    const third = await start(ids.next());
    expect(third.facts['code']).not.toBe(twice.facts['code']);
    const book = await lot(String(twice.facts['code']));
    expect(book.lines[0]!.struckOut).toBeTrue();
    expect(book.lines[0]!.words).toContain('never happened, Ow: typed wrong');
  });

  it('what cannot have been is refused, with what stands in the way', async () => {
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(3) });
    await readWell(house, batch.fillId, 5.1, daysAgo(2));
    const [fill] = await rows<{ id: string }>(
      house.connection.db,
      sql`select j.entry_id as id from lot l join journal j on j.seq = l.seq where l.id = ${batch.fillId}`,
    );
    const reply = await correct(fill!.id, 'vessel.fill', null);
    expect(reply.body.code).toBe('correction.standsInTheWay');
    expect(reply.body.detail).toContain('pH of ');
  });

  it('a correction that was recorded is verified: the journal, recorded anew, gives the same tables', async () => {
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(20), produceGrams: 9000, saltGrams: 198 });
    await sour(house, batch.fillId, daysAgo(20));
    expect(
      (
        await correct(batch.saltEntry, 'salt.weigh', {
          batchId: batch.batchId,
          saltLotId: batch.saltLot,
          grams: 190,
          alreadyIn: true,
        })
      ).body.detail ?? '',
    ).toBe('');
    const found = await verifyHouse({
      connection: house.connection,
      ownerUrl: house.connection.ownerUrl,
      migrations: 'apps/server/migrations',
      ends: null,
    });
    expect(found.faults).toEqual([]);
  }, 20_000);

  it('bowls that turn out to hold a held lot are held, and so is what is filled out of them', async () => {
    const [one, held] = [
      await receive(house, house.names.shred, 20_000, 'F-a', daysAgo(4)),
      await receive(house, house.names.shred, 20_000, 'F-b', daysAgo(4)),
    ];
    const batch = await dryBatch(house, { tag: 'C1', at: daysAgo(2), produceGrams: 9000, saltGrams: 198, fill: false });
    const weighed = { batchId: batch.batchId, supplyLotId: one, trimmedGrams: 500, trimWasteGrams: 0 };
    const wrong = await house.record('produce.weigh', weighed, { at: daysAgo(2) });
    await house.record('salt.weigh', { batchId: batch.batchId, saltLotId: batch.saltLot, grams: 11, alreadyIn: true });
    await house.record('hold.place', { lotId: held, reason: 'glass in the crate', downstream: false });
    expect((await correct(wrong.id, 'produce.weigh', { ...weighed, supplyLotId: held })).body.detail ?? '').toBe('');
    const fillLotId = ids.next();
    const fill = { fillLotId, batchId: batch.batchId, vesselId: house.vessel('C2'), grams: 9000, brine: null };
    await house.record('vessel.fill', { ...fill, overReason: 'as it was' });
    const open = await rows<{ id: string }>(
      house.connection.db,
      sql`select lot_id as id from hold where lifted_at is null`,
    );
    expect(open.map(({ id }) => id).sort()).toEqual([held, batch.batchId, fillLotId].sort());
  });
});
