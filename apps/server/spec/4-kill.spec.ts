import type { Entry, ShelfReply, SignInReply } from '@clear-tally/contract';
import { sql } from 'drizzle-orm';
import { type ChildProcess, execFileSync, spawn } from 'node:child_process';
import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { connect, rows } from '../src/db/database.js';
import { verifyChain } from '../src/journal/verify/verifyChain.js';
import { entryOf } from './entries.js';

interface Cluster {
  pid(): number;
  adminUrl(): string;
  again(): boolean;
  appUrl(database: string): string;
  ownerUrl(database: string): string;
  stop(): void;
}

const tools = (await import(new URL('../../../tools/postgres.mjs', import.meta.url).href)) as {
  openCluster(options: { folder: string; durable: boolean }): Promise<Cluster>;
  ensureDatabase(cluster: Cluster, name: string): Promise<void>;
};

const { bundleServer } = (await import(new URL('../../../tools/build.mjs', import.meta.url).href)) as {
  bundleServer: (outdir: string) => Promise<void>;
};

const { freePort } = (await import(new URL('../../../tools/ports.mjs', import.meta.url).href)) as {
  freePort: () => Promise<number>;
};

/** Started a dozen times here: as it runs in a house, compiled once. */
const PROGRAM = '.cache/killed-server';

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** As many times the power is cut, three at the database for one at the server. */
const KILLS = 30;

describe('a power cut at the bench', () => {
  let folder: string;
  let cluster: Cluster;
  let server: ChildProcess;
  let port: number;
  const address = () => `http://127.0.0.1:${port}`;

  async function startServer(): Promise<void> {
    server = spawn(process.execPath, ['--enable-source-maps', `${PROGRAM}/main.mjs`], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        PORT: String(port),
        DATABASE_URL: cluster.appUrl('kill'),
        DATABASE_OWNER_URL: cluster.ownerUrl('kill'),
        MIGRATIONS: 'apps/server/migrations',
        CLEAR_TALLY_DEMO: 'short',
        LOG_LEVEL: 'silent',
      },
    });
    for (let i = 0; i < 240; i += 1) {
      if (
        await fetch(`${address()}/api/sign-in`).then(
          (reply) => reply.ok,
          () => false,
        )
      )
        return;
      await pause(250);
    }
    throw new Error('the server did not start');
  }

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'clear-tally-kill-'));
    cluster = await tools.openCluster({ folder, durable: true });
    await tools.ensureDatabase(cluster, 'kill');
    port = await freePort();
    await bundleServer(PROGRAM);
    await startServer();
  }, 120_000);
  afterAll(() => {
    server.kill('SIGKILL');
    cluster.stop();
    rmSync(PROGRAM, { recursive: true, force: true });
    rmSync(folder, { recursive: true, force: true });
  });

  /** Stops every process of the database, or lets them go on. */
  const freeze = (signal: 'STOP' | 'CONT'): void => {
    const main = cluster.pid();
    const children = readdirSync('/proc')
      .filter((name) => /^\d+$/.test(name))
      .map(Number)
      .filter((pid) => {
        try {
          return Number(/\) \S (\d+)/.exec(readFileSync(`/proc/${pid}/stat`, 'utf8'))?.[1]) === main;
        } catch {
          return false;
        }
      });
    for (const pid of [main, ...children]) process.kill(pid, `SIG${signal}`);
  };
  const signedInAsInes = async () => {
    const { people, demoPins } = (await (await fetch(`${address()}/api/sign-in`)).json()) as SignInReply;
    const ines = people.find((person) => person.name === 'Ines Calloway')!;
    const pin = demoPins!.find((row) => row.name === ines.name)!.pin;
    const signIn = await fetch(`${address()}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ personId: ines.id, pin }),
    });
    const headers = { 'content-type': 'application/json', cookie: signIn.headers.get('set-cookie')!.split(';')[0]! };
    return { ines, headers, shelf: (await (await fetch(`${address()}/api/shelf`, { headers })).json()) as ShelfReply };
  };

  it('server and database killed while entries are written: every acknowledged entry is there once, nothing is half-written', async () => {
    const { headers, ines, shelf } = await signedInAsInes();
    const acknowledged = new Set<string>();
    const sent = new Set<string>();
    let going = true;
    // Each tablet repeats an entry until it is answered, as the interface does.
    const tablet = async (): Promise<void> => {
      while (going) {
        const entry: Entry = entryOf(
          'ph.read',
          { lotId: shelf.vessels[0]!.lotId, ph: 4.9, sample: 'blended', confirmedJump: true },
          ines.id,
        );
        sent.add(entry.id);
        for (let tries = 0; going && tries < 400; tries += 1) {
          const reply = await fetch(`${address()}/api/entries`, {
            method: 'POST',
            headers,
            body: JSON.stringify({ entries: [entry] }),
          }).catch(() => null);
          if (reply?.ok) {
            acknowledged.add(entry.id);
            break;
          }
          await pause(50);
        }
        // Hands are quick, not endless: what else runs on this machine has its turn.
        await pause(20);
      }
    };
    const tablets = Array.from({ length: 4 }, tablet);
    await pause(700);
    const cut = async (what: 'server' | 'database'): Promise<void> => {
      if (what === 'database') {
        process.kill(cluster.pid(), 'SIGKILL');
        await pause(150);
        // Everything that hung on it is gone with it, as in a power cut; the server stays, and finds it again.
        cluster.again();
      } else {
        server.kill('SIGKILL');
        await startServer();
      }
      await pause(250);
    };
    // On a busy machine the first entries take their time.
    for (let turn = 0; turn < 240 && acknowledged.size <= 5; turn += 1) await pause(250);
    await cut('server');
    const beforeCut = acknowledged.size;
    for (let turn = 0; turn < KILLS; turn += 1) await cut(turn % 4 === 3 ? 'server' : 'database');
    await pause(1500);
    going = false;
    await Promise.all(tablets);
    expect(beforeCut).toBeGreaterThan(5);
    expect(acknowledged.size).withContext('recording goes on after the cut').toBeGreaterThan(beforeCut);
    const connection = connect(cluster.appUrl('kill'));
    const journal = await rows<{ id: string }>(
      connection.db,
      sql`select entry_id as id from journal where kind = 'ph.read'`,
    );
    const there = new Set(journal.map((row) => row.id));
    expect([...acknowledged].filter((id) => !there.has(id))).toEqual([]);
    expect(journal.length).withContext('once each').toBe(there.size);
    const [half] = await rows<{ n: number }>(
      connection.db,
      sql`select count(*)::int as n from (select entry_id from journal where kind = 'ph.read' except select entry_id from reading) x`,
    );
    expect(half!.n).toBe(0);
    const [orphans] = await rows<{ n: number }>(
      connection.db,
      sql`select count(*)::int as n from reading r where not exists (select 1 from journal j where j.seq = r.seq)`,
    );
    expect(orphans!.n).toBe(0);
    expect((await verifyChain(connection.db)).brokenAt).toBeNull();
    await connection.close();
  }, 240_000);

  it('a database that has frozen: every request is answered within ten seconds, and goes on when it thaws', async () => {
    const { headers, ines, shelf } = await signedInAsInes();
    const entry = entryOf('temperature.read', { lotId: shelf.vessels[0]!.lotId, celsius: 18.5 }, ines.id);
    const post = () =>
      fetch(`${address()}/api/entries`, { method: 'POST', headers, body: JSON.stringify({ entries: [entry] }) });
    expect((await fetch(`${address()}/api/floor`, { headers })).status).toBe(200);
    freeze('STOP');
    const started = Date.now();
    const replies = await Promise.all([
      post(),
      fetch(`${address()}/api/floor`, { headers }),
      fetch(`${address()}/api/trace/C1`, { headers }),
      fetch(`${address()}/api/session`, { headers }),
    ]);
    const took = Date.now() - started;
    freeze('CONT');
    expect(replies.map(({ status }) => status)).toEqual([503, 503, 503, 503]);
    expect(Number(replies[0]!.headers.get('retry-after'))).toBeGreaterThan(0);
    expect(took).toBeLessThan(10_000);
    // Pressed again it is recorded once, whether it went in before or not.
    let again = await post();
    for (let turn = 0; turn < 20 && !again.ok; turn += 1) {
      await pause(500);
      again = await post();
    }
    expect(again.status).toBe(200);
    const connection = connect(cluster.appUrl('kill'));
    expect(
      (
        await rows<{ n: number }>(
          connection.db,
          sql`select count(*)::int as n from journal where entry_id = ${entry.id}`,
        )
      )[0]!.n,
    ).toBe(1);
    await connection.close();
  }, 60_000);

  it('a line to the database that was lost: whoever watches is told to read again', async () => {
    const { headers } = await signedInAsInes();
    const controller = new AbortController();
    const live = await fetch(`${address()}/api/live`, { headers, signal: controller.signal });
    let heard = '';
    void (async () => {
      for await (const chunk of live.body as unknown as AsyncIterable<Uint8Array>)
        heard += Buffer.from(chunk).toString();
    })().catch(() => undefined);
    await pause(300);
    process.kill(cluster.pid(), 'SIGKILL');
    await pause(150);
    cluster.again();
    for (let turn = 0; turn < 60 && !heard.includes('data: again'); turn += 1) await pause(250);
    expect(heard).toContain('event: recorded\ndata: again');
    controller.abort();
  }, 30_000);

  it('a clean end waits for what is running: an entry on its way is recorded and answered', async () => {
    const { headers, ines, shelf } = await signedInAsInes();
    const entries = Array.from({ length: 60 }, () =>
      entryOf('temperature.read', { lotId: shelf.vessels[0]!.lotId, celsius: 18.5 }, ines.id),
    );
    // A tablet that listens, and lines kept open for the next question, are no reason to wait.
    const live = await fetch(`${address()}/api/live`, { headers });
    const heard = live.text();
    const sent = fetch(`${address()}/api/entries`, { method: 'POST', headers, body: JSON.stringify({ entries }) });
    await pause(30);
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    expect((await sent).status).toBe(200);
    const answered = Date.now();
    expect(await ended).toBe(0);
    expect(Date.now() - answered).toBeLessThan(4000);
    await heard;
    await startServer();
  }, 60_000);
});

describe('a house’s folder', () => {
  it('that was copied has its own database, not the one it was copied from', async () => {
    const folder = join(tmpdir(), `clear-tally-copied-${process.pid}`);
    const clusters: Cluster[] = [];
    const open = async (of: string): Promise<Cluster> => {
      const cluster = await tools.openCluster({ folder: of, durable: false });
      clusters.push(cluster);
      return cluster;
    };
    const names = async (cluster: Cluster): Promise<string[]> => {
      const connection = connect(cluster.adminUrl());
      const { rows: found } = await connection.pool.query<{ name: string }>(
        "select datname as name from pg_database where datname like 'of%' order by 1",
      );
      await connection.close();
      return found.map(({ name }) => name);
    };
    try {
      const first = await open(join(folder, 'a'));
      await tools.ensureDatabase(first, 'of_both');
      first.stop();
      execFileSync('cp', ['-a', join(folder, 'a'), join(folder, 'b')]);
      const copy = await open(join(folder, 'b'));
      await tools.ensureDatabase(copy, 'of_the_copy');
      expect(await names(copy)).toEqual(['of_both', 'of_the_copy']);
      expect(await names(await open(join(folder, 'a')))).toEqual(['of_both']);
    } finally {
      for (const cluster of clusters) cluster.stop();
      rmSync(folder, { recursive: true, force: true });
    }
  }, 60_000);
});
