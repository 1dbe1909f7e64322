import { say } from './say.mjs';

const median = (times) => [...times].sort((a, b) => a - b)[Math.floor(times.length / 2)];
const spread = (times) => `median ${median(times).toFixed(0)} ms, worst ${Math.max(...times).toFixed(0)} ms`;

/** From the last letter to the answer: 200 L into sixty vessels, fitted in the worker; and how long the page was blocked meanwhile. */
export async function vesselFit(page, address) {
  await page.goto(`${address}/tools`);
  await page.getByRole('button', { name: 'Vessels for a batch', exact: true }).click();
  const area = page.getByRole('region', { name: 'Vessels for a batch', exact: true });
  // Sixty of twenty sizes, none of them round.
  await area
    .getByLabel(/Vessels, litres/)
    .fill(Array.from({ length: 60 }, (_, i) => (4 + ((i * 7) % 20) * 0.85).toFixed(2)).join(' '));
  const times = [];
  const gaps = [];
  for (let round = 0; round < 12; round += 1) {
    const { took, gap } = await page.evaluate(
      (litres) =>
        new Promise((resolve) => {
          const region = document.getElementById('head-fit').closest('section');
          const field = region.querySelector('ct-figure input');
          let last = performance.now();
          let widest = 0;
          let alive = true;
          const beat = () => {
            const now = performance.now();
            widest = Math.max(widest, now - last);
            last = now;
            if (alive) requestAnimationFrame(beat);
          };
          requestAnimationFrame(beat);
          const started = performance.now();
          const watch = new MutationObserver(() => {
            if (!region.querySelector('ct-vessel-fit svg')) return;
            watch.disconnect();
            alive = false;
            resolve({ took: performance.now() - started, gap: widest });
          });
          watch.observe(region, {
            childList: true,
            subtree: true,
            characterData: true,
            attributes: true,
            attributeFilter: ['width'],
          });
          field.value = String(litres);
          field.dispatchEvent(new Event('input'));
        }),
      200 - round * 1.3,
    );
    if (round > 1) {
      times.push(took);
      gaps.push(gap);
    }
    await page.waitForTimeout(250);
  }
  say(
    `vessel fit, 60 vessels, 200 L, from the last letter (60 ms of them waiting for the next one): ${spread(times)}; longest the page stood still: ${Math.max(...gaps).toFixed(0)} ms`,
  );
}

/** From a letter typed to the new table of a formula of forty lines. */
export async function rescaling(page, address) {
  await page.goto(`${address}/formulas`);
  const made = await page.evaluate(async () => {
    const house = await (await fetch('/api/house')).json();
    const { person } = await (await fetch('/api/session')).json();
    const id = () => crypto.randomUUID();
    const formulaId = id();
    const spices = house.materials.filter((one) => one.kind === 'flavouring');
    const body = {
      formulaId,
      number: 99,
      version: 1,
      name: 'Forty lines',
      style: 'brinedWhole',
      produce: [{ materialId: house.materials.find((one) => one.kind === 'produce').id, share: 1 }],
      saltBasis: 'ofEverything',
      saltFraction: 0.026,
      waterPerProduce: 0.7,
      lines: Array.from({ length: 40 }, (_, i) => ({
        materialId: spices[i % spices.length].id,
        scaleBy: i % 3 ? 'mainMass' : 'everything',
        amount: 0.001 + i / 10000,
      })),
      solidsFraction: 0.58,
      yields: { trim: 0.81, ferment: 0.93, pack: 0.97 },
      jarSizes: [{ sizeMl: 330, fillGrams: 320 }],
      usualDays: 21,
      note: null,
    };
    const reply = await fetch('/api/entries', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        entries: [
          {
            id: id(),
            kind: 'formula.save',
            happenedAt: new Date().toISOString(),
            by: person.id,
            device: 'bench',
            body,
          },
        ],
      }),
    });
    return { ok: reply.ok, formulaId };
  });
  if (!made.ok) return say('rescaling: the formula of forty lines was refused');
  await page.goto(`${address}/formulas/${made.formulaId}`);
  await page.getByLabel('Jars of 330 mL').fill('1');
  const times = [];
  for (let round = 0; round < 40; round += 1) {
    const took = await page.evaluate(
      (count) =>
        new Promise((resolve) => {
          const field = [...document.querySelectorAll('ct-count input')][0];
          const table = document.querySelector('main table.book');
          const watch = new MutationObserver(() => {
            watch.disconnect();
            resolve(performance.now() - started);
          });
          watch.observe(table, { childList: true, subtree: true, characterData: true });
          const started = performance.now();
          field.value = String(count);
          field.dispatchEvent(new Event('input'));
        }),
      100 + round * 7,
    );
    if (round > 4) times.push(took);
    await page.waitForTimeout(30);
  }
  say(
    `rescaling a formula of 40 lines while typing: median ${median(times).toFixed(1)} ms, worst ${Math.max(...times).toFixed(1)} ms`,
  );
}

/** A delivery list of 2,000 rows: from the file to its preview, and from the tap to the last row received. */
export async function deliveryList(page, address) {
  await page.goto(`${address}/stores/delivery`);
  const rows = Array.from(
    { length: 2000 },
    (_, i) => `Swede,Causeway Growers,BE-${i},${(i % 9) + 1},kg,3.2,2026-12-24`,
  );
  const started = performance.now();
  await page.getByLabel('Delivery list').setInputFiles({
    name: 'list.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`material,supplier,lot,quantity,unit,cost,use by\n${rows.join('\n')}`),
  });
  await page.getByText('2000 rows are sound').waitFor();
  const shown = performance.now() - started;
  await page.getByRole('button', { name: 'Receive all 2000' }).click();
  await page.getByText('2000 lines are received').waitFor({ timeout: 60_000 });
  say(
    `delivery list of 2,000 rows: preview ${shown.toFixed(0)} ms, preview and received ${(performance.now() - started).toFixed(0)} ms`,
  );
}
