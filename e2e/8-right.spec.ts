import { expect, test } from '@playwright/test';
import { batchesOf, id } from './batches.js';
import { choose, comeIn, type, violationsOf } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('right');

const { read, past, brined, codeOf } = batchesOf(house);

test('a jar with too little brine is stopped at the lid with its true salt, the same in book, top-up, guide and starter list', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const made = await brined(page, 'JA', 30);
  await page.goto(`${house.address}/make/${made.batchId}?step=fill`);
  await expect(page.locator('ct-checks input').first()).toBeVisible();
  for (const box of await page.locator('ct-checks input').all()) await box.check();
  await choose(page, 'Into vessel', 'JA');
  await type(page, 'From the bowls', '1400');
  await type(page, 'Brine poured', '900');
  await expect(
    page.getByText(/JA would stand at 1\.58 % water-phase salt, caution · 1\.51 % of the total mass/),
  ).toBeVisible();
  // Half of that is weak: the button waits for a reviewer’s words.
  await type(page, 'Brine poured', '500');
  await expect(page.getByText(/JA would stand at 1\.08 % water-phase salt, weak/)).toBeVisible();
  await expect(page.getByRole('button', { name: /^Fill JA/ })).toBeDisabled();
  await type(page, 'Why it is filled so, for the record', 'for the kitchen, cold within the week');
  await page.getByRole('button', { name: /^Fill JA/ }).click();
  await expect(page.getByText(/1\.08 % water-phase salt, weak · 1\.01 % of the total mass/).first()).toBeVisible();

  // The same words stood there before it was recorded.
  await expect
    .poll(async () => (await read<{ fills: object[] }>(page, `/api/making/${made.batchId}`)).fills.length)
    .toBe(1);
  const { fills } = await read<{ fills: { lotId: string }[] }>(page, `/api/making/${made.batchId}`);
  const lotId = fills[0]!.lotId;
  const code = await codeOf(page, lotId);
  await page.goto(`${house.address}/lots/${code}`);
  await expect(page.locator('.head')).toContainText('1.08 % water-phase salt, weak · 1.01 % of the total mass');
  await expect(page.getByText(/1\.08 %, weak; 1\.01 % of the total mass/)).toBeVisible();
  await page.getByRole('radio', { name: 'Top up' }).click();
  await type(page, 'Lost', '50');
  await expect(page.getByText(/restores 1\.08 % water-phase salt/)).toBeVisible();
  await page.goto(`${house.address}/guide?finding=looksRight&lot=${code}`);
  await page.locator('ct-choices').getByRole('radio', { name: 'on the surface' }).click();
  await expect(page.getByText(/1\.08 % salt in the water/).first()).toBeVisible();
  const { starters } = await read<{ starters: { lotId: string; salt: { waterPhase: number } }[] }>(
    page,
    '/api/starters',
  );
  expect((starters.find((row) => row.lotId === lotId)!.salt.waterPhase * 100).toFixed(2)).toBe('1.08');
  // Weak salt is read on days 1, 2 and 3, whatever its plan says.
  const { asked } = await read<{ asked: { what: string; rule: { days?: number[] } }[] }>(page, `/api/watch/${code}`);
  expect(asked.find(({ what }) => what === 'ph')!.rule.days).toEqual([1, 2, 3]);
});

test('buds first read on day 14, at 4.4, are held, wait, and say what ends that', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const made = await brined(page, 'JB', 24 * 14, 1500);
  const code = await codeOf(page, made.fillLotId);
  await page.goto(`${house.address}/lots/${code}`);
  await type(page, 'pH', '4.4');
  await page.getByRole('button', { name: 'Record pH 4.4' }).click();
  await expect(page.getByText(/Acid too late: .*nobody looked in time/).first()).toBeVisible();
  await expect(page.getByText(/past its deadline, nobody looked in time/).first()).toBeVisible();
  await expect(page.getByRole('button', { name: 'Lift the hold …' })).toHaveCount(0);
  // Between the limit and 4.6 nothing is irrevocable.
  await expect(page.getByText('Such a hold is not lifted')).toHaveCount(0);
});

test('a drum that got 900 g of a young batch is not packable until it is read again', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { fills } = await read<{
    fills: { lotId: string; code: string; name: string; vesselTag: string; refusal: string | null }[];
  }>(page, '/api/packable');
  const drum = fills.find(
    (fill) => fill.refusal === null && /^[DG]/.test(fill.vesselTag) && fill.name.startsWith('Baby turnips'),
  )!;
  const young = await brined(page, 'JC', 30, 1500);
  await page.goto(`${house.address}/lots/${drum.code}`);
  await page.getByRole('radio', { name: 'Move, split, merge' }).click();
  await type(page, 'How much', '900');
  await choose(page, 'Or from another vessel into this one', 'JC');
  await page.getByRole('button', { name: 'Take 900 g into this one' }).click();
  // Two formulas: it asks first.
  await expect(page.getByText(/Poured together they are one thing/)).toBeVisible();
  await page.getByRole('button', { name: 'It is meant: pour them together' }).click();
  await expect(page.getByText(/what was read before no longer counts/).first()).toBeVisible();
  const after = (await read<{ fills: { lotId: string; refusal: string | null }[] }>(page, '/api/packable')).fills;
  expect(after.find(({ lotId }) => lotId === drum.lotId)!.refusal).toContain('it is a new thing');
  expect(after.find(({ lotId }) => lotId === young.fillLotId)!.refusal).not.toBeNull();
});

test('a house rule, changed, changes what the next batch asks; a limit of its own, and salt by form', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/house-rules`);
  await page.getByRole('button', { name: /What pH must a lot reach/ }).click();
  const violations = await violationsOf(page);
  expect(violations).toEqual([]);
  await type(page, 'Or its own limit', '4.1');
  await page.getByRole('button', { name: 'Make this the house rule' }).click();
  await expect(page.getByRole('button', { name: /What pH must a lot reach.*4\.1 or lower/s })).toBeVisible();
  await type(page, 'Or its own limit', '4.8');
  await expect(page.getByText('2.5 to 4.6 is accepted')).toBeVisible();
  const shred = page.getByRole('row', { name: /^pressed shred/ });
  await shred.getByRole('radio', { name: 'vegetable' }).click();
  await shred.getByLabel('from').fill('1.5');
  await shred.getByLabel('to').fill('2.5');
  await page.getByRole('button', { name: 'Keep these bands' }).click();
  await expect
    .poll(
      async () =>
        (await read<{ settings: { saltBands: Record<string, unknown> } }>(page, '/api/house')).settings.saltBands[
          'shred'
        ],
    )
    .toEqual({ on: 'ofVegetable', least: 0.015, most: 0.025 });
  await page.getByRole('button', { name: /What happens to cores/ }).click();
  await page.getByRole('radio', { name: /Cores are cut in/ }).check();
  await type(page, 'How this house does that', 'as fine as the shred');
  await page.getByRole('button', { name: 'Make this the house rule' }).click();
  await expect(page.getByRole('button', { name: /What happens to cores.*Cores are cut in/s })).toBeVisible();
  const { formulas } = await read<{ formulas: { formulaId: string; version: number; name: string }[] }>(
    page,
    '/api/formulas',
  );
  const of = formulas.find(({ name }) => name.startsWith('Kohlrabi'))!;
  const batchId = id();
  await past(page, [
    [
      'batch.start',
      { batchId, formulaId: of.formulaId, version: of.version, plan: { from: 'trimmed', trimmedGrams: 2000 } },
      0,
    ],
  ]);
  await page.goto(`${house.address}/make/${batchId}?step=inspect`);
  await expect(page.getByText('Outer leaves out; cores cut in as fine as the rest')).toBeVisible();
  await expect(page.getByText(/^Cautions here: salt/)).toBeVisible();
  await past(page, [
    ['house.rule', { rule: 'core', option: 'out', reason: null }, 0],
    ['house.rule', { rule: 'acidLimit', option: '4.2', reason: null }, 0],
    ['house.set', { saltBands: {} }, 0],
  ]);
});
