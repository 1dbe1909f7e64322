import { X509Certificate } from 'node:crypto';
import { copyFileSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import type { RequestListener } from 'node:http';
import { request } from 'node:https';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { networkReply } from '@clear-tally/contract';
import pino from 'pino';
import { createApp } from '../src/http/app.js';
import { listen } from '../src/db/live.js';
import { broughtCertificate, fingerprintOf, houseCertificate } from '../src/network/certificate.js';
import { networkNames } from '../src/network/names.js';
import { Network } from '../src/network/network.js';
import { SignInLimits } from '../src/session/limits.js';
import { PIN } from './entries.js';
import { openHouse, type TestHouse } from './house.js';

const DAY_MS = 86_400_000;
const NOW = new Date('2026-11-26T08:00:00Z');
const later = (days: number): Date => new Date(NOW.getTime() + days * DAY_MS);

describe('the workshop’s network', () => {
  let folder: string;
  beforeEach(() => {
    folder = mkdtempSync(join(tmpdir(), 'network-'));
  });
  afterEach(() => rmSync(folder, { recursive: true, force: true }));

  describe('a certificate made on this machine', () => {
    const NAMES = ['192.168.1.20', 'bench.local', 'localhost'];
    const leaf = (cert: string): X509Certificate => new X509Certificate(cert);

    it('is for the names it was made for, vouched for by the house’s own root, and ends within what browsers take', async () => {
      const made = await houseCertificate(folder, NAMES, NOW);
      const of = leaf(made.cert);
      expect(of.checkIP('192.168.1.20')).toBe('192.168.1.20');
      expect(of.checkHost('bench.local')).toBe('bench.local');
      expect(of.checkHost('elsewhere.local')).toBeUndefined();
      expect(of.verify(new X509Certificate(made.root!).publicKey)).toBeTrue();
      expect(new X509Certificate(made.root!).ca).toBeTrue();
      expect(of.ca).toBeFalse();
      expect(made.until.getTime() - NOW.getTime()).toBeLessThan(398 * DAY_MS);
    });

    it('stays until thirty days before its end, and is made anew then under the same root', async () => {
      const first = await houseCertificate(folder, NAMES, NOW);
      const still = await houseCertificate(folder, NAMES, later(350));
      expect(still.cert).toBe(first.cert);
      const anew = await houseCertificate(folder, NAMES, later(361));
      expect(anew.cert).not.toBe(first.cert);
      expect(anew.root).toBe(first.root);
      expect(anew.until.getTime()).toBeGreaterThan(later(700).getTime());
    });

    it('is made anew when this machine has another address; what was told to trust the root goes on trusting', async () => {
      const first = await houseCertificate(folder, NAMES, NOW);
      const anew = await houseCertificate(folder, ['192.168.1.77', ...NAMES.slice(1)], NOW);
      expect(leaf(anew.cert).checkIP('192.168.1.77')).toBe('192.168.1.77');
      expect(leaf(anew.cert).checkIP('192.168.1.20')).toBeUndefined();
      expect(anew.root).toBe(first.root);
    });

    it('is made anew when its files were cut short or mixed up, or the clock was set back before it began', async () => {
      const first = await houseCertificate(folder, NAMES, NOW);
      writeFileSync(join(folder, 'server-cert.pem'), 'cut sho');
      const second = await houseCertificate(folder, NAMES, NOW);
      expect(leaf(second.cert).serialNumber).not.toBe(leaf(first.cert).serialNumber);
      copyFileSync(join(folder, 'root-key.pem'), join(folder, 'server-key.pem'));
      const third = await houseCertificate(folder, NAMES, NOW);
      expect(third.cert).not.toBe(second.cert);
      const before = await houseCertificate(folder, NAMES, later(-400));
      expect(Date.parse(leaf(before.cert).validFrom)).toBeLessThan(later(-399).getTime());
    });
  });

  describe('a certificate from elsewhere', () => {
    it('serves with its own key, and is refused in words otherwise', async () => {
      const made = await houseCertificate(folder, ['house.example'], NOW);
      const [cert, key] = [join(folder, 'fullchain.pem'), join(folder, 'privkey.pem')];
      writeFileSync(cert, made.cert);
      writeFileSync(key, made.key);
      expect(broughtCertificate(cert, key, NOW).root).toBeNull();
      expect(() => broughtCertificate(cert, join(folder, 'root-key.pem'), NOW)).toThrowError(/is not the key of/);
      expect(() => broughtCertificate(cert, key, later(400))).toThrowError(/ended on 2027-12-21\. Renew it/);
      writeFileSync(cert, 'no certificate');
      expect(() => broughtCertificate(cert, key, NOW)).toThrowError(/is no certificate/);
    });
  });

  it('other devices type the addresses of this machine, or its name; none of a loopback or of a lost network', () => {
    const v4 = (address: string, internal = false) => ({ address, family: 'IPv4', internal });
    const here = (name: string) => ({
      name,
      interfaces: {
        lo: [v4('127.0.0.1', true)],
        eth0: [v4('192.168.1.20'), { address: 'fe80::1', family: 'IPv6', internal: false }],
        wlan0: [v4('169.254.7.7'), v4('10.0.0.5')],
        gone: undefined,
      },
    });
    for (const [host, name, names] of [
      ['0.0.0.0', 'Cellar-PC', ['192.168.1.20', '10.0.0.5', 'cellar-pc', 'cellar-pc.local']],
      ['::', 'localhost', ['192.168.1.20', '10.0.0.5']],
      ['0.0.0.0', 'bench.yard.example', ['192.168.1.20', '10.0.0.5', 'bench.yard.example']],
      ['192.168.1.20', 'Cellar-PC', ['192.168.1.20']],
      ['cellar.yard.example', 'Cellar-PC', ['cellar.yard.example', '192.168.1.20', '10.0.0.5']],
    ] as const)
      expect(networkNames(host, here(name)))
        .withContext(`${host} on ${name}`)
        .toEqual([...names]);
  });

  describe('over the encrypted line', () => {
    let house: TestHouse;
    let network: Network;
    let now = NOW;
    const port = 42_800 + (process.pid % 900);
    beforeAll(async () => {
      house = await openHouse('spec_network');
    });
    afterAll(() => house.close());
    beforeEach(async () => {
      now = NOW;
      network = new Network({ host: '127.0.0.1', port, folder }, () => now, fail);
      const { db, pool, reader } = house.connection;
      await network.serve(
        createApp(
          {
            db,
            reader,
            network,
            now: () => new Date(),
            live: listen(house.connection.appUrl, () => undefined),
            limits: new SignInLimits(db, pool),
          },
          { log: pino({ level: 'silent' }) },
        ).callback() as RequestListener,
      );
    });
    afterEach(() => {
      network.close();
      network.closeAll();
    });

    interface Reply {
      readonly status: number;
      readonly text: string;
      readonly cookies: readonly string[];
      readonly serial: string;
    }

    const ask = (
      method: string,
      path: string,
      options: { body?: unknown; headers?: Record<string, string>; trusted?: boolean } = {},
    ): Promise<Reply> =>
      new Promise((resolve, reject) => {
        const text = options.body === undefined ? undefined : JSON.stringify(options.body);
        let serial = '';
        const out = request(
          {
            hostname: '127.0.0.1',
            port,
            method,
            path,
            agent: false,
            // Its name is looked at by itself above; here a request is sent under another one.
            ...(options.headers?.['host'] ? { checkServerIdentity: () => undefined } : {}),
            ...(options.trusted === false ? {} : { ca: readFileSync(join(folder, 'root-cert.pem')) }),
            headers: { ...(text === undefined ? {} : { 'content-type': 'application/json' }), ...options.headers },
          },
          (reply) => {
            let said = '';
            reply.on('data', (data: Buffer) => (said += data.toString()));
            reply.on('end', () =>
              resolve({ status: reply.statusCode!, text: said, cookies: reply.headers['set-cookie'] ?? [], serial }),
            );
          },
        );
        out.on('socket', (socket) =>
          socket.on('secureConnect', () => {
            serial = (socket as unknown as { getPeerCertificate(): { serialNumber: string } }).getPeerCertificate()
              .serialNumber;
          }),
        );
        out.on('error', reject);
        out.end(text);
      });

    const signIn = (headers: Record<string, string> = {}) =>
      ask('POST', '/api/session', { body: { personId: house.owner.id, pin: PIN }, headers });

    it('a device that trusts the root signs in, its cookie goes over this line alone, and it records', async () => {
      await expectAsync(ask('GET', '/api/sign-in', { trusted: false })).toBeRejectedWithError(/certificate/);
      const signed = await signIn({ origin: `https://127.0.0.1:${port}` });
      expect(signed.status).toBe(200);
      expect(signed.cookies.every((one) => /; secure/i.test(one))).toBeTrue();
      const cookie = signed.cookies.map((one) => one.split(';')[0]).join('; ');
      const { status, text } = await ask('GET', '/api/network', { headers: { cookie } });
      expect(status).toBe(200);
      const shown = networkReply.parse(JSON.parse(text));
      expect(shown.addresses[0]!.address).toBe(`https://127.0.0.1:${port}`);
      const root = await ask('GET', '/api/house.crt');
      expect(fingerprintOf(root.text)).toBe(shown.fingerprint!);
    });

    it('what changes something is taken under its own names and from its own pages', async () => {
      expect((await signIn({ host: 'elsewhere.example' })).status).toBe(403);
      expect((await signIn({ origin: `http://127.0.0.1:${port + 1}` })).status).toBe(403);
      expect((await signIn({ origin: 'https://elsewhere.example' })).status).toBe(403);
    });

    it('a certificate that nears its end is made anew while the house is open', async () => {
      const first = await ask('GET', '/api/sign-in');
      await network.again();
      expect((await ask('GET', '/api/sign-in')).serial).toBe(first.serial);
      now = later(365);
      await network.again();
      expect(network.shown()!.until.getTime()).toBeGreaterThan(later(700).getTime());
    });
  });
});
