import { expect, type Page, test } from '@playwright/test';
import { rmSync } from 'node:fs';
import { pick, record, type } from './hands.js';
import { RunningHouse } from './runningHouse.js';

const house = new RunningHouse('e2e-own-house');
test.beforeAll(async () => {
  test.setTimeout(120_000);
  rmSync(house.folder, { recursive: true, force: true });
  await house.start({ own: true });
});
test.afterAll(() => house.stop());

const id = (): string => crypto.randomUUID();
const read = async <T>(page: Page, path: string): Promise<T> =>
  (await (await page.request.get(`${house.address}${path}`)).json()) as T;

/** Handbook 2.1: 220 g of salt on 10 kg of cabbage, of which 0.92 is water; and of all of it. */
const WATER_PHASE = ((220 / (220 + 0.92 * 10_000)) * 100).toFixed(2);
const TOTAL = ((220 / 10_220) * 100).toFixed(2);

test('a house of one, founded an hour ago: from its own salt to a jar that leads back to it, one figure all the way', async ({
  page,
}) => {
  test.setTimeout(240_000);
  await page.goto(house.address);
  await type(page, 'Name of the house', 'Low Ford Ferments');
  await type(page, /^Two letters/, 'lf');
  await type(page, 'Your name', 'Ada Low');
  await type(page, 'Your PIN', '6284');
  await type(page, 'Once more', '6284');
  await page.getByRole('button', { name: /^Found Low Ford/ }).click();
  await expect(page.getByRole('heading', { name: 'Setting up Low Ford Ferments' })).toBeVisible();
  for (const name of ['Sea salt, fine', 'Rock salt'])
    await page
      .locator('ct-tick')
      .filter({ hasText: new RegExp(`^${name}`) })
      .click();
  await page.locator('summary').filter({ hasText: 'Produce' }).click();
  await page
    .locator('ct-tick')
    .filter({ hasText: /^White cabbage/ })
    .click();
  await page.getByRole('button', { name: /^Take 3/ }).click();
  await expect(page.getByRole('button', { name: /^Take of them/ })).toBeVisible();
  await pick(page, 'With', 'Sea salt, fine');
  await page.getByRole('button', { name: 'Write it, to be changed' }).click();
  await expect(page.getByRole('button', { name: 'Write it, to be changed' })).toContainText('recorded');

  // Rooms, vessels, a meter and what came, as somebody wrote them four days ago.
  const materials = (await read<{ materials: { id: string; name: string }[] }>(page, '/api/house')).materials;
  const material = (name: string): string => materials.find((one) => one.name === name)!.id;
  const [roomId, supplierId, vesselId, neglectedId, meterId] = [id(), id(), id(), id(), id()];
  const [cabbage, salt] = [id(), id()];
  const past = (kind: string, body: object, hoursAgo: number): Promise<void> =>
    record(page, house.address, kind, body, hoursAgo);
  await past('room.add', { roomId, name: 'Cellar', usualCelsius: 19, position: 0 }, 0);
  for (const [vessel, tag] of [
    [vesselId, 'C1'],
    [neglectedId, 'C2'],
  ] as const)
    await past(
      'vessel.add',
      {
        vesselId: vessel,
        tag,
        shape: 'crock',
        brimMl: 15_000,
        maxFill: 0.9,
        minFill: 0.5,
        weightVolumeMl: 0,
        closure: 'airlock',
        roomId,
        inUse: true,
      },
      0,
    );
  await past('supplier.add', { supplierId, name: 'Hollow Farm', prefix: 'HF', ownPlot: false }, 0);
  await past('meter.add', { meterId, tag: 'M1', name: 'Bench meter', kind: 'meter' }, 0);
  for (const [lotId, name, grams] of [
    [cabbage, 'White cabbage', 40_000],
    [salt, 'Sea salt, fine', 5000],
  ] as const)
    await past(
      'supply.receive',
      {
        lotId,
        materialId: material(name),
        supplierId,
        supplierLotCode: `HF-${name.length}`,
        grams,
        useBy: null,
        condition: null,
      },
      300,
    );
  const { formulas } = await read<{ formulas: { formulaId: string }[] }>(page, '/api/formulas');
  const formulaId = formulas[0]!.formulaId;
  /** Weighed, salted and filled so many hours ago. */
  const filled = async (vessel: string, hoursAgo: number): Promise<{ batchId: string; fillLotId: string }> => {
    const made = { batchId: id(), fillLotId: id() };
    await past('vessel.clean', { vesselId: vessel, agent: 'hot soapy water', rinsed: true }, hoursAgo + 1);
    const plan = { from: 'trimmed', trimmedGrams: 10_000 };
    await past('batch.start', { batchId: made.batchId, formulaId, version: 1, plan }, hoursAgo);
    const produce = { supplyLotId: cabbage, trimmedGrams: 10_000, trimWasteGrams: 900 };
    await past('produce.weigh', { batchId: made.batchId, ...produce }, hoursAgo);
    const dose = { saltLotId: salt, grams: 220, alreadyIn: false };
    await past('salt.weigh', { batchId: made.batchId, ...dose }, hoursAgo);
    await past('vessel.fill', { ...made, vesselId: vessel, grams: 10_220, brine: null }, hoursAgo);
    return made;
  };

  // A crock nobody read is held by the house's rules; that makes no second person of them.
  await filled(neglectedId, 290);
  await expect
    .poll(async () => JSON.stringify((await read<{ vessels: object[] }>(page, '/api/floor')).vessels), {
      timeout: 60_000,
    })
    .toContain('nobody looked in time');
  const { fillLotId } = await filled(vesselId, 96);
  for (const [hours, ph] of [
    [50, 4.3],
    [30, 4.05],
    [2, 4.0],
  ] as const) {
    const by = { how: 'shown', slopePercent: 98, offsetMillivolts: 1, buffers: [7, 4.01] };
    const check = { buffer: 4.01, read: 4.02 };
    await past('meter.calibrate', { meterId, celsius: 20, by, check }, hours + 1);
    await past('ph.read', { lotId: fillLotId, ph, sample: 'blended', meterId }, hours);
  }

  // One figure: on the formula, in the vessel's book, and where it is packed.
  await page.goto(`${house.address}/formulas/${formulaId}`);
  await page.getByRole('radio', { name: 'Trimmed' }).click();
  await type(page, 'Trimmed produce', '10');
  await expect(page.getByRole('complementary')).toContainText(`${WATER_PHASE} % usual`);
  await expect(page.getByRole('complementary')).toContainText(`${TOTAL} % of the total mass`);
  const { vessels } = await read<{ vessels: { vesselTag: string; code: string }[] }>(page, '/api/shelf');
  const code = vessels.find(({ vesselTag }) => vesselTag === 'C1')!.code;
  await page.goto(`${house.address}/lots/${code}`);
  await expect(page.locator('.head')).toContainText(
    `${WATER_PHASE} % water-phase salt, usual · ${TOTAL} % of the total`,
  );
  await page.goto(`${house.address}/pack`);
  await expect(page.getByText(`${WATER_PHASE} % water-phase salt, usual · ${TOTAL} % of the total mass`)).toBeVisible();

  await page.getByText(/^C1 · White cabbage/).click();
  await type(page, 'Taken from C1, of 10.22 kg', '9600');
  await type(page, '330 mL, 320 g', '30');
  await page.getByText(/^The line is clear/).click();
  await page.getByRole('button', { name: 'Issue 30 jar codes' }).click();
  await page.getByRole('link', { name: 'To its release' }).click();

  // Whoever packed it and is alone is told what a house of one can do; with a second owner that one signs.
  await expect(page.getByText(/you packed it, and nobody else here reviews/)).toBeVisible();
  const run = page.url();
  await past('person.add', { personId: id(), name: 'Bea Ford', initials: 'BF', role: 'owner', lastDay: null }, 0);
  await page.reload();
  await expect(page.getByText('Another reviewer of the house signs it.').first()).toBeVisible();
  await expect(page.getByText(/nobody else here reviews/)).toHaveCount(0);
  await page.getByRole('link', { name: 'Its way' }).click();
  await expect(page).toHaveURL(/\/trace\//);
  await expect(page.getByText('HF-0002').first()).toBeVisible();
  expect(run).toContain('/runs/');
});
