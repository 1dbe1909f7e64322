import {
  type AskedBy,
  askedByReply,
  type AskedByReply,
  type BodyOf,
  type CauseReply,
  causeReply,
  complaintsReply,
  metersReply,
  recallAheadReply,
  recallReply,
  type RecallReply,
  recallsReply,
  talliesReply,
} from '@clear-tally/contract';
import { isoDay, jarCode } from '@clear-tally/core';
import { sql } from 'drizzle-orm';
import { rows } from '../src/db/database.js';
import { Client } from './client.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, type DryBatch, packJars, receive, sour } from './oneBatch.js';

describe('the trace desk', () => {
  let house: TestHouse;
  let maker: Client;
  let owner: Client;
  let inspector: Client;
  let salt = '';
  const grocer = ids.next();
  const batches = new Map<string, DryBatch & { run: { runLotId: string; code: string } }>();
  const packedAt = daysAgo(9);

  /** One after the other: D1 and D2 hold what C1 and C2 do not share. */
  const made = async (key: string, tag: string, at: Date, more: object = {}): Promise<void> => {
    const batch = await dryBatch(house, { tag, at, ...more });
    await sour(house, batch.fillId, at, packedAt);
    batches.set(key, {
      ...batch,
      run: await packJars(house, batch.fillId, 12, { at: packedAt, brine: 'own', storage: 'cold' }),
    });
  };
  const of = (key: string) => batches.get(key)!;
  const codeOf = async (lotId: string): Promise<string> =>
    (await rows<{ code: string }>(house.connection.db, sql`select code from lot where id = ${lotId}`))[0]!.code;
  const ahead = async (lotId: string, scope = 'descendants', carryOver = 'no') =>
    recallAheadReply.parse(
      (await maker.get(`/api/recall-ahead?code=${await codeOf(lotId)}&scope=${scope}&carryOver=${carryOver}`)).body,
    );
  const recallOf = async (code: string): Promise<RecallReply> =>
    recallReply.parse((await maker.get(`/api/recalls/${code}`)).body);
  const open = (lotId: string, more: Partial<BodyOf<'recall.open'>> = {}, by = maker) =>
    by.record('recall.open', {
      recallId: ids.next(),
      lotId,
      scope: 'descendants',
      carryOver: false,
      drill: false,
      reason: 'metal in the salt, the supplier says',
      source: 'their mail',
      heardAt: new Date(Date.now() - 600_000).toISOString(),
      ...more,
    });
  const heldOf = async (ids_: readonly string[]): Promise<number> =>
    (
      await rows<{ id: string }>(
        house.connection.db,
        sql`select distinct lot_id as id from hold where lifted_at is null and lot_id in ${[...ids_]}`,
      )
    ).length;

  beforeAll(async () => {
    house = await openHouse('spec_desk');
    maker = await Client.signIn(house, house.maker);
    owner = await Client.signIn(house, house.owner);
    inspector = await Client.signIn(house, house.inspector);
    salt = await receive(house, house.names.salt, 25_000, 'SALT-9', daysAgo(50));
    await house.record(
      'customer.add',
      { customerId: grocer, name: 'A grocer', customerKind: 'shop', address: 'Mill Lane 2', contact: 'mail@grocer' },
      { at: daysAgo(50) },
    );
    await made('one', 'C1', daysAgo(40), { saltLot: salt });
    await made('two', 'C2', daysAgo(40), { saltLot: salt });
    await made('other', 'D1', daysAgo(40), { produceGrams: 6000, saltGrams: 132 });
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    const released = await owner.record('run.release', { runLotId: of('one').run.runLotId, excuses: {} });
    if (released.status !== 200) throw new Error(JSON.stringify(released.body));
    const sent = await maker.record('jars.dispatch', {
      dispatchId: ids.next(),
      customerId: grocer,
      jars: [{ runLotId: of('one').run.runLotId, first: 1, last: 5 }],
      note: null,
    });
    if (sent.status !== 200) throw new Error(JSON.stringify(sent.body));
    await maker.record('jars.out', {
      jars: [{ runLotId: of('one').run.runLotId, first: 6, last: 7 }],
      how: 'market',
      note: null,
    });
    await maker.record('jars.out', {
      jars: [{ runLotId: of('one').run.runLotId, first: 8, last: 8 }],
      how: 'opened',
      note: null,
    });
  }, 90_000);
  afterAll(() => house.close());

  describe('what is no lot', () => {
    const askedBy = async (by: AskedBy, id: string) => {
      const { status, body } = await owner.get(`/api/asked-by/${by}/${id}`);
      expect(status).withContext(JSON.stringify(body).slice(0, 200)).toBe(200);
      return askedByReply.parse(body);
    };
    const codes = ({ lots }: AskedByReply): string[] => lots.map(({ code }) => code);
    const day = (at: Date): string => isoDay(at.getTime(), 'Europe/Dublin');

    it('a customer: what was sent there, and only the jars that are there', async () => {
      const said = await askedBy('customer', grocer);
      expect([said.title, said.runs, said.jars]).toEqual(['A grocer', 1, 5]);
      expect(said.lots.map(({ code, why }) => [code, why])).toEqual([[of('one').run.code, 'sent, 5 jars']]);
      expect(said.places.map(({ name, jars }) => [name, jars])).toEqual([['A grocer', 5]]);
    });
    it('a day: all that was written of on it, and every jar that came of that', async () => {
      const said = await askedBy('day', day(daysAgo(40)));
      for (const key of ['one', 'two', 'other']) expect(codes(said)).toContain(await codeOf(of(key).fillId));
      expect([said.runs, said.jars]).toEqual([3, 36]);
      const batch = said.lots.find(({ lotId }) => lotId === of('one').batchId)!;
      expect(batch.why).toContain('Batch started');
      expect((await askedBy('day', day(daysAgo(55)))).lots).toEqual([]);
    });
    it('a vessel: what stood in it, and whether it was cleaned before', async () => {
      const said = await askedBy('vessel', house.vessel('C2'));
      expect(said.lots.map(({ lotId, why }) => [lotId, why])).toEqual([
        [of('two').fillId, 'filled, no cleaning on record before'],
      ]);
      expect([said.title, said.jars]).toEqual(['C2', 12]);
    });
    it('a room: what stood in it', async () => {
      const said = await askedBy('room', house.names.room);
      expect(said.lots.map(({ lotId }) => lotId)).toContain(of('other').fillId);
    });
    it('a person: what they wrote of', async () => {
      const said = await askedBy('person', house.maker.id);
      expect(codes(said)).toContain(of('one').run.code);
      expect(said.lots.find(({ code }) => code === of('one').run.code)!.why).toContain('Dispatched');
    });
    it('a meter: what was read by it, and what of that while it was not fit', async () => {
      const { meters } = metersReply.parse((await maker.get('/api/meters')).body);
      const meterId = meters.find(({ tag }) => tag === 'MR')!.meterId;
      const said = await askedBy('meter', meterId);
      expect(said.lots.map(({ lotId }) => lotId).sort()).toEqual(
        ['one', 'two', 'other'].map((key) => of(key).fillId).sort(),
      );
      expect(said.lots.every(({ doubtful, why }) => !doubtful && /^\d+ pH by it$/.test(why))).toBeTrue();
    });
    it('nobody, no day and no question are refused', async () => {
      expect((await owner.get(`/api/asked-by/customer/${ids.next()}`)).status).toBe(404);
      expect((await owner.get('/api/asked-by/day/2026-13-40')).status).toBe(400);
      expect((await owner.get('/api/asked-by/day/0026-11-25')).status).toBe(400);
      expect((await owner.get(`/api/asked-by/salt/${ids.next()}`)).status).toBe(400);
      expect((await owner.get('/api/asked-by/room/a%00b')).status).toBe(400);
    });
  });

  describe('a recall', () => {
    it('says what it would reach before anybody opens it: jars by place, and nothing is held', async () => {
      const reply = await ahead(salt);
      expect([reply.runs, reply.jars, reply.customers]).toEqual([2, 24, 1]);
      expect(reply.places.map(({ kind, name, jars }) => [kind, name, jars])).toEqual([
        ['house', 'In the house, where it was packed', 16],
        ['customer', 'A grocer', 5],
        ['gone', 'Sold at a market', 2],
        ['gone', 'Opened to look', 1],
      ]);
      expect(reply.lots.map(({ code }) => code)).not.toContain(of('other').run.code);
      expect(await heldOf(reply.lots.map(({ lotId }) => lotId))).toBe(0);
    });
    it('by the supplier’s own code, as their message names it', async () => {
      const reply = (await maker.get('/api/recall-ahead?code=salt-9&scope=descendants')).body;
      expect(recallAheadReply.parse(reply).subject.lotId).toBe(salt);
      expect((await maker.get('/api/recall-ahead?code=NOBODY&scope=direct')).status).toBe(404);
    });
    it('a drill is marked, holds nothing, and closes only when the rest is named', async () => {
      const body = (await open(salt, { drill: true })).body;
      const code = String(body.recorded[0]!.facts['code']);
      expect(code).toMatch(/^DR\d\d-01$/);
      const drill = await recallOf(code);
      expect([drill.jars, drill.accounted, drill.open]).toEqual([24, 17, 7]);
      expect(await heldOf(drill.lots.map(({ lotId }) => lotId))).toBe(0);
      const close = (restReason: string | null, by: Client) =>
        by.record('recall.close', { recallId: drill.recallId, outcome: 'list in time', restReason });
      expect((await close(null, maker)).body.code).toBe('who.notAllowed');
      const early = await close(null, owner);
      expect([early.body.code, early.body.facts]).toEqual(['recall.restOpen', { open: 7 }]);
      expect((await close('a drill: nobody was asked', owner)).status).toBe(200);
      expect((await recallOf(code)).closed!.restReason).toBe('a drill: nobody was asked');
      const { drillLate, recalls } = recallsReply.parse((await maker.get('/api/recalls')).body);
      expect([drillLate, recalls[0]!.minutesToList]).toEqual([false, 10]);
    });
    it('holds everything at once, is opened once, and is reconciled answer by answer', async () => {
      const body = (await open(salt)).body;
      const code = String(body.recorded[0]!.facts['code']);
      const now = await recallOf(code);
      expect(await heldOf(now.lots.map(({ lotId }) => lotId))).toBe(now.lots.length);
      expect(await heldOf([of('other').run.runLotId])).toBe(0);
      const again = await open(salt);
      expect([again.status, again.body.code, again.body.facts]).toEqual([409, 'recall.open', { recall: code }]);
      const dispatch = await maker.record('jars.dispatch', {
        dispatchId: ids.next(),
        customerId: grocer,
        jars: [{ runLotId: of('one').run.runLotId, first: 9, last: 9 }],
        note: null,
      });
      expect(dispatch.body.code).toBe('lot.onHold');
      const answer = (place: string, count: number, how: BodyOf<'recall.answer'>['answer'] = 'used') =>
        maker.record('recall.answer', { recallId: now.recallId, place, count, answer: how, note: null });
      expect((await answer(grocer, 6)).body.code).toBe('recall.tooMany');
      expect((await answer('packed', 1)).body.code).toBe('recall.notThere');
      const word = { recallId: now.recallId, customerIds: [grocer], how: 'mail' as const, words: null };
      expect((await maker.record('recall.notice', word)).status).toBe(200);
      expect((await answer(grocer, 2)).status).toBe(200);
      const back = await maker.record('jars.back', {
        jars: [{ runLotId: of('one').run.runLotId, first: 1, last: 3 }],
        roomId: house.names.room,
        reason: 'the recall',
      });
      expect(back.status).withContext(JSON.stringify(back.body)).toBe(200);
      expect((await answer('market', 2, 'soldOn')).status).toBe(200);
      const done = await recallOf(code);
      // Sold on to nobody knows whom is an answer, not an end: they may still be eaten.
      expect([done.accounted, done.open]).toEqual([22, 2]);
      expect(done.places.find(({ key }) => key === 'market')!.unanswered).toBe(0);
      expect((await answer('market', 1)).body.code).toBe('recall.tooMany');
      const shop = done.places.find(({ key }) => key === grocer)!;
      expect([shop.jars, shop.accounted, shop.notice?.how]).toEqual([2, 2, 'mail']);
      const close = (restReason: string | null) =>
        owner.record('recall.close', { recallId: done.recallId, outcome: 'all back but two', restReason });
      expect((await close(null)).body.code).toBe('recall.restOpen');
      expect((await close('sold from the stall, to whom is not known')).status).toBe(200);
      expect((await answer(grocer, 1)).body.code).toBe('recall.closed');
    });
    it('its notices and its report leave as papers', async () => {
      const { recalls } = recallsReply.parse((await maker.get('/api/recalls')).body);
      const { code } = recalls.find(({ drill }) => !drill)!;
      for (const paper of ['notices.pdf', 'report.pdf'])
        expect((await maker.text(`/api/recalls/${code}/${paper}`)).slice(0, 5)).toBe('%PDF-');
    });
    it('the supplier’s lot that came on two days is one suspect, however far the recall reaches', async () => {
      const first = await receive(house, house.names.pepper, 500, 'PEP-7', daysAgo(50));
      const second = await receive(house, house.names.pepper, 500, 'pep-7', daysAgo(45));
      const other = await receive(house, house.names.pepper, 500, 'PEP-8', daysAgo(45));
      // A code that happens to be on two kinds of goods: one suspect only where the source is asked for.
      const salt = await receive(house, house.names.salt, 500, 'PEP-7', daysAgo(45));
      for (const scope of ['direct', 'descendants', 'shared']) {
        const lots = (await ahead(first, scope)).lots.map(({ lotId }) => lotId);
        expect([second, other, salt].map((lot) => lots.includes(lot)))
          .withContext(scope)
          .toEqual([true, false, scope === 'shared']);
      }
    });
    it('further: what shares the source; nearer: only its own batches; next door: vessels not cleaned', async () => {
      const run = of('two').run.runLotId;
      expect((await ahead(run)).runs).toBe(1);
      const more = await packJars(house, of('other').fillId, 3, { at: daysAgo(8) });
      const shared = await ahead(more.runLotId, 'shared');
      expect(shared.lots.map(({ code }) => code)).toContain(of('other').run.code);
      // Kept from one vessel, it starts another: not the same batch.
      const keptId = ids.next();
      await house.record(
        'brine.keep',
        { lotId: keptId, fillLotId: of('other').fillId, grams: 200, useBy: null },
        { at: daysAgo(7), by: house.maker },
      );
      const made_ = (scope: string) => ahead(of('other').shredLot, scope);
      const codes = async (scope: string) => (await made_(scope)).lots.map(({ lotId }) => lotId);
      expect(await codes('descendants')).toContain(keptId);
      expect(await codes('direct')).not.toContain(keptId);
      // G1 is emptied, not cleaned, and filled again.
      const first = await dryBatch(house, { tag: 'G1', at: daysAgo(30), produceGrams: 3000, saltGrams: 66 });
      await house.record(
        'vessel.throwOut',
        { lotId: first.fillId, cause: 'smelled', note: null },
        { at: daysAgo(20), by: house.maker },
      );
      const next = await dryBatch(house, { tag: 'G1', at: daysAgo(19), produceGrams: 3000, saltGrams: 66 });
      const beside = async (carryOver: string) =>
        (await ahead(first.fillId, 'descendants', carryOver)).lots.filter(({ lotId }) => lotId === next.fillId);
      expect(await beside('no')).toEqual([]);
      expect((await beside('yes')).map(({ carryOver }) => carryOver)).toEqual([true]);
      await house.record(
        'vessel.clean',
        { vesselId: house.vessel('G1'), agent: 'soda' },
        { at: new Date(daysAgo(20).getTime() + 3_600_000), by: house.maker },
      );
      expect(await beside('yes')).toEqual([]);
    });
    it('an inspector opens none', async () =>
      expect((await open(of('other').shredLot, {}, inspector)).body.code).toBe('who.notAllowed'));
  });

  describe('complaints', () => {
    const complaint = (more: Partial<BodyOf<'complaint.take'>> = {}): BodyOf<'complaint.take'> => ({
      complaintId: ids.next(),
      runLotId: of('other').run.runLotId,
      serial: 4,
      what: 'smellTaste',
      words: 'bitter',
      photo: null,
      hold: false,
      noHoldReason: null,
      ...more,
    });
    const all = async (by = maker) => complaintsReply.parse((await by.get('/api/complaints')).body).complaints;
    it('stand in a register with their jar; a jar that was never packed is refused', async () => {
      expect((await maker.record('complaint.take', complaint())).status).toBe(200);
      expect((await maker.record('complaint.take', complaint({ serial: 400 }))).body.code).toBe('jar.unknown');
      const [first] = await all();
      expect([first!.code.slice(3), first!.jar, first!.held]).toEqual([
        '-0001',
        jarCode(of('other').run.code, 4).text,
        false,
      ]);
    });
    it('a grave one holds the run at once, or says in writing why not', async () => {
      const grave = await maker.record('complaint.take', complaint({ what: 'foreignBody', words: 'glass' }));
      expect([grave.status, grave.body.code]).toEqual([422, 'complaint.grave']);
      expect(
        (await maker.record('complaint.take', complaint({ what: 'gushes', noHoldReason: 'it was left in the sun' })))
          .status,
      ).toBe(200);
      expect(await heldOf([of('other').run.runLotId])).toBe(0);
      expect((await maker.record('complaint.take', complaint({ what: 'foreignBody', hold: true }))).status).toBe(200);
      expect(await heldOf([of('other').run.runLotId])).toBe(1);
      const reply = complaintsReply.parse((await maker.get('/api/complaints')).body);
      expect(reply.again).toEqual([{ run: of('other').run.code, name: 'Dry shred', count: 3 }]);
    });
    it('who complained is kept apart, not shown to an inspector, and deleted for good', async () => {
      const { complaintId } = (await all())[0]!;
      const at = `/api/complaints/${complaintId}/contact`;
      expect((await maker.send('PUT', at, { words: 'A. Body, 12 High Road' })).status).toBe(200);
      const shown = async (by: Client) => (await all(by)).find((one) => one.complaintId === complaintId)!.contact;
      expect([await shown(maker), await shown(inspector)]).toEqual(['A. Body, 12 High Road', null]);
      expect((await inspector.send('DELETE', at)).body).toEqual(jasmine.objectContaining({ code: 'who.notAllowed' }));
      expect((await maker.send('DELETE', at)).status).toBe(200);
      expect(await shown(maker)).toBeNull();
      const kept = await rows<{ entry: string }>(
        house.connection.db,
        sql`select entry from journal where entry like '%High Road%'`,
      );
      expect(kept).toEqual([]);
    });
    it('end with what came of them, once', async () => {
      const { complaintId } = (await all())[0]!;
      const close = () =>
        maker.record('complaint.close', { complaintId, outcome: 'notOurs', words: 'the glass was theirs' });
      expect([(await close()).status, (await close()).body.code]).toEqual([200, 'complaint.closed']);
      expect((await all()).find((one) => one.complaintId === complaintId)!.closed!.outcome).toBe('notOurs');
    });
  });

  describe('shared cause', () => {
    const cause = async (bad: string[]): Promise<CauseReply> =>
      causeReply.parse((await maker.send('POST', '/api/shared-cause', { bad })).body);
    it('of two bad runs against one good: their salt stands first, what all share last', async () => {
      const reply = await cause([of('one').run.code, jarCode(of('two').run.code, 3).text]);
      const saltCode = await codeOf(salt);
      const top = reply.causes.find(({ traits }) => traits.some(({ code }) => code === saltCode))!;
      expect([top.badWith, top.bad, top.goodWith]).toEqual([2, 2, 0]);
      expect(reply.good).toBeGreaterThanOrEqual(2);
      const room = reply.causes.find(({ traits }) => traits.some(({ kind }) => kind === 'room'))!;
      expect(room.p).toBeGreaterThan(top.p);
      expect(reply.causes.flatMap(({ traits }) => traits.map(({ code }) => code))).not.toContain(
        await codeOf(of('one').shredLot),
      );
    });
    it('what is no jar is refused', async () =>
      expect((await maker.send('POST', '/api/shared-cause', { bad: [await codeOf(salt)] })).body).toEqual(
        jasmine.objectContaining({ code: 'lot.wrongKind' }),
      ));
  });

  it('tallies that do not close stand in a list, the largest first', async () => {
    await house.record('lot.count', { lotId: of('two').fillId, grams: 9000, byDifference: 'gas' }, { by: house.maker });
    const reply = talliesReply.parse((await maker.get('/api/tallies')).body);
    expect(reply.lots[0]!.lotId).toBe(of('two').fillId);
    expect(reply.lots[0]!.tally.likelySlip).not.toBeNull();
    expect(reply.lots.every(({ tally }) => !tally.clear)).toBeTrue();
  });
});
