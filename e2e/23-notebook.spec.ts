import { expect, type Page, test } from '@playwright/test';
import { comeIn } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('notebook');

interface Recipe {
  readonly name: string;
  readonly text: string;
  /** What a cook knows when asked: which of it is the produce, whose measures, and what is still open. */
  readonly main?: readonly string[];
  readonly whose?: 'US' | 'metric';
  readonly basis?: 'the vegetable' | 'the water' | 'the brine' | 'everything';
  readonly amounts?: Readonly<Record<string, string>>;
  /** Holes that are named before anything is answered. */
  readonly open: readonly RegExp[];
  /** Nothing that nobody said: fields that stay empty. */
  readonly empty?: readonly string[];
}

const NOTEBOOK: readonly Recipe[] = [
  {
    name: 'Cabbage, two percent',
    text: `2 kg white cabbage\nsalt 2 % of cabbage\n1 tsp caraway\nMethod\nShred the cabbage, rub the salt in, rest 20 min\nPack into a crock, press\nFerment 3-4 weeks at 16-18 °C`,
    main: ['white cabbage'],
    whose: 'metric',
    amounts: { 'Usual days': '26', 'Amount of caraway': '4 g' },
    open: [/Usual days/],
  },
  {
    name: 'Carrot sticks by the gallon',
    text: `• 3 lb carrots, cut in sticks\n• 1 gal water\n• ½ cup sea salt\n• 6 cloves garlic\n• 2-3 tbsp dill seed`,
    main: ['carrots'],
    whose: 'US',
    basis: 'the water',
    amounts: { Salt: '140 g', 'Amount of dill seed': '15 g' },
    open: [/Salt of what/, /Dill seed: “• 2-3 tbsp dill seed”/i],
    empty: ['Amount of dill seed'],
  },
  {
    name: 'Red mash',
    text: `1,180 g red chillies\n3% salt\na splash of old brine\n6 cloves garlic\nBlend after 4 weeks`,
    main: ['red chillies'],
    basis: 'the vegetable',
    amounts: { 'Amount of Kept brine': '30 g' },
    open: [/Salt of what/, /Kept brine: “a splash of old brine”/],
    empty: ['Amount of Kept brine'],
  },
  {
    name: 'Turnips with lemon thyme',
    text: `2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\n8 g black pepper\na handful of lemon thyme`,
    whose: 'US',
    basis: 'everything',
    amounts: { Salt: '126 g', 'Amount of lemon thyme': '12 g' },
    open: [/Salt of what/, /Lemon thyme: “a handful/],
    empty: ['Amount of lemon thyme'],
  },
  {
    name: 'Beets in last year’s brine',
    text: `☐ 5 beets, 1.2 kg\n☐ 1 L water\n☐ 25 g salt\n☐ 1 medium head garlic\n☐ brine from last batch, 100 ml`,
    main: ['beets'],
    basis: 'everything',
    amounts: { 'Amount of Kept brine': '102 g' },
    open: [/Salt of what/, /Kept brine/],
  },
  {
    name: 'Kohlrabi, no amounts',
    text: `kohlrabi\nsalt\ncaraway\njuniper`,
    basis: 'the vegetable',
    amounts: { Salt: '2.2 %', 'Amount of caraway': '2 g per kg', 'Amount of juniper': '5 g per kg' },
    open: [/How much salt/, /caraway: “caraway”/, /juniper: “juniper”/],
    empty: ['Salt', 'Amount of caraway', 'Amount of juniper'],
  },
  {
    name: 'Green tomatoes in a brine of five',
    text: `Green tomatoes 4 kg\nBrine 5 %\nDill, 1 bunch\nHorseradish leaf, 2\nbay leaves 4\nStore cold`,
    main: ['Green tomatoes'],
    basis: 'the brine',
    amounts: {
      Water: '3 L',
      'Amount of Dill': '40 g',
      'Amount of Horseradish leaf': '20 g',
      'Amount of bay leaves': '1 g',
    },
    open: [/How much water/, /Dill: “Dill, 1 bunch”/, /Horseradish leaf/, /bay leaves/],
  },
  {
    name: 'Rotkraut',
    text: `1 Kopf Rotkohl (ca. 1,5 kg)\nSalz 2,2 %\n2 EL Apfelessig\n3 Wacholderbeeren`,
    main: ['Rotkohl'],
    whose: 'metric',
    basis: 'the vegetable',
    amounts: { 'Amount of Apfelessig': '30 g', 'Amount of Wacholderbeeren': '1 g' },
    open: [/Salt of what/, /Apfelessig/, /Wacholderbeeren/],
  },
  {
    name: 'Celeriac with mustard seed',
    text: `Ingredients:\n- 900g celeriac\n- 20 g salt\n- 1 tbsp mustard seeds\n- ½ cup vinegar\nDirections:\nGrate. Mix with salt. Leave 1 hour.\nPack tight.\n10 days at room temp (68 F)`,
    whose: 'US',
    basis: 'the vegetable',
    amounts: { 'Amount of mustard seeds': '11 g', 'Amount of vinegar': '118 g' },
    open: [/Salt of what/, /mustard seeds/, /vinegar/],
  },
  {
    name: 'Garlic in brine',
    text: `500 g garlic, peeled\n300 ml water\n2.5% salt of everything\nthyme (to taste)`,
    main: ['garlic'],
    amounts: { 'Amount of thyme': '1 g' },
    open: [/thyme: “thyme \(to taste\)”/],
    empty: ['Amount of thyme'],
  },
  {
    name: 'Two pounds of pickles',
    text: `2 lb small cucumbers\n1 qt water\n2 Tbsp kosher salt\n2 heads dill\n3 cloves garlic\n1 grape leaf\n4 jars, 1 pint`,
    main: ['small cucumbers'],
    whose: 'US',
    basis: 'the water',
    amounts: { Salt: '34 g', 'Amount of dill': '20 g', 'Amount of grape leaf': '2 g' },
    open: [/Salt of what/, /dill: “2 heads dill”/i, /grape leaf/],
  },
  {
    name: 'Fennel and apple',
    text: `fennel 1.5 kg, apple 500 g\nsalt 35 g\n1 tsp fennel seed\nLeave 2-3 weeks`,
    main: ['fennel', 'apple'],
    whose: 'metric',
    basis: 'the vegetable',
    amounts: { 'Usual days': '18', 'Amount of fennel seed': '2 g' },
    open: [/Usual days/],
  },
];

/** Every touch and every field typed into is one tap. */
class Cook {
  taps = 0;
  constructor(private readonly page: Page) {}
  async press(name: string | RegExp, within = ''): Promise<void> {
    this.taps += 1;
    const where = within ? this.page.getByRole('group', { name: within }) : this.page;
    await where.getByRole('button', { name }).first().click();
  }
  async say(name: string, group: string): Promise<void> {
    this.taps += 1;
    await this.page
      .getByRole('radiogroup', { name: group })
      .getByRole('radio', { name, exact: true })
      .click({ force: true });
  }
  async type(label: string | RegExp, text: string): Promise<void> {
    this.taps += 1;
    await this.page
      .getByLabel(label, { exact: typeof label === 'string' })
      .first()
      .fill(text);
  }
  async follow(name: string | RegExp): Promise<void> {
    this.taps += 1;
    await this.page.getByRole('link', { name }).first().click();
  }
}

test('twelve recipes as they stand in a notebook can each be started after twenty-five taps', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  for (const recipe of NOTEBOOK) await test.step(recipe.name, () => takeIn(page, recipe));
});

async function takeIn(page: Page, recipe: Recipe): Promise<void> {
  const cook = new Cook(page);
  await cook.follow(/^Formulas/);
  await cook.follow('Take a recipe in');
  await cook.type('Name', recipe.name);
  await cook.type(/^As it stands in the notebook/, recipe.text);
  if (recipe.whose) await cook.say(recipe.whose, 'Whose measures');
  for (const name of recipe.main ?? []) await cook.press('main produce', `What is ${name}?`);
  await cook.press('Write it into the book');
  await cook.press('Take the usual values');
  const stands = page.getByRole('complementary', { name: 'How it stands' });
  for (const hole of recipe.open) await expect(stands).toContainText(hole);
  for (const label of recipe.empty ?? []) await expect(page.getByLabel(label, { exact: true })).toHaveValue('');
  if (recipe.basis) await cook.say(recipe.basis, 'Salt counted on');
  for (const [label, amount] of Object.entries(recipe.amounts ?? {})) await cook.type(label, amount);
  await expect(stands).toContainText('Nothing is open.');
  await cook.press(/^Keep this formula/);
  await expect(page.getByRole('heading', { level: 1, name: recipe.name })).toBeVisible();
  await cook.type(/^Jars of/, '12');
  await expect(page.getByRole('button', { name: /^Start a batch/ })).toBeEnabled();
  expect(cook.taps).toBeLessThanOrEqual(25);
}
