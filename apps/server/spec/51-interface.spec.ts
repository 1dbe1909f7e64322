import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { createServer, get, type RequestListener, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gunzipSync, gzipSync } from 'node:zlib';
import pino from 'pino';
import { createApp } from '../src/http/app.js';
import type { Deps } from '../src/http/context.js';

describe('the built interface', () => {
  const WORDS = 'export const salt = 0.022;\n'.repeat(80);
  // Told from what the server would pack itself: packed beforehand with a mark of its own at the end.
  const PACKED = gzipSync(`${WORDS}// packed once\n`);
  let folder: string;
  let server: Server;

  beforeAll(async () => {
    folder = mkdtempSync(join(tmpdir(), 'clear-tally-interface-'));
    writeFileSync(join(folder, 'index.html'), '<title>Clear Tally</title>');
    writeFileSync(join(folder, 'chunk-ABCDEFGH.js'), WORDS);
    writeFileSync(join(folder, 'chunk-ABCDEFGH.js.gz'), PACKED);
    writeFileSync(join(folder, 'chunk-IJKLMNOP.js'), WORDS);
    // No path of the interface asks the house for anything.
    const app = createApp({} as Deps, { log: pino({ level: 'silent' }), webRoot: folder });
    server = createServer(app.callback() as RequestListener);
    await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  });
  afterAll(() => {
    server.close();
    rmSync(folder, { recursive: true });
  });

  const ask = (path: string, accepts: string) =>
    new Promise<{ status: number; headers: NodeJS.Dict<string | string[]>; bytes: Buffer }>((resolve, reject) => {
      const { port } = server.address() as AddressInfo;
      get({ port, path, headers: { 'accept-encoding': accepts } }, (reply) => {
        const parts: Buffer[] = [];
        reply.on('data', (part: Buffer) => parts.push(part));
        reply.on('end', () =>
          resolve({ status: reply.statusCode!, headers: reply.headers, bytes: Buffer.concat(parts) }),
        );
      }).on('error', reject);
    });

  it('leaves packed as it lies there; what is not packed yet is packed on its way', async () => {
    const packed = await ask('/chunk-ABCDEFGH.js', 'gzip');
    expect(packed.headers).toEqual(
      jasmine.objectContaining({
        'content-encoding': 'gzip',
        'content-type': jasmine.stringContaining('javascript'),
        'cache-control': 'public, max-age=31536000, immutable',
        vary: jasmine.stringContaining('Accept-Encoding'),
      }),
    );
    expect(packed.bytes).toEqual(PACKED);
    const onItsWay = await ask('/chunk-IJKLMNOP.js', 'gzip');
    expect(onItsWay.headers['content-encoding']).toBe('gzip');
    expect(gunzipSync(onItsWay.bytes).toString()).toBe(WORDS);
  });
  it('comes unpacked to whoever asks for it so', async () => {
    const { headers, bytes } = await ask('/chunk-ABCDEFGH.js', 'identity');
    expect(headers['content-encoding']).toBeUndefined();
    expect(bytes.toString()).toBe(WORDS);
  });
  it('every other path is a place of the interface', async () => {
    const { status, headers, bytes } = await ask('/lots/AB12', 'identity');
    expect([status, headers['cache-control']]).toEqual([200, 'no-cache']);
    expect(bytes.toString()).toContain('Clear Tally');
  });
});
