import { mkdirSync } from 'node:fs';
import { browserPath } from './browser.mjs';
import { inRoot } from './paths.mjs';
import { run, say, Stop } from './say.mjs';

/** Takes the pictures of docs/screenshots from a running demo house: `node tools/shots.mjs http://127.0.0.1:4280`. */
await run(async () => {
  const base = process.argv[2] ?? 'http://127.0.0.1:4280';
  const { chromium } = await import('@playwright/test');
  mkdirSync(inRoot('docs/screenshots'), { recursive: true });
  const browser = await chromium.launch({
    executablePath: browserPath(),
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-dev-shm-usage',
      '--disable-background-networking',
      '--no-first-run',
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const shot = async (name) => {
    await page.waitForTimeout(700);
    await page.screenshot({ path: inRoot('docs/screenshots', `${name}.png`) });
    say(name);
  };
  await page.goto(`${base}/sign-in`).catch(() => {
    throw new Stop(`Nothing answers at ${base}. Start the demo house first: npm start`);
  });
  await page.getByRole('radio', { name: 'Odile Marr' }).waitFor();
  await page.getByRole('radio', { name: 'Odile Marr' }).click();
  await page.getByLabel('PIN').fill('2711');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await page.waitForURL('**/floor');
  await page.locator('.shelves .room').first().waitFor();
  await shot('floor');
  await page.getByRole('button', { name: /^C2, / }).click();
  await page.locator('ct-vessel-panel').getByRole('link', { name: 'Something seen …' }).click();
  await page
    .locator('.wall')
    .getByRole('button', { name: /^White film/ })
    .click();
  await page.locator('.verdict').waitFor();
  await shot('guide');
  const { runs } = await (await page.request.get(`${base}/api/runs`)).json();
  await page.goto(`${base}/finish`);
  await page.locator('a.in-hand').first().click();
  await page.locator('button.step').filter({ hasText: 'Count' }).click();
  await page.getByLabel('Set out').fill('90');
  await shot('finish');
  await page.goto(`${base}/runs/${runs.find(({ name }) => name.includes('turnips')).code}/labels`);
  await page.getByText('read back from its image').waitFor();
  await shot('labels');
  await page.goto(`${base}/runs/${runs.find(({ storage }) => storage === 'ambient').code}/dossier`);
  await page.getByRole('button', { name: 'Vessels', exact: true }).click();
  await shot('dossier');
  await page.goto(`${base}/make`);
  await page.getByRole('link', { name: /waiting for its salt/ }).waitFor();
  await page.getByRole('link', { name: /waiting for its salt/ }).click();
  await page.getByRole('heading', { name: 'Weigh the salt' }).waitFor();
  // A bowl on the simulated scale, twelve grams short.
  await page.getByRole('button', { name: 'Simulated bench' }).click();
  const scale = page.locator('ct-bench-drawer section').first();
  await scale.getByRole('button', { name: 'All off' }).click();
  await scale.getByRole('button', { name: /^Bowl/ }).click();
  await page.waitForTimeout(1800);
  await page.locator('ct-scale-bar').getByRole('button', { name: 'Tare' }).click();
  await scale.getByLabel(/^Put on/).fill('309');
  await scale.getByRole('button', { name: 'Put', exact: true }).click();
  await page.waitForTimeout(2200);
  await page.getByRole('button', { name: 'Simulated bench' }).click();
  await shot('bench');
  await page.goto(`${base}/formulas`);
  await page.getByRole('link', { name: 'Baby turnips with lemon thyme', exact: true }).waitFor();
  await shot('formulas');
  await page.getByRole('link', { name: 'Baby turnips with lemon thyme', exact: true }).click();
  await page.getByLabel('Jars of 330 mL').fill('96');
  await page.getByLabel('Jars of 720 mL').fill('24');
  await shot('formula');
  await page.getByRole('link', { name: 'Edit' }).click();
  await page.getByRole('button', { name: /Keep as version/ }).waitFor();
  await shot('formula-editor');
  await page.getByRole('button', { name: 'Throw these changes away' }).click();
  await page.goto(`${base}/formulas/take-in`);
  await page.getByLabel('Name').fill('Turnips out of the blue notebook');
  await page
    .getByLabel(/As it stands/)
    .fill('2 kg baby turnips\n3 quarts water\n7 tablespoons fine salt\n8 g black pepper\na handful of lemon thyme');
  await page.goto(`${base}/recalls`);
  await page.getByLabel('Or a code: jar, run, vessel, batch').fill('LM-0002');
  await page.getByRole('region', { name: 'What it would reach' }).waitFor();
  await shot('recall');
  await page.goto(`${base}/stores`);
  await page.locator('tbody button').nth(1).click();
  await shot('stores');
  await page.goto(`${base}/house-rules`);
  await page.getByRole('button', { name: /white film/ }).click();
  await shot('house-rules');
  await page.goto(`${base}/lots`);
  await page.locator('ct-table tbody a').first().waitFor();
  await shot('lots');
  await page.getByRole('link', { name: /^C2, / }).click();
  await page.getByRole('heading', { name: /C2$/ }).waitFor();
  await shot('lot');
  await page.goto(`${base}/pack`);
  await page.getByRole('button', { name: /^D1 / }).click();
  await page.getByLabel(/^Taken from D1/).fill('12.5');
  await page.getByLabel('330 mL, 320 g').fill('36');
  await page.getByLabel('Samples').fill('60');
  await page.getByLabel('Left over').fill('640');
  await page.getByLabel('Waste').fill('230');
  await shot('pack');
  await page.goto(`${base}/runs`);
  await page.locator('ct-table tbody a').first().click();
  await page.getByRole('list', { name: 'Conditions of its release' }).waitFor();
  await shot('run');
  await page.goto(`${base}/dispatch`);
  await page.getByRole('button', { name: 'Take', exact: true }).nth(1).waitFor();
  await page.locator('.take input').nth(1).fill('24');
  await page.getByRole('button', { name: 'Take', exact: true }).nth(1).click();
  await shot('dispatch');
  await page.goto(`${base}/trace/SP-0001`);
  await page.locator('ct-way').waitFor();
  await shot('trace-supply');
  await page.goto(`${base}/the-record`);
  await page.getByRole('button', { name: 'Look at the whole house' }).click();
  await page.getByText('Everything stands as it was recorded.').waitFor({ timeout: 120_000 });
  await shot('the-record');
  await browser.close();
});
