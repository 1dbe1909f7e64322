import { expect, test } from '@playwright/test';
import { choose, endStep, signIn, type } from './hands.js';
import { houseOf } from './runningHouse.js';

const HOUR = 3_600_000;
const house = houseOf('formula-to-jar');

test('a batch goes from the formula to a jar, and the jar leads back to the supplier’s lot of the salt', async ({
  page,
}) => {
  test.setTimeout(300_000);
  // The tablet’s clock: made two days ago, read then and a day later, packed now.
  await page.clock.setFixedTime(Date.now() - 47 * HOUR);
  await signIn(page, house.address, 'Odile Marr', '2711');

  // The formula, scaled to jars, with its working.
  await page.keyboard.press('6');
  await expect(page).toHaveURL(/\/formulas$/);
  await page.getByRole('link', { name: 'Baby turnips with lemon thyme', exact: true }).click();
  await type(page, 'Jars of 330 mL', '36');
  const salt = page.getByRole('button', { name: /^Salt .*show the working/ });
  await expect(salt).toBeVisible();
  await salt.click();
  await expect(page.getByRole('complementary')).toContainText('salt = p × (trimmed produce + water)');
  // 36 × 320 g at 58 % solids ÷ 0.97 ÷ 0.93 = 7,407 g trimmed; 0.026 × 1.7 of that is 327.4 g.
  await expect(page.getByRole('complementary')).toContainText('327.4 g');
  await expect(page.getByRole('complementary')).toContainText('2.65 %');
  await page.getByRole('button', { name: /Start a batch of 7,407 g/ }).click();
  await expect(page.getByRole('heading', { name: 'Inspect the produce' })).toBeVisible();
  await endStep(page);
  await expect(page.getByRole('heading', { name: 'Trim and weigh' })).toBeVisible();
  const batch = await page.locator('.outline .figure b').first().textContent();

  // A delivery comes in with the supplier's own code.
  await page.getByRole('button', { name: 'Receive a delivery' }).click();
  await choose(page, 'Material', 'Baby turnips');
  await choose(page, 'Supplier', 'Causeway');
  await type(page, 'Supplier’s lot code', 'F4-TU-99');
  await type(page, 'Received', '12');
  await page.getByRole('button', { name: 'Receive', exact: true }).click();
  await expect(page.getByText(/Received as/)).toBeVisible();

  // A mass in another unit is understood; a volume is refused in its field.
  await type(page, 'Trimmed, on the scale', '7 L');
  await expect(page.getByText(/“7 L” is a volume/)).toBeVisible();
  await type(page, 'Trimmed, on the scale', '15 lb 14 oz');
  await expect(page.getByText('= 7,201 g')).toBeVisible();
  await type(page, 'Trimmed, on the scale', '7,2 kg');
  await type(page, 'Trimmed off', '1,4 kg');
  await page.getByRole('button', { name: 'Record 7,200 g trimmed' }).click();
  await expect(page.getByRole('cell', { name: 'Baby turnips' })).toBeVisible();
  await endStep(page);

  // Water with 8 % to spare; the salt target follows what was really weighed.
  await expect(page.getByRole('heading', { name: 'Water for the brine' })).toBeVisible();
  await type(page, 'Water, on the scale', '5443');
  await page.getByRole('button', { name: 'Record 5,443 g water' }).click();
  await expect(page.getByText('Weighed so far: 5,443 g')).toBeVisible();
  await endStep(page);
  await expect(page.getByRole('heading', { name: 'Weigh the salt' })).toBeVisible();
  // 0.026 × (7,200 + 5,040) × 5,443 / 5,040 = 343.7 g
  await expect(page.locator('.figures')).toContainText('344 g');
  await choose(page, 'Salt lot', 'SP-0003');
  await type(page, 'Salt, on the scale', '380');
  await expect(page.getByRole('status').filter({ hasText: '36 g over' })).toBeVisible();
  // Over is no ordinary record: only what is in already is a fact.
  await expect(page.getByRole('button', { name: /^Record 380 g salt/ })).toHaveCount(0);
  await expect(page.getByRole('button', { name: 'It is in already: record 380 g' })).toBeVisible();
  await type(page, 'Salt, on the scale', '200');
  await expect(page.getByText('144 g more')).toBeVisible();
  await page.getByRole('button', { name: 'Record 200 g salt, a portion' }).click();
  await expect(page.getByText(/add 144 g of salt/)).toBeVisible();
  await type(page, 'Salt, on the scale', '144');
  await expect(page.getByRole('button', { name: 'Record 144 g salt' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /Weigh the salt 344 of 344 g/ })).toBeVisible();
  await endStep(page);

  // One flavouring is weighed, the others left out or ticked; then clean vessels, and two are filled.
  await expect(page.getByRole('heading', { name: 'Flavourings' })).toBeVisible();
  await page.getByRole('button', { name: /^Black pepper/ }).click();
  await choose(page, 'From lot', 'LM-0002');
  await type(page, 'On the scale', '21.6');
  await page.getByRole('button', { name: 'Record 22 g Black pepper' }).click();
  await expect(page.getByRole('cell', { name: 'Black pepper' })).toBeVisible();
  await page.getByRole('button', { name: /^Lemon thyme/ }).click();
  // In, not weighed: of its lot, by its planned mass.
  await choose(page, 'From lot', 'Lemon thyme');
  await page.getByRole('button', { name: 'In, not weighed' }).click();
  await page.getByRole('button', { name: /^In, about .*, not weighed/ }).click();
  await expect(page.getByRole('button', { name: /^Lemon thyme.*in, not weighed/ })).toBeVisible();
  await page.getByRole('button', { name: /^Mustard seed/ }).click();
  await page.getByRole('button', { name: 'Left out', exact: true }).click();
  await type(page, 'Why is Mustard seed left out?', 'an order without mustard');
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await expect(page.getByRole('button', { name: /^Mustard seed.*an order without mustard/ })).toBeVisible();
  await endStep(page);
  await expect(page.getByRole('heading', { name: 'Clean vessels' })).toBeVisible();
  await endStep(page);
  await expect(page.getByRole('heading', { name: 'Fill vessels' })).toBeVisible();
  for (const box of await page.locator('ct-checks input').all()) await box.check();
  await choose(page, 'Into vessel', 'G3');
  await type(page, 'From the bowls', '2400');
  await type(page, 'Brine poured', '1700');
  await page.getByLabel('The vessel is clean').check();
  await page.getByRole('button', { name: 'Fill G3 with 4,100 g' }).click();
  await expect(page.getByRole('link', { name: `${batch}-G3` }).first()).toBeVisible();
  await choose(page, 'Into vessel', 'D5');
  await type(page, 'From the bowls', '4.8 kg');
  await type(page, 'Brine poured', '3.6 kg');
  await page.getByRole('button', { name: 'Fill D5 with 8,400 g' }).click();
  await expect(page.getByRole('link', { name: `${batch}-D5` }).first()).toBeVisible();

  // The book: a reading, a slip, its correction.
  await page
    .getByRole('link', { name: new RegExp(`^${batch}-D5`) })
    .first()
    .click();
  await expect(page.getByText('has no pH reading')).toBeVisible();
  await type(page, 'pH', '45');
  await expect(page.getByText('pH goes from 0 to 14. Did you mean 4.5?')).toBeVisible();
  await type(page, 'pH', '4.91');
  await type(page, 'Vessel, °C', '57.2 F');
  await page.getByRole('button', { name: 'Record pH 4.91, 14.0 °C' }).click();
  await expect(page.getByRole('cell', { name: '14.0 °C', exact: true })).toBeVisible();
  await expect(page.getByRole('complementary').getByText('above the house limit of 4.2')).toBeVisible();
  await page.getByRole('button', { name: 'Correct pH 4.91' }).click();
  await type(page, 'The right figure', '3,91');
  await type(page, 'Reason', 'read the wrong meter');
  await expect(page.getByRole('button', { name: 'Correct 4.91' })).toBeEnabled();
  await page.keyboard.press('Enter');
  await expect(page.locator('del')).toHaveText('4.91');
  // One reading opens nothing: a second one, a day later, does.
  await expect(page.getByText(/Two blended readings of .* are wanted before it is packed/)).toBeVisible();
  await page.clock.setFixedTime(Date.now() - 20 * HOUR);
  await type(page, 'pH', '3.88');
  await page.getByRole('button', { name: 'Record pH 3.88' }).click();
  await expect(page.getByText('Nothing keeps it from being packed')).toBeVisible();
  await page.clock.setFixedTime(Date.now());

  // Packing: 25 jars of 330 mL from 8,400 g; the tally closes; codes are issued.
  await page.getByRole('link', { name: 'Pack from D5' }).click();
  await type(page, /Taken from D5/, '8350');
  await type(page, '330 mL, 320 g', '20');
  await expect(page.getByText('Not clear', { exact: true })).toBeVisible();
  await type(page, '330 mL, 320 g', '25');
  await type(page, 'Samples', '60');
  await type(page, 'Left over', '200');
  await type(page, 'Waste', '85');
  await expect(page.locator('ct-tally')).toContainText('Clear');
  await page.getByText('The line is clear: nothing of').click();
  await page.getByRole('button', { name: 'Issue 25 jar codes' }).click();
  const codes = page.getByRole('status').filter({ hasText: 'is packed' });
  await expect(codes).toContainText(`${batch}-01-00001-`);
  const last = (await codes.locator('b.figure').last().textContent())!;

  // The last jar leads to the supplier's lot code of the salt.
  await page.keyboard.press('5');
  await expect(page).toHaveURL(/\/trace$/);
  await type(page, 'Code of a jar, lot, supply or vessel', last.toLowerCase().replaceAll('-', ' '));
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: last })).toBeVisible();
  const saltRow = page.getByRole('row', { name: /Coarse pan salt/ });
  await expect(saltRow).toContainText('SWP-25-204');
  await expect(page.getByRole('row', { name: /Baby turnips/ })).toContainText('F4-TU-99');

  // And the salt leads forward to it; a wrong check character is refused with the right code offered.
  await saltRow.getByRole('link').click();
  await expect(page.getByRole('row', { name: new RegExp(`${batch}-01`) }).first()).toBeVisible();
  const wrong = last.slice(0, -1) + (last.endsWith('Z') ? 'Y' : 'Z');
  await type(page, 'Code of a jar, lot, supply or vessel', wrong);
  await page.keyboard.press('Enter');
  await expect(page.getByText('the check character does not match')).toBeVisible();
  await page.getByRole('button', { name: last }).click();
  await expect(page.getByRole('heading', { name: last })).toBeVisible();

  // After a restart everything is there, and the sign-in still holds.
  await house.stop();
  await house.start();
  await page.goto(`${house.address}/lots/${batch}-D5`);
  await expect(page.locator('del')).toHaveText('4.91');
  await expect(page.getByRole('cell', { name: /^4\.91 3\.91/ })).toBeVisible();
  await page.goto(`${house.address}/trace/${last}`);
  await expect(page.getByRole('row', { name: /Coarse pan salt/ })).toContainText('SWP-25-204');
});
