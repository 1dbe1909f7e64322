import { expect, type Locator, type Page, test } from '@playwright/test';
import { comeIn, record } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('few-taps');

/** Hands that know only what a screen reader says: roles and names. Every touch and every field typed into is one tap. */
class Hands {
  taps = 0;
  constructor(private readonly page: Page) {}

  async tap(role: 'button' | 'link' | 'radio' | 'checkbox', name: string | RegExp, within?: Locator): Promise<void> {
    this.taps += 1;
    await (within ?? this.page.getByRole('main')).getByRole(role, { name }).first().click();
  }
  async place(name: RegExp): Promise<void> {
    await this.tap('link', name, this.page.getByRole('navigation', { name: 'Places' }));
  }
  async type(label: string, text: string): Promise<void> {
    this.taps += 1;
    await this.page.getByLabel(label, { exact: true }).first().fill(text);
  }
  /** A list is opened, by a few letters where it is long, and one of it touched. */
  async pick(
    label: string,
    name: RegExp,
    { within = this.page, letters }: { within?: Page | Locator; letters?: string } = {},
  ): Promise<void> {
    this.taps += 2;
    await within.getByRole('combobox', { name: label, exact: true }).first().click({ force: true });
    if (letters) await this.page.keyboard.type(letters);
    await this.page.getByRole('option', { name }).first().click();
  }
  /** Everything a step asks to be looked at, seen to be so. */
  async allAreSo(): Promise<void> {
    const main = this.page.getByRole('main');
    const all = main.getByRole('button', { name: /^All \d+ are so/ });
    const open = main.getByRole('checkbox', { checked: false });
    if ((await all.count()) > 0) await this.tap('button', /^All \d+ are so/);
    else if ((await open.count()) > 0) {
      this.taps += 1;
      await open.first().click();
    }
  }
  /** What a step asks for, then on to the next. */
  async endStep(next: string): Promise<void> {
    await this.allAreSo();
    await this.tap('button', new RegExp(`^Done, on to: ${next}`));
    await expect(this.page.getByRole('heading', { level: 1, name: next })).toBeVisible();
  }
}

test('five vessels of the round: nine taps', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963', 'floor');
  const hands = new Hands(page);
  const round = page.getByRole('region', { name: 'Round' });
  const due = (tag: string): Locator => round.getByRole('button', { name: new RegExp(` ${tag} · `) });
  const five = ['D1', 'D2', 'D4', 'G5', 'G6'];
  // In the night yesterday's round is no day old: asked for twice a day, they are due then too.
  const { vessels } = (await (await page.request.get(`${house.address}/api/shelf`)).json()) as {
    vessels: { lotId: string; vesselTag: string }[];
  };
  const twiceADay = (what: string) => ({
    what,
    words: null,
    rule: { kind: 'every', hours: 12, forDays: null },
    condition: 'always',
  });
  const night = new Date().getUTCHours() < 10;
  for (const { lotId, vesselTag: tag } of vessels.filter(({ vesselTag }) => night && five.includes(vesselTag)))
    await record(
      page,
      house.address,
      'plan.change',
      {
        lotId,
        checks: ['temperature', 'look', ...(tag === 'D4' ? ['ph'] : [])].map(twiceADay),
        reason: 'Looked at twice a day.',
      },
      20,
    );
  await page.reload();
  for (const tag of five) await expect(due(tag)).toBeVisible();
  // The thermometer on the wall is for all that stand in the room.
  await hands.type('Temperature of Net loft', '19.4');
  await hands.tap('button', /^Record 19\.4 °C/);
  await hands.tap('button', /^All quiet on several/);
  await hands.tap('button', /^All quiet on \d+/);
  await hands.tap('button', / D4 · /, round);
  await hands.type('pH', '5.2');
  await hands.tap('button', /^Record pH 5\.2/);
  for (const tag of five)
    await expect(due(tag).and(round.getByRole('button', { name: /^(late|due) / }))).toHaveCount(0);
  expect(hands.taps).toBeLessThanOrEqual(9);
});

test('a delivery of three lines: eighteen taps', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'floor');
  const hands = new Hands(page);
  await hands.place(/^Stores/);
  await hands.tap('link', 'Receive a delivery');
  await hands.pick('From', /Causeway/);
  const lines = [
    ['Celtuce', 'F2-CT-40', '12.5 kg'],
    ['Black pepper', 'BP-31', '6 kg'],
    ['Baby turnips', 'F4-TU-44', '9 kg'],
  ] as const;
  for (const [index, [material, lot, mass]] of lines.entries()) {
    const line = page.getByRole('group', { name: `Line ${index + 1}` });
    await hands.pick('Material', new RegExp(`^${material}`), { within: line, letters: material.slice(0, 4) });
    hands.taps += 2;
    await line.getByLabel('Their lot code').fill(lot);
    await line.getByLabel('Came', { exact: true }).fill(mass);
  }
  await hands.tap('button', /^Receive 3 lines, 27\.50 kg/);
  await expect(page.getByRole('status').filter({ hasText: 'Received:' })).toContainText('Baby turnips');
  expect(hands.taps).toBeLessThanOrEqual(18);
});

test('a finding with its pH: seven taps', async ({ page }) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963', 'floor');
  const hands = new Hands(page);
  await hands.tap('button', /^D7, /, page.getByRole('region', { name: 'Shelves' }));
  await hands.tap('link', /^Something seen/);
  await hands.tap('button', /^White film/);
  await hands.tap('button', /^Record: Act/);
  const reading = page.getByRole('region', { name: /^Its pH/ });
  hands.taps += 1;
  await reading.getByLabel('pH', { exact: true }).fill('3.71');
  await hands.tap('button', /^Record pH 3\.71/, reading);
  await expect(page.getByRole('button', { name: 'Record pH 3.71' })).toHaveCount(0);
  await expect(page.getByText('Recorded on', { exact: false }).first()).toBeVisible();
  expect(hands.taps).toBeLessThanOrEqual(7);
});

test('a new formula with a flavouring: eighteen taps', async ({ page }) => {
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  const hands = new Hands(page);
  await hands.place(/^Formulas/);
  await hands.tap('link', 'New formula');
  await hands.type('Name', 'Kohlrabi with juniper, a small one');
  await hands.pick('School', /^dry-salted/);
  await hands.type('Produce', 'Kohlrabi');
  await hands.type('The recipe is for', '10 kg');
  await hands.type('Salt', '2.2 %');
  await hands.tap('radio', 'the vegetable');
  await hands.tap('button', 'Add a line');
  await hands.type('Material', 'Juniper berries');
  await hands.type('Amount of Juniper berries', '60 g');
  await expect(page.getByText('Nothing is open.')).toBeVisible();
  await hands.tap('button', /^Keep this formula/);
  await expect(page.getByRole('heading', { level: 1, name: 'Kohlrabi with juniper, a small one' })).toBeVisible();
  expect(hands.taps).toBeLessThanOrEqual(18);
});

test('a batch from its formula to the lid: forty-five taps', async ({ page }) => {
  test.setTimeout(360_000);
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'floor');
  const hands = new Hands(page);
  await hands.place(/^Make/);
  await hands.tap('link', /^Kohlrabi and celeriac shred/, page.getByRole('complementary'));
  await hands.type('Jars of 330 mL', '24');
  await hands.tap('button', /^Start a batch/);
  await expect(page.getByRole('heading', { level: 1, name: 'Inspect the produce' })).toBeVisible();
  await hands.endStep('Trim and weigh');
  for (const [lot, mass] of [
    [/Kohlrabi/, '5714'],
    [/Celeriac/, '2449'],
  ] as const) {
    // Of each there is one lot in the store: it stands there already.
    await expect(page.getByRole('combobox', { name: 'From lot' })).toHaveAccessibleDescription(lot);
    await hands.type('Trimmed, on the scale', mass);
    await hands.tap('button', /^Record .* trimmed/);
    await expect(page.getByLabel('Trimmed, on the scale')).toHaveValue('');
  }
  await hands.endStep('Weigh the salt');
  // 2.2 % of 8,163 g.
  await hands.type('Salt, on the scale', '180');
  await hands.tap('button', /^Record 180 g salt/);
  await hands.endStep('Rest');
  await hands.endStep('Press until its own juice covers it');
  await hands.endStep('Flavourings');
  await hands.type('On the scale', '54');
  await hands.tap('button', /^Record 54 g Juniper/);
  await expect(page.getByRole('button', { name: /^Juniper berries.* to weigh/ })).toHaveCount(0);
  if ((await page.getByRole('heading', { level: 1, name: 'Flavourings' }).count()) > 0)
    await hands.endStep('Clean vessels');
  await hands.endStep('Fill vessels');
  await hands.allAreSo();
  await hands.tap('checkbox', /^The vessel is clean/);
  await hands.pick('Into vessel', /^D5/);
  await hands.type('From the bowls', '8397');
  await hands.tap('button', /^Fill D5 with 8,397 g/);
  await expect(page.getByRole('link', { name: /-D5/ }).first()).toBeVisible();
  await hands.endStep('Weight in, close');
  await hands.endStep('Label before the lid');
  expect(hands.taps).toBeLessThanOrEqual(45);
});

test('from the open page to salt on the scale: eight taps', async ({ page }) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'floor');
  const hands = new Hands(page);
  await hands.place(/^Make/);
  await hands.tap('link', /^Green gooseberries/, page.getByRole('complementary'));
  await hands.type('Jars of 330 mL', '1');
  await hands.tap('button', /^Start a batch/);
  await hands.tap('button', /^Trim and weigh/);
  await hands.type('Trimmed, on the scale', '330');
  await hands.tap('button', /^Record 330 g trimmed/);
  await hands.tap('button', /^Weigh the salt/);
  await expect(page.getByText(/Salt wanted/)).toContainText('7.9 g');
  await expect(page.getByLabel('Salt, on the scale')).toBeVisible();
  expect(hands.taps).toBeLessThanOrEqual(8);
});

test('a batch of one jar, from its formula to the lid: twenty-five taps', async ({ page }) => {
  test.setTimeout(300_000);
  await comeIn(page, house.address, 'Tomasz Reyk', '4840', 'floor');
  const hands = new Hands(page);
  await hands.place(/^Make/);
  await hands.tap('link', /^Green gooseberries/, page.getByRole('complementary'));
  await hands.type('Jars of 330 mL', '1');
  await hands.tap('button', /^Start a batch/);
  await expect(page.getByRole('heading', { level: 1, name: 'Inspect the produce' })).toBeVisible();
  await hands.endStep('Trim and weigh');
  await hands.type('Trimmed, on the scale', '330');
  await hands.tap('button', /^Record 330 g trimmed/);
  await hands.endStep('Weigh the salt');
  await hands.type('Salt, on the scale', '7.9');
  await hands.tap('button', /^Record 7\.9 g salt/);
  await hands.endStep('Clean vessels');
  await hands.endStep('Fill vessels');
  await hands.allAreSo();
  await hands.tap('checkbox', /^The vessel is clean/);
  await hands.pick('Into vessel', /^G3/);
  await hands.type('From the bowls', '337.9');
  await hands.tap('button', /^Fill G3 with/);
  await expect(page.getByRole('link', { name: /-G3/ }).first()).toBeVisible();
  await hands.endStep('Weight in, close');
  expect(hands.taps).toBeLessThanOrEqual(25);
});
