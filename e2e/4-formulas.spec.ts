import { writeFileSync } from 'node:fs';
import { expect, test, type Locator, type Page } from '@playwright/test';
import { choose, pick, record, comeIn } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('formulas');

/** Hands that count: each field filled and each tap is one. */
class CountingHands {
  count = 0;
  constructor(readonly page: Page) {}

  async fill(field: Locator, text: string): Promise<void> {
    this.count += 1;
    await field.fill(text);
  }

  async tap(what: Locator): Promise<void> {
    this.count += 1;
    await what.click();
  }

  async pick(page: Page, label: string, words: string): Promise<void> {
    this.count += 1;
    await pick(page, label, words);
  }
}

const idOf = async (page: Page, name: string): Promise<string> => {
  const reply = (await (await page.request.get(`${house.address}/api/formulas`)).json()) as {
    formulas: { formulaId: string; name: string }[];
  };
  return reply.formulas.find((one) => one.name.startsWith(name))!.formulaId;
};

/** The worksheet of the link on the page, as a person would open it. */
async function worksheet(page: Page): Promise<string> {
  const address = await page.getByRole('link', { name: 'Print the worksheet' }).getAttribute('href');
  const reply = await page.request.get(`${house.address}${address}`);
  expect(reply.headers()['content-type']).toBe('application/pdf');
  return (await reply.body()).toString('latin1');
}

test('a recipe from a notebook, with spoons and quarts, becomes 96 jars and 24 jars in the free vessels of the day', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'make');
  const hands = new CountingHands(page);
  const main = page.getByRole('main');
  await hands.tap(page.getByRole('link', { name: /^Formulas/ }));
  await hands.tap(page.getByRole('link', { name: 'Take a recipe in' }));
  await hands.fill(page.getByLabel('Name'), 'Turnips out of the blue notebook');
  await hands.fill(
    page.getByLabel(/As it stands in the notebook/),
    '2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\n8 g black pepper\na handful of lemon thyme',
  );
  await hands.tap(page.getByRole('button', { name: 'Write it into the book' }));
  await hands.tap(page.getByRole('button', { name: 'Take the usual values' }));

  // The holes: what the spoons can mean is shown, and nothing is guessed.
  await expect(main).toContainText(
    'This can mean 4.3 to 4.8 % of the water. Say whose measures these are, or weigh it.',
  );
  await expect(main).toContainText('A quart is 946.4 to 1136.5 mL, by country');
  await hands.tap(page.getByRole('radio', { name: 'US', exact: true }));
  await hands.tap(page.getByRole('radio', { name: 'the water', exact: true }));
  await expect(main).toContainText('= 4.261 %');
  await hands.fill(page.getByLabel('Amount of lemon thyme'), '9 g');
  await expect(main).toContainText('Nothing is open.');
  await hands.tap(page.getByRole('button', { name: /Keep this formula/ }));

  await expect(page.getByRole('heading', { name: 'Turnips out of the blue notebook' })).toBeVisible();
  await hands.fill(page.getByLabel('Jars of 330 mL'), '96');
  await hands.fill(page.getByLabel('Jars of 720 mL'), '24');
  await hands.tap(page.getByRole('complementary').getByRole('tab', { name: 'Vessels' }));
  await expect(page.getByRole('complementary')).toContainText('of filling');
  await hands.tap(page.getByRole('button', { name: 'Use these vessels' }));
  await expect(page.getByRole('complementary')).toContainText('Planned into');
  await hands.tap(page.getByRole('button', { name: /^Salt .*show the working/ }));
  await expect(page.getByRole('complementary')).toContainText('salt = p × water');
  await expect(page.getByRole('complementary')).toContainText('The same salt, said otherwise');
  hands.count += 1;
  expect(await worksheet(page)).toContain('%PDF-');
  expect(hands.count).toBeLessThanOrEqual(40);
  test.info().annotations.push({ type: 'fields and taps', description: String(hands.count) });
});

test('a heavy-salted leaf with paste, with and without soy sauce', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'make');
  const hands = new CountingHands(page);
  const main = page.getByRole('main');
  await hands.tap(page.getByRole('link', { name: /^Formulas/ }));
  await hands.tap(page.getByRole('link', { name: 'Take a recipe in' }));
  await hands.fill(page.getByLabel('Name'), 'Collard with red paste');
  await hands.fill(
    page.getByLabel(/As it stands in the notebook/),
    '6 kg collard\n600 g coarse pan salt\n1 cup soy sauce\n120 g red chilli, dried\n20 cloves garlic\n600 g buckwheat porridge',
  );
  await hands.tap(page.getByRole('button', { name: 'Write it into the book' }));
  await hands.tap(page.getByRole('button', { name: 'Take the usual values' }));
  await hands.pick(page, 'School', 'heavy salt, rinse, paste');
  await expect(main).toContainText('= 10 %');
  await hands.tap(page.getByRole('radio', { name: 'US', exact: true }));
  await expect(main).toContainText('277 g, 46.13 g per kg');
  await hands.tap(page.locator('.line').first().locator('summary'));
  await hands.tap(page.locator('.line').first().getByRole('button', { name: 'With and without it' }));
  await hands.tap(page.getByRole('button', { name: /Keep this formula/ }));

  await hands.fill(page.getByLabel('Jars of 330 mL'), '96');
  await hands.fill(page.getByLabel('Jars of 720 mL'), '24');
  await expect(main).toContainText('Salt for the paste');
  await expect(main).toContainText('After the rinses the leaf is at about 2.72 %');
  await hands.tap(page.getByRole('radio', { name: 'without soy sauce' }));
  await expect(main.locator('tbody').first()).not.toContainText('Soy sauce');
  await hands.tap(page.getByRole('button', { name: /^Salt for the paste .*show the working/ }));
  await expect(page.getByRole('complementary')).toContainText('an estimate'.slice(3));
  await hands.fill(page.getByLabel('Measured on the juice'), '2.1');
  await expect(page.getByRole('complementary')).toContainText(
    'measured on the drained juice, in place of the estimate',
  );
  hands.count += 1;
  expect(await worksheet(page)).toContain('%PDF-');
  expect(hands.count).toBeLessThanOrEqual(40);
  test.info().annotations.push({ type: 'fields and taps', description: String(hands.count) });
});

test('unsaved work outlives a reload; lines move by mouse and by key, and back', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/formulas/${await idOf(page, 'Baby turnips')}/edit`);
  const names = (): Promise<string[]> =>
    page.locator('.line input[list]').evaluateAll((inputs) => inputs.map((input) => (input as HTMLInputElement).value));
  await expect.poll(names).toEqual(['Lemon thyme', 'Black pepper', 'Mustard seed']);
  const handle = page.getByRole('button', { name: /^Move Mustard seed/ });
  await handle.focus();
  await page.keyboard.press('ArrowUp');
  await expect.poll(names).toEqual(['Lemon thyme', 'Mustard seed', 'Black pepper']);
  await expect(handle).toBeFocused();
  const from = (await page.getByRole('button', { name: /^Move Lemon thyme/ }).boundingBox())!;
  const to = (await page.getByRole('button', { name: /^Move Black pepper/ }).boundingBox())!;
  await page.mouse.move(from.x + 15, from.y + 20);
  await page.mouse.down();
  await page.mouse.move(from.x + 15, from.y + 40, { steps: 4 });
  await page.mouse.move(to.x + 15, to.y + 44, { steps: 12 });
  await page.mouse.up();
  await expect.poll(names).toEqual(['Mustard seed', 'Black pepper', 'Lemon thyme']);
  await page.getByLabel('Amount of Lemon thyme').fill('7 g per kg');
  // What is typed is kept on the tablet a moment later.
  await expect
    .poll(() => page.evaluate(() => JSON.stringify(Object.values(localStorage))))
    .toMatch(/7 g per kg|0\.007/);
  await page.reload();
  await expect(page.getByLabel('Amount of Lemon thyme')).toHaveValue('7 g per kg');
  await expect.poll(names).toEqual(['Mustard seed', 'Black pepper', 'Lemon thyme']);
  await page.getByLabel('Amount of Lemon thyme').fill('8 g per kg');
  await page.keyboard.press('Control+z');
  await expect(page.getByLabel('Amount of Lemon thyme')).toHaveValue('7 g per kg');
  await page.getByRole('button', { name: /Keep as version/ }).click();
  await page.getByRole('link', { name: /versions/ }).click();
  const row = page.getByRole('row', { name: /^Lemon thyme/ });
  await expect(row).toContainText('4 g per kg of trimmed produce');
  await expect(row).toContainText('7 g per kg of trimmed produce');
  await expect(page.getByRole('row', { name: /^Order of the lines/ })).toBeVisible();
});

test('broken and hostile files: what is sound is kept, the rest is marked, the book stands as it was', async ({
  page,
}) => {
  const alerts: string[] = [];
  page.on('dialog', (dialog) => {
    alerts.push(dialog.message());
    void dialog.dismiss();
  });
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const before = await (await page.request.get(`${house.address}/api/formulas`)).text();
  await page.goto(`${house.address}/formulas/take-in`);
  const give = (name: string, text: string | Buffer): Promise<void> =>
    page.getByLabel('File').setInputFiles({ name, mimeType: 'application/json', buffer: Buffer.from(text) });
  await give('broken.json', '{"format": "clear-tally/formula", "formulas": [');
  await expect(page.getByRole('alert')).toContainText('This file is no JSON');
  const film = test.info().outputPath('film.json');
  writeFileSync(film, Buffer.alloc(50_000_000, 32));
  await page.getByLabel('File').setInputFiles(film);
  await expect(page.getByRole('alert')).toContainText('film.json has 50.0 MB');
  await give('person.json', '{"@type": "Person"}');
  await expect(page.getByRole('alert')).toContainText('holds no recipe');
  await give(
    'odd.jsonld',
    JSON.stringify({
      '@type': 'Recipe',
      name: '<img src=x onerror=alert(1)>',
      recipeIngredient: [
        'a handful of dill',
        '1,500 kg beets',
        '-2 g mace',
        '300 onions',
        '¾ cup vinegar',
        '2 kg baby turnips',
      ],
    }),
  );
  await expect(page.getByText('<img src=x onerror=alert(1)>')).toBeVisible();
  for (const words of ['names no figure', 'could be 1.500 or 1500', 'more than zero', 'has no unit known here'])
    await expect(page.getByRole('main')).toContainText(words);
  await page.getByRole('button', { name: 'Open it in the editor' }).click();
  await expect(page.getByLabel('Name')).toHaveValue('<img src=x onerror=alert(1)>');
  await expect(page.getByLabel('The recipe is for')).toHaveValue('2 kg');
  await page.getByRole('button', { name: 'Throw these changes away' }).click();
  const own = await (
    await page.request.get(`${house.address}/api/formulas/${await idOf(page, 'Celtuce')}/formula.json`)
  ).text();
  await page.goto(`${house.address}/formulas/take-in`);
  await give('celtuce.json', own);
  await expect(page.getByText('sound', { exact: true })).toBeVisible();
  expect(await (await page.request.get(`${house.address}/api/formulas`)).text()).toBe(before);
  expect(alerts).toEqual([]);
});

test('W21: mustard in the donor’s spices shows on what its brine started', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/formulas/${await idOf(page, 'Swede and parsnip')}`);
  await page.getByRole('radio', { name: 'Trimmed', exact: true }).click();
  await page.getByLabel('Trimmed produce').fill('2');
  await page.getByRole('button', { name: 'Start a batch of 2,000 g' }).click();
  await page.getByRole('button', { name: 'Starter', exact: true }).click();
  const packable = (await (await page.request.get(`${house.address}/api/packable`)).json()) as {
    fills: { code: string; name: string; refusal: string | null }[];
  };
  const donor = packable.fills.find((fill) => fill.name.startsWith('Baby turnips') && fill.refusal === null)!;
  await choose(page, 'From lot', `Kept brine from ${donor.code}`);
  await page.getByLabel('On the scale').fill('40');
  await page.getByRole('button', { name: /^Record 40 g/ }).click();
  const code = await page.locator('.outline .figure b').first().textContent();
  await page.goto(`${house.address}/lots/${code}`);
  await expect(page.getByRole('complementary')).toContainText('mustard from Mustard seed');
});

test('a house rule changes with its reason, a spoon is weighed once, a formula retires and comes back', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/house-rules`);
  await page.getByRole('button', { name: /How far is heavy salt rinsed/ }).click();
  await page.getByRole('radio', { name: /To taste/ }).check();
  await page.getByLabel('How this house does that').fill('Odile and Ines taste, brines mixed fresh each time.');
  await page.getByRole('button', { name: 'Make this the house rule' }).click();
  await expect(page.getByRole('button', { name: /How far is heavy salt rinsed/ })).toContainText('To taste');

  await page.goto(`${house.address}/materials`);
  await page.getByRole('button', { name: 'Flake sea salt' }).click();
  await page.getByLabel('Spoons', { exact: true }).fill('5');
  await page.getByLabel('weigh together').fill('46.5');
  await page.getByRole('button', { name: 'A spoon is 9.30 g' }).click();
  await page.getByRole('button', { name: 'Keep Flake sea salt' }).click();
  await expect(page.getByRole('row', { name: /Flake sea salt/ })).toContainText('15 mL weigh 9.3 g, weighed here');

  await page.goto(`${house.address}/formulas/${await idOf(page, 'Green gooseberries')}`);
  await page.getByRole('button', { name: 'Retire' }).click();
  await page.getByLabel('Reason').fill('no bags this year');
  await page.getByRole('button', { name: 'Retire Green gooseberries' }).click();
  await expect(page.getByText('Retired: no bags this year')).toBeVisible();
  await page.getByLabel('Jars of 330 mL').fill('12');
  await page.getByRole('button', { name: /Start a batch/ }).click();
  await expect(page.getByRole('alert')).toContainText('is retired. Copy it, or take it back into use');
  await page.getByRole('button', { name: 'Take back into use' }).click();
  await page.getByRole('button', { name: 'Take Green gooseberries back' }).click();
  await expect(page.getByText('Retired: no bags')).toHaveCount(0);
});

test('a maker writes a formula and hands the tablet to an owner, who keeps it as it stands there', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  await page.goto(`${house.address}/formulas`);
  await expect(page.getByText('Anybody writes a formula; an owner keeps it in the book.')).toBeVisible();
  await page.getByRole('link', { name: 'Take a recipe in' }).click();
  await page.getByLabel('Name').fill('Swede as my aunt made it');
  await page.getByLabel(/As it stands in the notebook/).fill('6 kg swede\n138 g fine table salt\n9 g nigella seeds');
  await page.getByRole('button', { name: 'Write it into the book' }).click();
  await page.getByRole('button', { name: 'Take the usual values' }).click();
  await expect(page.getByRole('button', { name: /Keep this formula/ })).toHaveCount(0);
  await page.getByRole('button', { name: 'Hand the tablet to one' }).click();
  const asks = page.getByRole('dialog', { name: 'Who is there?' });
  await asks.getByRole('radio', { name: 'Odile Marr' }).click();
  await asks.getByLabel('PIN').fill('2711');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: /Keep this formula/ }).click();
  await expect(page.getByRole('heading', { name: 'Swede as my aunt made it' })).toBeVisible();
});

test('a check of the house’s own and a ready window are written into a formula; the book and its page say them', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const formula = await idOf(page, 'Celtuce');
  await page.goto(`${house.address}/formulas/${formula}/edit`);
  await page.getByText('Checks, and when it is done').click();
  // It stands at the end of a list that is longer than its window.
  await page.getByRole('combobox', { name: 'Check', exact: true }).click({ force: true });
  await page.locator('.ant-select-dropdown:visible').hover();
  await page.mouse.wheel(0, 2000);
  await page.getByRole('option', { name: 'another, in words' }).click();
  const plan = page.locator('ct-plan-editor');
  await plan.getByLabel('In words').fill('Damp of the cloth');
  await pick(page, 'It wants', 'figure');
  await plan.getByLabel('in', { exact: true }).fill('%');
  await plan.getByLabel('usually from').fill('80');
  await plan.getByLabel('to', { exact: true }).fill('60');
  // The wrong way round is said, and cannot be added.
  await plan.getByLabel('When', { exact: true }).fill('every 24 h');
  await expect(plan.getByRole('button', { name: 'Add the check' })).toBeDisabled();
  await plan.getByLabel('usually from').fill('60');
  await plan.getByLabel('to', { exact: true }).fill('80');
  await plan.getByRole('button', { name: 'Add the check' }).click();
  await expect(plan.getByRole('listitem').filter({ hasText: 'Damp of the cloth' })).toContainText('60 to 80');

  const windows = page.locator('ct-windows-editor');
  await windows.getByRole('radio', { name: 'with a starter' }).click();
  await windows.getByLabel('Ready from day').fill('9');
  await windows.getByLabel('Latest, day').fill('5');
  await expect(windows.getByRole('button', { name: 'Add the window' })).toBeDisabled();
  await windows.getByLabel('Latest, day').fill('14');
  await windows.getByRole('button', { name: 'Add the window' }).click();
  await expect(windows.getByRole('listitem')).toContainText(/with a starter.*9.*14/);
  await page.getByRole('button', { name: /^Keep/ }).click();
  await page.waitForURL(new RegExp(`/formulas/${formula}$`));
  await page.goto(`${house.address}/formulas/${formula}/versions`);
  await expect(page.getByRole('row').filter({ hasText: 'Window' })).toContainText(/14/);
  await expect(page.getByRole('row').filter({ hasText: 'Checks' })).toContainText('Damp of the cloth');
});

test('an own check on the floor: its figure, and what was done about one outside what is usual', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963', 'floor');
  const { vessels } = (await (await page.request.get(`${house.address}/api/floor`)).json()) as {
    vessels: { lotId: string; vesselTag: string; hold: string | null }[];
  };
  const vessel = vessels.find(({ vesselTag }) => vesselTag === 'D1')!;
  // Asked for since yesterday: what is new is not late from the filling on.
  const asked = {
    what: 'own',
    words: 'Damp of the cloth',
    rule: { kind: 'every', hours: 24, forDays: null },
    condition: 'always',
    asks: { kind: 'figure', unit: '%', least: 60, most: 80 },
  };
  await record(
    page,
    house.address,
    'plan.change',
    { lotId: vessel.lotId, checks: [asked], reason: 'a cloth this time' },
    23,
  );
  await page.reload();
  const round = page.getByRole('region', { name: 'Round' });
  await round.getByRole('button', { name: / D1 · .*Damp of the cloth/ }).click();
  await page.getByLabel('Damp of the cloth', { exact: true }).fill('91');
  await expect(round.getByText('over what is usual here: 60 to 80')).toBeVisible();
  const answer = page.locator('ct-own-check').getByRole('button', { name: /^Record/ });
  await expect(answer).toBeDisabled();
  await page.getByLabel('What was done about it').fill('cloth changed');
  await answer.click();
  await expect(round.getByRole('button', { name: / D1 · .*Damp of the cloth/ })).toHaveCount(0);
});
