import { say } from './say.mjs';

const VESSELS = 200;
const median = (values) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

/** From the key to two hundred vessels on their shelves, each with its due checks. */
export async function fullFloor(page, address) {
  const read = async (path) => (await page.request.get(address + path)).json();
  const { person } = await read('/api/session');
  const ago = (hours) => new Date(Date.now() - hours * 3_600_000).toISOString();
  const record = async (entries) => {
    const reply = await page.request.post(`${address}/api/entries`, {
      data: {
        entries: entries.map(([kind, body, hours]) => ({
          id: crypto.randomUUID(),
          kind,
          happenedAt: ago(hours),
          by: person.id,
          device: 'bench',
          body,
        })),
      },
    });
    if (reply.status() !== 200) throw new Error(await reply.text());
  };
  const { rooms } = await read('/api/house');
  const { vessels } = await read('/api/floor');
  const many = Array.from({ length: VESSELS - vessels.length }, (_, index) => ({
    tag: `Z${index}`,
    vesselId: crypto.randomUUID(),
    fillLotId: crypto.randomUUID(),
    roomId: rooms[index % 2].id,
  }));
  // A day has codes for twenty-six batches.
  for (let from = 0; from < many.length; from += 20) {
    const opened = 290 + 24 * (from / 20);
    await record(
      many.slice(from, from + 20).flatMap(({ tag, vesselId, fillLotId, roomId }) => [
        [
          'vessel.add',
          {
            vesselId,
            tag,
            shape: 'glass',
            brimMl: 5000,
            maxFill: 0.9,
            minFill: 0.4,
            weightVolumeMl: 0,
            closure: 'airlock',
            roomId,
            inUse: true,
          },
          opened + 10,
        ],
        [
          'lot.open',
          {
            what: 'vessel',
            batchId: crypto.randomUUID(),
            fillLotId,
            name: 'Old roots',
            vesselId,
            grams: 4000,
            filledOn: ago(opened + 100).slice(0, 10),
          },
          opened,
        ],
        ...[200, 120, 30].map((hours) => ['ph.read', { lotId: fillLotId, ph: 3.7, sample: 'blended' }, hours]),
      ]),
    );
  }
  const times = [];
  for (let round = 0; round < 9; round += 1) {
    await page.keyboard.press('4');
    await page.waitForURL('**/lots');
    await page.waitForTimeout(400);
    times.push(
      await page.evaluate(
        (least) =>
          new Promise((resolve) => {
            const started = performance.now();
            [...document.querySelectorAll('nav a')].find((a) => a.textContent.startsWith('Floor')).click();
            const look = () =>
              document.querySelectorAll('.shelves .room li').length >= least
                ? resolve(performance.now() - started)
                : requestAnimationFrame(look);
            requestAnimationFrame(look);
          }),
        VESSELS,
      ),
    );
    await page.waitForTimeout(300);
  }
  say(
    `floor with ${VESSELS} vessels opens: median ${median(times.slice(1)).toFixed(0)} ms, worst ${Math.max(...times.slice(1)).toFixed(0)} ms`,
  );
}
