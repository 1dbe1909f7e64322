import { expect, test } from '@playwright/test';
import { atRest, choose, pick, comeIn, type, violationsOf, visit } from './hands.js';
import { houseOf } from './runningHouse.js';

const house = houseOf('desk');

interface Recall {
  readonly jars: number;
  readonly open: number;
  readonly lots: readonly { readonly code: string; readonly held: boolean }[];
}

test('a supplier calls pepper back: from the message to every jar by who has it, accounted for, in fifteen taps', async ({
  page,
}) => {
  test.setTimeout(120_000);
  await comeIn(page, house.address, 'Odile Marr', '2711', 'floor');
  let taps = 0;
  const tap = async (what: ReturnType<typeof page.getByRole>): Promise<void> => {
    taps += 1;
    await what.click();
  };
  await tap(page.getByRole('navigation', { name: 'Places' }).getByRole('link', { name: /^Trace/ }));
  await tap(page.getByRole('navigation', { name: 'Trace desk' }).getByRole('link', { name: 'Recall' }));
  taps += 2;
  await choose(page, 'A supply, as its supplier names it', 'LMS/P/0311');
  await expect(page.getByRole('region', { name: 'What it would reach' })).toBeVisible();
  taps += 1;
  await type(page, 'Why, in a sentence', 'metal in it, their mail of this morning');
  await tap(page.getByRole('button', { name: 'Hold all of it, and open the recall' }));
  await expect(page).toHaveURL(/\/recalls\/R\d\d-01$/);
  await tap(page.getByRole('button', { name: /^Word is sent to all/ }));
  const crate = page.getByRole('list', { name: 'Jars by where they are' });
  await expect(crate.getByText('word is sent, no answer yet').first()).toBeVisible();
  for (;;) {
    const waiting = crate.getByRole('button').filter({ hasText: 'word is sent, no answer yet' });
    if ((await waiting.count()) === 0) break;
    const before = await waiting.count();
    await tap(waiting.first());
    await tap(page.getByRole('button', { name: /used or eaten$/ }));
    await expect(waiting).toHaveCount(before - 1);
  }
  expect(taps).toBeLessThanOrEqual(15);
  const code = page.url().split('/').at(-1)!;
  const now = (await (await page.request.get(`${house.address}/api/recalls/${code}`)).json()) as Recall;
  expect(now.jars).toBeGreaterThan(50);
  expect([now.open, now.lots.every(({ held }) => held)]).toEqual([0, true]);
  // Nothing of it leaves, and no second list is begun.
  await page.goto(`${house.address}/recalls`);
  await type(page, 'Or a code: jar, run, vessel, batch', 'LM-0002');
  await expect(page.getByText('A recall of it is open')).toBeVisible();
  await type(page, 'Why, in a sentence', 'again');
  await page.getByRole('button', { name: 'Hold all of it, and open the recall' }).click();
  await expect(page.getByText(`${code} is open for LM-0002 already`)).toBeVisible();
  for (const paper of ['notices.pdf', 'report.pdf']) {
    const reply = await page.request.get(`${house.address}/api/recalls/${code}/${paper}`);
    expect([reply.status(), reply.headers()['content-type']]).toEqual([200, 'application/pdf']);
  }
  await page.goto(`${house.address}/recalls/${code}`);
  await type(page, 'What came of it', 'Every jar is accounted for.');
  await page.getByRole('button', { name: `Close ${code}` }).click();
  await expect(page.getByText('Every jar is accounted for.').first()).toBeVisible();
  await expect(page.getByText('Closed', { exact: false }).first()).toBeVisible();
});

test('two complaints: what they share and no other has, their batch with all that was in it, stands first', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Ines Calloway', '1963');
  await page.goto(`${house.address}/complaints`);
  const rows = page.getByRole('row').filter({ hasText: 'smell or taste' });
  await expect(rows).toHaveCount(2);
  const codes = await rows.evaluateAll((all) =>
    all.map((row) => /NY26-\d{3}-[A-Z]-\d\d-\d{5}-[0-9A-Z]/.exec(row.textContent ?? '')![0]),
  );
  await page.goto(`${house.address}/shared-cause?bad=${codes.join(',')}`);
  const first = page
    .getByRole('list', { name: 'What they share, the most telling first' })
    .getByRole('listitem')
    .first();
  await expect(first).toContainText('Lemon thyme');
  await expect(first).toContainText(codes[0]!.slice(0, 10));
  // What a good run has too, comes after it.
  await expect(first).not.toContainText('Mustard seed');
  await expect(first).toContainText('2 of 2');
  await expect(first).toContainText(/unusual|hardly by chance/);
  // One of them could hurt: it holds its run at once.
  await page.goto(`${house.address}/complaints`);
  await page.getByLabel('Code of the jar, or of its run').fill(codes[0]!);
  await page.getByText(/, packed .* jars/).waitFor();
  await pick(page, 'What it is', 'something in it that does not belong there');
  await type(page, 'In their words', 'a splinter of glass');
  await expect(page.getByText('its run is held with it')).toBeVisible();
  await page.getByRole('button', { name: 'Write it down' }).click();
  await expect(page.getByText('its run is on hold')).toBeVisible();
  await type(page, 'Name, and how they are reached', 'somebody made up, 12 High Road');
  await page.getByRole('button', { name: 'Keep it' }).click();
  // It asks once before what cannot be taken back.
  await page.getByRole('button', { name: 'Delete it for good' }).click();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(page.getByRole('button', { name: 'Delete it for good' })).toBeVisible();
  await page.getByRole('button', { name: 'Delete it for good' }).click();
  await page.getByRole('button', { name: 'Delete the contact' }).click();
  await expect(page.getByRole('button', { name: 'Delete it for good' })).toHaveCount(0);
});

test('a barrel that does not close by 640 g stands in the list; its loss written down, it is clear', async ({
  page,
}) => {
  await comeIn(page, house.address, 'Odile Marr', '2711');
  await page.goto(`${house.address}/tallies`);
  const row = page.getByRole('row').filter({ hasText: 'Winter roots' });
  await expect(row).toContainText('0.64');
  await row.getByRole('link').click();
  await expect(page.getByText('Not clear')).toBeVisible();
  await page.getByRole('radio', { name: 'Weigh, write off' }).click();
  const form = page.locator('ct-count-form');
  await form.getByRole('button', { name: 'Weigh or write off …' }).click();
  await form.getByRole('radio', { name: 'A loss' }).click();
  await choose(page, 'Where it went', 'sample');
  await type(page, 'Gone', '640');
  await form.getByRole('button', { name: 'Record' }).click();
  await page.getByRole('button', { name: 'Weigh or write off …' }).click();
  await form.getByRole('radio', { name: 'Weighed on hand' }).click();
  await type(page, 'Stands there', '42.92 kg');
  await form.getByRole('button', { name: 'Record' }).click();
  await expect(page.locator('ct-tally').getByText('Clear', { exact: true })).toBeVisible();
  await page.goto(`${house.address}/tallies`);
  await expect(page.getByText('Every lot that was counted or emptied is clear.')).toBeVisible();
});

test('the trace desk meets WCAG AA, and an inspector is offered nothing to record', async ({ page }) => {
  test.setTimeout(120_000);
  await comeIn(page, house.address, 'Visiting inspector', '5050', 'floor');
  const { recalls } = (await (await page.request.get(`${house.address}/api/recalls`)).json()) as {
    recalls: { code: string }[];
  };
  for (const path of [
    '/trace',
    '/trace/LM-0002',
    '/shared-cause',
    '/complaints',
    '/recalls',
    `/recalls/${recalls[0]!.code}`,
    '/tallies',
    '/records',
    '/trace-by',
    '/trace-by/day/2026-11-24',
    '/in-order',
    '/rights',
  ]) {
    await visit(page, house.address, path.slice(1));
    await atRest(page);
    const violations = await violationsOf(page);
    expect(violations.map((one) => `${path}: ${one}`)).toEqual([]);
    for (const words of ['Hold all of it', 'Write it down', 'Word is sent', 'Close '])
      await expect(page.getByRole('button', { name: new RegExp(`^${words}`) })).toHaveCount(0);
  }
  await page.goto(`${house.address}/records`);
  for (const [name, type_] of [
    ['Received, XLSX', 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet'],
    ['Sent, CSV', 'text/csv; charset=utf-8'],
    ['JSON-LD', 'application/ld+json'],
  ] as const) {
    const href = await page.getByRole('link', { name }).getAttribute('href');
    const file = await page.request.get(house.address + href!);
    expect([file.status(), file.headers()['content-type']]).toEqual([200, type_]);
  }
  for (const width of [1024, 390]) {
    await page.setViewportSize({ width, height: 780 });
    for (const path of ['/recalls', `/recalls/${recalls[0]!.code}`, '/complaints', '/shared-cause']) {
      await page.goto(house.address + path);
      await atRest(page);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), path).toBeLessThanOrEqual(width + 2);
    }
  }
});

test('an inspector asks in order: what, where from, where to, which checks, what is missing', async ({ page }) => {
  await comeIn(page, house.address, 'Visiting inspector', '5050');
  await page.goto(`${house.address}/in-order`);
  for (const question of ['What is made here', 'Where from', 'Where to', 'Which checks', 'What is missing'])
    await expect(page.getByRole('heading', { name: question })).toBeVisible();
  const made = page.getByRole('region', { name: 'What is made here' });
  await expect(made.getByRole('link', { name: 'Dossier' }).first()).toBeVisible();
  const pdf = await page.request.get(
    house.address + (await made.getByRole('link', { name: 'PDF' }).first().getAttribute('href'))!,
  );
  expect(pdf.headers()['content-type']).toBe('application/pdf');
  await expect(page.getByRole('region', { name: 'What is missing' })).toContainText('on hold');
  // Who has jars leads to all that was sent there, and to those jars alone.
  await page.getByRole('region', { name: 'Where to' }).getByRole('link', { name: 'The Copper Ladle' }).click();
  await expect(page.getByRole('heading', { name: 'The Copper Ladle' })).toBeVisible();
  const there = (await (await page.request.get(`${house.address}/api/customers`)).json()) as {
    customers: { name: string; jars: number }[];
  };
  const jars = there.customers.find(({ name }) => name === 'The Copper Ladle')!.jars;
  await expect(page.getByText(`${jars} jars of`)).toBeVisible();
  // The same page asks by a day; people are listed for owners only.
  await expect(page.getByRole('radio', { name: 'A person' })).toHaveCount(0);
  await page.getByRole('radio', { name: 'A vessel' }).click();
  await choose(page, 'Which', 'C2');
  await expect(page.getByRole('heading', { name: 'C2', exact: true })).toBeVisible();
  await expect(page.getByRole('cell', { name: /^filled, / }).first()).toBeVisible();
  // For programs: every address, and the description as a file.
  await page.goto(`${house.address}/records`);
  await page.getByText('For programs').click();
  await expect(page.getByRole('cell', { name: '/api/trace/{code}', exact: true })).toBeVisible();
  const described = await page.request.get(`${house.address}/schemas/openapi.json`);
  expect(((await described.json()) as { openapi: string }).openapi).toBe('3.1.0');
});
