import { jarCode } from '@clear-tally/core';
import { expect, test } from '@playwright/test';
import { choose, comeIn, type } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('heat');

/** 60 to 85 °C in five minutes, so long there, and down ten degrees a minute; a line a minute, from a clock. */
const log = (hold: number, without: readonly number[] = []): string =>
  Array.from({ length: 9 + hold }, (_, minute) => {
    const celsius = minute < 5 ? 60 + minute * 5 : minute <= 5 + hold ? 85 : 85 - 10 * (minute - 5 - hold);
    return without.includes(minute) ? '' : `09:${String(minute).padStart(2, '0')} ${celsius}`;
  })
    .filter(Boolean)
    .join('\n');

test('W17: a load with a gap holds its own bottles; heated anew it waits for its seals; the others leave', async ({
  page,
}) => {
  test.setTimeout(150_000);
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as {
    runs: { code: string; storage: string }[];
  };
  const { code } = runs.find(({ storage }) => storage === 'ambient')!;

  await page.goto(`${house.address}/heat`);
  await expect(page.getByText('85 °C at the cold spot for 12 min')).toBeVisible();
  await expect(page.getByRole('button', { name: /Put it on file/ })).toContainText('missing: what it is called');

  await page.goto(`${house.address}/runs/${code}`);
  const heat = page.locator('ct-run-heat');
  await expect(heat.getByText('does not meet it')).toBeVisible();
  await expect(heat.getByText(/not met from \d\d:\d\d to \d\d:\d\d: below/)).toBeVisible();
  const held = await heat.getByText('held: its load does not meet the process').textContent();
  const [first, last] = /(\d+)–(\d+)/.exec(held!)!.slice(1).map(Number) as [number, number];

  const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' });
  const yesterday = async (): Promise<void> => {
    await type(page, 'Heated on', day.format(Date.now() - 86_400_000).replace('Sept', 'Sep'));
    await page.keyboard.press('Enter');
  };
  // Heated anew, its log with three minutes nobody wrote down.
  await heat.getByRole('button', { name: 'Write down a load …' }).click();
  await type(page, 'Jars from', String(first));
  await yesterday();
  await type(page, 'to', String(last));
  await type(page, 'Log at the cold spot, a line a point', log(12, [8, 9]));
  await expect(heat.getByText('Between minute 7 and 10 nobody knows how warm it was')).toBeVisible();
  await type(page, `In the last bottle, ${last}`, '82.5');
  await type(page, 'Turned, or steam', '130');
  await type(page, 'Headspace', '6');
  await type(page, 'Cooled to', '36');
  await heat.getByText('Sieved, no piece above 2 mm: kept').click();
  await heat.getByRole('button', { name: /^Record the heat of/ }).click();
  await expect(heat.getByText('not met from 09:07 to 09:10: no temperature')).toBeVisible();
  await expect(heat.getByText('heated anew since')).toBeVisible();

  await heat.getByRole('button', { name: 'Write down a load …' }).click();
  await type(page, 'Jars from', String(first));
  await yesterday();
  await type(page, 'to', String(last));
  await type(page, 'Log at the cold spot, a line a point', log(12));
  await expect(heat.getByText('F 1.52 min over the whole log.')).toBeVisible();
  await type(page, `In the last bottle, ${last}`, '82.5');
  await type(page, 'Turned, or steam', '130');
  await type(page, 'Headspace', '6');
  await type(page, 'Cooled to', '36');
  await heat.getByText('Sieved, no piece above 2 mm: kept').click();
  await heat.getByRole('button', { name: /^Record the heat of/ }).click();
  await expect(heat.getByText('lacks something')).toBeVisible();
  await expect(heat.locator('details[open]').getByText('left alone until then')).toBeVisible();
  await expect(page.getByText(`${last - first + 1} jars of a load that lacks something`)).toBeVisible();

  // The day after.
  await heat
    .locator('details')
    .filter({ hasText: 'lacks something' })
    .getByRole('button', { name: /^All \d+ are tight/ })
    .click();
  await expect(page.getByText(/\d+ jars heated to the process; 1 held, and none of them leaves/)).toBeVisible();
  await type(page, 'Excuse in writing: its checks were made, or are excused in writing', 'made, and not written down');
  await type(page, 'Sign the release: your PIN', '2711');
  await page.getByRole('button', { name: /^Release \d+ jars/ }).click();
  await expect(page.getByText('It meets the limits set in this house.')).toBeVisible();

  // The bottle whose seal failed does not leave with them.
  await page.goto(`${house.address}/dispatch`);
  const box = page.getByLabel(/^Scan a jar/);
  await box.fill(jarCode(code, 17).text);
  await box.press('Enter');
  await expect(page.getByText('held: its seal failed. It does not leave.')).toBeVisible();
  await page
    .getByLabel(new RegExp(`^Of ${code}, `))
    .first()
    .fill('20');
  await page
    .getByRole('row', { name: new RegExp(code) })
    .getByRole('button', { name: 'Take' })
    .first()
    .click();
  await choose(page, 'Customer', 'The Copper Ladle');
  await page.getByRole('button', { name: 'Send 20 jars to The Copper Ladle' }).click();
  await expect(page.getByRole('complementary').getByRole('link', { name: 'Its delivery note' })).toBeVisible();
  const sent = await page.request.get(`${house.address}/api/runs/${code}`);
  const { jars } = (await sent.json()) as { jars: { first: number; last: number; kind: string }[] };
  const out = jars.filter(({ kind }) => kind === 'customer');
  expect(out.reduce((sum, { first: from, last: to }) => sum + to - from + 1, 0)).toBe(20);
  expect(out.some(({ first: from, last: to }) => from <= 17 && to >= 17)).toBe(false);
});
