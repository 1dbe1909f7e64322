import { say } from './say.mjs';

const ROWS = 5000;
const SCROLLS = 80;
const IDLE_MS = 10_000;

/** A list of five thousand lots: how long the page stands still while it is scrolled, and while it is filtered to three. */
export async function longList(page, address) {
  const lots = Array.from({ length: ROWS }, (_, at) => ({
    lotId: crypto.randomUUID(),
    code: `NY26-${String(at).padStart(4, '0')}-A`,
    kind: ['batch', 'fill', 'run', 'supply'][at % 4],
    name: at % 1667 === 0 ? 'Rare sauce' : `Shred ${at % 90}`,
    at: new Date(Date.now() - at * 3_600_000).toISOString(),
    state: 'live',
    lastPh: 3.6,
    lastPhAt: new Date(Date.now() - at * 3_600_000).toISOString(),
    phCounts: true,
    onHandGrams: 14_600,
    vesselTag: null,
    jars: null,
  }));
  await page.route('**/api/lots?**', (route) => route.fulfill({ json: { lots, next: null } }));
  await page.goto(`${address}/lots`);
  await page.getByText('Shred 1', { exact: true }).first().waitFor();
  await page.waitForTimeout(1000);
  await page.evaluate(() => {
    globalThis.gaps = [];
    let last = performance.now();
    const look = (now) => {
      globalThis.gaps.push(now - last);
      last = now;
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  });
  await page.mouse.move(500, 500);
  for (let at = 0; at < SCROLLS; at += 1) {
    await page.mouse.wheel(0, 900);
    await page.waitForTimeout(40);
  }
  const gaps = await page.evaluate(() => globalThis.gaps.slice(2).sort((a, b) => b - a));
  const worst = gaps[0];
  say(
    `a list of ${ROWS} lots scrolled: worst frame ${worst.toFixed(0)} ms, then ${gaps[1].toFixed(0)} and ${gaps[2].toFixed(0)}, ${gaps.filter((gap) => gap > 50.5).length} of ${gaps.length} over 50 ms`,
  );
  await page.unroute('**/api/lots?**');
}

/** How much of its time the page's one thread is free while three devices speak, at the step that follows the scale. */
export async function idleBesideDevices(page, address) {
  const { batches } = await (await page.request.get(`${address}/api/making`)).json();
  const [batch] = batches.filter(({ stage }) => stage === 'forSalt');
  if (!batch) throw new Error('No batch waits for its salt.');
  await page.goto(`${address}/make/${batch.batchId}?step=salt`);
  await page.getByRole('heading', { name: 'Weigh the salt' }).waitFor();
  await page.waitForTimeout(2000);
  const session = await page.context().newCDPSession(page);
  await session.send('Performance.enable');
  const busy = async () =>
    (await session.send('Performance.getMetrics')).metrics.find(({ name }) => name === 'TaskDuration').value;
  const before = await busy();
  await page.waitForTimeout(IDLE_MS);
  const idle = 1 - ((await busy()) - before) / (IDLE_MS / 1000);
  say(`main thread idle beside three devices: ${(idle * 100).toFixed(0)} %`);
}
