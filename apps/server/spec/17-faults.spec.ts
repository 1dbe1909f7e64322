import { sql } from 'drizzle-orm';
import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { createServer, type RequestListener, type Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Writable } from 'node:stream';
import pino from 'pino';
import { connect } from '../src/db/database.js';
import { createApp } from '../src/http/app.js';
import { faultOf } from '../src/http/explain.js';
import { openLog } from '../src/log.js';
import { SignInLimits } from '../src/session/limits.js';
import { rulesByTheClock } from '../src/subjects/holds/rulesClock.js';
import { ids, PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

describe('when something is wrong with the house’s computer', () => {
  let house: TestHouse;
  let broken: Server;
  /** What every question of the broken house is answered with. */
  let failing: (Error & { code?: string }) | null = null;
  const logged: string[] = [];
  beforeAll(async () => {
    house = await openHouse('spec_faults');
    const { db, pool } = house.connection;
    const stumbling = new Proxy(db, {
      get: (target, key) =>
        (failing && (key === 'select' || key === 'transaction' || key === 'execute')
          ? () => {
              throw failing;
            }
          : Reflect.get(target, key)) as unknown,
    });
    const log = pino(
      { level: 'warn' },
      new Writable({
        write: (chunk: Buffer, _, done) => {
          logged.push(chunk.toString());
          done();
        },
      }),
    );
    broken = createServer(
      createApp(
        {
          db: stumbling,
          reader: stumbling,
          now: () => new Date(),
          live: { subscribe: () => () => undefined },
          limits: new SignInLimits(db, pool),
        },
        { log, deadlineMs: 400 },
      ).callback() as RequestListener,
    );
    await new Promise<void>((resolve) => broken.listen(0, '127.0.0.1', resolve));
  });
  afterAll(async () => {
    broken.closeAllConnections();
    broken.close();
    await house.close();
  });
  const ask = (path: string, body?: unknown) =>
    fetch(
      `http://127.0.0.1:${(broken.address() as { port: number }).port}${path}`,
      body === undefined
        ? {}
        : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) },
    );

  const cases: readonly (readonly [string, string | undefined, string, number])[] = [
    ['a full disk', '53100', 'server.full', 507],
    ['a lock that lasts', '55P03', 'server.busy', 503],
    ['a question that takes too long', '57014', 'server.busy', 503],
    ['too many connections', '53300', 'server.busy', 503],
    ['a database that is gone', 'ECONNREFUSED', 'server.busy', 503],
    ['a figure beyond a column', '22003', 'figure.outOfRange', 422],
    ['a text that is none', '22021', 'figure.outOfRange', 422],
    ['a check of a table', '23514', 'figure.outOfRange', 422],
    ['anything else', undefined, 'server.fault', 500],
  ];
  for (const [name, code, problem, status] of cases) {
    it(`${name} is said in words, and it goes on afterwards`, async () => {
      failing = Object.assign(new Error('Failed query: select secret params: Tomasz Reyk, 4840'), {
        query: 'select secret',
        params: ['Tomasz Reyk', '4840'],
        cause: Object.assign(new Error('something "Tomasz Reyk"'), code ? { code } : {}),
      });
      const reply = await ask('/api/sign-in');
      expect(reply.status).toBe(status);
      expect(((await reply.json()) as { code: string }).code).toBe(problem);
      if (status === 503) expect(Number(reply.headers.get('retry-after'))).toBeGreaterThan(0);
      failing = null;
      expect((await ask('/api/sign-in')).status).toBe(200);
    });
  }
  it('what is logged names statement, code and place, never what was typed', () => {
    const fault = faultOf(
      Object.assign(new Error('Failed query: insert into person params: Tomasz Reyk, 4840, \u0000\u0001'), {
        query: 'insert into person values ($1)',
        params: ['Tomasz Reyk'],
        cause: Object.assign(new Error('duplicate key value "Tomasz Reyk"'), { code: '23505' }),
      }),
    );
    expect(fault.query).toBe('insert into person values ($1)');
    expect(fault.code).toBe('23505');
    expect(fault.stack).toContain('17-faults.spec');
    for (const line of [...logged, JSON.stringify(fault)])
      for (const typed of ['Tomasz', '4840', PIN]) expect(line).not.toContain(typed);
    expect(logged.length).toBeGreaterThan(0);
  });
  it('the log is turned over: five files at most, and the last line is there', async () => {
    const folder = await mkdtemp(join(tmpdir(), 'log-'));
    const log = openLog(folder, 'warn', '20k');
    const files = async () =>
      Promise.all(
        (await readdir(folder))
          .filter((name) => name.endsWith('.log'))
          .map(async (name) => ({ name, text: await readFile(join(folder, name), 'utf8').catch(() => '') })),
      );
    // What is written while a file is being turned over goes along with it: each part is waited for.
    for (let part = 0; part < 12; part += 1) {
      for (let line = 0; line < 150; line += 1) log.warn({ part, line, what: 'x'.repeat(100) }, 'again and again');
      const last = `"part":${part},"line":149,`;
      for (let turn = 0; turn < 200 && !(await files()).some(({ text }) => text.includes(last)); turn += 1)
        await pause(10);
      await pause(30);
    }
    const kept = await files();
    expect(kept.some(({ text }) => text.includes('"part":11,"line":149,'))).toBeTrue();
    expect(kept.some(({ text }) => text.includes('"part":0,')))
      .withContext('the oldest are gone')
      .toBeFalse();
    expect(kept.length).toBeGreaterThan(1);
    expect(kept.length).toBeLessThanOrEqual(5);
    await rm(folder, { recursive: true });
  });
  it('whoever waits longer than the deadline is answered, and told when to come again', async () => {
    const owned = connect(house.connection.ownerUrl);
    const other = await owned.pool.connect();
    await other.query('begin');
    await other.query('lock table person in access exclusive mode');
    const reply = await ask('/api/sign-in');
    await other.query('rollback');
    other.release();
    await owned.close();
    expect(reply.status).toBe(503);
    expect(((await reply.json()) as { detail: string }).detail).toContain('not recorded twice');
  });
  it('a look of the rules never overlaps the one before, and a fault ends none of the later ones', async () => {
    let [running, most, looks] = [0, 0, 0];
    const faults: unknown[] = [];
    const slow = new Proxy(house.connection.db, {
      get: (target, key) =>
        (key !== 'execute'
          ? Reflect.get(target, key)
          : async (...args: [never]) => {
              most = Math.max(most, (running += 1));
              await pause(60);
              running -= 1;
              if ((looks += 1) === 2) throw new Error('stumbled');
              return target.execute(...args);
            }) as unknown,
    });
    const clock = rulesByTheClock(slow, { now: () => new Date(), onFault: (error) => faults.push(error), pauseMs: 5 });
    await pause(700);
    await clock.stop();
    const after = looks;
    await pause(150);
    expect(most).toBe(1);
    expect(faults.length).toBe(1);
    expect(looks).toBeGreaterThan(3);
    expect(looks).withContext('none begins after the end').toBe(after);
  });
  it('balances that the database keeps are the sums of the movements, also where one was put right', async () => {
    const { db } = house.connection;
    const lotId = ids.next();
    await house.record('supply.receive', {
      lotId,
      materialId: house.names.salt,
      supplierId: house.names.supplier,
      supplierLotCode: 'B-1',
      grams: 9000,
      useBy: null,
      condition: null,
    });
    const [batchId, shred] = [ids.next(), ids.next()];
    await house.record('supply.receive', {
      lotId: shred,
      materialId: house.names.shred,
      supplierId: house.names.supplier,
      supplierLotCode: 'B-2',
      grams: 9000,
      useBy: null,
      condition: null,
    });
    await house.record('batch.start', {
      batchId,
      formulaId: house.names.dry,
      version: 1,
      plan: { from: 'trimmed', trimmedGrams: 5000 },
    });
    await house.record('produce.weigh', { batchId, supplyLotId: shred, trimmedGrams: 5000, trimWasteGrams: 400 });
    const salt = await house.record('salt.weigh', { batchId, saltLotId: lotId, grams: 200, alreadyIn: true });
    await house.record('entry.correct', {
      corrects: salt.id,
      reason: 'misread',
      right: { kind: 'salt.weigh', grams: 110 },
    });
    const found = (
      await db.execute(sql`
      select l.code, b.in_milligrams::text as kept_in, b.out_milligrams::text as kept_out, coalesce((select sum(milligrams) from live_movement where to_lot = l.id), 0)::text as came, coalesce((select sum(milligrams) from live_movement where from_lot = l.id), 0)::text as went
      from lot_balance b join lot l on l.id = b.lot_id`)
    ).rows as Record<string, string>[];
    expect(found.length).toBe(3);
    for (const row of found)
      expect([row['kept_in'], row['kept_out']]).withContext(row['code']!).toEqual([row['came']!, row['went']!]);
  });
});
