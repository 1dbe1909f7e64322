import { expect, test } from '@playwright/test';
import { comeIn, violationsOf } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('when');

test('yesterday’s evening round is typed this morning; what it changes is said, and the next entry is of now again', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  await page.goto(`${house.address}/floor`);
  await page.getByRole('button', { name: 'When: now' }).click();
  const panel = page.getByRole('dialog', { name: 'When it happened' });
  await panel.getByLabel('When it happened').fill('tomorrow 8:00');
  await panel.getByRole('button', { name: 'Record as of then' }).click();
  await expect(panel).toContainText('is not yet');
  await panel.getByLabel('When it happened').fill('yesterday 17:40');
  await expect(panel).toContainText('17:40, ');
  expect(await violationsOf(page)).toEqual([]);
  await panel.getByRole('button', { name: 'Record as of then' }).click();
  const bar = page.getByRole('status').filter({ hasText: 'What is recorded here is of' });
  await expect(bar).toContainText('17:40');
  await page.getByRole('button', { name: /^C4, / }).first().click();
  await expect(page.locator('.round .now')).toContainText('C4');
  await page.getByLabel('pH', { exact: true }).fill('4.4');
  await page.getByRole('button', { name: 'Record pH 4.4' }).click();
  await expect(page.getByRole('list', { name: 'What it changed after the fact' })).toContainText('last pH');
  // It holds on the next page, over a reload too, and is seen there.
  await page.getByRole('link', { name: 'Its book' }).click();
  await page.reload();
  await expect(bar).toBeVisible();
  await expect(page.getByText(/17:40/).first()).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect(bar).toBeHidden();
});

test('ten readings of a notebook come in as they stand, with fifteen taps at most', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  await page.goto(`${house.address}/floor`);
  const floor = (await (await page.request.get(`${house.address}/api/shelf`)).json()) as {
    vessels: { vesselTag: string; code: string; day: number }[];
  };
  const vessel = floor.vessels.find(({ vesselTag }) => vesselTag === 'C1')!;
  let taps = 1;
  await page.goto(`${house.address}/lots/${vessel.code}`);
  const tap = async (name: string | RegExp): Promise<void> => {
    taps += 1;
    await page.getByRole('button', { name }).click();
  };
  taps += 1;
  await page.getByRole('radio', { name: 'Past readings' }).click();
  const rows = Array.from({ length: 10 }, (_, i) => `${i + 1} h ago; ${(3.6 + (i % 3) / 100).toFixed(2)}; 14`);
  // A sheet has the moment as its first column; hours are enough here.
  taps += 1;
  await page.getByLabel('Readings, a line each').fill(`When;pH;°C\n${rows.join('\n')}\nlast week; 3.6`);
  await expect(page.getByRole('table', { name: 'As they were understood' })).toContainText('is no time of day');
  expect(await violationsOf(page)).toEqual([]);
  taps += 1;
  await page.getByLabel('Readings, a line each').fill(`When;pH;°C\n${rows.join('\n')}`);
  await tap('Record 10 pH, 10 °C');
  await expect(page.getByText('20 entries')).toBeVisible();
  expect(taps).toBeLessThanOrEqual(15);
});

test('the cleaning list says what is due and why, and several vessels are clean with one press', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  await page.goto(`${house.address}/floor`);
  await page.getByRole('link', { name: /to be cleaned$/ }).click();
  await expect(page.getByRole('heading', { name: 'Cleaning', exact: true })).toBeVisible();
  expect(await violationsOf(page)).toEqual([]);
  await page.getByRole('button', { name: 'All of them' }).click();
  await page.getByLabel('With', { exact: true }).fill('sodium hypochlorite');
  await page.getByRole('checkbox', { name: /^Rinsed/ }).uncheck();
  await expect(page.getByText('may leave something behind')).toBeVisible();
  await page.getByRole('checkbox', { name: /^Rinsed/ }).check();
  await page.getByRole('button', { name: /as cleaned$/ }).click();
  await expect(page.getByText('Nothing is due')).toBeVisible();
});
