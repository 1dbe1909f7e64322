import { type Browser, chromium, expect, type Page, test } from '@playwright/test';
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { request } from 'node:https';
import { networkInterfaces } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import QRCode from 'qrcode';
import sharp from 'sharp';
import { wholeBrowserPath } from '../tools/browser.mjs';
import { openCluster } from '../tools/postgres.mjs';
import { violationsOf } from './hands.js';
import { RunningHouse } from './runningHouse.js';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
const house = new RunningHouse('e2e-network');
const film = join(ROOT, '.data', 'e2e-camera.mjpeg');

/** This machine from outside; one that is in no network is reached on its loopback. */
const outside =
  Object.values(networkInterfaces())
    .flat()
    .find((one) => one && !one.internal && one.family === 'IPv4')?.address ?? '127.0.0.1';
let there: Awaited<ReturnType<typeof openCluster>>;
let url: string;

test.beforeAll(async () => {
  test.setTimeout(180_000);
  rmSync(house.folder, { recursive: true, force: true });
  mkdirSync(dirname(film), { recursive: true });
  // A server of PostgreSQL that is there already, and a role of it that may make roles and databases, nothing more.
  there = await openCluster({ folder: join(ROOT, '.data', 'e2e-there'), durable: false });
  const admin = new pg.Client({ connectionString: there.adminUrl() });
  await admin.connect();
  await admin.query('drop database if exists clear_tally_own with (force)');
  await admin.query('drop role if exists yard');
  await admin.query("create role yard login password 'p w/1'");
  await admin.end();
  url = `postgres://yard:${encodeURIComponent('p w/1')}@127.0.0.1:${there.port}/postgres`;
});
test.afterAll(async () => {
  await house.stop();
  there.stop();
});

const signIn = async (page: Page, address: string, pin: string): Promise<void> => {
  await page.goto(`${address}/sign-in`);
  await page.getByRole('radio', { name: 'Alma Body' }).click();
  await page.getByLabel('PIN').fill(pin);
  await page.getByRole('button', { name: 'Sign in' }).click();
};

test('a house on a database that is there, opened from another device over an encrypted line, scanned with its camera', async ({
  page,
  browser,
}) => {
  test.setTimeout(240_000);
  // What the role lacks is said, with the words that give it.
  await expect(house.start({ own: true, env: { DATABASE_URL: url } })).rejects.toThrow(
    /may not make roles and databases.*ALTER ROLE "yard" CREATEROLE CREATEDB;/s,
  );
  const admin = new pg.Client({ connectionString: there.adminUrl() });
  await admin.connect();
  await admin.query('alter role yard createrole createdb');
  await admin.query('grant clear_tally_owner, clear_tally_app to yard with admin option');
  await admin.end();
  await house.start({ own: true, args: ['--host', '0.0.0.0'], env: { DATABASE_URL: url } });
  expect(existsSync(join(house.folder, 'cluster')), 'no database of its own').toBe(false);
  const founded = await page.request.post(`${house.address}/api/found`, {
    data: {
      house: { name: 'Two Elms', site: 'TE', timeZone: 'Europe/Dublin', decimalMark: 'point' },
      owner: { name: 'Alma Body', initials: 'AB', pin: '735146' },
    },
  });
  expect(founded.status()).toBe(200);

  await page.goto(`${house.address}/other-devices`);
  await expect(page.getByRole('img', { name: /as a code$/ })).toBeVisible();
  const address = `https://${outside}:${Number(new URL(house.address).port) + 1}`;
  await expect(page.getByText(address).first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  const print = await page.locator('.print').innerText();
  const root = await page.request.get(`${house.address}/api/house.crt`);
  const looked = spawnSync('openssl', ['x509', '-noout', '-fingerprint', '-sha256'], {
    input: await root.body(),
    encoding: 'utf8',
  });
  // Where openssl is not installed the fingerprint is compared by the server's own tests alone.
  if (looked.status === 0) expect(looked.stdout).toContain(print);

  // A device that was told to trust the house's root sees a line that needs no exception.
  const trusted = await new Promise<number>((resolve, reject) => {
    const ca = readFileSync(join(house.folder, 'certificate', 'root-cert.pem'));
    request(`${address}/api/sign-in`, { ca }, (reply) => resolve(reply.statusCode ?? 0))
      .on('error', reject)
      .end();
  });
  expect(trusted).toBe(200);

  const tablet = await browser.newContext({ ignoreHTTPSErrors: true, viewport: { width: 1024, height: 768 } });
  const other = await tablet.newPage();
  await signIn(other, address, '735146');
  await expect(other).toHaveURL(/floor|founding/);
  expect((await tablet.cookies()).every(({ secure }) => secure)).toBe(true);
  await other.goto(`${address}/vessels`);
  await other.getByRole('radio', { name: 'A room', exact: true }).click();
  await other.getByLabel('Its name').fill('Loft');
  await other.getByLabel('Usual temperature').fill('19');
  await other.getByRole('button', { name: 'Add Loft' }).click();
  await expect(other.getByRole('heading', { name: 'Loft', exact: true })).toBeVisible();
  await tablet.close();

  const camera = await withCamera(`${address}/trace/TE26-001-A`);
  const [scanning] = camera.contexts();
  const scanned = scanning!.pages()[0]!;
  await signIn(scanned, house.address, '735146');
  await scanned.waitForURL(/floor|founding/);
  await scanned.getByRole('button', { name: 'Scan with the camera' }).click();
  await expect(scanned).toHaveURL(/\/trace\/TE26-001-A$/, { timeout: 20_000 });
  await expect(scanned.getByRole('dialog', { name: 'Scan with the camera' })).toBeHidden();
  await camera.close();

  // Stopped and started again it is the same house, on the same database.
  await house.stop();
  await house.start({ own: true, args: ['--host', '0.0.0.0'], env: { DATABASE_URL: url } });
  await signIn(page, house.address, '735146');
  await page.goto(`${house.address}/vessels`);
  await expect(page.getByRole('heading', { name: 'Loft', exact: true })).toBeVisible();
});

/** A browser before whose camera a label is held. */
async function withCamera(content: string): Promise<Browser> {
  const symbol = await QRCode.toBuffer(content, { width: 300, margin: 4 });
  const frame = await sharp({ create: { width: 640, height: 480, channels: 3, background: '#9a9' } })
    .composite([{ input: symbol, left: 170, top: 90 }])
    .jpeg({ quality: 95 })
    .toBuffer();
  writeFileSync(film, Buffer.concat([frame, frame]));
  const browser = await chromium.launch({
    executablePath: wholeBrowserPath(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-dev-shm-usage',
      '--disable-background-networking',
      '--no-first-run',
      '--use-fake-device-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
  });
  await (await browser.newContext({ permissions: ['camera'], viewport: { width: 390, height: 844 } })).newPage();
  return browser;
}

test('a service is written out: as whom, where, and that it comes back', () => {
  const printed = spawnSync(process.execPath, ['tools/install-service.mjs', '--print', '--host', '0.0.0.0'], {
    cwd: ROOT,
    encoding: 'utf8',
  });
  for (const line of [
    'User=clear-tally',
    'Environment=CLEAR_TALLY_DATA=/var/lib/clear-tally',
    'Restart=always',
    'WantedBy=multi-user.target',
  ])
    expect(printed.stdout).toContain(`${line}\n`);
  expect(printed.stdout).toMatch(/^ExecStart=.*start\.mjs --house --as-built --port 4280 --host 0\.0\.0\.0$/m);
  const bad = spawnSync(process.execPath, ['tools/install-service.mjs', '--print', '--user', 'a b'], {
    cwd: ROOT,
    encoding: 'utf8',
  });
  expect(bad.stderr).toContain('“a b” cannot be a --user');
});
