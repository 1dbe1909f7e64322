import { drizzle } from 'drizzle-orm/node-postgres';
import pg from 'pg';
import type { Reader } from '../src/db/database.js';
import { forOneQuestion } from '../src/db/once.js';
import * as schema from '../src/db/schema/index.js';
import { readJars } from '../src/subjects/dispatch/readJars.js';
import { readRuns } from '../src/subjects/release/readRuns.js';
import { readTallies } from '../src/subjects/tracing/readTallies.js';
import { Client } from './client.js';
import { PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';
import { daysAgo, dryBatch, packJars, sour } from './oneBatch.js';

/** A house that has packed for a year asks its database no more often than one that has packed twice. */
describe('lists of runs and tallies', () => {
  let house: TestHouse;
  let owner: Client;
  let pool: pg.Pool;
  let questions = 0;
  let reader: Reader;
  const packedAt = daysAgo(9);

  beforeAll(async () => {
    house = await openHouse('spec_few_questions');
    owner = await Client.signIn(house, house.owner);
    pool = new pg.Pool({ connectionString: house.connection.appUrl, options: '-c jit=off' });
    const logger = { logQuery: () => void (questions += 1) };
    reader = drizzle(pool, { schema, casing: 'snake_case', logger });
  }, 90_000);
  afterAll(async () => {
    await pool.end();
    await house.close();
  });

  async function pack(tag: string, released: boolean): Promise<void> {
    const at = daysAgo(40);
    const { fillId } = await dryBatch(house, { tag, at, produceGrams: 6000, saltGrams: 132 });
    await sour(house, fillId, at, packedAt);
    const { runLotId } = await packJars(house, fillId, 12, { at: packedAt, brine: 'own', storage: 'cold' });
    if (!released) return;
    await owner.send('POST', '/api/session/proof', { pin: PIN });
    const { status, body } = await owner.record('run.release', { runLotId, excuses: {} });
    expect(status).withContext(JSON.stringify(body)).toBe(200);
  }

  async function asked<T>(read: (of: Reader) => Promise<T>): Promise<{ times: number; reply: T }> {
    const before = questions;
    const reply = await read(forOneQuestion(reader));
    return { times: questions - before, reply };
  }

  /** Each list, how long it is and how often it asked. */
  async function lists() {
    const now = new Date();
    const jars = await asked((of) => readJars(of, now));
    const runs = await asked((of) => readRuns(of, { ...house.owner, role: 'owner' }, now));
    const tallies = await asked(readTallies);
    return {
      lengths: [jars.reply.runs.length, runs.reply.runs.length, tallies.reply.looked],
      states: runs.reply.runs.map(({ state }) => state).sort(),
      asked: [jars.times, runs.times, tallies.times],
    };
  }

  it('ask as often for four runs as for two', async () => {
    await pack('C1', true);
    await pack('C2', false);
    const two = await lists();
    await pack('D1', true);
    await pack('D2', false);
    const four = await lists();
    expect(two.lengths.slice(0, 2)).toEqual([2, 2]);
    expect(four.lengths.slice(0, 2)).toEqual([4, 4]);
    expect(four.states).toEqual(['released', 'released', 'waits', 'waits']);
    expect(four.asked).toEqual(two.asked);
    expect(Math.min(...two.asked)).toBeGreaterThan(0);
  }, 90_000);
});
