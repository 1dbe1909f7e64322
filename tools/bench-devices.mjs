import { createServer } from 'node:net';
import { say } from './say.mjs';

const median = (times) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];

/** Three devices that say when they said what: a scale that is watched, another one, a scanner that stays silent. */
export async function threeDevices() {
  const devices = await Promise.all(
    [
      ['scale-a', 'HELLO scale name=Watched simulated=no ranges=15000x1'],
      ['scale-b', 'HELLO scale name=Other simulated=no ranges=500x1'],
      ['scanner', 'HELLO scanner name=Scanner simulated=no'],
    ].map(async ([id, hello]) => {
      const sockets = new Set();
      const server = createServer((socket) => {
        sockets.add(socket);
        socket.write(`${hello}\n`);
        socket.on('error', () => undefined).on('close', () => sockets.delete(socket));
      });
      await new Promise((resolve) => server.listen(0, '127.0.0.1', resolve));
      return {
        id,
        port: server.address().port,
        server,
        speak: (line) => sockets.forEach((socket) => socket.write(`${line}\n`)),
        end: () => {
          sockets.forEach((socket) => socket.destroy());
          server.close();
        },
      };
    }),
  );
  return {
    devices,
    env: JSON.stringify(devices.map(({ id, port }) => ({ id, host: '127.0.0.1', port }))),
    end: () => devices.forEach((device) => device.end()),
  };
}

/** From the line a scale says to the figure on the bench's page, while another scale speaks twenty times a second. */
export async function scaleToBeam(page, address, { devices }) {
  const [watched, other] = devices;
  await page.goto(`${address}/make`);
  await page.locator('a.batch').filter({ hasText: 'waiting for its salt' }).first().click();
  await page
    .locator('.outline')
    .getByRole('button', { name: /^Weigh the salt/ })
    .click();
  await page.locator('ct-scale-bar').waitFor();
  const chatter = setInterval(() => other.speak(`READ ${Math.round(Math.random() * 400)} g moving tare=0 range=1`), 50);
  const times = [];
  for (let round = 0; round < 60; round += 1) {
    const grams = 100 + round;
    const seen = page.evaluate(
      (words) =>
        new Promise((resolve) => {
          const look = () =>
            document.querySelector('ct-beam') && document.querySelector('.big')?.textContent.trim().startsWith(words)
              ? resolve(performance.timeOrigin + performance.now())
              : null;
          const watch = new MutationObserver(() => {
            if (look()) watch.disconnect();
          });
          watch.observe(document.body, { subtree: true, childList: true, characterData: true });
          look();
        }),
      String(grams),
    );
    await new Promise((resolve) => setTimeout(resolve, 40));
    const said = performance.timeOrigin + performance.now();
    watched.speak(`READ ${grams} g settled tare=214 range=1`);
    times.push((await seen) - said);
  }
  clearInterval(chatter);
  say(`scale to beam, three devices: median ${median(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms`);
}

/** From the link to the outline of a run sheet of sixty steps. */
export async function longSheet(page, address) {
  const read = async (path) => (await page.request.get(address + path)).json();
  const { person } = await read('/api/session');
  const record = (kind, body) =>
    page.request.post(`${address}/api/entries`, {
      data: {
        entries: [
          { id: crypto.randomUUID(), kind, happenedAt: new Date().toISOString(), by: person.id, device: 'bench', body },
        ],
      },
    });
  const { materials } = await read('/api/house');
  const formulaId = crypto.randomUUID();
  await record('formula.save', {
    formulaId,
    number: 77,
    version: 1,
    name: 'Sixty steps',
    style: 'dryShred',
    produce: [{ materialId: materials.find((one) => one.kind === 'produce').id, share: 1 }],
    saltBasis: 'ofVegetable',
    saltFraction: 0.022,
    waterPerProduce: 0,
    lines: [],
    solidsFraction: 1,
    yields: { trim: 0.8, ferment: 0.95, pack: 0.97 },
    jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
    usualDays: 20,
    note: null,
    steps: Array.from({ length: 53 }, (_, index) => ({
      words: `Turn the bowl, ${index + 1}.`,
      minutes: 5,
      at: 'rest',
    })),
  });
  const batchId = crypto.randomUUID();
  await record('batch.start', { batchId, formulaId, version: 1, plan: { from: 'trimmed', trimmedGrams: 5000 } });
  await page.goto(`${address}/make`);
  const times = [];
  for (let round = 0; round < 8; round += 1) {
    const link = page.locator(`a.batch[href$="${batchId}"]`);
    await link.waitFor();
    times.push(
      await page.evaluate(
        (id) =>
          new Promise((resolve) => {
            const started = performance.now();
            document.querySelector(`a.batch[href$="${id}"]`).click();
            const look = () =>
              document.querySelectorAll('.outline .step').length >= 60
                ? resolve(performance.now() - started)
                : requestAnimationFrame(look);
            requestAnimationFrame(look);
          }),
        batchId,
      ),
    );
    await page.keyboard.press('2');
    await page.locator('a.batch').first().waitFor();
  }
  say(
    `run sheet of sixty steps opens: median ${median(times.slice(1)).toFixed(0)} ms, worst ${Math.max(...times.slice(1)).toFixed(0)} ms`,
  );
}
