import { writeFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { atRest, choose, pick, comeIn, violationsOf, visit } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('stores');
/** Their lot codes, new in each run: the house may have seen these tests before. */
const stamp = Date.now().toString(36).toUpperCase();

test('a delivery of two lines is inspected, accepted in part, labelled, counted and opened', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'make');
  await page.getByRole('link', { name: /^Stores/ }).click();
  await page.getByRole('main').getByRole('link', { name: 'Receive a delivery' }).click();
  await choose(page, 'From', 'Causeway');
  await page.getByLabel('Delivery note').fill('DN 4471');
  const [one, two] = [page.getByRole('group', { name: 'Line 1' }), page.getByRole('group', { name: 'Line 2' })];
  for (const [line, material, lot, kg] of [
    [one, 'Collard', `CO-${stamp}`, '18'],
    [two, 'Ginger', 'F8-GI-02', '2,5'],
  ] as const) {
    await line.getByLabel('Material').click();
    await page.keyboard.type(material);
    await page.keyboard.press('Enter');
    await line.getByLabel('Their lot code').fill(lot);
    await line.getByLabel('Came').fill(kg);
  }
  await one.getByLabel('Sent back').fill('3');
  await expect(page.getByRole('button', { name: /^Receive/ })).toBeDisabled();
  await one.getByLabel('because').fill('yellow outer leaves, slimy');
  // This house asks what collard it is, and how warm it came.
  await expect(page.getByRole('button', { name: /^Receive.*missing: its variety, its temperature/ })).toBeDisabled();
  await one.getByLabel('Variety').fill('Broad leaf');
  await one.getByLabel('Its temperature').fill('7.5');
  await page.getByRole('button', { name: 'Receive 2 lines, 17.50 kg' }).click();
  const received = page.getByRole('status');
  await expect(received).toContainText('Collard');
  const labels = await page.request.get(
    house.address + (await received.getByRole('link', { name: 'Print their labels' }).getAttribute('href'))!,
  );
  expect((await labels.body()).subarray(0, 5).toString()).toBe('%PDF-');

  await page.getByRole('navigation', { name: 'Stores' }).getByRole('link', { name: 'Stock' }).click();
  await page.getByLabel('Find').fill(`co-${stamp}`);
  const row = page.getByRole('row', { name: /Collard/ });
  await expect(row).toContainText('15.00');
  await row.getByRole('button').click();
  await expect(page.getByRole('complementary')).toContainText('Broad leaf, 7.5 °C at the door');
  await page.getByLabel('Counted, on the scale').fill('12 kg');
  await page.getByRole('button', { name: 'Record 12.00 kg' }).click();
  await expect(page.getByRole('complementary')).toContainText(
    '3,000 g missing. Weigh again, or say where the difference comes from.',
  );
  await page.getByLabel('Where the difference comes from').fill('a crate went to the market');
  await page.getByRole('button', { name: 'Record 12.00 kg' }).click();
  await expect(row).toContainText('12.00');
  await page.getByRole('radio', { name: 'frozen', exact: true }).click();
  await page.getByLabel('Keeps until').fill('2027-05-01');
  await page.getByRole('button', { name: 'Record it as frozen' }).click();
  await expect(row).toContainText('frozen, keeps until 1 May 2027');
  await page.getByRole('link', { name: /^The book of/ }).click();
  await expect(page.getByRole('main')).toContainText('3,000 g sent back: yellow outer leaves, slimy');
  await expect(page.getByRole('main')).toContainText('3,000 g less than the ledger said: a crate went to the market');
  await expect(page.getByRole('complementary')).toContainText('Clear');
});

test('a delivery list shows what is wrong in it, and brings in the rest', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  await page.goto(`${house.address}/stores/delivery`);
  await page.getByLabel('Delivery list').waitFor();
  const file = test.info().outputPath('list.csv');
  writeFileSync(
    file,
    [
      'Product,Supplier,Lot,Quantity,Unit,Best before',
      ...Array.from({ length: 500 }, (_, i) => `Swede,Causeway Growers,SW-${stamp}-${i},${(i % 9) + 1},kg,2026-12-24`),
      'Beets,Nobody,,lots,kg,03/04/2026',
      'Swede,Causeway Growers,SW-9,"1,500",g,',
    ].join('\n'),
  );
  await page.getByLabel('Delivery list').setInputFiles(file);
  await expect(page.getByText('500 rows are sound, 2 have something to mend.')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('“03/04/2026” is not a date read here');
  await expect(page.getByRole('main')).toContainText('could be 1.500 or 1500');
  await page.getByRole('button', { name: 'Receive 500 sound rows' }).click();
  await expect(page.getByText('500 lines are received. What is left above wants mending first.')).toBeVisible();
  await page.goto(`${house.address}/stores`);
  await page.getByLabel('Find').fill(`SW-${stamp}-499`);
  await expect(page.getByRole('row', { name: /Swede/ })).toContainText('5.00');
});

test('a scale is held against a weight, sanitiser cleans a tool, and a task asks for its training', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'make');
  await visit(page, house.address, 'equipment');
  const main = page.getByRole('main');
  await main.getByRole('button', { name: /^SC2 / }).click();
  await page.getByLabel('The weight').fill('20 kg');
  await page.getByLabel('The scale shows').fill('20,1 kg');
  await expect(page.getByRole('complementary')).toContainText('weigh on another one');
  await page.getByRole('button', { name: 'Record it' }).click();
  await expect(main.getByRole('button', { name: /^SC2 / })).toContainText('not in order');
  await page.getByRole('radio', { name: 'Sanitiser' }).click();
  await page.getByRole('button', { name: /^As SAN/ }).click();
  await page.getByLabel('It shows').fill('210 ppm');
  await page.getByRole('radio', { name: 'Strong enough' }).click();
  await page.getByRole('button', { name: 'Record the batch' }).click();
  await expect(main.getByRole('row', { name: /210 ppm/ })).toBeVisible();
  await visit(page, house.address, 'cleaning');
  await pick(page, 'Sanitiser', 'SAN');
  await page.getByRole('checkbox', { name: /^T2, Paddle/ }).check();
  await page.getByRole('button', { name: 'Record T2 as cleaned' }).click();
  await expect(main).toContainText(/T2, Paddle and tamper\s*cleaned .*: peracetic acid, SAN26-\d{4}/);

  await visit(page, house.address, 'people');
  await page.getByRole('checkbox', { name: /^Judging what is seen/ }).check();
  await expect(main).toContainText('not yet: Ines Calloway, Odile Marr, Tomasz Reyk');
  await page.locator('ct-trained-tasks').getByRole('button', { name: 'Keep it so' }).click();
  await page
    .getByRole('row', { name: /Odile Marr/ })
    .getByRole('button', { name: 'Training' })
    .click();
  await expect(main).toContainText('Odile Marr has none that counts today');
  await pick(page, 'Taught in', 'Judging what is seen');
  await page.getByLabel('By', { exact: true }).fill('Port Ellery college');
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(main).toContainText('by Port Ellery college');
  await expect(main).not.toContainText('Odile Marr has none that counts today');
});

test('the stores meet WCAG AA', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'make');
  const found: string[] = [];
  for (const place of ['stores', 'stores/delivery', 'equipment', 'cleaning']) {
    await visit(page, house.address, place);
    await atRest(page);
    if (place === 'stores') await page.locator('tbody button').first().click();
    if (place === 'equipment') await page.getByRole('button', { name: /^SC1 / }).click();
    const violations = await violationsOf(page);
    found.push(...violations.map((one) => `${place}: ${one}`));
  }
  expect(found).toEqual([]);
});
