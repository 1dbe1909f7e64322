import type { EntriesReply } from '@clear-tally/contract';
import { Client } from './client.js';
import { ids } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, readWell } from './oneBatch.js';

describe('what is recorded after the fact', () => {
  let house: TestHouse;
  let maker: Client;
  beforeEach(async () => {
    house = await openHouse('spec_when');
    maker = await Client.signIn(house, house.maker);
  });
  afterEach(() => house.close());

  const read = async (lotId: string, ph: number, at?: Date, meterId?: string) => {
    const body = { lotId, ph, sample: 'blended' as const, confirmedJump: true, ...(meterId ? { meterId } : {}) };
    const reply = await maker.record('ph.read', body, at);
    expect(reply.body.detail ?? 'recorded').toBe('recorded');
    return reply.body as unknown as EntriesReply;
  };

  it('a reading of days ago is recorded with both times, and says which deadline and which missed check it changes', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(7) });
    const ph = { what: 'ph' as const, words: null, condition: 'always' as const };
    await house.record(
      'plan.change',
      {
        lotId: fillId,
        checks: [{ ...ph, rule: { kind: 'onDays' as const, days: [4], thenEveryDays: null } }],
        reason: 'watched closely',
      },
      { at: daysAgo(7) },
    );
    for (const day of [6, 5, 4, 3, 2])
      await house.record('temperature.read', { lotId: fillId, celsius: 19 }, { at: daysAgo(day), by: house.maker });
    // A meter that was fit on that day: it was read with in another vessel.
    const other = await dryBatch(house, { tag: 'C2', at: daysAgo(7) });
    const then = daysAgo(3);
    await readWell(house, other.fillId, 3.9, then);
    const [{ meter_id: meterId }] = (
      await house.connection.pool.query<{ meter_id: string }>('select meter_id from reading where lot_id = $1', [
        other.fillId,
      ])
    ).rows as [{ meter_id: string }];
    await read(fillId, 5.2, daysAgo(6), meterId);
    const { recorded, changes } = await read(fillId, 4.4, then, meterId);
    const figures = new Map(changes.map(({ what, was, now }) => [what, { was, now }]));
    expect(figures.get('last pH')).toEqual({ was: '5.20', now: '4.40' });
    expect(figures.get('acid in time')!.was).toBe('late');
    expect(figures.get('acid in time')!.now).toBe('met');
    expect(figures.get('checks missed')!.was).toMatch(/pH/);
    expect(figures.get('checks missed')!.now).toBe('none');
    const row = await house.connection.pool.query<{ happened_at: Date; recorded_at: Date }>(
      'select happened_at, recorded_at from journal where entry_id = $1',
      [recorded[0]!.id],
    );
    expect(row.rows[0]!.happened_at).toEqual(then);
    expect(row.rows[0]!.recorded_at.getTime()).toBeGreaterThan(Date.now() - 60_000);
  });

  it('one of now changes what it changes, and nothing is said of it', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(7) });
    expect((await read(fillId, 3.9)).changes).toEqual([]);
  });

  it('before the vessel was filled, and before its supplies came, it is refused with what to look at', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(3) });
    const early = await maker.record('ph.read', { lotId: fillId, ph: 5.9, sample: 'blended' }, daysAgo(5));
    expect(early.body.code).toBe('lot.notYet');
    expect(early.body.detail).toContain('was filled after the time given');
  });

  it('entries of one typed minute stay in the order they were typed', async () => {
    const { fillId } = await dryBatch(house, { tag: 'C1', at: daysAgo(7) });
    const minute = daysAgo(2).getTime();
    for (const [ms, ph] of [
      [0, 4.1],
      [1, 4.0],
      [2, 3.9],
    ] as const)
      await read(fillId, ph, new Date(minute + ms));
    const lot = await maker.get<{ readings?: unknown; lines: { kind: string; value?: number }[] }>(
      `/api/lots/${(await house.connection.pool.query<{ code: string }>('select code from lot where id = $1', [fillId])).rows[0]!.code}`,
    );
    const order = lot.body.lines.filter(({ kind }) => kind === 'ph.read').map(({ value }) => value);
    expect([
      [4.1, 4.0, 3.9],
      [3.9, 4.0, 4.1],
    ]).toContain(order as number[]);
  });

  it('what was entered late of before does not undo what came after it: cleaning, room, state of a supply', async () => {
    const { fillId, shredLot } = await dryBatch(house, { tag: 'C1', at: daysAgo(9) });
    const clean = { vesselId: house.vessel('C2'), agent: 'soap' };
    for (const at of [daysAgo(1), daysAgo(3)]) await house.record('vessel.clean', clean, { at });
    const other = { id: ids.next() };
    await house.record(
      'room.add',
      { roomId: other.id, name: 'Loft', usualCelsius: 19, position: 2 },
      { at: daysAgo(8) },
    );
    const [here] = (
      await house.connection.pool.query<{ room_id: string }>('select room_id from vessel where id = $1', [
        house.vessel('C1'),
      ])
    ).rows;
    await house.record('vessel.move', { lotId: fillId, roomId: other.id }, { at: daysAgo(1) });
    await house.record('vessel.move', { lotId: fillId, roomId: here!.room_id }, { at: daysAgo(3) });
    await house.record('supply.state', { lotId: shredLot, state: 'thawed', keepsUntil: null }, { at: daysAgo(1) });
    await house.record('supply.state', { lotId: shredLot, state: 'frozen', keepsUntil: null }, { at: daysAgo(3) });
    const [row] = (
      await house.connection.pool.query<{ cleaned: Date; room: string; state: string }>(
        'select (select cleaned_at from vessel where id = $1) as cleaned, (select room_id from vessel where id = $2) as room, (select state from lot where id = $3) as state',
        [house.vessel('C2'), house.vessel('C1'), shredLot],
      )
    ).rows;
    expect(row!.cleaned).toEqual(daysAgo(1));
    expect(row!.room).toBe(other.id);
    expect(row!.state).toBe('thawed');
  });
});
