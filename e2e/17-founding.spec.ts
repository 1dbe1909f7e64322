import exceljs from 'exceljs';
import { expect, type Locator, type Page, test } from '@playwright/test';
import { rmSync } from 'node:fs';
import { atRest, comeIn, violationsOf } from './hands.js';
import { houseOf, RunningHouse } from './runningHouse.js';

const empty = new RunningHouse('e2e-founding');
test.beforeAll(async () => {
  test.setTimeout(120_000);
  rmSync(empty.folder, { recursive: true, force: true });
  await empty.start({ own: true });
});
test.afterAll(() => empty.stop());
const demo = houseOf('over');

test('a house of three people, two rooms, twenty vessels and twenty materials starts its first batch in 120 taps', async ({
  page,
}) => {
  test.setTimeout(180_000);
  let taps = 0;
  const tap = async (what: Locator): Promise<void> => {
    taps += 1;
    await what.click();
  };
  const type = async (label: string | RegExp, text: string): Promise<void> => {
    taps += 1;
    await page.getByLabel(label, { exact: typeof label === 'string' }).fill(text);
  };
  const press = (name: string | RegExp): Promise<void> =>
    tap(page.getByRole('button', { name, exact: typeof name === 'string' }));
  await page.goto(empty.address);
  await expect(page.getByRole('heading', { name: 'Found your house' })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await type('Name of the house', 'Two Elms Ferments');
  await type(/^Two letters/, 'te');
  await type('Your name', 'Alma Body');
  await type('Your PIN', '7351');
  await expect(page.getByRole('button', { name: /^Found/ })).toContainText('the same PIN once more');
  await type('Once more', '7351');
  await press(/^Found Two Elms/);
  await expect(page.getByRole('heading', { name: 'Setting up Two Elms Ferments' })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  // What a simulated scale shows was weighed by nothing: it has no place in a book that counts.
  expect(await (await page.request.get(`${empty.address}/api/devices`)).json()).toEqual({ devices: [] });
  await expect(page.getByRole('button', { name: 'Simulated bench' })).toHaveCount(0);

  await tap(page.getByRole('link', { name: 'Begin' }).first());
  for (const [name, celsius] of [
    ['Cellar', '13'],
    ['Loft', '19'],
  ] as const) {
    await tap(page.getByRole('radio', { name: 'A room' }));
    await type('Its name', name);
    await type('Usual temperature', celsius);
    await press(`Add ${name}`);
    await expect(page.getByRole('heading', { name, exact: true })).toBeVisible();
  }
  for (const [tags, litres, many] of [
    ['C1-C6', '30', 6],
    ['G1-G14', '5', 14],
  ] as const) {
    await tap(page.getByRole('radio', { name: 'A vessel' }));
    await type('Tag, or several', tags);
    await type('Holds to the brim', litres);
    await press(`Add ${many} vessels`);
    await expect(page.getByRole('button', { name: new RegExp(`^${tags.slice(0, 2)} `) })).toBeVisible();
  }
  await type('Tag, or several', 'C3');
  await expect(page.getByText('There is a vessel C3 already.')).toBeVisible();
  await page.getByLabel('Tag, or several').fill('');
  await atRest(page);
  expect(await violationsOf(page)).toEqual([]);

  await tap(page.getByRole('link', { name: 'Who comes in' }));
  for (const [name, pin] of [
    ['Bo Maker', '4826'],
    ['Cy Other', '9153'],
  ] as const) {
    await type('Name', name);
    await type('A first PIN', pin);
    await press(`Add ${name}`);
    await expect(page.getByRole('row', { name: new RegExp(name) })).toBeVisible();
  }
  await tap(page.getByRole('link', { name: 'Setting up' }));
  const pick = async (kind: string, names: readonly string[]): Promise<void> => {
    if (kind !== 'Salt') await tap(page.locator('summary').filter({ hasText: kind }));
    for (const name of names) await tap(page.locator('ct-tick').filter({ hasText: new RegExp(`^${name}(,|$)`) }));
  };
  await pick('Salt', ['Sea salt, fine']);
  await pick('Water', ['Tap water']);
  await pick('Produce', [
    'White cabbage',
    'Red cabbage',
    'Carrots',
    'Beetroot',
    'Turnips',
    'Radishes',
    'Garlic',
    'Onions',
  ]);
  await pick('Spices', [
    'Black pepper',
    'Juniper berries',
    'Caraway seed',
    'Mustard seed',
    'Dill seed',
    'Bay leaves',
    'Thyme',
    'Ginger',
  ]);
  await pick('Packaging', ['Jars', 'Lids']);
  await press('Take 20 of them');
  await expect(page.getByText('All of them are in your stores.').first()).toBeHidden();
  await press('Write it, to be changed');
  await expect(page.getByRole('button', { name: 'Write it, to be changed' })).toContainText('recorded');

  // A delivery, from a supplier who is new.
  const { materials } = (await (await page.request.get(`${empty.address}/api/house`)).json()) as {
    materials: { id: string; name: string }[];
  };
  expect(materials.length).toBe(20);
  await tap(page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: /^Make/ }));
  await tap(page.getByRole('link', { name: /, shred/ }).first());
  await tap(page.getByRole('radio', { name: 'Trimmed' }));
  await type('Trimmed produce', '5');
  await press(/^Start/);
  await expect(page).toHaveURL(/\/make\//);
  expect(taps).toBeLessThanOrEqual(120);
});

test('a house from one workbook, in a handful of taps; brought again it changes nothing', async ({ page }) => {
  await comeIn(page, empty.address, 'Alma Body', '7351');
  await page.goto(`${empty.address}/founding`);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'Take the template' }).click();
  const book = new exceljs.Workbook();
  await book.xlsx.readFile(await (await download).path());
  expect(book.worksheets.map(({ name }) => name)).toEqual([
    'Rooms',
    'Vessels',
    'Suppliers',
    'Materials',
    'People',
    'Equipment',
    'Formulas',
    'Formula lines',
    'Standing',
    'How',
  ]);
  const before = await housed(page);
  book.getWorksheet('Rooms')!.addRow(['Drying room', 24]);
  book.getWorksheet('Vessels')!.addRow(['R1-R12', 'glass', 5, '', 88, '', 'airlock', 'Drying room']);
  book.getWorksheet('Vessels')!.addRow(['R1', 'urn', 5, '', 88, '', 'airlock', 'Drying room']);
  book.getWorksheet('Materials')!.addRow(['Celery salt', 'flavouring', 1, 60, '', 'celery', '']);
  book.getWorksheet('Materials')!.addRow(['Field beets', 'produce', 88, '', 80, '', '', 'vegetable', 'its variety']);
  book.getWorksheet('Materials')!.addRow(['Lagoon salt', 'salt', 2, 98, '', '', '']);
  book
    .getWorksheet('Formulas')!
    .addRow(['Beet shred', 'in its own juice', 2.2, 'of the vegetable', 'Lagoon salt', '', 80, 95, 97, 330, 320, 28]);
  book.getWorksheet('Formula lines')!.addRow(['Beet shred', 'Field beets', 100]);
  book.getWorksheet('Formula lines')!.addRow(['Beet shred', 'Celery salt', '', 3]);
  book.getWorksheet('Standing')!.addRow(['vessel', 'Beets of October', 'R1', 3.6, '', '', '', '2026-10-20']);
  book.getWorksheet('Standing')!.addRow(['jars', 'Old beets', '', '', 24, 330, 320, '']);
  book.getWorksheet('People')!.addRow(['Bo Hale', 'BH', 'maker']);
  book.getWorksheet('Equipment')!.addRow(['SC7', 'scale', 'Bench scale', 6000, 1, '', '', 'Drying room']);
  const bring = async (): Promise<void> =>
    page.getByLabel('Bring it filled in').setInputFiles({
      name: 'house.xlsx',
      mimeType: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
      buffer: Buffer.from(await book.xlsx.writeBuffer()),
    });
  await bring();
  const brought = page.getByRole('status', { name: 'What the workbook brings' });
  await expect(brought).toContainText('“urn” was given; accepted: crock, drum, glass');
  await expect(page.getByRole('button', { name: /^Take in/ })).toHaveCount(0);
  const vessels = book.getWorksheet('Vessels')!;
  vessels.spliceRows(vessels.rowCount, 1);
  await bring();
  await expect(brought).toContainText('12 vessels: R1, R2');
  await expect(brought).toContainText('equipment: SC7');
  await expect(brought).toContainText('1 formula: Beet shred');
  await expect(brought).toContainText('standing here already: R1 Beets of October, 24 jars of Old beets');
  await page.getByRole('button', { name: 'Take in 21 rows' }).click();
  await expect(page.getByText('21 rows taken in')).toBeVisible();
  const after = await housed(page);
  expect([after.rooms - before.rooms, after.vessels - before.vessels, after.materials - before.materials]).toEqual([
    1, 12, 3,
  ]);
  await bring();
  await expect(brought).toContainText('Nothing new.');
  // What is no plain workbook is refused before anything of it is read.
  await page.getByLabel('Bring it filled in').setInputFiles({
    name: 'house.xlsx',
    mimeType: 'application/octet-stream',
    buffer: Buffer.from('PK, but no workbook at all'),
  });
  await expect(page.getByRole('alert')).toContainText('This is no XLSX workbook');
  expect(await housed(page)).toEqual(after);
  // The formula can be made, and what stood there is on the shelf.
  await page.goto(`${empty.address}/formulas`);
  await page
    .getByRole('link', { name: /Beet shred/ })
    .first()
    .click();
  await expect(page.getByRole('heading', { level: 1, name: 'Beet shred' })).toBeVisible();
  await page.getByLabel('Jars of 330 mL').fill('12');
  await expect(page.getByRole('button', { name: /^Start a batch/ })).toBeEnabled();
  await page.goto(`${empty.address}/floor`);
  await expect(page.getByRole('button', { name: /^R1, / }).first()).toBeVisible();
});

const housed = async (page: Page): Promise<{ rooms: number; vessels: number; materials: number }> => {
  const of = (await (await page.request.get(`${empty.address}/api/house`)).json()) as Record<
    'rooms' | 'vessels' | 'materials',
    unknown[]
  >;
  return { rooms: of.rooms.length, vessels: of.vessels.length, materials: of.materials.length };
};

test('from the demo house the own one is a press away, and the demo stays as it is', async ({ page }) => {
  test.setTimeout(120_000);
  await page.goto(`${demo.address}/sign-in`);
  await page.getByRole('button', { name: 'To the house of your own' }).click();
  await expect(page.getByRole('heading', { name: 'Found your house' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Look around in the demo house first' }).click();
  await expect(page.getByRole('radio', { name: 'Odile Marr' })).toBeVisible({ timeout: 60_000 });
  await page.getByRole('radio', { name: 'Odile Marr' }).click();
  await page.getByLabel('PIN').fill('2711');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByText('demo house')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Simulated bench' })).toBeVisible();
});
