import { expect, test } from '@playwright/test';
import { atRest, pick, comeIn, type, violationsOf } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('labels');

test('labels of a run: designed on the sheet, allergens by themselves, printed until it jams, counted', async ({
  page,
}) => {
  test.setTimeout(150_000);
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as {
    runs: { code: string; name: string }[];
  };
  const { code } = runs.find(({ name }) => name.includes('turnips'))!;
  await page.goto(`${house.address}/runs/${code}`);
  await page.getByRole('link', { name: 'Labels of its jars' }).click();
  const sheet = page.locator('ct-sheet-view');
  // Mustard seed is in it: it stands in bold without anybody’s doing.
  await expect(sheet.locator('text[font-weight="700"]').filter({ hasText: 'mustard seed' }).first()).toBeVisible();
  await expect(page.getByText('its symbol was read back from its image')).toBeVisible();
  await atRest(page);
  const violations = await violationsOf(page);
  expect(violations).toEqual([]);

  // A claim about health never stands there.
  await page.getByText('Sheet, symbol, words').click();
  await type(page, 'The text of the house', 'Good for your gut');
  await expect(page.getByText('it says something about health').first()).toBeVisible();
  await page.getByRole('button', { name: 'Keep this design' }).click();
  await expect(page.getByText('“Good for your” was given').or(page.getByText('no health claim')).first()).toBeVisible();
  await type(page, 'The text of the house', '');

  // By the arrow keys the code goes up; the small letters are measured.
  const handle = page.getByRole('button', { name: 'Move Code of the jar, arrow keys' });
  await handle.focus();
  await page.keyboard.press('ArrowUp');
  await expect(page.locator('.fields li').nth(5)).toContainText('Code of the jar');
  await type(page, 'Size of Producer', '5');
  await expect(page.getByText(/small letters of 0\.\d\d mm, under 1\.2 mm/).first()).toBeVisible();
  await type(page, 'Size of Producer', '7.5');

  await pick(page, 'Paper', 'Roll, 100 × 60 mm');
  await page.getByRole('button', { name: 'Keep this design' }).click();
  await type(page, 'to', '3');
  await expect(page.getByRole('link', { name: 'PDF of the sheets, 3 labels' })).toBeVisible();
  const pdf = await page.request.get(
    house.address + (await page.getByRole('link', { name: /^PDF of the sheets/ }).getAttribute('href'))!,
  );
  expect([pdf.status(), pdf.headers()['content-type']]).toEqual([200, 'application/pdf']);

  // It jams in the middle: what came out until then is noted, by number, and nothing else.
  await type(page, 'to', '30');
  await page.getByRole('button', { name: 'Simulated bench' }).click();
  await page.getByRole('button', { name: /^Print 30 on Label printer/ }).click();
  // Any of them but the first ones: which is being printed at the moment of a look is chance.
  await expect(page.getByText(/Jar ([3-9]|1\d|2\d) of 30 …/)).toBeVisible();
  await page.getByRole('button', { name: 'Jam it' }).click();
  await expect(page.getByText(/Jars 1 to \d+ came out and are noted; go on from \d+\./)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Print \d+ on Label printer/ })).toContainText('the printer, ready');
  const came = Number(/go on from (\d+)/.exec((await page.getByText(/go on from/).textContent())!)![1]) - 1;
  await expect(page.getByText(`${came} labels came out`)).toBeVisible();
  await page.getByRole('button', { name: 'Clear the jam' }).click();
  await expect(page.getByLabel('Jars from')).toHaveValue(String(came + 1));
  await page
    .getByRole('complementary')
    .getByLabel('On jars')
    .fill(String(came - 1));
  await page.getByLabel('Spoiled').fill('1');
  await page.getByRole('button', { name: 'Count the labels' }).click();
  await expect(page.getByText(`${came - 1} on jars, 1 spoiled, 0 back`)).toBeVisible();
});
