import { EMPTY_WINDOW } from '@clear-tally/core';
import { type BodyOf, floorReply, type WatchReply, watchReply } from '@clear-tally/contract';
import { and, eq } from 'drizzle-orm';
import { formula } from '../src/db/schema/stores.js';
import { Client } from './client.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch } from './oneBatch.js';

const DAY = 86_400_000;

type Window = NonNullable<BodyOf<'formula.save'>['windows']>[number];
const window = (over: Partial<Window>): Window => ({ ...EMPTY_WINDOW, ...over });

describe('ready windows by condition', () => {
  let house: TestHouse;
  let owner: Client;
  let version = 1;

  beforeAll(async () => {
    house = await openHouse('clear_tally_windows');
    owner = await Client.signIn(house, house.owner);
  });
  afterAll(() => house.close());

  const save = async (windows: readonly Window[]): Promise<{ status: number }> => {
    const [of] = await house.connection.db
      .select()
      .from(formula)
      .where(and(eq(formula.formulaId, house.names.dry), eq(formula.version, 1)));
    version += 1;
    const reply = await owner.record('formula.save', { ...of!.data, version, windows: [...windows] });
    if (reply.status !== 200) version -= 1;
    return reply;
  };
  const watch = async (lotId: string): Promise<WatchReply> => {
    const lots = (await owner.get<{ lots: { lotId: string; code: string }[] }>('/api/lots?kind=fill')).body.lots;
    return watchReply.parse((await owner.get(`/api/watch/${lots.find((lot) => lot.lotId === lotId)!.code}`)).body);
  };

  it('the one that fits most closely counts on the book and the floor, and says why', async () => {
    await save([
      window({ fromDay: 20, toDay: 40 }),
      window({ celsius: { least: 10, most: 20 }, fromDay: 8, toDay: 15, tasteDay: 6 }),
      window({ starter: true, fromDay: 3, toDay: 5 }),
    ]);
    const at = daysAgo(7);
    const { fillId } = await dryBatch(house, { tag: 'C1', at, version });
    await house.record('temperature.read', { lotId: fillId, celsius: 17.4 }, { at: daysAgo(3), by: house.maker });
    const seen = await watch(fillId);
    expect([seen.readyFrom - at.getTime(), seen.readyTo - at.getTime()]).toEqual([8 * DAY, 15 * DAY]);
    expect(seen.window.why).toMatch(/^10 to 20 °C \(mean 1\d\.\d °C\)$/);
    expect(seen.window.says).toBe('taste from day 6, ready day 8 to 15');
    const floor = floorReply.parse((await owner.get('/api/floor')).body);
    const vessel = floor.vessels.find(({ lotId }) => lotId === fillId)!;
    expect(vessel.readyFrom).toBe(seen.readyFrom);
    expect(vessel.checks.some(({ what }) => what === 'taste')).toBeTrue();
    // It is the mean that the deadline of its acid goes by.
    expect(seen.lateness.words).toContain(/mean (\S+) °C/.exec(seen.window.why)![1]!);
    // Read in another warmth, another window counts.
    await house.record(
      'temperature.read',
      { lotId: fillId, celsius: 60 },
      { at: new Date(Date.now() - 30 * 3_600_000), by: house.maker },
    );
    expect((await watch(fillId)).window.why).toBe('the formula’s window for all');
  });

  it('a window without a day, or turned about, is refused at its field', async () => {
    for (const wrong of [window({}), window({ fromDay: 9, toDay: 3 })]) expect((await save([wrong])).status).toBe(400);
  });

  it('the formula’s page shows them as they were saved', async () => {
    const kept = window({ months: { from: 11, to: 2 }, counterDays: 3, bestFromDay: 7, bestUntilDay: 30 });
    await save([kept]);
    const { body } = await owner.get<{ windows: Window[] }>(`/api/formulas/${house.names.dry}`);
    expect(body.windows).toEqual([kept]);
  });
});
