import { type ChildProcess, spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { sql } from 'drizzle-orm';
import type { Entry, ShelfReply, SignInReply } from '@clear-tally/contract';
import { connect, rows } from '../src/db/database.js';
import { verifyChain } from '../src/verify/verifyChain.js';
import { entryOf } from './house.js';

interface Cluster { pid(): number; appUrl(database: string): string; ownerUrl(database: string): string; stop(): void }
const tools = (await import(new URL('../../../tools/postgres.mjs', import.meta.url).href)) as {
  openCluster(options: { folder: string; durable: boolean }): Promise<Cluster>;
  ensureDatabase(cluster: Cluster, name: string): Promise<void>;
};

const pause = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));
const freePort = () => new Promise<number>((resolve) => {
  const probe = createServer();
  probe.listen(0, '127.0.0.1', () => {
    const { port } = probe.address() as { port: number };
    probe.close(() => resolve(port));
  });
});

describe('a power cut at the bench', () => {
  let folder: string;
  let cluster: Cluster;
  let server: ChildProcess;
  let port: number;
  const address = () => `http://127.0.0.1:${port}`;

  async function startServer(): Promise<void> {
    server = spawn(process.execPath, ['--import', 'tsx', 'apps/server/src/main.ts'], {
      stdio: ['ignore', 'ignore', 'inherit'],
      env: { ...process.env, PORT: String(port), DATABASE_URL: cluster.appUrl('kill'), DATABASE_OWNER_URL: cluster.ownerUrl('kill'), MIGRATIONS: 'apps/server/migrations', LOG_LEVEL: 'silent' },
    });
    for (let i = 0; i < 240; i += 1) {
      if (await fetch(`${address()}/api/sign-in`).then((reply) => reply.ok, () => false)) return;
      await pause(250);
    }
    throw new Error('the server did not start');
  }

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'clear-tally-kill-'));
    cluster = await tools.openCluster({ folder, durable: true });
    await tools.ensureDatabase(cluster, 'kill');
    port = await freePort();
    await startServer();
  }, 120_000);
  afterAll(() => {
    server.kill('SIGKILL');
    cluster.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  it('server and database killed while entries are written: every acknowledged entry is there once, nothing is half-written', async () => {
    const { people, demoPins } = (await (await fetch(`${address()}/api/sign-in`)).json()) as SignInReply;
    const ines = people.find((person) => person.name === 'Ines Calloway')!;
    const pin = demoPins!.find((row) => row.name === ines.name)!.pin;
    const signIn = await fetch(`${address()}/api/session`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ personId: ines.id, pin }) });
    const headers = { 'content-type': 'application/json', cookie: signIn.headers.get('set-cookie')!.split(';')[0]! };
    const shelf = (await (await fetch(`${address()}/api/shelf`, { headers })).json()) as ShelfReply;
    const acknowledged = new Set<string>();
    const sent = new Set<string>();
    let going = true;
    // Each tablet repeats an entry until it is answered, as the interface does.
    const tablet = async (): Promise<void> => {
      while (going) {
        const entry: Entry = entryOf('ph.read', { lotId: shelf.vessels[0]!.lotId, ph: 4.9, sample: 'blended', confirmedJump: true }, ines.id);
        sent.add(entry.id);
        for (let tries = 0; going && tries < 400; tries += 1) {
          const reply = await fetch(`${address()}/api/entries`, { method: 'POST', headers, body: JSON.stringify({ entries: [entry] }) }).catch(() => null);
          if (reply?.ok) {
            acknowledged.add(entry.id);
            break;
          }
          await pause(50);
        }
      }
    };
    const tablets = Array.from({ length: 4 }, tablet);
    await pause(700);
    server.kill('SIGKILL');
    await pause(300);
    await startServer();
    await pause(700);
    const beforeCut = acknowledged.size;
    process.kill(cluster.pid(), 'SIGKILL');
    await pause(600);
    server.kill('SIGKILL');
    cluster = await tools.openCluster({ folder, durable: true });
    await startServer();
    await pause(700);
    going = false;
    await Promise.all(tablets);
    expect(beforeCut).toBeGreaterThan(20);
    expect(acknowledged.size).withContext('recording goes on after the cut').toBeGreaterThan(beforeCut);
    const connection = connect(cluster.appUrl('kill'));
    const journal = await rows<{ id: string }>(connection.db, sql`select entry_id as id from journal where kind = 'ph.read'`);
    const there = new Set(journal.map((row) => row.id));
    expect([...acknowledged].filter((id) => !there.has(id))).toEqual([]);
    expect(journal.length).withContext('once each').toBe(there.size);
    const [half] = await rows<{ n: number }>(connection.db, sql`select count(*)::int as n from (select entry_id from journal where kind = 'ph.read' except select entry_id from reading) x`);
    expect(half!.n).toBe(0);
    const [orphans] = await rows<{ n: number }>(connection.db, sql`select count(*)::int as n from reading r where not exists (select 1 from journal j where j.seq = r.seq)`);
    expect(orphans!.n).toBe(0);
    expect((await verifyChain(connection.db)).brokenAt).toBeNull();
    await connection.close();
  }, 120_000);
});
