import { expect, test } from '@playwright/test';
import { atRest, choose, comeIn, type, violationsOf, visit } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('jars');

interface Runs {
  readonly runs: readonly {
    readonly code: string;
    readonly name: string;
    readonly state: string;
    readonly storage: string | null;
    readonly hold: string | null;
    readonly open: number;
  }[];
}

test('a run is released by a reviewer, 36 jars go to a customer, one hisses: the page says who has its siblings', async ({
  page,
}) => {
  test.setTimeout(180_000);
  await comeIn(page, house.address, 'Odile Marr', '2711');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as Runs;
  const waits = runs.find(({ state, storage, open }) => state === 'waits' && storage === 'cold' && open === 1)!;
  await page.goto(`${house.address}/pack`);
  await page
    .getByRole('navigation', { name: 'Packing and after' })
    .getByRole('link', { name: 'Runs, release' })
    .click();
  await page.getByRole('link', { name: waits.code }).click();
  await expect(page.getByText('One line is open')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Release/ })).toBeDisabled();
  await type(page, /^Excuse in writing: its checks/, 'Seen on every round, not written down.');
  await page.getByLabel('Sign the release: your PIN').fill('0000');
  await page.getByRole('button', { name: /^Release \d+ jars/ }).click();
  await expect(page.getByText('This is not your PIN.')).toBeVisible();
  await page.getByLabel('Sign the release: your PIN').fill('2711');
  await page.getByRole('button', { name: /^Release \d+ jars/ }).click();
  await expect(page.getByText('It meets the limits set in this house.')).toBeVisible();
  await expect(page.getByRole('list', { name: 'Conditions of its release' })).toContainText('OM released');

  // By its codes: a range, and one that is typed wrong.
  const jars = page.getByRole('table').first();
  const first = (await jars.getByRole('link').first().textContent())!.trim();
  await page.getByRole('navigation', { name: 'Packing and after' }).getByRole('link', { name: 'Dispatch' }).click();
  const box = page.getByLabel(/^Scan a jar/);
  await box.fill(`${first.slice(0, -1)}${first.endsWith('X') ? 'Y' : 'X'}`);
  await box.press('Enter');
  await expect(page.getByText(/check character does not match/)).toBeVisible();
  await box.fill(first);
  await box.press('Enter');
  await expect(page.getByText(`${first} is in.`)).toBeVisible();
  await page
    .getByLabel(new RegExp(`^Of ${waits.code}, `))
    .first()
    .fill('35');
  await page
    .getByRole('row', { name: new RegExp(waits.code) })
    .getByRole('button', { name: 'Take' })
    .first()
    .click();
  await expect(page.getByRole('complementary').getByText('36 jars', { exact: false }).first()).toBeVisible();
  const out = await page
    .getByRole('button', { name: /^Out again/ })
    .last()
    .boundingBox();
  expect(out!.x + out!.width, 'a jar is taken out again by a button that is not cut').toBeLessThanOrEqual(1280);
  await choose(page, 'Customer', 'The Copper Ladle');
  await page.getByRole('button', { name: 'Send 36 jars to The Copper Ladle' }).click();
  const note = page.getByRole('complementary').getByRole('link', { name: 'Its delivery note' });
  await expect(note).toBeVisible();
  const paper = await page.request.get(house.address + (await note.getAttribute('href'))!);
  expect([paper.status(), paper.headers()['content-type']]).toEqual([200, 'application/pdf']);
  // What left is not sent again.
  await box.fill(first);
  await box.press('Enter');
  await expect(page.getByText(`${first} does not stand in the house.`)).toBeVisible();

  await page.goto(`${house.address}/runs/${waits.code}`);
  await expect(page.getByRole('main')).toContainText('The Copper Ladle, 36 of');
  await type(page, 'Serial of the jar', '40');
  await page.getByRole('button', { name: 'gushes' }).click();
  await expect(page.getByText('On hold:')).toBeVisible();
  await expect(page.getByRole('main')).toContainText('Who has jars of it, or of a run from the same vessels:');
  await page.goto(`${house.address}/dispatch`);
  await expect(
    page
      .getByRole('table')
      .first()
      .getByRole('row', { name: new RegExp(waits.code) })
      .first(),
  ).toContainText('on hold');
});

test('a half-filled crate is not lost with the page, and a customer is added where one is missing', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Tomasz Reyk', '4840');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as Runs;
  const out = runs.find(({ state, hold }) => state === 'released' && hold === null)!;
  await page.goto(`${house.address}/dispatch`);
  await page
    .getByLabel(new RegExp(`^Of ${out.code}, `))
    .first()
    .fill('3');
  await page
    .getByRole('row', { name: new RegExp(out.code) })
    .getByRole('button', { name: 'Take' })
    .first()
    .click();
  await expect(page.getByText(`3 jars of ${out.code} are in.`)).toBeVisible();
  await page.goto(`${house.address}/customers`);
  await type(page, 'Name', 'The Lighthouse Kitchen');
  await page.getByRole('button', { name: 'Add The Lighthouse Kitchen' }).click();
  await expect(page.getByRole('button', { name: 'The Lighthouse Kitchen', exact: true })).toBeVisible();
  await page.goto(`${house.address}/dispatch`);
  await page.getByRole('button', { name: 'Take it up again' }).click();
  await choose(page, 'Customer', 'The Lighthouse Kitchen');
  await page.getByRole('button', { name: 'Send 3 jars to The Lighthouse Kitchen' }).click();
  await expect(page.getByText('3 jars: it stands in the book.')).toBeVisible();
});

test('an order is picked oldest first, place by place, and sent; what is missing of another is said', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  await page.goto(`${house.address}/dispatch`);
  const orders = page.locator('ct-orders');
  const first = orders.locator('details').filter({ hasText: 'The Copper Ladle' });
  await first.locator('summary').click();
  await expect(first.getByRole('table', { name: /^Pick list of O/ })).toContainText('18 × 330 mL');
  await first.getByRole('button', { name: 'Fill the crate from it' }).click();
  await expect(page.getByText('It answers order')).toBeVisible();
  await page.getByRole('button', { name: /^Send 30 jars to The Copper Ladle/ }).click();
  await expect(page.getByText(/is sent\./)).toBeVisible();
  await expect(first).toHaveCount(0);
  await expect(orders.locator('summary').filter({ hasText: 'Three Bridges Grocer' })).toContainText(
    /are missing|all of it/,
  );

  await orders.getByRole('button', { name: 'Take an order …' }).click();
  await choose(page, 'Who orders', 'Fen End');
  await choose(page, 'Product', 'Baby turnips');
  await page.getByLabel('Jars', { exact: true }).fill('6');
  await orders.getByRole('button', { name: /^Take the order/ }).click();
  await expect(orders.locator('summary').filter({ hasText: 'Fen End Box Scheme' })).toBeVisible();
});

test('runs, dispatch and customers meet WCAG AA, and an inspector is offered nothing to record', async ({ page }) => {
  await comeIn(page, house.address, 'Visiting inspector', '5050', 'make');
  const { runs } = (await (await page.request.get(`${house.address}/api/runs`)).json()) as Runs;
  const found: string[] = [];
  for (const place of ['runs', `runs/${runs[0]!.code}`, 'dispatch', 'customers']) {
    await visit(page, house.address, place);
    await atRest(page);
    await expect(page.getByRole('main').getByRole('button', { name: /Release|Send|Add|Into the crate/ })).toHaveCount(
      0,
    );
    const violations = await violationsOf(page);
    found.push(...violations.map((one) => `${place}: ${one}`));
  }
  expect(found).toEqual([]);
});
