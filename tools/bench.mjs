import { spawn, spawnSync } from 'node:child_process';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { deliveryList, rescaling, vesselFit } from './bench-page.mjs';
import { fullFloor } from './bench-floor.mjs';
import { longSheet, scaleToBeam, threeDevices } from './bench-devices.mjs';
import { idleBesideDevices, longList } from './bench-lists.mjs';
import { browserPath } from './browser.mjs';
import { ensurePackages } from './install.mjs';
import { inRoot, ROOT } from './paths.mjs';
import { run, say } from './say.mjs';

/** Performance is measured here, never in a timed test. */
await run(async () => {
  ensurePackages();
  const { ensureDatabase, openCluster } = await import('./postgres.mjs');
  const { buildWeb } = await import('./build.mjs');
  buildWeb();
  if (process.argv.includes('--page')) {
    firstLoad();
    return onThePage();
  }
  const cluster = await openCluster({ folder: inRoot('.data', 'bench') });
  // The house of ten years alone: made, asked, and set against the plain ways.
  if (process.argv.includes('--big')) {
    for (const batches of [200, 2000, 20_000]) await growth(cluster, batches, ensureDatabase, { MINUTES: '' });
    return cluster.stop();
  }
  await ensureDatabase(cluster, 'bench', { fresh: true });
  spawnSync(process.execPath, ['--import', 'tsx', 'apps/server/bench/main.ts'], {
    cwd: ROOT,
    stdio: 'inherit',
    env: { ...process.env, DATABASE_URL: cluster.appUrl('bench'), DATABASE_OWNER_URL: cluster.ownerUrl('bench') },
  });
  for (const batches of process.argv.includes('--ten-years') ? [200, 2000, 20_000] : [])
    await growth(cluster, batches, ensureDatabase);
  cluster.stop();
  firstLoad();
  await onThePage();
});

/** What every read of a page costs in a house of so many past batches; in the largest, fifty readers and eight recorders for ten minutes. */
async function growth(cluster, batches, ensureDatabase, more = {}) {
  await ensureDatabase(cluster, 'growth', { fresh: true });
  spawnSync(process.execPath, ['--import', 'tsx', 'apps/server/bench/growth.ts'], {
    cwd: ROOT,
    stdio: 'inherit',
    env: {
      ...process.env,
      BATCHES: String(batches),
      ...(batches >= 20_000 ? { MINUTES: process.env.MINUTES ?? '10' } : {}),
      ...more,
      DATABASE_URL: cluster.appUrl('growth'),
      DATABASE_OWNER_URL: cluster.ownerUrl('growth'),
    },
  });
}

/** What a person at the page waits for, in a demo house of its own, which is ended whatever comes. */
async function onThePage() {
  const { chromium } = await import('@playwright/test');
  const port = 4390;
  const bench = await threeDevices();
  const house = spawn(process.execPath, [inRoot('tools/start.mjs'), '--port', String(port), '--fresh', '--yes'], {
    cwd: ROOT,
    env: { ...process.env, CLEAR_TALLY_DATA: inRoot('.data', 'bench-house'), CLEAR_TALLY_DEVICES: bench.env },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  const ended = new Promise((resolve) => house.once('exit', resolve));
  const ready = new Promise((resolve) =>
    house.stdout.on('data', (data) => String(data).includes('is ready at') && resolve()),
  );
  let browser;
  try {
    await Promise.race([ready, ended.then(() => Promise.reject(new Error('the house of the bench did not start')))]);
    browser = await chromium.launch({
      executablePath: browserPath(),
      args: ['--no-sandbox', '--disable-gpu', '--disable-dev-shm-usage'],
    });
    await measured(browser, `http://127.0.0.1:${port}`, bench);
  } finally {
    await browser?.close();
    bench.end();
    house.kill('SIGINT');
    await ended;
  }
}

async function measured(browser, address, bench) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${address}/sign-in`);
  await page.getByRole('radio', { name: 'Odile Marr' }).click();
  await page.getByLabel('PIN').fill('2711');
  await page.keyboard.press('Enter');
  await page.waitForURL('**/floor');
  await placeChange(page);
  for (const one of [idleBesideDevices, longList, vesselFit, rescaling, deliveryList, longSheet, fullFloor])
    await alone(one.name, () => one(page, address));
  await alone('scaleToBeam', () => scaleToBeam(page, address, bench));
}

/** What cannot be measured says so and keeps no other from it. */
async function alone(name, measure) {
  try {
    await measure();
  } catch (error) {
    say(`${name}: not measured. ${error.message}`);
    process.exitCode = 1;
  }
}

/** From the key to the first heading of the place, after each place was opened once. */
async function placeChange(page) {
  const places = ['Floor', 'Make', 'Pack', 'Lots', 'Trace', 'Formulas', 'Tools', 'Stores', 'Guide', 'Office'];
  const times = [];
  for (let round = 0; round < 6; round += 1) {
    for (const place of places) {
      const took = await page.evaluate(
        (name) =>
          new Promise((resolve) => {
            const started = performance.now();
            const link = [...document.querySelectorAll('nav a')].find((a) => a.textContent.startsWith(name));
            link.click();
            const look = () =>
              link.classList.contains('here') && document.querySelector('main h1')
                ? resolve(performance.now() - started)
                : requestAnimationFrame(look);
            requestAnimationFrame(look);
          }),
        place,
      );
      if (round > 0) times.push(took);
      await page.waitForTimeout(150);
    }
  }
  times.sort((a, b) => a - b);
  say(`place change: median ${times[Math.floor(times.length / 2)].toFixed(0)} ms, worst ${times.at(-1).toFixed(0)} ms`);
}

/** Script and style that a browser fetches before a place is shown: what index.html names, and the frame. */
function firstLoad() {
  const folder = inRoot('dist/web/browser');
  const index = readFileSync(join(folder, 'index.html'), 'utf8');
  const named = new Set([...index.matchAll(/(?:src|href)="([^"]+\.(?:js|css))"/g)].map((match) => match[1]));
  const frame = readdirSync(folder).find(
    (name) => name.endsWith('.js') && readFileSync(join(folder, name), 'utf8').includes('ct-code-box'),
  );
  if (frame) named.add(frame);
  // A script brings along what it imports at once; what it imports later is not fetched yet.
  for (const name of named) {
    if (!name.endsWith('.js')) continue;
    for (const [, other] of readFileSync(join(folder, name), 'utf8').matchAll(/(?:from|import)\s*"\.\/([\w-]+\.js)"/g))
      named.add(other);
  }
  const bytes = [...named].reduce((sum, name) => sum + gzipSync(readFileSync(join(folder, name))).length, 0);
  say(`first load: ${(bytes / 1024).toFixed(0)} KB gzip of script and style in ${named.size} files, frame included`);
}
